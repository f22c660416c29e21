import { crossLines, crossPieces, segmentPiece, type Piece, type Point } from '../geometry/index.ts';
import type { SnapKind } from './query.ts';

/** Something that the cursor has touched, to be picked in line with. */
export interface Touched {
  at: Point;
  /** Straight lines that run through it. */ lines: readonly (readonly [Point, Point])[];
}

/** A straight guide; its direction is of length 1. */
export interface Guide {
  kind: 'inline' | 'parallel';
  through: Point;
  direction: Point;
  /** So far from there it is the touched line itself, which is found as such. */ own?: number;
}

/** Something that guides or a grid offer near a point, in one space. */
export interface Offered {
  kind: SnapKind;
  x: number;
  y: number;
  score: number;
  lit: readonly (readonly Point[])[];
}

/** Kinds that stand for no geometry of the drawing: nothing can be in line with them, and they never crowd a place. */
export const OFFERED_KINDS: ReadonlySet<SnapKind> = new Set<SnapKind>(['inline', 'parallel', 'grid']);

/** Below any point of the drawing, above a place that merely lies along a line; what two guides agree on is nearly a point. */
const ALONE = 0.9,
  MET = 0.22;
/** Guides that run the same way (sine) within a thousandth of the radius are one. */
const SAME_WAY = 1e-6;
/** Guides that meet at a flatter angle do not say where, as the sine. */
const LEAST_SINE = 0.02;

/**
 * The guides of what has been touched: level and upright through it, on along its lines, and from the point picked before
 * parallel and square to them.
 */
export function guidesOf(touched: readonly Touched[], anchor: Point | null): Guide[] {
  const out: Guide[] = [];
  const put = (kind: Guide['kind'], through: Point, direction: Point, own?: number) => {
    const same = out.some(
      (g) =>
        Math.abs(g.direction[0] * direction[1] - g.direction[1] * direction[0]) < SAME_WAY &&
        Math.abs((through[0] - g.through[0]) * direction[1] - (through[1] - g.through[1]) * direction[0]) <
          SAME_WAY,
    );
    if (!same) out.push({ kind, through, direction, ...(own && { own }) });
  };
  for (const { at, lines } of touched) {
    for (const [from, to] of lines) {
      const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      if (length === 0) continue;
      const along: Point = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
      put('inline', from, along, length);
      if (anchor) {
        put('parallel', anchor, along);
        put('parallel', anchor, [-along[1], along[0]]);
      }
    }
    put('inline', at, [1, 0]);
    put('inline', at, [0, 1]);
  }
  return out;
}

/** Places on guides within a radius of a point: on one, where two meet, and where one meets a line that lies there. */
export function alongGuides(
  guides: readonly Guide[],
  [x, y]: Point,
  radius: number,
  lines: readonly { piece: Piece; lit: readonly Point[] }[],
): Offered[] {
  const out: Offered[] = [];
  const near = guides
    .map((guide) => {
      const t = (x - guide.through[0]) * guide.direction[0] + (y - guide.through[1]) * guide.direction[1];
      const at: Point = [
        guide.through[0] + t * guide.direction[0],
        guide.through[1] + t * guide.direction[1],
      ];
      return {
        guide,
        at,
        away: Math.hypot(at[0] - x, at[1] - y),
        from: guide.own === undefined ? Math.abs(t) : Math.max(-t, t - guide.own),
      };
      // Right beside what was touched, and along the touched line itself, a guide says nothing.
    })
    .filter((g) => g.away <= radius && g.from > 2 * radius);
  const offer = (kind: Guide['kind'], at: Point, base: number, lit: readonly (readonly Point[])[]) => {
    const away = Math.hypot(at[0] - x, at[1] - y);
    if (away <= radius) out.push({ kind, x: at[0], y: at[1], score: away / radius + base, lit });
  };
  near.forEach(({ guide, at }, i) => {
    offer(guide.kind, at, ALONE, [[guide.through, at]]);
    for (const other of near.slice(i + 1)) {
      const met = crossLines(lineOf(guide), lineOf(other.guide));
      if (met && met.sine > LEAST_SINE)
        offer('inline', [met.x, met.y], MET, [
          [guide.through, [met.x, met.y]],
          [other.guide.through, [met.x, met.y]],
        ]);
    }
    // The stretch of the guide that the radius can reach is enough to meet lines with.
    const [dx, dy] = guide.direction,
      r = 2 * radius;
    const stretch = segmentPiece([at[0] - r * dx, at[1] - r * dy], [at[0] + r * dx, at[1] + r * dy]);
    for (const line of lines)
      for (const p of crossPieces(stretch, line.piece))
        if (!runsAlong(guide, line.piece)) offer(guide.kind, p, MET, [[guide.through, p], line.lit]);
  });
  return out;
}

const lineOf = ({ through: [x, y], direction: [dx, dy] }: Guide): [number, number, number, number] => [
  x,
  y,
  x + dx,
  y + dy,
];

const runsAlong = ({ direction: [dx, dy] }: Guide, piece: Piece): boolean => {
  if (piece.kind !== 'segment') return false;
  const x = piece.to[0] - piece.from[0],
    y = piece.to[1] - piece.from[1];
  return Math.abs(x * dy - y * dx) < LEAST_SINE * Math.hypot(x, y);
};
