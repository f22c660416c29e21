import type { Arc, Cubic, Line4, Point } from '../geometry/index.ts';

/** What an index holds, in this order; an item of a sheet is told by its place in the joined list. */
export const ITEM_KINDS = [
  'segment',
  'fillEdge',
  'arc',
  'circle',
  'curve',
  'arcCentre',
  'circleCentre',
  'text',
] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

/** Items that a pick may find, by their numbers, whatever keeps them. */
export interface SnapItems {
  /** Numbers of the items whose boxes touch a box. */
  search(x0: number, y0: number, x1: number, y1: number): number[];
  kindOf(item: number): ItemKind;
  /** Distance of a straight item; null for any other. It is asked hundreds of times a query, so nothing is made for the answer. */
  straightDistance(item: number, x: number, y: number): number | null;
  segment(item: number): Line4;
  /** The circle of an arc, a circle or their centres. */
  round(item: number): Arc;
  curve(item: number): Cubic;
  /** Where a text begins. */
  base(item: number): Point;
}
