import { joinWalls, linesOfLayers, linesOfOpenings } from '../building/index.ts';
import { asCut, hasJoints, jointLines } from '../framing/index.ts';
import { shapeOfPiece } from '../kinds/flat-shape.ts';
import {
  get,
  kindOf,
  layerOf,
  layerOfKind,
  LINE_TYPES,
  looseElements,
  ofType,
  settingsOf,
  storeysOf,
  type Loose,
  type Model,
  type Traced,
  type Wall,
} from '../model/index.ts';
import type { LengthStyle } from '../units/index.ts';
import type { Drawing, DrawingLayer, Shape } from './drawing.ts';
import { nearestDxfColour } from './dxf/colours.ts';

/** The drawn lines of walls lie on a layer of their own beside the outlines. */
const AXES: DrawingLayer = { name: 'Wall lines', colour: 0xd4451f, index: 1 };
/** Leaves with their swings, and panes. */
const DOORS: DrawingLayer = { name: 'Doors', colour: 0x2b7553, index: 3 },
  WINDOWS: DrawingLayer = { name: 'Windows', colour: 0x2456a6, index: 5 };
/** What joints of members put there. */
const PLATES: DrawingLayer = { name: 'Plates', colour: 0x7a4b1f, index: 33 },
  BOLTS: DrawingLayer = { name: 'Bolts', colour: 0x4a4f57, index: 8 };
/** Between the layers of built-up walls. */
const LAYER_LINES: DrawingLayer = { name: 'Wall layers', colour: 0x6b7684, index: 8 };
/** Length of a dash where a layer, not the element, says that its lines are dashed: 3 mm of paper at 1:50, millimetres. */
const LAYER_DASH = 150;

/** Is what lies on a plane part of a drawing? Of all storeys when none is named: what is traced upright has a drawing of its own. */
export const isDelivered =
  (model: Model, planeId?: string) =>
  (e: { planeId: string }): boolean =>
    planeId === undefined ? get(model, 'storey', e.planeId) !== null : e.planeId === planeId;

/** What has been traced on one plane, or on all storeys, on the layers of the trace; what is on none lies on one by its kind. */
export function drawingOfModel(model: Model, planeId?: string): Drawing {
  const drawing = drawingOfElements(model, looseElements(model, planeId).filter(isDelivered(model, planeId)));
  if (!hasJoints(model)) return drawing;
  const planes = planeId === undefined ? storeysOf(model).map((s) => s.id) : [planeId],
    lines = planes.map((id) => jointLines(model, id)),
    parts = [
      { layer: PLATES, pieces: lines.flatMap((l) => l.plates) },
      { layer: BOLTS, pieces: lines.flatMap((l) => l.bolts) },
    ].filter((p) => p.pieces.length > 0);
  return {
    // Plates and bolts that are drawn by themselves lie on the same.
    layers: [
      ...drawing.layers,
      ...parts.map((p) => p.layer).filter((l) => !drawing.layers.some((known) => known.name === l.name)),
    ],
    shapes: [
      ...drawing.shapes,
      ...parts.flatMap(({ layer, pieces }) => pieces.map((p) => shapeOfPiece(p, layer.name))),
    ],
  };
}

/** A drawing without the drawn lines of its walls: their outlines say where they stand. */
export const withoutWallLines = ({ layers, shapes }: Drawing): Drawing => ({
  layers: layers.filter((l) => l.name !== AXES.name),
  shapes: shapes.filter((s) => s.layer !== AXES.name),
});

/** What one looks at: a storey or an upright plane by its name, as a drawing. */
export interface View {
  name: string;
  drawing: Drawing;
  /** At which it is drawn on paper, where it has one of its own: 10 for 1:10. */
  scale?: number;
}

/** One plane, or each storey and each upright plane on which something has been traced, as a view of its own: on paper they do not lie over one another. */
export function viewsOfModel(model: Model, planeId?: string): View[] {
  const planes = [...storeysOf(model), ...ofType(model, 'plane')].filter(
    (p) => planeId === undefined || p.id === planeId,
  );
  return planes
    .map(({ id, name }): View => ({ name, drawing: drawingOfModel(model, id) }))
    .filter(({ drawing }) => drawing.shapes.length > 0);
}

/** Elements, whether they are part of the model or of a group, as a drawing on the model's layers. */
export function drawingOfElements(model: Model, given: readonly Loose[]): Drawing {
  const elements = given.map((e) => asCut(model, e));
  const layers = new Map<string, DrawingLayer>();
  const put = (layer: DrawingLayer): string => {
    if (!layers.has(layer.name)) layers.set(layer.name, layer);
    return layer.name;
  };
  const nameOf = (e: Traced): string => put(drawingLayer(model, e));
  const style: LengthStyle = settingsOf(model);
  const walls = elements.filter((e): e is Wall => e.type === 'wall');
  const shapes: Shape[] = [];
  for (const members of joiningWalls(walls, nameOf)) {
    const layer = nameOf(members[0]);
    shapes.push(...joinWalls(members).outlines.map((rings): Shape => ({ kind: 'region', layer, rings })));
    const lines = linesOfLayers(model, members);
    if (lines.length > 0) put(LAYER_LINES);
    shapes.push(...lines.map(([from, to]): Shape => ({ kind: 'line', layer: LAYER_LINES.name, from, to })));
  }
  for (const w of walls) {
    shapes.push({ kind: 'line', layer: put(AXES), from: w.from, to: w.to });
    for (const { opening, lines } of linesOfOpenings(w)) {
      if (opening.kind === 'gap') continue;
      const layer = opening.kind === 'niche' ? nameOf(w) : put(opening.kind === 'door' ? DOORS : WINDOWS);
      shapes.push(...lines.map((piece) => shapeOfPiece(piece, layer)));
    }
  }
  for (const e of elements)
    if (e.type !== 'wall' && e.type !== 'constructionLine')
      shapes.push(...kindOf(e).shapes(e, nameOf(e), style));
  return { layers: [...layers.values()], shapes };
}

/** Walls that join: those of different storeys or layers lie over one another on paper but never do. */
function joiningWalls(walls: readonly Wall[], nameOf: (e: Traced) => string): Wall[][] {
  const together = new Map<string, Wall[]>();
  for (const w of walls) {
    const key = `${w.planeId}\n${nameOf(w)}`;
    const known = together.get(key);
    if (known) known.push(w);
    else together.set(key, [w]);
  }
  return [...together.values()];
}

const dashes = (type: keyof typeof LINE_TYPES): { dash?: number[] } =>
  LINE_TYPES[type].length > 0 ? { dash: LINE_TYPES[type].map((s) => s * LAYER_DASH) } : {};

/** The layer on which an element lies: its own, or one by its kind. */
export function drawingLayer(model: Model, e: Traced): DrawingLayer {
  const own = layerOf(model, e);
  if (!own) {
    const { name, colour, lineType } = layerOfKind(e.type);
    return { name, colour, index: nearestDxfColour(colour), ...dashes(lineType) };
  }
  return {
    name: own.name,
    colour: own.colour,
    index: nearestDxfColour(own.colour),
    weight: own.weight,
    ...dashes(own.lineType),
    ...(!own.visible && { off: true }),
  };
}
