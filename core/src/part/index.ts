export {
  isFigure,
  type Sketch,
  type SketchCurve,
  type SketchFigure,
  type SketchPoint,
  type SketchRelation,
  type SketchRule,
} from './sketch/sketch.ts';
export { SketchError } from './sketch/unknowns.ts';
export { dragged, HOLDS, solveSketch, type Solved } from './sketch/solve.ts';
export { stateOf, type Clash, type SketchState } from './sketch/state.ts';
