/**
 * The spaces that coordinates live in. A point is a pair [x, y]; the brand keeps a sheet point
 * from being handed to something that expects plane millimetres.
 *
 * sheet  : points of 1/72 inch of the page as displayed, origin lower left, y up
 * plane  : millimetres on a work plane, y up
 * screen : CSS pixels, y down
 */
declare const space: unique symbol;
export type Point = readonly [number, number];
export type SheetPoint = Point & { readonly [space]?: 'sheet' };
export type PlanePoint = Point & { readonly [space]?: 'plane' };
export type ScreenPoint = Point & { readonly [space]?: 'screen' };

/** Axis-aligned box [minX, minY, maxX, maxY] in the space of its points. */
export type Box = readonly [number, number, number, number];

/** Millimetres in one sheet point (1/72 inch, 25.4 mm to the inch: exact by definition). */
export const MM_PER_POINT = 25.4 / 72;
