import type { PlanRun } from '@calque/core/conversion';
import type { Point, Transform } from '@calque/core/geometry';
import type { Switches } from '@calque/core/linework';

/** Which page's lines are to be made ready, within a ring of sheet points. */
export interface ToPlanLines {
  url: string;
  ring: readonly Point[];
  switches: Switches;
  placement: Transform;
}
export type FromPlanLines = { type: 'failed'; why: string } | { type: 'done'; runs: PlanRun[] };
