import type { PictureReading } from '@calque/core/ink';
import type { TraceGrade, TracedLines } from '@calque/core/grade';
import type { ToPropose } from './propose-protocol';

/** Which page is held against what was traced from it. */
export interface ToGrade {
  sheet: Omit<ToPropose, 'told'>;
  trace: TracedLines;
}
export type FromGrade =
  | { type: 'progress'; share: number }
  | { type: 'failed'; why: string }
  | { type: 'done'; grade: TraceGrade; ink: PictureReading | null };
