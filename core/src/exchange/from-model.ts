import { joinWalls } from '../building/index.ts';
import { isFullTurn, type Piece } from '../geometry/index.ts';
import {
  areaHatch, areaLabelPlace, gridLineRing, areaRings, areaWords, dimensionWords, figurePlace, layerOfKind, layerOf, LINE_TYPES, looseElements, noteWidth, piecesOf, settingsOf,
  type Loose, type Model, type Traced, type Wall,
} from '../model/index.ts';
import type { LengthStyle } from '../units/index.ts';
import type { Drawing, DrawingLayer, Shape } from './drawing.ts';
import { nearestDxfColour } from './dxf/colours.ts';

/** The drawn lines of walls lie on a layer of their own beside the outlines. */
const AXES: DrawingLayer = { name: 'Wall lines', colour: 0xd4451f, index: 1 };
/** Length of a dash where a layer, not the element, says that its lines are dashed: 3 mm of paper at 1:50, millimetres. */
const LAYER_DASH = 150;
/** Height of what is written in an area, millimetres: 2.5 mm of paper at 1:50. */
const AREA_TEXT = 125;
/** Radius of the ring in which a grid line's name stands, millimetres: 5 mm of paper at 1:50. */
const GRID_RING = 250;

/** What has been traced on one storey, or on all, on the layers of the trace; what is on none lies on one by its kind. */
export const drawingOfModel = (model: Model, storeyId?: string): Drawing => drawingOfElements(model, looseElements(model, storeyId));

/** Elements, whether they are part of the model or of a group, as a drawing on the model's layers. */
export function drawingOfElements(model: Model, elements: readonly Loose[]): Drawing {
  const layers = new Map<string, DrawingLayer>();
  const put = (layer: DrawingLayer): string => {
    if (!layers.has(layer.name)) layers.set(layer.name, layer);
    return layer.name;
  };
  const nameOf = (e: Traced): string => put(drawingLayer(model, e));
  const style: LengthStyle = settingsOf(model);
  const walls = elements.filter((e): e is Wall => e.type === 'wall');
  const shapes: Shape[] = outlinesOf(walls, nameOf);
  for (const w of walls) shapes.push({ kind: 'line', layer: put(AXES), from: w.from, to: w.to });
  for (const e of elements) if (e.type !== 'wall') shapes.push(...shapesOf(e, nameOf(e), style));
  return { layers: [...layers.values()], shapes };
}

/** Joined outlines. Walls of different storeys or layers lie over one another on paper but never join. */
function outlinesOf(walls: readonly Wall[], nameOf: (e: Traced) => string): Shape[] {
  const together = new Map<string, Wall[]>();
  for (const w of walls) {
    const key = `${w.storeyId}\n${nameOf(w)}`;
    const known = together.get(key);
    if (known) known.push(w);
    else together.set(key, [w]);
  }
  return [...together.values()].flatMap((members) => joinWalls(members).outlines.map((rings): Shape => ({ kind: 'region', layer: nameOf(members[0]), rings })));
}

const dashes = (type: keyof typeof LINE_TYPES): { dash?: number[] } => (LINE_TYPES[type].length > 0 ? { dash: LINE_TYPES[type].map((s) => s * LAYER_DASH) } : {});

/** The layer on which an element lies: its own, or one by its kind. */
export function drawingLayer(model: Model, e: Traced): DrawingLayer {
  const own = layerOf(model, e);
  if (!own) {
    const { name, colour, lineType } = layerOfKind(e.type);
    return { name, colour, index: nearestDxfColour(colour), ...dashes(lineType) };
  }
  return {
    name: own.name, colour: own.colour, index: nearestDxfColour(own.colour), weight: own.weight, ...dashes(own.lineType), ...(!own.visible && { off: true }),
  };
}

/** An element, not a wall, as shapes of a drawing. */
export function shapesOf(e: Exclude<Loose, Wall>, layer: string, style: LengthStyle): Shape[] {
  const text = (words: string, middle: readonly [number, number], angle: number, height: number): Shape => {
    const half = noteWidth({ text: words, height }) / 2;
    return { kind: 'text', layer, x: middle[0] - half * Math.cos(angle), y: middle[1] - half * Math.sin(angle), height, radians: angle, text: words };
  };
  const dash = 'dash' in e && e.dash ? { dash: e.dash } : {};
  switch (e.type) {
    case 'gridLine': {
      const ring = gridLineRing(e, GRID_RING);
      return [...piecesOf(e).map((p) => shapeOfPiece(p, layer, {})), { kind: 'circle', layer, cx: ring[0], cy: ring[1], r: GRID_RING }, text(e.name, [ring[0], ring[1] - GRID_RING / 3], 0, 0.7 * GRID_RING)];
    }
    case 'text': return [{ kind: 'text', layer, x: e.at[0], y: e.at[1], height: e.height, radians: e.angle, text: e.text }];
    case 'path': return [{ kind: 'polyline', layer, points: e.points, bulges: e.bulges, closed: e.closed, ...dash }];
    case 'area': {
      const outlines: Shape[] = e.fill.kind === 'solid' ? [{ kind: 'region', layer, rings: areaRings(e) }] : e.rings.map((r) => ({ kind: 'polyline', layer, ...r, closed: true }));
      const hatch = areaHatch(e).map(([from, to]): Shape => ({ kind: 'line', layer, from, to }));
      const at = areaLabelPlace(e);
      return [...outlines, ...hatch, ...areaWords(e, style).map((words, i) => text(words, [at[0], at[1] - 1.4 * i * AREA_TEXT], 0, AREA_TEXT))];
    }
    case 'dimension': {
      const { at, angle } = figurePlace(e);
      return [...piecesOf(e).map((p) => shapeOfPiece(p, layer, {})), text(dimensionWords(e, style), at, angle, e.height)];
    }
    default: return piecesOf(e).map((p) => shapeOfPiece(p, layer, dash));
  }
}

function shapeOfPiece(piece: Piece, layer: string, dash: { dash?: readonly number[] }): Shape {
  if (piece.kind === 'segment') return { kind: 'line', layer, from: piece.from, to: piece.to, ...dash };
  if (piece.kind === 'cubic') {
    const c = piece.cubic;
    return { kind: 'cubic', layer, points: [[c[0], c[1]], [c[2], c[3]], [c[4], c[5]], [c[6], c[7]]], ...dash };
  }
  const { cx, cy, r, start, end } = piece.arc;
  return isFullTurn(piece.arc) ? { kind: 'circle', layer, cx, cy, r, ...dash } : { kind: 'arc', layer, cx, cy, r, start, end, ...dash };
}
