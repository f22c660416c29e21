import { pathPieces, pieceBox, unionBox, type Box, type Point } from '../geometry/index.ts';
import type { Shape } from '../kinds/index.ts';

/** A flat drawing on named layers, millimetres, y up: what the 2D exporters write. */
export interface Drawing {
  layers: DrawingLayer[];
  shapes: Shape[];
}

/**
 * Colour 0xRRGGBB for screens and paper; `index` is the nearest of the 255 numbered DXF colours. Dashes and the gaps between
 * in turn, in the drawing's own millimetres; weight in millimetres of paper.
 */
export interface DrawingLayer {
  name: string;
  colour: number;
  index: number;
  dash?: readonly number[];
  weight?: number;
  off?: boolean;
}

export type { Shape };

/** The box of all shapes, texts by where they begin; null for none. */
export function drawingBox(drawing: Drawing): Box | null {
  const points: Point[] = drawing.shapes.flatMap((s): Point[] => {
    if (s.kind === 'line') return [s.from, s.to];
    if (s.kind === 'arc' || s.kind === 'circle')
      return [
        [s.cx - s.r, s.cy - s.r],
        [s.cx + s.r, s.cy + s.r],
      ];
    if (s.kind === 'text') return [[s.x, s.y]];
    if (s.kind === 'polyline' && s.bulges?.some((b) => b !== 0)) {
      const [x0, y0, x1, y1] = pathPieces({ ...s, bulges: s.bulges })
        .map(pieceBox)
        .reduce(unionBox);
      return [
        [x0, y0],
        [x1, y1],
      ];
    }
    return s.kind === 'region' ? s.rings.flat() : [...s.points];
  });
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [px, py] of points)
    [x0, y0, x1, y1] = [Math.min(x0, px), Math.min(y0, py), Math.max(x1, px), Math.max(y1, py)];
  return x0 > x1 ? null : [x0, y0, x1, y1];
}

/** A number for a text format: up to nine decimals, no exponent, no negative zero. Refuses what is not finite. */
export function plainNumber(value: number, decimals = 9): string {
  if (!Number.isFinite(value))
    throw new Error(`Cannot write ${value}: only finite numbers go into a drawing.`);
  const text = value
    .toFixed(decimals)
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '');
  return text === '-0' ? '0' : text;
}
