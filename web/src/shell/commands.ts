import type { Command, Declared, StageId } from '@/commands/command';
import { KIND_COMMANDS } from '@/kinds';
import { CALIBRATE_COMMANDS } from '@/stages/calibrate/commands';
import { CHECK_COMMANDS } from '@/stages/check/commands';
import { TRACE_COMMANDS } from '@/stages/trace/commands';
import { PART_COMMANDS } from '@/part/commands';
import { takeoffCommands } from '@/takeoff/commands';
import { planeCommands, type PlaneViews } from './planes/commands';
import { useFirstMinutes } from './first-minutes/state';
import { removeChosen } from '@/table/removal';

/** What folds and opens around the drawing. */
export interface Around extends PlaneViews {
  openTakeoff(): void;
  foldStack(): void;
  foldCard(): void;
  help(): void;
  /** Shows the tool in hand at work. */
  show(): void;
}

const STAGES: readonly (readonly [StageId, string, string])[] = [
  ['sheets', 'Go to Sheets: attach files and lay pages down', '1'],
  ['calibrate', 'Go to Calibrate: bring a sheet to scale', '2'],
  ['trace', 'Go to Trace: draw walls and lines', '3'],
  ['check', 'Go to Check: measure and compare', '4'],
  ['deliver', 'Go to Deliver: DXF, SVG, CSV, package', '5'],
];

const stages: Declared = ({ goTo }) =>
  STAGES.map(([id, words, key]): Command => ({
    id: `stage-${id}`,
    words,
    group: 'Stages',
    key,
    run: () => goTo(id),
  }));

/** What works wherever one is. */
const everywhere: Declared = ({ table, session }) => [
  {
    id: 'select',
    words: 'Select and move',
    short: 'Select',
    group: 'Tools',
    key: 's',
    tool: 'select',
    repeats: false,
    run: () => table.layDown(),
  },
  {
    id: 'touch',
    words: 'Touch what the pick has found: the next picks can be in line with it',
    group: 'Tools',
    key: 'Shift+n',
    repeats: false,
    applies: () => table.currentTool.snaps,
    run: () => table.touch(),
  },
  {
    id: 'undo',
    words: 'Undo the last step',
    group: 'Edit',
    key: 'Ctrl+z',
    repeats: false,
    run: () => session.undo(),
  },
  {
    id: 'redo',
    words: 'Redo the step undone last',
    group: 'Edit',
    key: 'Ctrl+Shift+z',
    repeats: false,
    run: () => session.redo(),
  },
  {
    id: 'remove',
    words: 'Delete what is selected',
    short: 'Delete',
    on: ['change'],
    picture: 'remove',
    rank: 5,
    group: 'Edit',
    key: 'Delete',
    repeats: false,
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
];

const around =
  ({ foldStack, foldCard, help, show }: Around): Declared =>
  ({ table }) => [
    { id: 'stack', words: 'Fold or open the stack', group: 'View', key: '[', run: foldStack },
    { id: 'card', words: 'Fold or open the stage card', group: 'View', key: ']', run: foldCard },
    { id: 'help', words: 'Keys and what they do', group: 'Help', key: '?', run: help },
    {
      id: 'first-minutes',
      words: 'First minutes: the five steps from a file to something delivered, once more',
      also: 'help tutorial lesson begin start welcome',
      group: 'Help',
      run: () => useFirstMinutes.getState().again(),
    },
    {
      id: 'show-tool',
      words: 'Show the tool in hand at work',
      also: 'help tutorial lesson how demonstration learn moving picture',
      group: 'Help',
      key: 'F1',
      why: () =>
        table.state.getState().toolId === 'select'
          ? 'Take a tool in hand first, or press “Show” beside it in the list of keys (?).'
          : null,
      run: show,
    },
  ];

/** Every command, from where it is declared. */
export const allCommands = (hands: Around): readonly Declared[] => [
  stages,
  ...KIND_COMMANDS,
  ...TRACE_COMMANDS,
  CHECK_COMMANDS,
  CALIBRATE_COMMANDS,
  planeCommands(hands),
  PART_COMMANDS,
  takeoffCommands(hands.openTakeoff),
  everywhere,
  around(hands),
];

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
