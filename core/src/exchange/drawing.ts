import type { Point } from '../geometry/index.ts';

/** A flat drawing on named layers, millimetres, y up: what the 2D exporters write. */
export interface Drawing { layers: DrawingLayer[]; shapes: Shape[] }

/** Colour 0xRRGGBB for screens and paper; `index` is the nearest of the 255 numbered DXF colours. */
export interface DrawingLayer { name: string; colour: number; index: number }

export type Shape =
  | { kind: 'line'; layer: string; from: Point; to: Point }
  | { kind: 'polyline'; layer: string; points: readonly Point[]; closed: boolean }
  | { kind: 'arc'; layer: string; cx: number; cy: number; r: number; start: number; end: number }
  | { kind: 'circle'; layer: string; cx: number; cy: number; r: number }
  | { kind: 'cubic'; layer: string; points: readonly [Point, Point, Point, Point] }
  /** Rings filled under the even-odd rule. */
  | { kind: 'region'; layer: string; rings: readonly (readonly Point[])[] }
  | { kind: 'text'; layer: string; x: number; y: number; height: number; radians: number; text: string };

/** A number for a text format: up to nine decimals, no exponent, no negative zero. Refuses what is not finite. */
export function plainNumber(value: number, decimals = 9): string {
  if (!Number.isFinite(value)) throw new Error(`Cannot write ${value}: only finite numbers go into a drawing.`);
  const text = value.toFixed(decimals).replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '');
  return text === '-0' ? '0' : text;
}
