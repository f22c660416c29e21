import { inStage, needsChosen, needsSheet, type Command, type Declared } from '@/commands/command';
import { useFloating } from '@/commands/floating';
import { chosenTraced } from '@/table/hit';
import { copySelection, cutSelection, takePasteTool } from './clipboard';
import { openConvert } from './convert/convert';
import { flipDone } from './done';
import { takeEditTool } from './edit-tools';
import { flipGrid } from './grid';
import { GROUP_COMMANDS } from './groups/commands';
import { fitInk, readInk } from './ink';
import { joinChosen } from './join';
import { takeMatchTool } from './match-tool';
import { takeOutlineSelect } from './outline-select';
import { SHAPE_COMMANDS } from './shape/commands';
import { takeSeenTool } from './seen/seen-tool';
import { takeTakeTool } from './take/take-tool';

/** Words that are marked on the page are what Ctrl C means. */
const hasMarkedText = () => (window.getSelection()?.toString() ?? '') !== '';

const EDITS = [
  ['move', 'Move', 'Move what is selected', 'v'],
  ['copy', 'Copy', 'Copy what is selected, once or several times', 'd'],
  ['row', 'Row', 'Copy what is selected in a row (array): so many to its end, or at a spacing', 'Shift+b'],
  ['turn', 'Turn', 'Turn what is selected', 'u'],
  ['mirror', 'Mirror', 'Mirror what is selected', 'y'],
  ['scale', 'Scale', 'Scale what is selected', 'e'],
  ['align', 'Align', 'Align what is selected: two points onto two others', 'Shift+e'],
] as const;

/** What is taken from the sheet, and from its ink. */
const FROM_THE_SHEET: Declared = (hands) => {
  const { table } = hands;
  return [
    {
      id: 'ink',
      words: 'Read the lines of a scan from its ink, show or hide them',
      group: 'Tools',
      ...needsSheet(hands, 'g'),
      fixedKey: true,
      run: inStage(hands, 'trace', () => readInk(table)),
    },
    {
      id: 'fit-ink',
      words: 'Fit a line, a corner or an arc to the ink under the cursor',
      group: 'Tools',
      ...needsSheet(hands, ';'),
      fixedKey: true,
      run: () => void fitInk(table),
    },
    {
      id: 'take',
      words: 'Take from the plan: a wall by both faces, a line, a run, an outline',
      short: 'From plan',
      on: ['building', 'drawing'],
      picture: 'take',
      group: 'Tools',
      tool: 'take',
      ...needsSheet(hands, 'Shift+l'),
      run: inStage(hands, 'trace', () => takeTakeTool(table)),
    },
    {
      id: 'see',
      words:
        'See what the plan shows: walls with their openings, rooms, columns, grid lines, offered to be taken',
      also: 'propose, find walls, recognise, detect, all at once',
      short: 'See plan',
      on: ['building'],
      picture: 'see',
      rank: -1,
      group: 'Tools',
      tool: 'see',
      ...needsSheet(hands, ', h'),
      run: inStage(hands, 'trace', () => takeSeenTool(table)),
    },
    {
      id: 'convert',
      words: 'Convert a region of the sheet into linework',
      short: 'Convert',
      on: ['building', 'drawing'],
      picture: 'convert',
      group: 'Tools',
      ...needsSheet(hands, 'Shift+v'),
      run: inStage(hands, 'trace', () => openConvert(table)),
    },
  ];
};

