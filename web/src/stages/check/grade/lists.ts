import { boxOfPoints, type Box, type Point } from '@calque/core/geometry';
import { elementsGraded, pointAlong, STRAYS, type TraceGrade } from '@calque/core/grade';
import { DEFAULT_PRECISION, type LengthStyle } from '@calque/core/units';
import type { GradeList } from './grade';

/** Distances from ink are told finer than a project tells its lengths. */
export const fineStyle = ({ units, precision }: LengthStyle): LengthStyle =>
  units === 'ft-in'
    ? { units: 'in', precision: 3 }
    : { units, precision: Math.max(precision, DEFAULT_PRECISION[units] + 1) };

/** A thing that can be walked to. */
export interface Listed {
  /** Its element, where it is one of the trace. */
  id: string | null;
  /** Millimetres: how far it strays, or how much has nothing beside it. */
  figure: number;
  box: Box;
  isSure: boolean;
}

/** Shorter than this nothing is told as traced and not drawn, millimetres: jambs and little ends. */
const SHORT = 300;

let last: { grade: TraceGrade; tolerance: number; lists: Record<GradeList, Listed[]> } | null = null;

/** What is to be looked at of a grade, the worst first. */
export function listsOf(grade: TraceGrade, tolerance: number): Record<GradeList, Listed[]> {
  if (last?.grade === grade && last.tolerance === tolerance) return last.lists;
  const free = new Map<string, { length: number; points: Point[] }>();
  for (const { element, line, stretches } of grade.traced)
    for (const { from, to, near } of stretches) {
      if (near !== null) continue;
      const known = free.get(element) ?? { length: 0, points: [] };
      known.length += to - from;
      known.points.push(pointAlong(line, from), pointAlong(line, to));
      free.set(element, known);
    }
  const lists = {
    strays: elementsGraded(grade, tolerance)
      .filter((e) => (e.worst ?? 0) > STRAYS * tolerance)
      .map((e): Listed => ({ id: e.id, figure: e.worst!, box: boxOfPoints([e.at!]), isSure: true })),
    untraced: grade.untraced.map((w): Listed => ({
      id: null,
      figure: Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]),
      box: boxOfPoints([w.from, w.to]),
      isSure: w.isSure,
    })),
    undrawn: [...free]
      .filter(([, { length }]) => length >= SHORT)
      .sort((a, b) => b[1].length - a[1].length)
      .map(([id, { length, points }]): Listed => ({
        id,
        figure: length,
        box: boxOfPoints(points),
        isSure: true,
      })),
  };
  last = { grade, tolerance, lists };
  return lists;
}
