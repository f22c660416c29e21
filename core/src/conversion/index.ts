export { convertRegion, type ConvertAsk, type Converted, type ConvertedLayer } from './convert.ts';
export { countWithin } from './gather.ts';
export { chainRuns, type Run } from './runs.ts';
export { joinInLine } from './in-line.ts';
export { findDashes } from './dashes.ts';
export { planLines, type PlanRun } from './plan-lines.ts';
export { facePairs, type FacePair } from './faces.ts';
export { wallsAcross } from './walls-across.ts';
export { outlineAround, type Outline } from './outline.ts';
