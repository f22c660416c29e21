export { PlaneTrace, type Followed } from './plane-trace.ts';
export { WallJoins, type WallChange } from './wall-joins.ts';
