import type { ProjectSession } from '@/project/session';
import type { Table } from '@/table/table';
import {
  fitInk,
  readInk,
  takeLineTool,
  takeWallTool,
  flipAlignment,
  takeThicknessTool,
} from '@/stages/trace/tools';
import {
  takeCornerTool,
  takeOffsetTool,
  takeSplitTool,
  takeStretchTool,
  takeTrimTool,
} from '@/stages/trace/shape';
import { editGroup, takeApart, takeGroupTool, takePlaceTool } from '@/stages/trace/groups/groups';
import { flipDone } from '@/stages/trace/done';
import { flipGrid } from '@/stages/trace/grid';
import { DRAWINGS } from '@/stages/trace/draw';
import { openConvert } from '@/stages/trace/convert/convert';
import { makeWalls, takeWallRectangle, wallsToLines } from '@/stages/trace/walls-of';
import { copySelection, cutSelection, takePasteTool } from '@/stages/trace/clipboard';
import { takeTakeTool } from '@/stages/trace/take/take-tool';
import { joinChosen } from '@/stages/trace/join';
import { takeOutlineSelect } from '@/stages/trace/outline-select';
import { takeMatchTool } from '@/stages/trace/match-tool';
import { canEdit, takeEditTool } from '@/stages/trace/edit-tools';
import { takeMeasureTool } from '@/stages/check/measure';
import { WAYS } from '@/stages/check/measure-tool';
import { takeAdjustTool } from '@/stages/calibrate/adjust-tool';
import { takeAlignTool } from '@/stages/calibrate/align-tool';
import { takeStraightenTool } from '@/stages/calibrate/straighten-tool';
import { SCALE_FIELD } from '@/stages/calibrate/scale-card';
import { takeCalibrateTool, takeCheckTool, takeLevelTool, takeOriginTool } from '@/stages/calibrate/tools';
import { get } from '@calque/core/model';
import { removeChosen } from '@/table/removal';
import { keyWords } from './key-words';
import type { StageId } from './stage-list';

/** Something that can be run by its key, from the search, or by a button. */
export interface Command {
  id: string;
  words: string;
  group: 'Stages' | 'Tools' | 'View' | 'Edit' | 'Help';
  key?: string;
  /** A second key, for where the first means something else. */
  otherKey?: string;
  /** Words that people use for it beside those that it is told by, for the search. */
  also?: string;
  /** Is its key free for it now, or for something else? */
  applies?(): boolean;
  /** Why it cannot do anything now; null where it can. */
  why?(): string | null;
  run(): void;
}

/** Runs a command, or says why it cannot do anything now. */
export function runOrTell(command: Command, session: ProjectSession): void {
  const why = command.why?.() ?? null;
  if (why === null) command.run();
  else session.tell(why);
}

/** Words that are marked on the page are what Ctrl C means. */
const hasMarkedText = () => (window.getSelection()?.toString() ?? '') !== '';

interface Hands {
  table: Table;
  session: ProjectSession;
  goTo(stage: StageId): void;
  foldStack(): void;
  foldCard(): void;
  help(): void;
}

/** A field of a stage's card is there a moment after the stage is, and the cursor free when the search has closed. */
function focusSoon(id: string, tries = 40): void {
  const field = document.getElementById(id),
    isBusy = document.querySelector('[role=dialog]') !== null;
  if (field && !isBusy) setTimeout(() => field.focus(), 0);
  else if (tries > 0) setTimeout(() => focusSoon(id, tries - 1), 50);
}

/** Tools and edits that the repeat takes up again; others look at something, or leave nothing in hand. */
const REPEATED: ReadonlySet<Command['group']> = new Set(['Tools', 'Edit']),
  NOT_REPEATED: ReadonlySet<string> = new Set([
    'undo',
    'redo',
    'select',
    'remove',
    'clip',
    'cut',
    'repeat',
    'touch',
    'grid',
    'flip',
  ]);

/** Commands as given, and one that runs again the one that was run last. */
function withRepeat(commands: readonly Command[], table: Table): Command[] {
  let last: Command | null = null;
  const remembered = commands.map((c): Command =>
    !REPEATED.has(c.group) || NOT_REPEATED.has(c.id)
      ? c
      : {
          ...c,
          run: () => {
            last = c;
            c.run();
          },
        },
  );
  return [
    ...remembered,
    {
      id: 'repeat',
      words: 'Repeat: take up again the tool or edit used last',
      group: 'Tools',
      key: '.',
      applies: () => table.currentTool.id === 'select',
      why: () =>
        last === null ? 'Nothing has been used yet that could be repeated.' : (last.why?.() ?? null),
      run: () => last?.run(),
    },
  ];
}

