export type { SolidView } from './held/view.ts';
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
export * from './standards/index.ts';
export * from './callouts/index.ts';
export {
  chainOf,
  ProfileError,
  regionsOf,
  type Loop,
  type NamedPiece,
  type ProfileRegion,
} from './profile/loops.ts';
export {
  featureName,
  featuresOf,
  recipeOf,
  type Movement,
  type Recipe,
  type Seat,
  type Step,
  type StepForm,
} from './recipe/recipe.ts';
export * from './rules/index.ts';
export { makingChecks } from './checks/checks.ts';
export { LIMIT_WORDS, limitsOf, type LimitName, type Limits } from './checks/limits.ts';
export type { Check as MakingCheck, SolidFacts } from './checks/facts.ts';
export { Rays } from './checks/rays.ts';
export {
  costOf,
  estimatedCost,
  RATE_WORDS,
  ratesOf,
  type Cost,
  type RateName,
  type Rates,
} from './cost/cost.ts';
export { drawnPlanes, drivingSources, partPlanes, sheetUnitOf } from './recipe/part-planes.ts';
export { renamedCurves } from './recipe/renamed-curves.ts';
export { heldOnInk, inkOn, type HeldView, type PlaneInk } from './held/ink.ts';
export { isAsPrinted, measuredOn, type Measured, type StandingFigure } from './held/figures.ts';
export { heldNotes, threadedHoles, type HeldNote, type SolidHole } from './held/notes.ts';
export {
  heldFigures,
  type HeldFigure,
  type HeldFigures,
  type LaidSheet,
  type SeenPlane,
} from './held/standing.ts';
export { draftOf, thicknessOf, type Shades } from './shades/shades.ts';
export { deepAlong, placedPart, plateOfPart, type PlacedPart } from './group/part-group.ts';
