import Flatbush from 'flatbush';
import {
  applyTransform,
  arcPiece,
  boxOfPoints,
  flattenPiece,
  insideIntervals,
  makeRegion,
  meanScale,
  MM_PER_POINT,
  subtractIntervals,
  type Interval,
  type Line4,
  type Point,
  type Ring,
  type Transform,
} from '../geometry/index.ts';
import type { Linework } from '../linework/index.ts';
import type { ProposedWall, Proposals } from '../proposals/index.ts';
import { drawnLines } from './drawn.ts';
import { bridged, LinesBeside, linesNearest, nearestAlong } from './nearest.ts';
import { INTO, OF_WALL, partOf } from './traced.ts';
import type { GradedLine, Stretch, SheetFace, TraceGrade, TracedLines, UntracedWall } from './types.ts';

/** What is to be held against what. */
export interface ToGrade {
  trace: TracedLines;
  /** What of a sheet counts: within its crop, as it is switched (see partOfSheet); of a scan with the lines of its ink. */
  sheet: Linework;
  placement: Transform;
  /** What is seen on it, in its own points. */
  seen: Pick<Proposals, 'walls' | 'openings'>;
}

/** What lies farther than this beside a line is not what it was traced from, millimetres on paper and on the plane: the larger counts. */
const REACH = { paper: 0.5, plane: 50 };
/** Gaps in what is drawn, sheet points: between pieces of a line, and between dashes. */
const GAP = 3,
  DASH = 9;
/** A line is the face of a wall that is seen so near to it, millimetres on paper and on the plane. */
const FACE = { paper: 0.12, plane: 12 };
/** Walls less sure than this are no walls that a trace must have. */
const MAY_BE = 0.5,
  SURE = 0.8;
/** A wall is not traced where more than this share of its faces has nothing beside it. */
const UNTRACED = 0.5;

/** Holds a trace against its sheet, and the walls that are seen on the sheet against the trace. */
export function gradeTrace({ trace, sheet, placement, seen }: ToGrade): TraceGrade {
  const scale = meanScale(placement),
    larger = ({ paper, plane }: { paper: number; plane: number }) =>
      Math.max(plane, (paper / MM_PER_POINT) * scale),
    reach = larger(REACH),
    drawn = new LinesBeside(drawnLines(sheet, placement)),
    gaps = [GAP * scale, DASH * scale] as const;
  const all = linesApart(trace, seen.walls, placement).map(({ n, way, line }): Graded => ({
    element: trace.elements[n],
    way,
    line,
    stretches: bridged(nearestAlong(line, drawn, reach), ...gaps),
  }));
  const traced = waysThatLie(all),
    own = new LinesBeside(Float64Array.from([...trace.lines, ...trace.others])),
    faces = seen.walls.flatMap((wall, i): SheetFace[] =>
      wall.confidence < MAY_BE
        ? []
        : facesOf(
            wall,
            seen.openings.filter((o) => o.wall === i).map((o): Interval => [o.from, o.to]),
            placement,
          )
            .flatMap((face) => linesNearest(face, drawn, larger(FACE)))
            .map((line) => ({ wall: i, line, stretches: bridged(nearestAlong(line, own, reach), ...gaps) })),
    );
  return {
    traced: traced.map(({ element, line, stretches }) => ({ element, line, stretches })),
    // Doubtful walls count too: what is said of the sheet is said rather too low.
    faces,
    untraced: untracedWalls(seen.walls, faces, placement),
    reach,
  };
}

type Graded = GradedLine & { element: string; way: number };

const lineAt = (lines: Float64Array, i: number): Line4 =>
  Array.from(lines.subarray(4 * i, 4 * i + 4)) as unknown as Line4;

/** The traced lines, those of walls without what lies within walls of the sheet into which they run: there a sheet draws nothing of them. */
function linesApart(
  { lines, of, ways }: TracedLines,
  walls: readonly ProposedWall[],
  placement: Transform,
): { n: number; way: number; line: Line4 }[] {
  const longest = new Map<number, { way: Point; length: number }>();
  const all = Array.from(of, (n, i) => ({ n, way: ways[i], line: lineAt(lines, i) }));
  for (const { n, way, line } of all) {
    if (way !== OF_WALL) continue;
    const length = Math.hypot(line[2] - line[0], line[3] - line[1]);
    if (length > (longest.get(n)?.length ?? 0))
      longest.set(n, { way: [(line[2] - line[0]) / length, (line[3] - line[1]) / length], length });
  }
  const bodies = walls.filter((w) => !w.arc && w.confidence >= MAY_BE).map((w) => bodyOnPlane(w, placement));
  if (bodies.length === 0) return all;
  const index = new Flatbush(bodies.length);
  for (const { ring } of bodies) index.add(...boxOfPoints(ring));
  index.finish();
  return all.flatMap((item) => {
    if (item.way !== OF_WALL) return [item];
    const [x0, y0, x1, y1] = item.line,
      [ux, uy] = longest.get(item.n)!.way;
    let left: Interval[] = [[0, 1]];
    for (const k of index.search(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1))) {
      const { ring, way } = bodies[k];
      if (Math.abs(ux * way[1] - uy * way[0]) < INTO) continue;
      left = subtractIntervals(left, insideIntervals(makeRegion([ring], 'nonzero'), x0, y0, x1, y1, INSIDE));
    }
    return left.map((part) => ({ ...item, line: partOf(item.line, part) }));
  });
}
/** What lies deeper than this within a wall lies within it, millimetres. */
const INSIDE = 1;

