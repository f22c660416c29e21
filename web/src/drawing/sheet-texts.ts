import {
  applyTransform,
  boxContains,
  boxOfPoints,
  invertTransform,
  makeRegion,
  regionContains,
  type Point,
} from '@calque/core/geometry';
import { ofType, type Underlay } from '@calque/core/model';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';

/** A text of a sheet where it lies on the plane: its middle, plane millimetres; its height in sheet points. */
export interface SheetText {
  at: Point;
  text: string;
  height: number;
  underlay: Underlay;
}

/** What the visible sheets of a plane write within an outline. */
export const textsWithin = (table: Table, planeId: string, outline: readonly Point[]): SheetText[] =>
  ofType(table.session.state.model, 'underlay')
    .filter((u) => u.planeId === planeId && u.visible)
    .flatMap((u) => textsOf(table, u, outline));

function textsOf(table: Table, underlay: Underlay, outline: readonly Point[]): SheetText[] {
  const linework = table.sheets.get(underlay.fileId, underlay.page)?.linework;
  if (!linework) return [];
  const inverse = invertTransform(underlay.placement),
    box = boxOfPoints(outline.map((p) => applyTransform(inverse, p))),
    laid = makeRegion([cropRing(underlay)], 'nonzero');
  return linework.texts.flatMap((t) => {
    const [x, y]: Point = [
      t.x + (Math.cos(t.radians) * t.width) / 2,
      t.y + (Math.sin(t.radians) * t.width) / 2,
    ];
    return boxContains(box, [x, y, x, y]) && regionContains(laid, x, y)
      ? [{ at: applyTransform(underlay.placement, [x, y]), text: t.text, height: t.height, underlay }]
      : [];
  });
}
