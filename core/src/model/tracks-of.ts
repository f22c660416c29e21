import {
  bulgeOf,
  distanceToPiece,
  isClosedRun,
  pathOfPieces,
  pieceAt,
  type Piece,
  type Track,
} from '../geometry/index.ts';
import {
  arcFields,
  isRoundEnough,
  kindOf,
  openingsOnLine,
  pairOf,
  type Pair,
  type Traced,
  type TracedPath,
  type Wall,
} from '../kinds/index.ts';
import { isStraightElement } from './entities.ts';
import { piecesOf } from './shape-of.ts';

/** Elements that are one run of pieces, and can be trimmed, split, extended and offset. */
export type Runs = Extract<Traced, { type: 'wall' | 'line' | 'gridLine' | 'arc' | 'path' | 'spline' }>;
export const isRun = (e: Traced): e is Runs => kindOf(e).isRun;

export function trackOf(e: Runs): Track {
  const pieces = piecesOf(e);
  return { pieces, closed: e.type === 'path' ? e.closed : !isStraightElement(e) && isClosedRun(pieces) };
}

/** An element like another that runs along other pieces of the same kind; null where its kind cannot. */
export function alongPieces(e: Runs, pieces: readonly Piece[], closed = false): Runs | null {
  const [first] = pieces;
  if (e.type === 'path')
    return pieces.every((p) => p.kind !== 'cubic') ? { ...e, ...pathOfPieces(pieces, closed) } : null;
  if (e.type === 'spline')
    return pieces.every((p) => p.kind === 'cubic') ? { ...e, controls: controlsOf(pieces) } : null;
  if (pieces.length !== 1) return null;
  if (e.type === 'arc') return first.kind === 'arc' ? { ...e, ...arcFields(first.arc) } : null;
  if (e.type === 'wall' && first.kind === 'arc') return alongArc(e, first);
  if (first.kind !== 'segment') return null;
  const ends = { from: pairOf(first.from), to: pairOf(first.to) };
  if (e.type !== 'wall') return { ...e, ...ends };
  return {
    ...e,
    ...ends,
    ...(e.curve && { curve: null }),
    ...(e.openings && { openings: openingsOnLine(e.openings, first.from, first.to) }),
  };
}

/** An opening farther than this beside an arc, millimetres, is not on it. */
const ON_ARC = 10;

/** A wall bent along an arc, with those of its openings that lie on it; null where the arc is too round for it. */
function alongArc(e: Wall, piece: Piece): Wall | null {
  const isOn = (p: Pair) => distanceToPiece(piece, p) <= ON_ARC,
    next: Wall = {
      ...e,
      from: pairOf(pieceAt(piece, 0)),
      to: pairOf(pieceAt(piece, 1)),
      curve: bulgeOf(piece),
      ...(e.openings && { openings: e.openings.filter((o) => isOn(o.from) && isOn(o.to)) }),
    };
  return isRoundEnough(next) ? next : null;
}

function controlsOf(pieces: readonly Piece[]): Pair[] {
  const cubics = pieces.flatMap((p) => (p.kind === 'cubic' ? [p.cubic] : []));
  return cubics.flatMap((c, i): Pair[] => [
    ...(i === 0 ? [[c[0], c[1]] as Pair] : []),
    [c[2], c[3]],
    [c[4], c[5]],
    [c[6], c[7]],
  ]);
}

/** The plainest element for a run of pieces: a line, an arc, a curve or a path; `like` gives the rest of it. Null for none. */
export function plainestFor(
  pieces: readonly Piece[],
  like: Omit<TracedPath, 'type' | 'points' | 'bulges' | 'closed'>,
  closed = false,
): Runs | null {
  if (pieces.length === 0) return null;
  const { id, planeId, source, layerId, dash } = like;
  const base = { id, planeId, source, ...(layerId && { layerId }), ...(dash && { dash }) };
  const [first] = pieces;
  if (pieces.length === 1 && first.kind === 'segment')
    return { type: 'line', ...base, from: [first.from[0], first.from[1]], to: [first.to[0], first.to[1]] };
  if (pieces.length === 1 && first.kind === 'arc') return { type: 'arc', ...base, ...arcFields(first.arc) };
  if (pieces.every((p) => p.kind === 'cubic'))
    return { type: 'spline', ...base, controls: controlsOf(pieces) };
  return pieces.some((p) => p.kind === 'cubic')
    ? null
    : { type: 'path', ...base, ...pathOfPieces(pieces, closed) };
}

/** The single lines, arcs and curves that a path, an outline or a curve of several pieces consists of; null for what is one already. */
export function piecesApart(e: Traced, newId: () => string): Runs[] | null {
  if (e.type !== 'path' && e.type !== 'area' && e.type !== 'spline') return null;
  const pieces = piecesOf(e);
  if (pieces.length < 2) return null;
  const { planeId, source, layerId, done, part } = e,
    dash = e.type === 'area' ? null : e.dash;
  return pieces.flatMap((piece) => {
    const one = plainestFor([piece], { id: newId(), planeId, source, layerId, dash });
    return one ? [{ ...one, ...(done && { done }), ...(part && { part }) }] : [];
  });
}
