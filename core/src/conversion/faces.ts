import type { Piece, Point } from '../geometry/index.ts';

/** A wall read from its two faces: its middle line and thickness, millimetres of the plane. */
export interface FacePair { from: [number, number]; to: [number, number]; thickness: number }

/** Faces run the same way within this sine. */
const SAME_WAY = 2e-3;
/** They lie beside one another over at least this share of the shorter one. */
const BESIDE = 0.3;
/** Walls are no thinner and no thicker than this, millimetres. */
const THINNEST = 30, THICKEST = 1200;

/** More than these nobody steps through. */
const MOST = 6;

type Segment = Extract<Piece, { kind: 'segment' }>;

/** The walls of which a line may be one face, the likeliest first: towards the side of a point, then the thinner one. */
export function facePairs(face: Segment, others: Iterable<Piece>, side: Point): FacePair[] {
  const { from, to } = face, length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length === 0) return [];
  const ux = (to[0] - from[0]) / length, uy = (to[1] - from[1]) / length;
  const along = (p: Point) => (p[0] - from[0]) * ux + (p[1] - from[1]) * uy, across = (p: Point) => -(p[0] - from[0]) * uy + (p[1] - from[1]) * ux;
  const towards = Math.sign(across(side));
  const found: (FacePair & { rank: number })[] = [];
  for (const other of others) {
    if (other.kind !== 'segment' || other === face) continue;
    const dx = other.to[0] - other.from[0], dy = other.to[1] - other.from[1], own = Math.hypot(dx, dy);
    if (own === 0 || Math.abs(dx * uy - dy * ux) > SAME_WAY * own) continue;
    const gap = (across(other.from) + across(other.to)) / 2, thickness = Math.abs(gap);
    if (thickness < THINNEST || thickness > THICKEST) continue;
    const [s, t] = [along(other.from), along(other.to)].sort((a, b) => a - b);
    if (Math.min(t, length) - Math.max(s, 0) < BESIDE * Math.min(own, length)) continue;
    // At a corner one face is shorter by the other wall: the middle line ends midway. Where a face goes far beyond, the pointed one counts.
    const end = (a: number, b: number) => (Math.abs(a - b) <= 2 * thickness ? (a + b) / 2 : a);
    const low = end(0, s), high = end(length, t);
    const at = (d: number): [number, number] => [from[0] + d * ux - (gap / 2) * uy, from[1] + d * uy + (gap / 2) * ux];
    found.push({ from: at(low), to: at(high), thickness, rank: thickness + (Math.sign(gap) === towards || towards === 0 ? 0 : THICKEST) });
  }
  return found.sort((a, b) => a.rank - b.rank).slice(0, MOST).map(({ rank: _, ...pair }) => pair);
}
