import {
  applyTransform,
  areaOfPieces,
  determinant,
  flattenPiece,
  lengthOfPieces,
  pathPieces,
  type Piece,
  type Ring,
  type Transform,
} from '../geometry/index.ts';
import { heldPoints, mirroredBulges, pairOf, stretchesLeft, type Pair } from './drawn.ts';
import { NO_FRAME, type Kind } from './kind.ts';
import { boxOfPieces, edgesAlong } from './path/path.ts';

/** A closed outline of lines and arcs (see BulgePath), one bulge to each stretch. */
export interface OutlineRing {
  points: Pair[];
  bulges: number[];
}
interface Ringed {
  rings: OutlineRing[];
}

/** Chords of an outline's bends stray by no more than this where it is filled or made a solid, millimetres. */
const FLAT_TOLERANCE = 0.5;

export const ringPieces = (ring: OutlineRing): Piece[] => pathPieces({ ...ring, closed: true });

/** The outlines as polygons. */
export const flatRings = ({ rings }: Ringed): Ring[] =>
  rings.map((ring) => ringPieces(ring).flatMap((p) => flattenPiece(p, FLAT_TOLERANCE).slice(0, -1)));

/** Area within the outline without its holes, square millimetres. */
export function areaOfRings({ rings }: Ringed): number {
  const [outer = 0, ...holes] = rings.map((r) => Math.abs(areaOfPieces(ringPieces(r))));
  return outer - holes.reduce((a, b) => a + b, 0);
}

const piecesOf = (e: Ringed) => e.rings.flatMap(ringPieces);
const gripsOf = (e: Ringed) => e.rings.flatMap((r) => r.points);
const isWhole = (rings: readonly OutlineRing[]) => rings.every((r) => stretchesLeft(r.points, true));

/** Rings with something done to each, told where its grips begin. */
function eachRing<T>(rings: readonly OutlineRing[], act: (ring: OutlineRing, first: number) => T): T[] {
  let first = 0;
  return rings.map((r) => {
    const done = act(r, first);
    first += r.points.length;
    return done;
  });
}

export const movedRings = (rings: readonly OutlineRing[], map: Transform): OutlineRing[] =>
  rings.map((r) => ({
    points: r.points.map((p) => applyTransform(map, p)),
    bulges: mirroredBulges(r.bulges, determinant(map) < 0),
  }));

/** What all elements have that lie within an outline, perhaps with holes. */
export function ringedKind<E extends Ringed>(): Pick<
  Kind<E>,
  | 'isRun'
  | 'carries'
  | 'rests'
  | 'refers'
  | 'pieces'
  | 'box'
  | 'length'
  | 'frame'
  | 'grips'
  | 'joints'
  | 'ends'
  | 'edges'
  | 'withGrip'
  | 'stretched'
> {
  return {
    isRun: false,
    carries: true,
    rests: null,
    refers: [],
    pieces: piecesOf,
    box: (e) => boxOfPieces(piecesOf(e)),
    length: (e) => lengthOfPieces(piecesOf(e)),
    frame: NO_FRAME,
    grips: gripsOf,
    joints: (e) => gripsOf(e).map((_, i) => i),
    ends: () => null,
    edges: (e) => eachRing(e.rings, (r, first) => edgesAlong(r.points, r.bulges, true, first)).flat(),
    withGrip: (e, grip, to) => {
      const rings = eachRing(e.rings, (r, first) => ({
        ...r,
        points: r.points.map((p, i) => (first + i === grip ? pairOf(to) : p)),
      }));
      return isWhole(rings) ? { ...e, rings } : null;
    },
    stretched: (e, holds, by) => {
      const held = e.rings.map((r) => heldPoints(r.points, holds, by)),
        rings = e.rings.map((r, i) => ({ ...r, points: held[i].points }));
      if (held.every((h) => !h.moved)) return e;
      return isWhole(rings) ? { ...e, rings } : null;
    },
  };
}