export function makeCommands({ table, session, goTo, foldStack, foldCard, help }: Hands): Command[] {
  const stage = (id: StageId, words: string, key: string): Command => ({
    id: `stage-${id}`,
    words,
    group: 'Stages',
    key,
    run: () => goTo(id),
  });
  const inStage = (id: StageId, take: () => void) => () => {
    // Another stage lets go of the selection, but the command is about it.
    const { selection } = table.state.getState();
    goTo(id);
    table.setSelection(selection);
    take();
  };
  /** What works on the current sheet, or on what is selected, says so where there is none. */
  const needsSheet = (key: string) => ({
    key,
    why: () =>
      get(session.state.model, 'underlay', table.state.getState().underlayId)
        ? null
        : `Choose a sheet first: ${keyWords(key)} works on the current one. Press its name in the stack.`,
  });
  const needsChosen = (key?: string) => ({
    ...(key && { key }),
    why: () =>
      canEdit(table)
        ? null
        : `Select something first: ${key ? `${keyWords(key)} works` : 'this works'} on what is selected. Click it, or drag a box.`,
  });
  return withRepeat(
    [
      stage('sheets', 'Go to Sheets: attach files and lay pages down', '1'),
      stage('calibrate', 'Go to Calibrate: bring a sheet to scale', '2'),
      stage('trace', 'Go to Trace: draw walls and lines', '3'),
      stage('check', 'Go to Check: measure and compare', '4'),
      stage('deliver', 'Go to Deliver: DXF, SVG, CSV, package', '5'),
      {
        id: 'wall',
        words: 'Draw walls',
        group: 'Tools',
        key: 'w',
        run: inStage('trace', () => takeWallTool(table)),
      },
      {
        id: 'wall-rectangle',
        words: 'Draw four walls as a rectangle, by two corners or three points',
        also: 'room box walls rectangular',
        group: 'Tools',
        run: inStage('trace', () => takeWallRectangle(table)),
      },
      {
        id: 'line',
        words: 'Draw plain lines',
        group: 'Tools',
        key: 'i',
        run: inStage('trace', () => takeLineTool(table)),
      },
      ...DRAWINGS.map(({ id, words, key, take }): Command => ({
        id,
        words,
        group: 'Tools',
        key,
        run: inStage('trace', () => take(table)),
      })),
      { id: 'select', words: 'Select and move', group: 'Tools', key: 's', run: () => table.layDown() },
      {
        id: 'thickness',
        words: 'Measure a wall thickness on the plan',
        group: 'Tools',
        key: 't',
        run: inStage('trace', () => takeThicknessTool(table)),
      },
      {
        id: 'flip',
        words:
          'Another way of the drawing tool in hand; or flip the alignment of walls: centre, left face, right face',
        group: 'Tools',
        key: 'f',
        run: () => flipAlignment(table),
      },
      {
        id: 'ink',
        words: 'Read the lines of a scan from its ink, show or hide them',
        group: 'Tools',
        ...needsSheet('g'),
        run: inStage('trace', () => readInk(table)),
      },
      {
        id: 'fit-ink',
        words: 'Fit a line, a corner or an arc to the ink under the cursor',
        group: 'Tools',
        ...needsSheet(';'),
        run: () => void fitInk(table),
      },
      {
        id: 'take',
        words: 'Take from the plan: a wall by both faces, a line, a run, an outline',
        group: 'Tools',
        ...needsSheet('Shift+l'),
        run: inStage('trace', () => takeTakeTool(table)),
      },
      {
        id: 'convert',
        words: 'Convert a region of the sheet into linework',
        group: 'Tools',
        ...needsSheet('Shift+v'),
        run: inStage('trace', () => openConvert(table)),
      },
      {
        id: 'touch',
        words: 'Touch what the pick has found: the next picks can be in line with it',
        group: 'Tools',
        key: 'Shift+n',
        applies: () => table.currentTool.snaps,
        run: () => table.touch(),
      },
      {
        id: 'grid',
        words: 'Show the grid and pick on it, or hide it',
        group: 'Tools',
        key: 'Shift+g',
        run: () => flipGrid(session),
      },
      {
        id: 'measure',
        words: 'Measure a distance; by F an angle, a radius, an area, a thickness',
        group: 'Tools',
        key: 'm',
        run: inStage('check', () => takeMeasureTool(table)),
      },
      ...WAYS.filter((w) => w.kind !== 'distance').map(({ kind, name }): Command => ({
        id: `measure-${kind}`,
        words: `Measure ${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name.toLowerCase()}`,
        group: 'Tools',
        run: inStage('check', () => takeMeasureTool(table, kind)),
      })),
      {
        id: 'calibrate',
        words: 'Calibrate the sheet by a known dimension',
        group: 'Tools',
        ...needsSheet('c'),
        run: inStage('calibrate', () => takeCalibrateTool(table)),
      },
      {
        id: 'scale-sheet',
        words: 'Give the sheet a scale: 1:100, 1/4" = 1\'-0", a factor (×2, 50 %), or its paper format',
        group: 'Tools',
        why: needsSheet('').why,
        run: inStage('calibrate', () => focusSoon(SCALE_FIELD)),
      },
      {
        id: 'known',
        words: 'Enter a known dimension as a check',
        group: 'Tools',
        ...needsSheet('k'),
        run: inStage('calibrate', () => takeCheckTool(table)),
      },
      {
        id: 'align',
        words: 'Align the sheet by common points',
        group: 'Tools',
        ...needsSheet('a'),
        run: inStage('calibrate', () => takeAlignTool(table)),
      },
      {
        id: 'adjust',
        words: 'Adjust where the sheet lies, by keys',
        group: 'Tools',
        ...needsSheet('j'),
        run: inStage('calibrate', () => takeAdjustTool(table)),
      },
      {
        id: 'straighten',
        words: 'Straighten a photo by four corners',
        group: 'Tools',
        ...needsSheet('r'),
        run: inStage('calibrate', () => takeStraightenTool(table)),
      },
      {
        id: 'level',
        words: 'Level the sheet by an edge',
        group: 'Tools',
        ...needsSheet('l'),
        run: inStage('calibrate', () => takeLevelTool(table)),
      },
      {
        id: 'origin',
        words: 'Put a point of the sheet on the origin',
        group: 'Tools',
        ...needsSheet('o'),
        run: inStage('calibrate', () => takeOriginTool(table)),
      },
      ...(
        [
          ['move', 'Move what is selected', 'v'],
          ['copy', 'Copy what is selected, once or several times', 'd'],
          ['row', 'Copy what is selected in a row (array): so many to its end, or at a spacing', 'Shift+b'],
          ['turn', 'Turn what is selected', 'u'],
          ['mirror', 'Mirror what is selected', 'y'],
          ['scale', 'Scale what is selected', 'e'],
          ['align', 'Align what is selected: two points onto two others', 'Shift+e'],
        ] as const
      ).map(([id, words, key]): Command => ({
        id: `${id}-chosen`,
        words,
        group: 'Edit',
        ...needsChosen(key),
        run: () => takeEditTool(table, id),
      })),
      {
        id: 'align-scaled',
        words: 'Align and scale what is selected: two points onto two others, or to a true length',
        also: 'fit to a drawn line, scale to length, reference',
        group: 'Edit',
        ...needsChosen(),
        run: () => takeEditTool(table, 'align', true),
      },
      {
        id: 'join',
        words: 'Join lines, arcs and paths that meet end on end',
        group: 'Edit',
        ...needsChosen('Shift+j'),
        run: () => joinChosen(table),
      },
      {
        id: 'group',
        words: 'Make a group of what is selected, to be placed many times',
        group: 'Edit',
        ...needsChosen('Shift+f'),
        run: inStage('trace', () => takeGroupTool(table)),
      },
      {
        id: 'place',
        words: 'Place a group',
        group: 'Tools',
        key: 'Shift+y',
        run: inStage('trace', () => takePlaceTool(table)),
      },
      {
        id: 'edit-group',
        words: 'Edit the selected group: all that are placed follow; or finish editing it',
        group: 'Edit',
        key: 'Shift+z',
        run: inStage('trace', () => editGroup(table)),
      },
      {
        id: 'apart',
        words: 'Take apart: a group into its elements, a path or an outline into its lines and arcs',
        also: 'explode ungroup break up split into pieces segments dissolve disjoin polyline',
        group: 'Edit',
        ...needsChosen(),
        run: () => takeApart(table),
      },
      {
        id: 'make-walls',
        words: 'Make walls of the lines, paths, arcs and outlines that are selected',
        also: 'make these walls convert into walls lines to walls',
        group: 'Edit',
        ...needsChosen(),
        run: inStage('trace', () => makeWalls(table)),
      },
      {
        id: 'wall-lines',
        words: 'Make lines of the walls that are selected',
        also: 'walls back to lines convert',
        group: 'Edit',
        ...needsChosen(),
        run: inStage('trace', () => wallsToLines(table)),
      },
      {
        id: 'done',
        words: 'Mark what is selected as done, out of the way while tracing goes on; or as not done',
        group: 'Edit',
        ...needsChosen('Shift+k'),
        run: () => flipDone(table),
      },
      {
        id: 'show-done',
        words: 'Show what is done, or hide it',
        group: 'View',
        key: 'Shift+u',
        run: () => table.setShowDone(!table.state.getState().showDone),
      },
      {
        id: 'match',
        words: 'Match: give what is selected the properties of another element',
        group: 'Edit',
        ...needsChosen('Shift+m'),
        run: () => takeMatchTool(table),
      },
      {
        id: 'outline',
        words: 'Select by an outline of any shape',
        group: 'Edit',
        key: 'Shift+q',
        run: inStage('trace', () => takeOutlineSelect(table)),
      },
      {
        id: 'stretch',
        words: 'Stretch: move all points in a box',
        group: 'Edit',
        key: 'Shift+w',
        run: inStage('trace', () => takeStretchTool(table)),
      },
      {
        id: 'trim',
        words: 'Trim elements to what crosses them, or extend them',
        group: 'Edit',
        key: 'z',
        run: inStage('trace', () => takeTrimTool(table)),
      },
      {
        id: 'corner',
        words: 'Bring two elements to a corner, or cut it back (chamfer)',
        group: 'Edit',
        key: 'q',
        run: inStage('trace', () => takeCornerTool(table)),
      },
      {
        id: 'offset',
        words: 'Offset: an element beside another',
        group: 'Edit',
        key: 'p',
        run: inStage('trace', () => takeOffsetTool(table)),
      },
      {
        id: 'split',
        words: 'Split an element in two',
        group: 'Edit',
        key: 'b',
        run: inStage('trace', () => takeSplitTool(table)),
      },
      {
        id: 'clip',
        words: 'Copy what is selected for pasting, also in another project',
        group: 'Edit',
        key: 'Ctrl+c',
        applies: () => canEdit(table) && !hasMarkedText(),
        run: () => void copySelection(table),
      },
      {
        id: 'cut',
        words: 'Cut what is selected for pasting',
        group: 'Edit',
        ...needsChosen('Ctrl+x'),
        run: () => cutSelection(table),
      },
      {
        id: 'paste',
        words: 'Paste what was copied',
        group: 'Edit',
        key: 'Ctrl+v',
        run: inStage('trace', () => takePasteTool(table)),
      },
      { id: 'undo', words: 'Undo the last step', group: 'Edit', key: 'Ctrl+z', run: () => session.undo() },
      {
        id: 'redo',
        words: 'Redo the step undone last',
        group: 'Edit',
        key: 'Ctrl+Shift+z',
        run: () => session.redo(),
      },
      {
        id: 'remove',
        words: 'Delete what is selected',
        group: 'Edit',
        key: 'Delete',
        applies: () => table.currentTool.id !== 'select' && table.state.getState().selection.size > 0,
        run: () => removeChosen(table),
      },
      {
        id: 'all',
        words: 'Show all; Home also in the middle of a tool',
        also: 'see everything zoom fit extents',
        group: 'View',
        key: '0',
        otherKey: 'Home',
        run: () => table.showAll(),
      },
      { id: 'stack', words: 'Fold or open the stack', group: 'View', key: '[', run: foldStack },
      { id: 'card', words: 'Fold or open the stage card', group: 'View', key: ']', run: foldCard },
      { id: 'help', words: 'Keys and what they do', group: 'Help', key: '?', run: help },
    ],
    table,
  );
}

/** Keys that the drawing itself takes. */
export const SURFACE_KEYS: [string, string][] = [
  ['wheel', 'zoom about the cursor'],
  ['Shift + wheel', 'move sideways'],
  ['right or middle button, or Space', 'drag the view'],
  ['right click', 'the same as Esc'],
  [
    'arrows',
    'move the cursor without a pointer, with Ctrl by single pixels; or nudge the selection, with Shift ten steps',
  ],
  ['Enter', 'click where the arrows have moved the cursor; once more ends what is drawn'],
  ['Page Up, Page Down', 'zoom about the cursor, also while a figure is asked for'],
  ['Home', 'see everything, in the middle of any tool'],
  ['hold X', 'look through the trace to the sheet beneath'],
  ['N', 'the next thing that lies under the cursor'],
  ['H', 'limit the next pick to one kind: ends, crossings …'],
  ['=', 'the loupe: every pick at eight times, or only where places lie close'],
  ['hold Shift', 'hold the axis'],
  ['Backspace', 'one point back'],
  ['Esc', 'end, then lay the tool down'],
  ['digits', 'type a figure at the cursor; Tab to the next field'],
  ['up or down arrow in a field', 'what was typed last, or measured last'],
];
