import type { ModelPoint } from '../geometry/index.ts';

/** Why a step cannot be made, in words that say what to do, and where. */
export class StepFault extends Error {
  constructor(
    words: string,
    readonly at: ModelPoint | null = null,
  ) {
    super(words);
    this.name = 'StepFault';
  }
}
