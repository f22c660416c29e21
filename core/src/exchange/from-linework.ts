import {
  applyTransform, cubicAt, cubicPart, meanScale, normalAngle, TAU, turnOf, type Box, type Cubic, type Point, type Transform,
} from '../geometry/index.ts';
import { asCubic } from '../linework/collector.ts';
import type { Linework } from '../linework/types.ts';
import { clipToBox, prepareClip, visibleCurveIntervals } from '../linework/visible-parts.ts';
import type { Drawing, DrawingLayer, Shape } from './drawing.ts';

export type LineworkPart = 'lines' | 'curves' | 'texts' | 'fills';
export const LINEWORK_PARTS: readonly LineworkPart[] = ['lines', 'curves', 'texts', 'fills'];

export interface ConvertOptions {
  /** planeFromSheet, a similarity: circles stay circles. */
  placement: Transform;
  crop?: Box;
  only: ReadonlySet<LineworkPart>;
}

/** Layers by kind, for files that have none of their own. */
const KIND_LAYERS = { lines: 'Lines', curves: 'Curves', fills: 'Fill edges', texts: 'Texts' } as const;

/** A page's linework at true size as an editable drawing: on the file's own layers, or by kind. */
export function drawingOfLinework(l: Linework, { placement, crop, only }: ConvertOptions): Drawing {
  const shapes: Shape[] = [];
  const k = meanScale(placement), turn = turnOf(placement);
  const at = (x: number, y: number): Point => applyTransform(placement, [x, y]);
  const layerOf = (index: number, kind: keyof typeof KIND_LAYERS) => (index >= 0 ? l.layers[index].name || `Layer ${index + 1}` : KIND_LAYERS[kind]);
  const clip = crop ? prepareClip([], crop) : null;

  // Mark-ups lie over the drawing and are no part of it.
  const lines = (array: Float64Array, style: Int32Array, object: Int32Array, kind: 'lines' | 'fills') => {
    for (let i = 0; i < array.length; i += 4) {
      if (object[i / 4] < 0) continue;
      const [x0, y0, x1, y1] = [array[i], array[i + 1], array[i + 2], array[i + 3]];
      const part = crop ? clipToBox(crop, x0, y0, x1, y1) : [0, 1];
      if (!part || part[1] - part[0] <= 1e-9) continue;
      const p = (t: number) => at(x0 + t * (x1 - x0), y0 + t * (y1 - y0));
      shapes.push({ kind: 'line', layer: layerOf(style[i / 2], kind), from: p(part[0]), to: p(part[1]) });
    }
  };
  if (only.has('lines')) lines(l.segments, l.segmentStyle, l.segmentObject, 'lines');
  if (only.has('fills')) lines(l.fillEdges, l.fillEdgeStyle, l.fillEdgeObject, 'fills');

  const round = (cx: number, cy: number, r: number, start: number, end: number, layer: string) => {
    const [px, py] = at(cx, cy);
    const full = end - start >= TAU - 1e-9;
    const parts = clip ? visibleCurveIntervals(clip, (t) => [cx + r * Math.cos(start + (end - start) * t), cy + r * Math.sin(start + (end - start) * t)]) : [[0, 1]];
    for (const [a, b] of parts) {
      if (full && a === 0 && b === 1) shapes.push({ kind: 'circle', layer, cx: px, cy: py, r: r * k });
      else {
        const from = normalAngle(start + (end - start) * a + turn);
        shapes.push({ kind: 'arc', layer, cx: px, cy: py, r: r * k, start: from, end: from + (end - start) * (b - a) });
      }
    }
  };
  if (only.has('curves')) {
    for (let i = 0; i < l.arcs.length; i += 5) round(l.arcs[i], l.arcs[i + 1], l.arcs[i + 2], l.arcs[i + 3], l.arcs[i + 4], layerOf(l.arcStyle[(2 * i) / 5], 'curves'));
    for (let i = 0; i < l.circles.length; i += 3) if (l.circleObject[i / 3] >= 0) round(l.circles[i], l.circles[i + 1], l.circles[i + 2], 0, TAU, layerOf(l.circleStyle[(2 * i) / 3], 'curves'));
    for (let i = 0; i < l.curves.length; i += 8) {
      const cubic = asCubic(l.curves, i);
      for (const part of clip ? cubicParts(clip, cubic) : [cubic]) {
        shapes.push({ kind: 'cubic', layer: layerOf(l.curveStyle[i / 4], 'curves'), points: [at(part[0], part[1]), at(part[2], part[3]), at(part[4], part[5]), at(part[6], part[7])] });
      }
    }
  }
  if (only.has('texts')) {
    for (const t of l.texts) {
      if (crop && (t.x < crop[0] || t.x > crop[2] || t.y < crop[1] || t.y > crop[3])) continue;
      const [x, y] = at(t.x, t.y);
      shapes.push({ kind: 'text', layer: layerOf(t.layer, 'texts'), x, y, height: t.height * k, radians: t.radians + turn, text: t.text });
    }
  }
  return { layers: layersOf(shapes), shapes };
}

function cubicParts(clip: ReturnType<typeof prepareClip>, cubic: Cubic): Cubic[] {
  return visibleCurveIntervals(clip, (t) => cubicAt(cubic, t)).map(([a, b]) => cubicPart(cubic, a, b));
}

/** Numbered colours for layers in turn, so that neighbours can be told apart. */
const COLOURS: readonly { colour: number; index: number }[] = [
  { colour: 0x17273a, index: 7 }, { colour: 0xb3321a, index: 1 }, { colour: 0x1f7a3d, index: 3 }, { colour: 0x1d4fa3, index: 5 }, { colour: 0x8a2b69, index: 6 }, { colour: 0x0b7f8c, index: 4 }, { colour: 0x55616d, index: 8 },
];

function layersOf(shapes: readonly Shape[]): DrawingLayer[] {
  return [...new Set(shapes.map((s) => s.layer))].map((name, i) => ({ name, ...COLOURS[i % COLOURS.length] }));
}
