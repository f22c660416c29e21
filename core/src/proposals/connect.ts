import type { Linework } from '../linework/index.ts';
import type { Limits } from './bands.ts';
import type { Way } from './carriers.ts';
import type { Run } from './runs.ts';
import type { SeenWall } from './seen-walls.ts';

/** What hangs together with less than this share of the longest such is no building by itself. */
const LEAST_PART = 0.15;
const ALONE = 0.35,
  NONE = 0.2;
/** A short thin wall with a free end that an arc goes round is the leaf of a door; others part cubicles. Its hinge lies so near to its end, and it reaches so much farther into its wall than its arc, millimetres. */
const LEAF = { thickest: 65, longest: 1600, hinge: 220, beyond: 220 };
/** A building has so many walls that meet: beside it two lines that nothing closes are a kerb, a path or a ditch. */
const BUILDING = 4;

interface Line {
  r: Run;
  ux: number;
  uy: number;
  v: number;
  half: number;
  ends: [number, number];
}
const at = ({ ux, uy, v }: Line, s: number): [number, number] => [s * ux - v * uy, s * uy + v * ux];

/** Walls as they run from junction to junction: their ends go on to the middle of what they run into. What hangs together with nothing is doubted. */
export function connected(
  runs: readonly Run[],
  ways: readonly Way[],
  { near }: Limits,
  mm: number,
  page: Pick<Linework, 'width' | 'height' | 'arcs'>,
): SeenWall[] {
  const lines = runs.map((r): Line => {
    const { angle } = ways[r.way];
    return {
      r,
      ux: Math.cos(angle),
      uy: Math.sin(angle),
      v: (r.offs[0] + r.offs[1]) / 2,
      half: (r.offs[1] - r.offs[0]) / 2,
      ends: [r.from, r.to],
    };
  });
  const part = lines.map((_, i) => i),
    partOf = (i: number): number => (part[i] === i ? i : (part[i] = partOf(part[i])));
  const freeEnds = lines.map(() => 0);
  lines.forEach((line, i) => {
    for (const k of [0, 1] as const) {
      const met = meeting(line, line.ends[k], lines, near);
      if (!met) {
        freeEnds[i]++;
        continue;
      }
      line.ends[k] = met.at;
      part[partOf(i)] = partOf(met.with);
    }
  });
  const lengths = new Map<number, number>(),
    counts = new Map<number, number>();
  lines.forEach(({ ends }, i) => {
    lengths.set(partOf(i), (lengths.get(partOf(i)) ?? 0) + Math.abs(ends[1] - ends[0]));
    counts.set(partOf(i), (counts.get(partOf(i)) ?? 0) + 1);
  });
  const longest = Math.max(0, ...lengths.values()),
    most = Math.max(0, ...counts.values()),
    frames = framesOf(lines, partOf, page);
  return lines.flatMap((line, i): SeenWall[] => {
    const { r, half, ends } = line,
      [a, b] = [Math.min(...ends), Math.max(...ends)],
      isAlone =
        lengths.get(partOf(i))! < LEAST_PART * longest ||
        (r.open && most >= BUILDING && counts.get(partOf(i))! < BUILDING - 1),
      isFrame = frames.has(partOf(i)),
      isLeaf =
        freeEnds[i] > 0 &&
        2 * half * mm <= LEAF.thickest &&
        (b - a) * mm <= LEAF.longest &&
        swings(page, [at(line, a), at(line, b)], mm);
    // Both ends may have met one and the same: nothing is left between.
    if (b - a < half) return [];
    return [
      {
        from: at(line, a),
        to: at(line, b),
        thickness: 2 * half * mm,
        confidence: Math.min(0.99, r.confidence * (isFrame || isLeaf ? NONE : isAlone ? ALONE : 1)),
        doubts: isFrame
          ? [...r.doubts, 'it frames the sheet']
          : isLeaf
            ? [...r.doubts, 'it may be the leaf of a door']
            : isAlone
              ? [...r.doubts, 'it meets no other wall']
              : r.doubts,
        arc: null,
        solid: r.thick ? r.both.map(([s, t]): [number, number] => [s - a, t - a]) : null,
      },
    ];
  });
}

/** Does an arc go round one end of a line, about as far as its other end? */
function swings(
  { arcs }: Pick<Linework, 'arcs'>,
  ends: readonly [readonly [number, number], readonly [number, number]],
  mm: number,
): boolean {
  const [[x0, y0], [x1, y1]] = ends,
    length = Math.hypot(x1 - x0, y1 - y0) * mm;
  for (let i = 0; i < arcs.length; i += 5) {
    const r = arcs[i + 2] * mm;
    if (r > length + LEAF.thickest || r < length - LEAF.beyond) continue;
    if (ends.some(([x, y]) => Math.hypot(arcs[i] - x, arcs[i + 1] - y) * mm <= LEAF.hinge)) return true;
  }
  return false;
}

/** The frame of a sheet goes round so much of its width and its height, and what it frames stands by itself. */
const ROUND_SHEET = 0.8;

/** Of what hangs together that which goes round the sheet, with a building within that does not touch it. */
function framesOf(
  lines: readonly Line[],
  partOf: (i: number) => number,
  { width, height }: { width: number; height: number },
): Set<number> {
  const boxes = new Map<number, { box: [number, number, number, number]; count: number }>();
  lines.forEach((line, i) => {
    const of = boxes.get(partOf(i)) ?? { box: [Infinity, Infinity, -Infinity, -Infinity], count: 0 },
      [[x0, y0], [x1, y1]] = line.ends.map((s) => at(line, s)),
      [a, b, c, d] = of.box;
    boxes.set(partOf(i), {
      box: [Math.min(a, x0, x1), Math.min(b, y0, y1), Math.max(c, x0, x1), Math.max(d, y0, y1)],
      count: of.count + 1,
    });
  });
  const all = [...boxes];
  return new Set(
    all
      .filter(
        ([, { box }]) =>
          box[2] - box[0] > ROUND_SHEET * width &&
          box[3] - box[1] > ROUND_SHEET * height &&
          all.some(
            ([, o]) =>
              o.count >= BUILDING &&
              o.box[0] > box[0] &&
              o.box[1] > box[1] &&
              o.box[2] < box[2] &&
              o.box[3] < box[3],
          ),
      )
      .map(([part]) => part),
  );
}

/** Where the end of a line runs into another: along the line, and which; null where it ends free. */
function meeting(
  line: Line,
  from: number,
  lines: readonly Line[],
  near: number,
): { at: number; with: number } | null {
  const end = at(line, from);
  let best: { at: number; with: number } | null = null,
    least = Infinity;
  lines.forEach((other, i) => {
    const cross = line.ux * other.uy - line.uy * other.ux;
    if (other === line || Math.abs(cross) < 0.1) return;
    const across = -end[0] * other.uy + end[1] * other.ux - other.v,
      along = end[0] * other.ux + end[1] * other.uy,
      slack = line.half + 3 * near;
    if (Math.abs(across) > other.half + 3 * near) return;
    if (
      along < Math.min(...other.ends) - slack - other.half ||
      along > Math.max(...other.ends) + slack + other.half
    )
      return;
    // Where both middle lines cross, along this one.
    const s = from + across / cross,
      moved = Math.abs(s - from);
    if (moved < least && moved <= (other.half + 3 * near) / Math.abs(cross)) {
      best = { at: s, with: i };
      least = moved;
    }
  });
  return best;
}
