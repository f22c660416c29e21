import type { Point } from '../geometry/index.ts';
import { isFree, lengthOf } from './grade.ts';
import type { GradedLine, Stretch, TraceGrade } from './types.ts';

/** Lines together, held against what lies beside them; millimetres. */
export interface GradeFigures {
  length: number;
  /** Beside which nothing lies within reach. */
  free: number;
  /** Of that beside which something lies; null where nothing does. */
  mean: number | null;
  worst: number | null;
  /** Where the worst is. */
  at: Point | null;
  /** Length that lies within the tolerance. */
  within: number;
}

/** What is said of one element. */
export interface ElementGrade extends GradeFigures {
  id: string;
}

const NONE: GradeFigures = { length: 0, free: 0, mean: null, worst: null, at: null, within: 0 };

/** Figures of lines, with a tolerance. */
export function figuresOf(lines: readonly GradedLine[], tolerance: number): GradeFigures {
  const out = { ...NONE };
  let sum = 0;
  for (const { line, stretches } of lines) {
    out.length += lengthOf(stretches);
    out.free += lengthOf(stretches, isFree);
    for (const { from, to, near } of stretches) {
      if (!near) continue;
      sum += ((near[0] + near[1]) / 2) * (to - from);
      for (const part of parts({ from, to, near }, [tolerance]))
        if (part.size === 0) out.within += part.to - part.from;
      const [most, where] = near[0] > near[1] ? [near[0], from] : [near[1], to];
      if (out.worst === null || most > out.worst) {
        out.worst = most;
        out.at = pointAlong(line, where);
      }
    }
  }
  const held = out.length - out.free;
  return { ...out, mean: held > 0 ? sum / held : null };
}

/** Each element by itself: those that stray most first, then those beside which nothing lies. */
export function elementsGraded({ traced }: TraceGrade, tolerance: number): ElementGrade[] {
  const by = new Map<string, GradedLine[]>();
  for (const line of traced) {
    const known = by.get(line.element);
    if (known) known.push(line);
    else by.set(line.element, [line]);
  }
  return [...by]
    .map(([id, lines]) => ({ id, ...figuresOf(lines, tolerance) }))
    .sort((a, b) => (b.worst ?? -1) - (a.worst ?? -1) || b.free - a.free);
}

/**
 * A stretch in parts by their size: 0 up to the first limit, 1 up to the second, and so on; -1 where nothing lies beside it.
 * Limits rise.
 */
export function parts(
  { from, to, near }: Stretch,
  limits: readonly number[],
): { from: number; to: number; size: number }[] {
  if (!near) return [{ from, to, size: -1 }];
  const [a, b] = near,
    sizeOf = (v: number) => limits.filter((l) => v > l).length,
    cuts = limits.flatMap((l) => ((a - l) * (b - l) < 0 ? [from + ((l - a) / (b - a)) * (to - from)] : [])),
    ends = [from, ...(b > a ? cuts : cuts.reverse()), to];
  return ends.slice(1).map((end, i) => {
    const begin = ends[i],
      middle = a + (((begin + end) / 2 - from) / (to - from)) * (b - a);
    return { from: begin, to: end, size: sizeOf(middle) };
  });
}

/** The place on a line so far from its first end. */
export function pointAlong([x0, y0, x1, y1]: GradedLine['line'], t: number): Point {
  const length = Math.hypot(x1 - x0, y1 - y0);
  return [x0 + (t / length) * (x1 - x0), y0 + (t / length) * (y1 - y0)];
}
