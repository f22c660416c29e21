import type { Point, Transform } from '@calque/core/geometry';
import type { Switches } from '@calque/core/linework';
import type { Proposals, Told } from '@calque/core/proposals';

/** Which page is looked at, as it is laid, and what a person has told of it. */
export interface ToPropose {
  url: string;
  /** Within this ring of sheet points. */
  ring: readonly Point[];
  switches: Switches;
  placement: Transform;
  told: Told;
}
export type FromPropose = { type: 'failed'; why: string } | { type: 'done'; proposals: Proposals };
