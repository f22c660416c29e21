export type { GradedLine, Stretch, SheetFace, TraceGrade, TracedLines, UntracedWall } from './types.ts';
export { linesOfTrace } from './traced.ts';
export { drawnLines } from './drawn.ts';
export { LinesBeside, nearestAlong } from './nearest.ts';
export { gradeTrace, type ToGrade } from './grade.ts';
export {
  elementsGraded,
  figuresOf,
  parts,
  pointAlong,
  type ElementGrade,
  type GradeFigures,
} from './figures.ts';
export { gradeWords, percent, STRAYS } from './words.ts';
export { gradeTables, type Reported } from './report.ts';
