import {
  arcPiece, boxOfPoints, pathPieces, pieceAt, pieceBox, segmentPiece, splinePieces, unionBox, type Arc, type Box, type Piece, type Point,
} from '../geometry/index.ts';
import { dimensionLines } from './dimension-lines.ts';
import { placedAt } from './placed.ts';
import type { Area, Note, Traced, TracedArc } from './entities.ts';

/** An arc element as geometry has it. */
export const arcOf = (e: Pick<TracedArc, 'centre' | 'radius' | 'start' | 'sweep'>): Arc => ({ cx: e.centre[0], cy: e.centre[1], r: e.radius, start: e.start, end: e.start + e.sweep });

export const arcFields = (arc: Arc): Pick<TracedArc, 'centre' | 'radius' | 'start' | 'sweep'> => ({ centre: [arc.cx, arc.cy], radius: arc.r, start: arc.start, sweep: arc.end - arc.start });

export const ringPieces = (ring: Area['rings'][number]): Piece[] => pathPieces({ ...ring, closed: true });

/** The drawn geometry of an element: of a wall its drawn line, of an area its outline, of a dimension (with its points where they are now) its lines, of a text nothing. */
export function piecesOf(e: Traced): Piece[] {
  switch (e.type) {
    case 'wall': case 'line': case 'gridLine': return [segmentPiece(e.from, e.to)];
    case 'arc': return [arcPiece(arcOf(e))];
    case 'path': return pathPieces(e);
    case 'spline': return splinePieces(e.controls);
    case 'area': return e.rings.flatMap(ringPieces);
    case 'dimension': return dimensionLines(e);
    case 'placed': return (e.members ?? []).flatMap(piecesOf);
    case 'text': return [];
  }
}

/** Width of a letter in shares of the text's height, where no font can be asked. */
const LETTER_WIDTH = 0.55;

export const noteWidth = (e: Pick<Note, 'text' | 'height'>): number => LETTER_WIDTH * e.height * Math.max(1, e.text.length);

/** The four corners of a text, from where it begins, counter-clockwise. */
export function noteCorners(e: Pick<Note, 'at' | 'angle' | 'height' | 'text'>): [number, number][] {
  const w = noteWidth(e), [c, s] = [Math.cos(e.angle), Math.sin(e.angle)], [x, y] = e.at;
  return [[0, 0], [w, 0], [w, e.height], [0, e.height]].map(([u, v]) => [x + c * u - s * v, y + s * u + c * v]);
}

/** The box of an element, texts by their usual width. */
export function boxOf(e: Traced): Box {
  if (e.type === 'text') return boxOfPoints(noteCorners(e));
  if (e.type === 'placed') return [boxOfPoints([placedAt(e)]), ...(e.members ?? []).map(boxOf)].reduce(unionBox);
  return piecesOf(e).map(pieceBox).reduce(unionBox);
}

/**
 * Points by which an element can be taken hold of, in a fixed order: ends and corners, of an arc its two ends, its middle and its centre
 * (of a circle its four quarters and its centre), of a curve the points that it goes through.
 */
export function gripsOf(e: Traced): [number, number][] {
  switch (e.type) {
    case 'wall': case 'line': case 'gridLine': return [e.from, e.to];
    case 'arc': {
      const piece = arcPiece(arcOf(e));
      return [...(isCircle(e) ? [0, 0.25, 0.5, 0.75] : [0, 1, 0.5]).map((t) => pieceAt(piece, t)), [e.centre[0], e.centre[1]]];
    }
    case 'path': return e.points;
    case 'spline': return e.controls.filter((_, i) => i % 3 === 0);
    case 'text': return [e.at];
    case 'placed': return [placedAt(e)];
    case 'area': return e.rings.flatMap((r) => r.points);
    case 'dimension': return [...e.points, e.at];
  }
}

const FULL_TURN = 2 * Math.PI - 1e-9;
export const isCircle = (e: Pick<TracedArc, 'sweep'>): boolean => e.sweep >= FULL_TURN;

/** The two ends of what has ends; null for what is closed, or has none. */
export function endsOf(e: Traced): [Point, Point] | null {
  if (e.type === 'wall' || e.type === 'line') return [e.from, e.to];
  if (e.type === 'arc') return isCircle(e) ? null : [0, 1].map((t) => pieceAt(arcPiece(arcOf(e)), t)) as unknown as [Point, Point];
  if (e.type === 'path') return e.closed ? null : [e.points[0], e.points[e.points.length - 1]];
  if (e.type === 'spline') {
    const [p, q] = [e.controls[0], e.controls[e.controls.length - 1]];
    return p[0] === q[0] && p[1] === q[1] ? null : [p, q];
  }
  return null;
}
