import { arcPiece, segmentPiece, type Piece, type Point } from '../geometry/index.ts';
import type { WallBand } from '../building/index.ts';
import type { DrawnPiece, Nearby } from './nearby.ts';
import type { ProposedOpening, ProposedWall } from './types.ts';

/** The middle line of a bent wall, millimetres; it runs counter-clockwise. */
interface Bend {
  centre: Point;
  radius: number;
  /** Angle of its first end. */
  start: number;
  sweep: number;
  thickness: number;
}

export function bendOf(
  { from, arc, thickness }: Pick<ProposedWall, 'from' | 'arc' | 'thickness'>,
  mm: number,
): Bend | null {
  if (!arc) return null;
  const [cx, cy] = arc.centre;
  return {
    centre: [cx * mm, cy * mm],
    radius: arc.radius * mm,
    start: Math.atan2(from[1] - cy, from[0] - cx),
    sweep: arc.sweep,
    thickness,
  };
}

/** A bent wall as if it were straight: along it, and to its left, which is towards its centre. */
export const unrolledBand = ({ radius, sweep, thickness }: Bend, id: string): WallBand => ({
  id,
  from: [0, 0],
  to: [radius * sweep, 0],
  left: thickness / 2,
  right: thickness / 2,
  length: radius * sweep,
  ux: 1,
  uy: 0,
});

/** What of an arc runs about the centre of a bent wall within this share of its radius runs along the wall. */
const SAME_CENTRE = 0.02;
/** So far beside the wall things are looked at, millimetres. */
const BESIDE = 1300;

/** What is drawn around a bent wall, as if that were straight: lines along it lie along it, and what stands in it stays as it is, turned. */
export function unrolled(near: Nearby, bend: Bend): Pick<Nearby, 'within'> {
  const { centre, radius, start, sweep } = bend,
    [cx, cy] = centre,
    reach = radius + BESIDE,
    seam = start + sweep / 2;
  /** The angle of a place from the first end, that of its middle in the middle of its turn. */
  const angleOf = ([x, y]: Point): number => {
    const turn = Math.atan2(y - cy, x - cx) - seam;
    return turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI)) + sweep / 2;
  };
  const flat = (p: Point): [number, number] => [
    angleOf(p) * radius,
    radius - Math.hypot(p[0] - cx, p[1] - cy),
  ];
  /** As a place lies seen from another that is laid flat. */
  const about =
    (middle: Point) =>
    (p: Point): [number, number] => {
      const [s, v] = flat(middle),
        angle = Math.atan2(middle[1] - cy, middle[0] - cx) + Math.PI / 2,
        [dx, dy] = [p[0] - middle[0], p[1] - middle[1]];
      return [
        s + dx * Math.cos(angle) + dy * Math.sin(angle),
        v - dx * Math.sin(angle) + dy * Math.cos(angle),
      ];
    };
  const laid = (piece: Piece): Piece | null => {
    if (piece.kind === 'segment') {
      const middle: Point = [(piece.from[0] + piece.to[0]) / 2, (piece.from[1] + piece.to[1]) / 2],
        on = about(middle);
      return segmentPiece(on(piece.from), on(piece.to));
    }
    if (piece.kind !== 'arc') return null;
    const { arc } = piece;
    if (Math.hypot(arc.cx - cx, arc.cy - cy) <= SAME_CENTRE * radius) {
      const v = radius - arc.r,
        at = (angle: number): number => (angle - start) * radius,
        turns = 2 * Math.PI * Math.round((seam - (arc.start + arc.end) / 2) / (2 * Math.PI));
      return segmentPiece([at(arc.start + turns), v], [at(arc.end + turns), v]);
    }
    const [x, y] = about([arc.cx, arc.cy])([arc.cx, arc.cy]),
      turn = -(Math.atan2(arc.cy - cy, arc.cx - cx) + Math.PI / 2);
    return arcPiece({ cx: x, cy: y, r: arc.r, start: arc.start + turn, end: arc.end + turn });
  };
  const all = near.within([cx - reach, cy - reach, cx + reach, cy + reach]).flatMap((d): DrawnPiece[] => {
    const piece = laid(d.piece);
    return piece ? [{ ...d, piece }] : [];
  });
  return { within: () => all };
}

/** An opening that was found in a bent wall laid straight, where it lies; sheet points. */
export function rolled(o: ProposedOpening, { centre, radius, start }: Bend, mm: number): ProposedOpening {
  const back = ([x, y]: readonly [number, number]): [number, number] => {
    const angle = start + (x * mm) / radius,
      r = radius - y * mm;
    return [(centre[0] + r * Math.cos(angle)) / mm, (centre[1] + r * Math.sin(angle)) / mm];
  };
  return {
    ...o,
    at: back(o.at),
    width: 2 * radius * Math.sin((o.to - o.from) / (2 * radius)),
    swing: o.swing && { ...o.swing, hinge: back(o.swing.hinge) },
  };
}
