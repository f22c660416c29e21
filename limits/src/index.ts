export {
  limitedChild,
  standBack,
  type ChildLimits,
  type LimitedChild,
  type LimitedOptions,
  type Overrun,
} from './limited-child.ts';
export { endWithParent } from './end-with-parent.ts';
export { numberSetting } from './settings.ts';
export { wallsHere, type Walls } from './walls.ts';
export { ThreadFailure, workerThread, type WorkerLimits } from './worker-thread.ts';
