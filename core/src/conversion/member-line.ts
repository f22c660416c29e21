import { grownBox, boxOfPoints, type Box, type Piece, type Point } from '../geometry/index.ts';

/** The line of a member as a sheet draws it. */
export interface MemberLine {
  from: Point;
  to: Point;
  /** How far apart the two edges are of which it is the middle, millimetres; null for the line itself. */
  width: number | null;
}

/** Lines are parallel within this (sine), and lie beside one another over this share of the shorter one. */
const ALIKE = 0.005,
  BESIDE = 0.6;
/** Two edges are those of a section whose size they show within this share of it, or so many millimetres. */
const SHARE = 0.05,
  LEAST = 3;

/**
 * The middle between two parallel edges of which one is given, where they lie as far apart as one of the sizes of a section; else the edge
 * itself. The longer of the two says how far it goes. `find`: what is drawn in a box, plane millimetres.
 */
export function memberLine(
  edge: { from: Point; to: Point },
  sizes: readonly number[],
  find: (box: Box) => Iterable<Piece>,
): MemberLine {
  const [dx, dy] = [edge.to[0] - edge.from[0], edge.to[1] - edge.from[1]],
    length = Math.hypot(dx, dy),
    [ux, uy] = [dx / length, dy / length];
  const local = ([x, y]: Point): { along: number; off: number } => {
      const [rx, ry] = [x - edge.from[0], y - edge.from[1]];
      return { along: rx * ux + ry * uy, off: -rx * uy + ry * ux };
    },
    place = (along: number, off: number): Point => [
      edge.from[0] + along * ux - off * uy,
      edge.from[1] + along * uy + off * ux,
    ];
  const reach = Math.max(...sizes) * (1 + SHARE) + LEAST;
  let best: { misfit: number; line: MemberLine } | null = null;
  for (const piece of find(grownBox(boxOfPoints([edge.from, edge.to]), reach))) {
    if (piece.kind !== 'segment') continue;
    const [p, q] = [local(piece.from), local(piece.to)],
      [low, high] = p.along < q.along ? [p.along, q.along] : [q.along, p.along],
      off = (p.off + q.off) / 2,
      together = Math.min(high, length) - Math.max(low, 0);
    if (Math.abs(q.off - p.off) > ALIKE * (high - low) || together < BESIDE * Math.min(length, high - low))
      continue;
    for (const size of sizes) {
      const misfit = Math.abs(Math.abs(off) - size);
      if (misfit > Math.max(LEAST, SHARE * size) || (best && best.misfit <= misfit)) continue;
      const [from, to] = high - low > length ? [low, high] : [0, length];
      best = {
        misfit,
        line: { from: place(from, off / 2), to: place(to, off / 2), width: Math.abs(off) },
      };
    }
  }
  return best?.line ?? { ...edge, width: null };
}
