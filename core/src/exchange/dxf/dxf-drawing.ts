import { meanScale, determinant, type Point, type Transform } from '../../geometry/index.ts';
import {
  cropRingOf,
  get,
  isTraced,
  movedBy,
  ofType,
  shownOf,
  looseOf,
  type Assembly,
  type Loose,
  type Model,
  type Placed,
  type Traced,
  type Underlay,
} from '../../model/index.ts';
import type { Drawing, DrawingLayer, Shape } from '../drawing.ts';
import { drawingLayer, drawingOfElements, isDelivered } from '../from-model.ts';

/** What a group consists of, about the point by which it is placed. */
export interface DxfBlock {
  name: string;
  shapes: Shape[];
}
/** A block placed: plane millimetres, counter-clockwise radians. */
export interface DxfInsert {
  layer: string;
  block: string;
  at: Point;
  radians: number;
  sx: number;
  sy: number;
}
/** A page of a PDF laid under the drawing: `ring` in sheet points. */
export interface PdfUnderlay {
  file: string;
  page: number;
  layer: string;
  planeFromSheet: Transform;
  ring: readonly Point[];
  fade: number;
  on: boolean;
}

/** A drawing with groups as blocks, and the sheets under it. */
export interface DxfDrawing extends Drawing {
  blocks: DxfBlock[];
  inserts: DxfInsert[];
  underlays: PdfUnderlay[];
}

const SHEETS: DrawingLayer = { name: 'Sheets', colour: 0x55616d, index: 8 };
/** Elements that a block placed with a scale or mirrored shows as they are; texts, figures and thicknesses are not scaled or mirrored with them. */
const PLAIN: ReadonlySet<Loose['type']> = new Set(['line', 'arc', 'path', 'spline']);
const ALIKE = 1e-9;

/** What has been traced on one plane, or on all storeys, groups as blocks; `fileOf` names the PDF that an underlay shows, null where it shows none. */
export function dxfOfModel(
  model: Model,
  planeId: string | undefined,
  fileOf: (u: Underlay) => string | null,
): DxfDrawing {
  const here = isDelivered(model, planeId);
  const traced = [...model.values()].filter((e): e is Traced => isTraced(e) && here(e));
  const layers = new Map<string, DrawingLayer>();
  const add = (drawing: Drawing): Shape[] => {
    for (const l of drawing.layers) if (!layers.has(l.name)) layers.set(l.name, l);
    return drawing.shapes;
  };
  const shapes = add(
    drawingOfElements(
      model,
      traced.filter((e) => e.type !== 'placed').flatMap((e) => looseOf(shownOf(e, model))),
    ),
  );
  const blocks = new Map<string, DxfBlock>(),
    names = new Set<string>();
  const inserts = traced.flatMap((e): DxfInsert[] => {
    const assembly = e.type === 'placed' ? get(model, 'assembly', e.assemblyId) : null;
    return e.type === 'placed' && assembly ? [insertOf(e, assembly)] : [];
  });

  function insertOf(placed: Placed, assembly: Assembly): DxfInsert {
    const [a, b, , , x, y] = placed.placement,
      scale = meanScale(placed.placement),
      side = determinant(placed.placement) < 0 ? -1 : 1;
    const isPlain =
      (Math.abs(scale - 1) < ALIKE && side > 0) || assembly.elements.every((m) => PLAIN.has(m.type));
    const own: Transform = isPlain ? [1, 0, 0, 1, 0, 0] : [scale, 0, 0, side * scale, 0, 0];
    const key = JSON.stringify([assembly.id, placed.layerId ?? null, isPlain ? null : own]);
    let block = blocks.get(key);
    if (!block) {
      const members = assembly.elements.map((m): Loose => ({
        ...movedBy(m, own),
        planeId: placed.planeId,
        ...(!m.layerId && placed.layerId && { layerId: placed.layerId }),
      }));
      block = {
        name: freeName(`${assembly.name}${isPlain ? '' : side < 0 ? ' mirrored' : ' scaled'}`),
        shapes: add(drawingOfElements(model, members)),
      };
      blocks.set(key, block);
    }
    const layer = drawingLayer(model, placed);
    if (!layers.has(layer.name)) layers.set(layer.name, layer);
    return {
      layer: layer.name,
      block: block.name,
      at: [x, y],
      radians: Math.atan2(b, a),
      ...(isPlain ? { sx: scale, sy: side * scale } : { sx: 1, sy: 1 }),
    };
  }
  function freeName(wanted: string): string {
    let name = wanted;
    for (let n = 2; names.has(name.toLowerCase()); n++) name = `${wanted} ${n}`;
    names.add(name.toLowerCase());
    return name;
  }

  const underlays = ofType(model, 'underlay')
    .filter(here)
    .sort((p, q) => p.order - q.order)
    .flatMap((u): PdfUnderlay[] => {
      const file = fileOf(u);
      return file === null
        ? []
        : [
            {
              file,
              page: u.page,
              layer: SHEETS.name,
              planeFromSheet: u.placement,
              ring: cropRingOf(u),
              fade: u.fade,
              on: u.visible,
            },
          ];
    });
  if (underlays.length > 0) layers.set(SHEETS.name, SHEETS);
  return { layers: [...layers.values()], shapes, blocks: [...blocks.values()], inserts, underlays };
}
