export { PlaneTrace, type Followed } from './plane-trace.ts';
export type { Away } from './shown.ts';
export { WallJoins, type WallChange } from './wall-joins.ts';
