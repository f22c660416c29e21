import { arcPiece, normalAngle, segmentPiece, type Piece, type Point } from '../geometry/index.ts';
import type { Wall, WallOpening } from '../model/index.ts';
import { bandOf, openingsOf, pointAt, type OpeningInWall, type WallBand } from './wall-geometry.ts';

/** Lines of a window lie between its faces at these shares of the wall's thickness. */
const PANES = [0.4, 0.6];

/** The lines by which drawings show an opening in plan: a window's panes, a door's leaves with their swings. A gap has none. */
export function openingLines(band: WallBand, { opening, from, to }: OpeningInWall): Piece[] {
  const at = (along: number, share: number): Point =>
    pointAt(band, along, -band.right + share * (band.left + band.right));
  if (opening.kind === 'window')
    return [0, ...PANES, 1].map((share) => segmentPiece(at(from, share), at(to, share)));
  if (opening.kind !== 'door') return [];
  const width = to - from,
    way = waysOf(band, opening);
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

/** How far before the wall one that slides is drawn, as a share of its thickness. */
const SLIDING = 0.2;

/** The swing of an opening seen along its wall, whichever way the opening itself was drawn. */
function waysOf(
  band: WallBand,
  o: Pick<WallOpening, 'from' | 'to' | 'hung' | 'opens'>,
): { left: boolean; hungAtFrom: boolean } {
  const along = (p: readonly [number, number]) =>
    (p[0] - band.from[0]) * band.ux + (p[1] - band.from[1]) * band.uy;
  const forward = along(o.from) <= along(o.to);
  return { left: (o.opens === 'left') === forward, hungAtFrom: (o.hung === 'from') === forward };
}

/** The lines of all openings of a wall. */
export function linesOfOpenings(wall: Wall): { opening: WallOpening; lines: Piece[] }[] {
  const openings = openingsOf(wall);
  if (openings.length === 0) return [];
  const band = bandOf(wall);
  return openings.map((o) => ({ opening: o.opening, lines: openingLines(band, o) }));
}
