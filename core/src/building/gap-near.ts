import type { Piece, Point } from '../geometry/index.ts';
import type { WallBand } from './wall-geometry.ts';
import { seenInGap, type OpeningSeen } from './read-opening.ts';

/** Openings of plans are as wide as this, millimetres. */
const NARROWEST = 250,
  WIDEST = 6000;
/** A jamb goes from face to face within this share of the thickness, and within this of square to the wall (sine of what is left); a leaf that stands open may go on in line with it, on one side. */
const FACE_TO_FACE = 0.2,
  SQUARE = 0.05;
/** Less of both faces than this share is drawn across a gap that shows nothing else. */
const STILL_DRAWN = 0.3;
/** Jambs nearer to one another than this, millimetres, are one: a frame is drawn with several lines. */
const ONE_JAMB = 5;

/** An opening of the plan around a distance along a wall, its edges where the plan draws them. */
export interface SeenGap {
  from: number;
  to: number;
  seen: OpeningSeen;
}

/** The opening or niche that a plan shows in a wall at a distance along it; null where it shows none. `pieces`: what is drawn near by, plane millimetres. */
export const gapNear = (band: WallBand, at: number, pieces: readonly Piece[]): SeenGap | null =>
  throughNear(band, at, pieces) ?? nicheNear(band, at, pieces);

/** Places along a band and to the left of its line. */
const localTo =
  (band: WallBand) =>
  ([x, y]: Point): [number, number] => {
    const [dx, dy] = [x - band.from[0], y - band.from[1]];
    return [dx * band.ux + dy * band.uy, -dx * band.uy + dy * band.ux];
  };

function throughNear(band: WallBand, at: number, pieces: readonly Piece[]): SeenGap | null {
  const thickness = band.left + band.right,
    room = FACE_TO_FACE * thickness,
    local = localTo(band);
  const jambs: number[] = [];
  /** Stretches of the faces that are drawn. */
  const faces: [number, number][] = [];
  for (const piece of pieces) {
    if (piece.kind !== 'segment') continue;
    const [p, q] = [local(piece.from), local(piece.to)],
      low = Math.min(p[1], q[1]),
      high = Math.max(p[1], q[1]);
    if (
      Math.abs(q[0] - p[0]) <= SQUARE * (high - low) &&
      low <= room - band.right &&
      high >= band.left - room &&
      (low >= -room - band.right || high <= band.left + room)
    )
      jambs.push((p[0] + q[0]) / 2);
    const onFace = [-band.right, band.left].some(
      (v) => Math.max(Math.abs(low - v), Math.abs(high - v)) <= room / 2,
    );
    if (onFace) faces.push([Math.min(p[0], q[0]), Math.max(p[0], q[0])]);
  }
  const from = Math.max(...jambs.filter((t) => t <= at), -Infinity),
    to = Math.min(...jambs.filter((t) => t > at + ONE_JAMB), Infinity),
    width = to - from;
  if (!(width >= NARROWEST && width <= WIDEST)) return null;
  const seen = seenInGap(band, from, to, pieces);
  if (seen.kind !== 'gap') return { from, to, seen };
  const drawn = faces.reduce((sum, [a, b]) => sum + Math.max(0, Math.min(b, to) - Math.max(a, from)), 0);
  return drawn < STILL_DRAWN * 2 * width ? { from, to, seen } : null;
}

/** The back of a niche lies at least so far from both faces, as a share of the thickness; its lines meet and end at the face to within so much, millimetres. */
const WITHIN = 0.08,
  MEETS = 8;

/** A niche by its back, that runs along the wall within it, and its two sides, that go from there to one face, which is not drawn before it. */
function nicheNear(band: WallBand, at: number, pieces: readonly Piece[]): SeenGap | null {
  const thickness = band.left + band.right,
    local = localTo(band),
    lines = pieces.flatMap((p) => (p.kind === 'segment' ? [[local(p.from), local(p.to)] as const] : [])),
    along = lines.filter(([p, q]) => Math.abs(q[1] - p[1]) <= SQUARE * Math.abs(q[0] - p[0])),
    across = lines.filter(([p, q]) => Math.abs(q[0] - p[0]) <= SQUARE * Math.abs(q[1] - p[1]));
  /** Is there a line across at a distance, from one place to the left of the wall's line to another? */
  const goes = (t: number, v: number, to: number) =>
    across.some(([p, q]) => {
      const [low, high] = p[1] < q[1] ? [p[1], q[1]] : [q[1], p[1]];
      return (
        Math.abs((p[0] + q[0]) / 2 - t) <= MEETS &&
        Math.abs(low - Math.min(v, to)) <= MEETS &&
        Math.abs(high - Math.max(v, to)) <= MEETS
      );
    });
  const isOpen = (from: number, to: number, face: number) => {
    const drawn = along
      .filter(([p]) => Math.abs(p[1] - face) <= MEETS)
      .reduce(
        (sum, [p, q]) =>
          sum + Math.max(0, Math.min(Math.max(p[0], q[0]), to) - Math.max(Math.min(p[0], q[0]), from)),
        0,
      );
    return drawn < STILL_DRAWN * (to - from);
  };
  for (const [p, q] of along) {
    const [from, to] = p[0] < q[0] ? [p[0], q[0]] : [q[0], p[0]],
      v = (p[1] + q[1]) / 2;
    if (from > at || to < at || to - from < NARROWEST || to - from > WIDEST) continue;
    if (v < WITHIN * thickness - band.right || v > band.left - WITHIN * thickness) continue;
    for (const opens of ['left', 'right'] as const) {
      const face = opens === 'left' ? band.left : -band.right;
      if (goes(from, v, face) && goes(to, v, face) && isOpen(from, to, face))
        return {
          from,
          to,
          seen: {
            kind: 'niche',
            leaves: 0,
            hung: 'from',
            opens,
            swingSeen: false,
            depth: Math.abs(face - v),
          },
        };
    }
  }
  return null;
}
