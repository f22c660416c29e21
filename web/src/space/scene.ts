import {
  applyTransform,
  boxRing,
  flattenPiece,
  rayToPlane,
  unionBox,
  worldFromPlane,
  type Box,
  type ModelPoint,
  type Point,
} from '@calque/core/geometry';
import {
  buildingPlanes,
  kindOf,
  looseOf,
  ofType,
  piecesOf,
  storeysOf,
  type Model,
  type PlaneEntity,
  type Underlay,
} from '@calque/core/model';
import { frameOf } from '@calque/core/planes';
import { boxOfUnderlay } from '@/project/views';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';

/** A plane with what lies on it, in its own millimetres. */
export interface ScenePlane {
  plane: PlaneEntity;
  /** What is shown of it. */
  box: Box;
  sheets: Underlay[];
  lines: (readonly Point[])[];
}

/** More lines than can be turned about at once. */
const MOST_LINES = 20000;
/** Arcs are drawn by chords that keep within this of them, millimetres. */
const CHORDS = 20;

/** What lies flat in space: every plane that carries something, and every upright one. Solids are made elsewhere. */
export function planesOf(table: Table): {
  planes: ScenePlane[];
  leftOut: number;
  /** Sheets that show at a size that says nothing, since they are not to scale. */
  unscaled: number;
} {
  const { model } = table.session.state;
  let left = MOST_LINES,
    leftOut = 0;
  const planes = [...storeysOf(model), ...buildingPlanes(model)].flatMap((plane): ScenePlane[] => {
    const trace = table.traces.of(model, plane.id);
    const lines: (readonly Point[])[] = [];
    for (const owner of trace.elements.values())
      for (const e of looseOf(owner)) {
        // What is a solid on a storey is drawn as one.
        if (e.type === 'wall' || (plane.type === 'storey' && kindOf(e).blocks(e).length > 0)) continue;
        if (kindOf(e).bars) continue;
        for (const piece of piecesOf(e)) {
          if (left <= 0) leftOut++;
          else if (left-- > 0) lines.push(flattenPiece(piece, CHORDS));
        }
      }
    const sheets = sheetsOn(model, plane);
    const boxes = [
      ...sheets.map(boxOfUnderlay),
      ...(trace.index.bounds ? [trace.index.bounds] : []),
      ...(plane.type === 'plane' ? [[0, 0, plane.width, plane.height] as Box] : []),
    ];
    return boxes.length > 0 ? [{ plane, box: boxes.reduce(unionBox), sheets, lines }] : [];
  });
  const unscaled = ofType(model, 'underlay').filter((u) => u.visible && u.scaleState === 'paper').length;
  return { planes, leftOut, unscaled };
}

const sheetsOn = (model: Model, plane: PlaneEntity): Underlay[] =>
  ofType(model, 'underlay')
    .filter((u) => u.planeId === plane.id && u.visible)
    .sort((a, b) => a.order - b.order);

/** The ring of what is laid of a sheet, on its plane. */
export const ringOf = (u: Underlay): Point[] => cropRing(u).map((p) => applyTransform(u.placement, p));

/** The corners of all planes: what a view of everything must hold. */
export const cornersOfPlanes = (planes: readonly ScenePlane[]): ModelPoint[] =>
  planes.flatMap(({ plane, box }) => boxRing(box).map((p) => worldFromPlane(frameOf(plane), p)));

/** The nearest plane on a ray, within what is shown of it; null where none is. */
export function planeOnRay(
  planes: readonly ScenePlane[],
  from: ModelPoint,
  direction: ModelPoint,
): PlaneEntity | null {
  let best: { plane: PlaneEntity; far: number } | null = null;
  for (const { plane, box } of planes) {
    const frame = frameOf(plane),
      at = rayToPlane(frame, from, direction);
    if (!at || at[0] < box[0] || at[0] > box[2] || at[1] < box[1] || at[1] > box[3]) continue;
    const [x, y, z] = worldFromPlane(frame, at),
      far = Math.hypot(x - from[0], y - from[1], z - from[2]);
    if (!best || far < best.far) best = { plane, far };
  }
  return best?.plane ?? null;
}
