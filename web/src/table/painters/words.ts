import {
  areaHatch,
  areaLabelPlace,
  areaRings,
  areaWords,
  dimensionWords,
  figurePlace,
  gridLineRing,
  layerOfKind,
  type Area,
  type Traced,
} from '@calque/core/model';
import type { LengthStyle } from '@calque/core/units';
import { drawnOf, type TraceOfPlane } from '../trace-cache';
import type { Brush } from '../tool';
import { PlanePath } from './plane-path';
import { cssColour } from '../ink';
import { kept } from './kept';

const FONT = '"Archivo Variable", sans-serif';
/** Letters smaller than this cannot be read, CSS pixels. */
const LEAST_LETTERS = 4;
/** Height of what is written in an area, CSS pixels: it is for the person at the screen. */
const AREA_LETTERS = 12;
/** Radius of the ring around the name of a grid line, CSS pixels. */
const GRID_RING = 12;
const SOLID_ALPHA = 0.28,
  TINT_ALPHA = 0.07;

const fillOf = kept((e: Area) => {
  const path = new PlanePath();
  for (const ring of areaRings(e)) path.ring(ring);
  return path;
});
const hatchOf = kept((e: Area) => {
  const path = new PlanePath();
  for (const [from, to] of areaHatch(e)) path.segment(from, to);
  return path;
});
const labelOf = kept((e: Area) => areaLabelPlace(e));

function look(trace: TraceOfPlane, e: Traced): { colour: string; alpha: number } {
  const layer = e.layerId ? trace.layers.get(e.layerId) : undefined;
  return { colour: cssColour(layer?.colour ?? layerOfKind(e.type).colour), alpha: 1 - (layer?.fade ?? 0) };
}

/** The insides of areas, below all lines. */
export function paintAreas(brush: Brush, trace: TraceOfPlane, alpha: number): void {
  const { context } = brush;
  for (const e of drawnOf(trace.elements.values())) {
    if (e.type !== 'area') continue;
    const { colour, alpha: own } = look(trace, e);
    context.fillStyle = context.strokeStyle = colour;
    context.globalAlpha = alpha * own * (e.fill.kind === 'solid' ? SOLID_ALPHA : TINT_ALPHA);
    fillOf(e).fill(brush, 'evenodd');
    context.globalAlpha = alpha * own * 0.75;
    if (e.fill.kind === 'hatch' && e.fill.spacing * brush.view.scale > 2) hatchOf(e).stroke(brush, 0.8);
  }
}

/** Texts, figures of dimensions and what is written in areas, above all lines. */
export function paintWords(brush: Brush, trace: TraceOfPlane, style: LengthStyle, alpha: number): void {
  const { context, view } = brush;
  context.textBaseline = 'alphabetic';
  const write = (
    text: string,
    [px, py]: readonly [number, number],
    angle: number,
    pixels: number,
    align: CanvasTextAlign,
  ) => {
    const [x, y] = brush.at([px, py]);
    context.save();
    context.translate(x, y);
    context.rotate(-angle);
    context.font = `${pixels}px ${FONT}`;
    context.textAlign = align;
    context.fillText(text, 0, 0);
    context.restore();
  };
  for (const e of drawnOf(trace.elements.values())) {
    if (e.type !== 'text' && e.type !== 'dimension' && e.type !== 'area' && e.type !== 'gridLine') continue;
    const { colour, alpha: own } = look(trace, e);
    context.fillStyle = colour;
    context.globalAlpha = alpha * own;
    if (e.type === 'gridLine') {
      const at = gridLineRing(e, GRID_RING / view.scale),
        [x, y] = brush.at(at);
      context.strokeStyle = colour;
      context.lineWidth = 1.4;
      context.beginPath();
      context.arc(x, y, GRID_RING, 0, 2 * Math.PI);
      context.stroke();
      write(e.name, [at[0], at[1] - AREA_LETTERS / 3 / view.scale], 0, AREA_LETTERS, 'center');
      continue;
    }
    if (e.type === 'area') {
      areaWords(e, style).forEach((words, i) => {
        const [x, y] = labelOf(e);
        write(words, [x, y - (1.3 * i * AREA_LETTERS) / view.scale], 0, AREA_LETTERS, 'center');
      });
      continue;
    }
    const pixels = e.height * view.scale;
    if (pixels < LEAST_LETTERS) continue;
    if (e.type === 'text') write(e.text, e.at, e.angle, pixels, 'left');
    else {
      const { at, angle } = figurePlace(e);
      write(dimensionWords(e, style), at, angle, pixels, 'center');
    }
  }
}
