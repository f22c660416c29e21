import {
  applyTransform,
  boxOfPoints,
  boxRing,
  flattenPiece,
  unionBox,
  worldFromPlane,
  type Box,
  type ModelPoint,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { looseOf, ofType, piecesOf, storeysOf, type Model, type PlaneEntity } from '@calque/core/model';
import { frameOf } from '@calque/core/planes';
import { boxOfUnderlay } from '@/project/views';
import { pictureUrl } from '@/project/addresses';
import { cropRing } from '@/table/look-cache';
import type { Table } from '@/table/table';

/** A sheet as it lies on a plane: the address of its picture, and the way from the picture (0 to 1 each way, y up) onto the plane. */
export interface SceneSheet {
  url: string;
  page: string;
  placement: Transform;
  width: number;
  height: number;
  ring: readonly Point[];
  fade: number;
}

/** A wall as it stands: the ring of its foot, and how high it is. */
export interface SceneWall {
  ring: readonly Point[];
  height: number;
}

/** A plane with what lies on it, in its own millimetres. */
export interface ScenePlane {
  plane: PlaneEntity;
  /** What is shown of it. */
  box: Box;
  sheets: SceneSheet[];
  lines: (readonly Point[])[];
  walls: SceneWall[];
}

/** More lines than a light picture can turn about at once. */
const MOST_LINES = 20000;
/** Arcs are drawn by chords that keep within this of them, millimetres. */
const CHORDS = 20;

/** What a project shows in space: every plane that carries something, and every upright one. */
export function sceneOf(table: Table): {
  planes: ScenePlane[];
  leftOut: number;
  /** Sheets that show at a size that says nothing, since they are not to scale. */
  unscaled: number;
} {
  const { model, files } = table.session.state;
  let left = MOST_LINES,
    leftOut = 0;
  const planes = [...storeysOf(model), ...ofType(model, 'plane')].flatMap((plane): ScenePlane[] => {
    const trace = table.traces.of(model, plane.id);
    const sheets = sheetsOn(model, plane, table, files);
    const lines: (readonly Point[])[] = [];
    for (const owner of trace.elements.values())
      for (const e of looseOf(owner)) {
        if (e.type === 'wall') continue;
        for (const piece of piecesOf(e)) {
          if (left <= 0) leftOut++;
          else if (left-- > 0) lines.push(flattenPiece(piece, CHORDS));
        }
      }
    const walls = trace.walls.flatMap((w): SceneWall[] => {
      const ring = trace.cut.bodies.get(w.id);
      return ring ? [{ ring, height: w.height }] : [];
    });
    const boxes = [
      ...ofType(model, 'underlay')
        .filter((u) => u.planeId === plane.id && u.visible)
        .map(boxOfUnderlay),
      ...(trace.index.bounds ? [trace.index.bounds] : []),
      ...(plane.type === 'plane' ? [[0, 0, plane.width, plane.height] as Box] : []),
    ];
    return boxes.length > 0 ? [{ plane, box: boxes.reduce(unionBox), sheets, lines, walls }] : [];
  });
  const unscaled = ofType(model, 'underlay').filter((u) => u.visible && u.scaleState === 'paper').length;
  return { planes, leftOut, unscaled };
}

function sheetsOn(
  model: Model,
  plane: PlaneEntity,
  table: Table,
  files: Table['session']['state']['files'],
): SceneSheet[] {
  return ofType(model, 'underlay')
    .filter((u) => u.planeId === plane.id && u.visible)
    .sort((a, b) => a.order - b.order)
    .flatMap((u): SceneSheet[] => {
      const sheet = files.find((f) => f.id === u.fileId)?.sheets.find((s) => s.page === u.page);
      if (!sheet) return [];
      return [
        {
          url: pictureUrl(table.session.projectId, u.fileId, u.page),
          page: u.name,
          placement: u.placement,
          width: sheet.width,
          height: sheet.height,
          ring: cropRing(u).map((p) => applyTransform(u.placement, p)),
          fade: u.fade,
        },
      ];
    });
}

/** The corners of all planes and the tops of their walls: what a view of everything must hold. */
export function cornersOfScene(planes: readonly ScenePlane[]): ModelPoint[] {
  return planes.flatMap(({ plane, box, walls }) => {
    const frame = frameOf(plane),
      high = Math.max(0, ...walls.map((w) => w.height));
    return boxRing(box).flatMap((p): ModelPoint[] => {
      const at = worldFromPlane(frame, p);
      return high > 0 ? [at, [at[0], at[1], at[2] + high]] : [at];
    });
  });
}

export const boxInView = (points: readonly Point[]): Box => boxOfPoints(points);