/** What is done with what is selected. */
const WITH_THE_SELECTION: Declared = (hands) => {
  const { table } = hands;
  return [
    ...EDITS.map(([id, short, words, key]): Command => ({
      id: `${id}-chosen`,
      words,
      short,
      on: ['change'],
      picture: id,
      group: 'Edit',
      tool: id,
      ...needsChosen(hands, key),
      run: () => takeEditTool(table, id),
    })),
    {
      id: 'align-scaled',
      words: 'Align and scale what is selected: two points onto two others, or to a true length',
      also: 'fit to a drawn line, scale to length, reference',
      group: 'Edit',
      ...needsChosen(hands),
      run: () => takeEditTool(table, 'align', true),
    },
    {
      id: 'join',
      words: 'Join lines, arcs and paths that meet end on end',
      short: 'Join',
      on: ['change'],
      picture: 'join',
      rank: 2,
      group: 'Edit',
      ...needsChosen(hands, 'Shift+j'),
      run: () => joinChosen(table),
    },
    {
      id: 'match',
      words: 'Match: give what is selected the properties of another element',
      short: 'Match',
      on: ['change'],
      picture: 'match',
      rank: 2,
      group: 'Edit',
      tool: 'match',
      ...needsChosen(hands, 'Shift+m'),
      run: () => takeMatchTool(table),
    },
    {
      id: 'done',
      short: 'Done',
      on: ['change'],
      picture: 'done',
      rank: 4,
      words: 'Mark what is selected as done, out of the way while tracing goes on; or as not done',
      group: 'Edit',
      ...needsChosen(hands, 'Shift+k'),
      run: () => flipDone(table),
    },
    {
      id: 'outline',
      words: 'Select by an outline of any shape',
      short: 'Outline',
      on: ['change'],
      picture: 'outline',
      rank: 6,
      group: 'Edit',
      key: 'Shift+q',
      tool: 'select-outline',
      run: inStage(hands, 'trace', () => takeOutlineSelect(table)),
    },
    {
      id: 'clip',
      words: 'Copy what is selected for pasting, also in another project',
      group: 'Edit',
      key: 'Ctrl+c',
      repeats: false,
      applies: () => chosenTraced(table).length > 0 && !hasMarkedText(),
      run: () => void copySelection(table),
    },
    {
      id: 'cut',
      words: 'Cut what is selected for pasting',
      group: 'Edit',
      repeats: false,
      ...needsChosen(hands, 'Ctrl+x'),
      run: () => cutSelection(table),
    },
    {
      id: 'paste',
      words: 'Paste what was copied',
      group: 'Edit',
      key: 'Ctrl+v',
      run: inStage(hands, 'trace', () => takePasteTool(table)),
    },
  ];
};

/** Cards over the drawing, found by their words. */
const CARDS = [
  ['picks', 'What picks find: kinds of places, loupe, grid spacing', 'snap settings ends middles'],
  ['layers', 'Layers of the trace: new ones, what shows, what is locked', 'layer list colours'],
  [
    'wallTypes',
    'Wall types: their layers, materials and thicknesses',
    'built-up wall layers brick stud plaster insulation material',
  ],
  [
    'schedule',
    'Sills, heads, types and materials of openings from a schedule that a page prints',
    'door schedule window table list read heights tags',
  ],
  [
    'shelf',
    'The shelf: wall types, groups and openings kept for all projects',
    'library own parts standard favourites reuse catalogue',
  ],
  ['groups', 'Groups: place, rename, remove them', 'group list'],
] as const;

const VIEW: Declared = ({ table }) => [
  ...CARDS.map(([card, words, also]): Command => ({
    id: `card-${card}`,
    words,
    also,
    group: 'View',
    run: () => useFloating.getState().show(card),
  })),
  {
    id: 'grid',
    short: 'Grid',
    on: ['levels'],
    picture: 'grid',
    words: 'Show the grid and pick on it, or hide it',
    group: 'Tools',
    key: 'Shift+g',
    repeats: false,
    run: () => flipGrid(table),
  },
  {
    id: 'alone',
    words: 'Show some elements alone: what is selected, a phase, marks, sections; or all again',
    short: 'Show alone',
    on: ['frame'],
    picture: 'alone',
    also: 'isolate hide others filter focus phase mark section',
    group: 'View',
    key: ', i',
    repeats: false,
    run: () => {
      if (table.state.getState().alone) table.setAlone(null);
      else useFloating.getState().flip('alone');
    },
  },
  {
    id: 'show-done',
    words: 'Show what is done, or hide it',
    group: 'View',
    key: 'Shift+u',
    run: () => table.setShowDone(!table.state.getState().showDone),
  },
];

export const TRACE_COMMANDS: readonly Declared[] = [
  FROM_THE_SHEET,
  WITH_THE_SELECTION,
  GROUP_COMMANDS,
  SHAPE_COMMANDS,
  VIEW,
];
