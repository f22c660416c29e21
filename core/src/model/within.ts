import {
  crossPieces,
  makeRegion,
  pieceStart,
  regionContains,
  segmentPiece,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import { kindOf, type Traced } from '../kinds/index.ts';
import { piecesOf } from './shape-of.ts';

const sidesOf = (ring: readonly Point[]): Piece[] =>
  ring.map((p, i) => segmentPiece(p, ring[(i + 1) % ring.length]));
/** What of an element a region can hold: its lines, of a text its frame. */
const linesOf = (e: Traced): Piece[] => {
  const frame = kindOf(e).frame(e);
  return frame ? sidesOf(frame) : piecesOf(e);
};

/** Tells of elements whether they lie wholly within an outline, or at least touch it. */
export function withinRing(ring: readonly Point[]): {
  holds(e: Traced): boolean;
  touches(e: Traced): boolean;
} {
  const region = makeRegion([ring], 'evenodd'),
    sides = sidesOf(ring);
  const starts = (p: Piece) => regionContains(region, ...(pieceStart(p) as [number, number]));
  const crosses = (p: Piece) => sides.some((side) => crossPieces(p, side).length > 0);
  return {
    // A piece that begins within and crosses no side stays within.
    holds: (e) => linesOf(e).every((p) => starts(p) && !crosses(p)),
    touches: (e) => linesOf(e).some((p) => starts(p) || crosses(p)) || isWithinFrame(e, sides),
  };
}

/** A small outline may lie within a text. */
function isWithinFrame(e: Traced, sides: readonly Piece[]): boolean {
  const frame = kindOf(e).frame(e),
    region = frame && makeRegion([frame], 'evenodd');
  return (
    region !== null &&
    sides.some((s) => {
      const [x, y] = pieceStart(s);
      return regionContains(region, x, y);
    })
  );
}
