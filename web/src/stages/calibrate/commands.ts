import { inStage, needsSheet, type Command, type Declared } from '@/commands/command';
import type { Table } from '@/table/table';
import { takeAdjustTool } from './adjust-tool';
import { takeAlignTool } from './align-tool';
import { SCALE_FIELD } from './scale-card';
import { takeStraightenTool } from './straighten-tool';
import { takeCalibrateTool, takeCheckTool, takeLevelTool, takeOriginTool } from './tools';

/** A field of a stage's card is there a moment after the stage is, and the cursor free when the search has closed. */
function focusSoon(id: string, tries = 40): void {
  const field = document.getElementById(id),
    isBusy = document.querySelector('[role=dialog]') !== null;
  if (field && !isBusy) setTimeout(() => field.focus(), 0);
  else if (tries > 0) setTimeout(() => focusSoon(id, tries - 1), 50);
}

const TOOLS: readonly (readonly [string, string, string, (table: Table) => void])[] = [
  ['calibrate', 'Calibrate the sheet by a known dimension', 'c', takeCalibrateTool],
  ['known', 'Enter a known dimension as a check', 'k', takeCheckTool],
  ['align', 'Align the sheet by common points', 'a', takeAlignTool],
  ['adjust', 'Adjust where the sheet lies, by keys', 'j', takeAdjustTool],
  ['straighten', 'Straighten a photo by four corners', 'r', takeStraightenTool],
  ['level', 'Level the sheet by an edge', 'l', takeLevelTool],
  ['origin', 'Put a point of the sheet on the origin', 'o', takeOriginTool],
];

export const CALIBRATE_COMMANDS: Declared = (hands) => [
  ...TOOLS.map(([id, words, key, take]): Command => ({
    id,
    words,
    group: 'Tools',
    ...needsSheet(hands, key),
    run: inStage(hands, 'calibrate', () => take(hands.table)),
  })),
  {
    id: 'scale-sheet',
    words: 'Give the sheet a scale: 1:100, 1/4" = 1\'-0", a factor (×2, 50 %), or its paper format',
    group: 'Tools',
    ...needsSheet(hands),
    run: inStage(hands, 'calibrate', () => focusSoon(SCALE_FIELD)),
  },
];
