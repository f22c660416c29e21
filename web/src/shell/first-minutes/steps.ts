import type { StageId } from '@/commands/command';

/** How far a person has come. */
export interface Progress {
  sheets: number;
  /** Sheets that were brought to scale. */ scaled: number;
  traced: number;
  /** Something has been measured since the page was opened. */ measured: boolean;
  delivered: number;
}

export interface FirstStep {
  id: 'lay' | 'scale' | 'trace' | 'check' | 'deliver';
  words: string;
  stage: StageId;
  /** What to press, in the stage where it is done. */
  how: string;
  /** What it is pressed on there. */
  target: string;
  /** An instrument that can be shown at work. */
  shows?: string;
  /** `began`: how far the person was when this step's turn came. */
  isDone(now: Progress, began: Progress): boolean;
}

const CARD = 'aside[aria-label=Stage]';
const instrument = (word: string) => `[data-instrument][aria-label="${word}"]`;

/** From a file to something delivered: each ends when it is done, by whichever way. */
export const FIRST_STEPS: readonly FirstStep[] = [
  {
    id: 'lay',
    words: 'Lay a plan on the table',
    stage: 'sheets',
    how: 'Drop a PDF anywhere, or choose one in the card; then lay a page of it down.',
    target: CARD,
    isDone: (now) => now.sheets > 0,
  },
  {
    id: 'scale',
    words: 'Bring it to scale',
    stage: 'calibrate',
    how: 'Take what Calque offers in the card, or Calibrate and a dimension that you know.',
    target: instrument('Calibrate'),
    shows: 'calibrate',
    isDone: (now) => now.scaled > 0,
  },
  {
    id: 'trace',
    words: 'Trace a wall',
    stage: 'trace',
    how: 'Take Wall and click two corners of the plan; they are found as you come near.',
    target: instrument('Wall'),
    shows: 'wall',
    isDone: (now, began) => now.traced > began.traced,
  },
  {
    id: 'check',
    words: 'Measure it again',
    stage: 'check',
    how: 'Take Distance and two points that have a printed figure between them.',
    target: instrument('Distance'),
    shows: 'measure',
    isDone: (now) => now.measured,
  },
  {
    id: 'deliver',
    words: 'Deliver it',
    stage: 'deliver',
    how: 'Write a DXF for other programs, or the package with all of it.',
    target: CARD,
    isDone: (now, began) => now.delivered > began.delivered,
  },
];

/** Where a step is pressed: the stage first, and in it what it is done with. */
export const targetOf = (step: FirstStep, stage: StageId, stages: readonly StageId[]): string =>
  stage === step.stage
    ? step.target
    : `nav[aria-label=Stages] button:nth-of-type(${stages.indexOf(step.stage) + 1})`;
