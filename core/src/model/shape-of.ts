import type { Box, Piece, Point } from '../geometry/index.ts';
import { kindOf, type Edge, type Traced } from '../kinds/index.ts';

/** The drawn geometry of an element: of a wall its drawn line, of an area its outline, of a dimension (with its points where they are now) its lines, of a text nothing. */
export const piecesOf = (e: Traced): Piece[] => kindOf(e).pieces(e);

/** The box of an element, texts by their usual width. */
export const boxOf = (e: Traced): Box => kindOf(e).box(e);

/** Points by which an element can be taken hold of, in a fixed order. */
export const gripsOf = (e: Traced): [number, number][] => kindOf(e).grips(e);

/** The two ends of what has ends; null for what is closed, or has none. */
export const endsOf = (e: Traced): [Point, Point] | null => kindOf(e).ends(e);

/** Grips at which other elements join on: ends and corners, not middles, centres or where a text begins. */
export const jointGrips = (e: Traced): number[] => kindOf(e).joints(e);

/** Stretches of a path or an area that can be taken hold of in their middle and moved as a whole. */
export const edgesOf = (e: Traced): Edge[] => kindOf(e).edges(e);