/** A straight wall that is seen, on the plane. */
function bodyOnPlane(
  { from, to, thickness }: ProposedWall,
  placement: Transform,
): { ring: Ring; way: Point } {
  const [p, q] = [applyTransform(placement, from), applyTransform(placement, to)],
    length = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1,
    way: Point = [(q[0] - p[0]) / length, (q[1] - p[1]) / length],
    half = thickness / 2,
    at = ([x, y]: Point, off: number): Point => [x - off * way[1], y + off * way[0]];
  return { ring: [at(p, -half), at(q, -half), at(q, half), at(p, half)], way };
}

export const isFree = (s: Stretch): boolean => s.near === null;
export const lengthOf = (
  stretches: readonly Stretch[],
  isMeant: (s: Stretch) => boolean = () => true,
): number => stretches.reduce((sum, s) => sum + (isMeant(s) ? s.to - s.from : 0), 0);

/** Of elements that a sheet may draw in one of two ways those lines of which less lies where nothing is. */
function waysThatLie(all: readonly Graded[]): Graded[] {
  const free = new Map<string, [number, number, number, number]>();
  for (const { element, way, stretches } of all) {
    if (way === 0 || way === OF_WALL) continue;
    const sums = free.get(element) ?? [0, 0, 0, 0];
    sums[way - 1] += lengthOf(stretches, isFree);
    sums[way + 1] += lengthOf(stretches);
    free.set(element, sums);
  }
  return all.filter(({ element, way }) => {
    if (way === 0 || way === OF_WALL) return true;
    const [a, b, allA, allB] = free.get(element)!,
      better = allB === 0 || (allA > 0 && a / allA <= b / allB) ? 1 : 2;
    return way === better;
  });
}

/** Both faces of a wall that is seen, between its openings, on the plane. */
function facesOf(
  { from, to, thickness, arc }: ProposedWall,
  openings: readonly Interval[],
  placement: Transform,
): Line4[] {
  if (arc) {
    const [cx, cy] = arc.centre,
      start = Math.atan2(from[1] - cy, from[0] - cx),
      half = thickness / 2 / meanScale(placement);
    return [half, -half].flatMap((by) => {
      const points = flattenPiece(
        arcPiece({ cx, cy, r: arc.radius + by, start, end: start + arc.sweep }),
        CHORDS,
      ).map((p) => applyTransform(placement, p));
      return points.slice(1).map((q, i) => [...points[i], ...q] as unknown as Line4);
    });
  }
  const [p, q] = [applyTransform(placement, from), applyTransform(placement, to)],
    length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  if (!(length > 0)) return [];
  const [ux, uy] = [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
  return subtractIntervals([[0, length]], openings).flatMap(([a, b]) =>
    [thickness / 2, -thickness / 2].map((off): Line4 => [
      p[0] + a * ux - off * uy,
      p[1] + a * uy + off * ux,
      p[0] + b * ux - off * uy,
      p[1] + b * uy + off * ux,
    ]),
  );
}
/** How far chords may stray from bent faces, sheet points. */
const CHORDS = 0.01;

function untracedWalls(
  walls: readonly ProposedWall[],
  faces: readonly SheetFace[],
  placement: Transform,
): UntracedWall[] {
  const sums = new Map<number, { free: number; drawn: number }>();
  for (const { wall, stretches } of faces) {
    const sum = sums.get(wall) ?? { free: 0, drawn: 0 };
    sum.free += lengthOf(stretches, isFree);
    sum.drawn += lengthOf(stretches);
    sums.set(wall, sum);
  }
  return [...sums]
    .filter(([, { free, drawn }]) => free > UNTRACED * drawn)
    .map(([i, sum]) => ({
      from: applyTransform(placement, walls[i].from),
      to: applyTransform(placement, walls[i].to),
      thickness: walls[i].thickness,
      ...sum,
      isSure: walls[i].confidence >= SURE,
    }))
    .sort((a, b) => b.free - a.free);
}
