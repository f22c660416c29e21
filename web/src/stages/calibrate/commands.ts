import { get } from '@calque/core/model';
import { inStage, needsSheet, type Command, type Declared, type Hands } from '@/commands/command';
import type { Picture } from '@/commands/pictures';
import type { Table } from '@/table/table';
import { takeAdjustTool } from './adjust-tool';
import { takeAlignTool } from './align-tool';
import { SCALE_FIELD } from './scale-card';
import { takeStraightenTool } from './straighten-tool';
import { useCalibrateState } from './state';
import {
  takeCalibrateTool,
  takeCheckTool,
  takeLevelTool,
  takeOriginTool,
  takeTurnTool,
  turnCurrent,
} from './tools';

/** A field of a stage's card is there a moment after the stage is, and the cursor free when the search has closed. */
function focusSoon(id: string, tries = 40): void {
  const field = document.getElementById(id),
    isBusy = document.querySelector('[role=dialog]') !== null;
  if (field && !isBusy) setTimeout(() => field.focus(), 0);
  else if (tries > 0) setTimeout(() => focusSoon(id, tries - 1), 50);
}

type Row = readonly [
  id: string,
  short: string,
  words: string,
  key: string,
  picture: Picture,
  tool: string,
  take: (table: Table) => void,
];
const TOOLS: readonly Row[] = [
  [
    'calibrate',
    'Known length',
    'Calibrate the sheet by a known dimension',
    'c',
    'known',
    'calibrate',
    takeCalibrateTool,
  ],
  ['known', 'Hold against', 'Enter a known dimension as a check', 'k', 'check', 'known', takeCheckTool],
  ['align', 'Align', 'Align the sheet by common points', 'a', 'align-sheets', 'align-sheet', takeAlignTool],
  ['adjust', 'Adjust', 'Adjust where the sheet lies, by keys', 'j', 'adjust', 'adjust', takeAdjustTool],
  ['level', 'Level', 'Level the sheet by an edge', 'l', 'level', 'level', takeLevelTool],
  ['origin', 'Origin', 'Put a point of the sheet on the origin', 'o', 'origin', 'origin', takeOriginTool],
  [
    'straighten',
    'Straighten',
    'Straighten a photo by four corners',
    'r',
    'straighten',
    'straighten',
    takeStraightenTool,
  ],
];

/** What moves, turns or scales a sheet needs one that is not locked. */
const needsUnlocked = (hands: Hands): Pick<Command, 'why'> => ({
  why: () => {
    const { table, session } = hands,
      u = get(session.state.model, 'underlay', table.state.getState().underlayId);
    return (
      needsSheet(hands).why!() ??
      (u?.locked ? `${u.name} is locked: unlock it on its slip in the stack to change it.` : null)
    );
  },
});

export const CALIBRATE_COMMANDS: Declared = (hands) => [
  ...TOOLS.map(([id, short, words, key, picture, tool, take]): Command => ({
    id,
    short,
    words,
    group: 'Tools',
    tool,
    on: ['calibrate'],
    picture,
    ...needsUnlocked(hands),
    key,
    run: inStage(hands, 'calibrate', () => take(hands.table)),
  })),
  ...([1, -1] as const).map((way): Command => ({
    id: way > 0 ? 'quarter-left' : 'quarter-right',
    short: way > 0 ? 'Quarter left' : 'Quarter right',
    words: `Turn the sheet by a quarter to the ${way > 0 ? 'left' : 'right'}`,
    group: 'Tools',
    on: ['calibrate'],
    picture: way > 0 ? 'quarter-left' : 'quarter-right',
    ...needsUnlocked(hands),
    key: way > 0 ? ', l' : ', r',
    run: inStage(hands, 'calibrate', () =>
      useCalibrateState.getState().aboutPoint
        ? takeTurnTool(hands.table, (way * Math.PI) / 2)
        : turnCurrent(hands.table, (way * Math.PI) / 2),
    ),
  })),
  {
    id: 'scale-sheet',
    words: 'Give the sheet a scale: 1:100, 1/4" = 1\'-0", a factor (×2, 50 %), or its paper format',
    short: 'Scale …',
    group: 'Tools',
    on: ['calibrate'],
    picture: 'stated-scale',
    key: ', s',
    ...needsSheet(hands),
    run: inStage(hands, 'calibrate', () => focusSoon(SCALE_FIELD)),
  },
];
