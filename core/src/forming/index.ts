export { kernelMemory, kernelSays, takeKernel, type Kernel } from './kernel.ts';
export { Builder, type Rebuilt, type StepState } from './rebuild.ts';
export { measured, type Measures } from './measure.ts';
export { type Body } from './body.ts';
export { bodyEdges, type BodyEdge } from './edges.ts';
export { areaOf, formOfFace, type EdgeForm, type FaceForm } from './facts.ts';
export { edgeLines, skinOf, TO_LOOK_AT, type ShownEdge, type ShownFace, type Skin } from './drawn.ts';
export { roundHoles, type RoundHole } from './holes.ts';
export { stepOf } from './step.ts';
export { bodyOfStep, LARGEST_STEP, refuseLargeStep } from './read-step.ts';
export {
  partReport,
  shownSolid,
  threadedHoles,
  type PartReport,
  type PrintedOnSolid,
  type ShownSolid,
} from './report.ts';
export { faceOutline, type FaceOutline } from './face-outline.ts';
export { viewOn } from './views.ts';
export { sectionOn, type Section } from './section.ts';
export type { Fineness } from './mesh.ts';
