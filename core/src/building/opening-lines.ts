import { arcPiece, normalAngle, segmentPiece, type Piece, type Point } from '../geometry/index.ts';
import { pairOf, type Wall, type WallOpening } from '../model/index.ts';
import {
  arcOf,
  bandOf,
  openingsOf,
  pointAt,
  waysOf,
  type OpeningInWall,
  type WallBand,
} from './wall-geometry.ts';

/** Lines of a window lie between its faces at these shares of the wall's thickness. */
const PANES = [0.4, 0.6];

/** The lines by which drawings show an opening in plan: a window's panes, a door's leaves with their swings, the face before a niche that begins above the floor. A gap has none. */
export function openingLines(band: WallBand, { opening, from, to }: OpeningInWall): Piece[] {
  const at = (along: number, share: number): Point =>
    pointAt(band, along, -band.right + share * (band.left + band.right));
  if (opening.kind === 'window')
    return [0, ...PANES, 1].map((share) => segmentPiece(at(from, share), at(to, share)));
  if (opening.kind === 'niche') {
    // Down to the floor nothing lies before it.
    const face = waysOf(band, opening).left ? 1 : 0;
    return opening.sill > 0 ? [segmentPiece(at(from, face), at(to, face))] : [];
  }
  if (opening.kind !== 'door') return [];
  const width = to - from,
    way = waysOf(band, opening);
  if (opening.leaves === 0 && opening.folds) {
    // To and fro, half open.
    const face = way.left ? 1 : 0,
      out = width / FOLDS / (band.left + band.right),
      tip = way.left ? 1 + out : -out;
    return Array.from({ length: FOLDS }, (_, i) => {
      const place = (n: number) => at(from + (n * width) / (2 * FOLDS), n % 2 === 0 ? face : tip);
      return segmentPiece(place(i), place(i + 1));
    });
  }
  if (opening.leaves === 0) {
    // One that slides stands before the wall, half open.
    const side = way.left ? 1 + SLIDING : -SLIDING;
    return [segmentPiece(at(from, side), at(from + width / 2, side))];
  }
  const edge = way.left ? band.left : -band.right;
  const leaf = (hinge: number, other: number): Piece[] => {
    const length = Math.abs(other - hinge),
      centre = pointAt(band, hinge, edge),
      tip = pointAt(band, hinge, edge + (way.left ? length : -length)),
      shut = pointAt(band, other, edge);
    const angle = (p: Point) => Math.atan2(p[1] - centre[1], p[0] - centre[0]);
    const sweep = normalAngle(angle(tip) - angle(shut)),
      counter = sweep <= Math.PI,
      start = angle(counter ? shut : tip);
    return [
      segmentPiece(centre, tip),
      arcPiece({
        cx: centre[0],
        cy: centre[1],
        r: length,
        start,
        end: start + (counter ? sweep : 2 * Math.PI - sweep),
      }),
    ];
  };
  if (opening.leaves === 2) {
    const middle = (from + to) / 2;
    return [...leaf(from, middle), ...leaf(to, middle)];
  }
  return way.hungAtFrom ? leaf(from, to) : leaf(to, from);
}

/** One that folds is drawn with so many leaves. */
const FOLDS = 4;

/** How far before the wall one that slides is drawn, as a share of its thickness. */
const SLIDING = 0.2;

/** The lines of all openings of a wall. */
export function linesOfOpenings(wall: Wall): { opening: WallOpening; lines: Piece[] }[] {
  const openings = openingsOf(wall);
  if (openings.length === 0) return [];
  const arc = arcOf(wall);
  // In a bent wall an opening is straight, from edge to edge.
  if (arc)
    return openings.map(({ opening, from, to }) => {
      const band = bandOf({ ...wall, curve: null, from: pairOf(arc.at(from)), to: pairOf(arc.at(to)) });
      return { opening, lines: openingLines(band, { opening, from: 0, to: band.length }) };
    });
  const band = bandOf(wall);
  return openings.map((o) => ({ opening: o.opening, lines: openingLines(band, o) }));
}
