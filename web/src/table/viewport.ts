import type { Box, PlanePoint, ScreenPoint } from '@calque/core/geometry';

/** screenFromPlane: `scale` CSS pixels per millimetre, `x`, `y` where the plane's origin stands. The one place where y flips. */
export interface Viewport {
  scale: number;
  x: number;
  y: number;
}

export const SMALLEST_SCALE = 1e-6;
export const LARGEST_SCALE = 200;

export const toScreen = (v: Viewport, p: PlanePoint): [number, number] => [
  v.x + v.scale * p[0],
  v.y - v.scale * p[1],
];
export const toPlane = (v: Viewport, s: ScreenPoint): [number, number] => [
  (s[0] - v.x) / v.scale,
  (v.y - s[1]) / v.scale,
];

export function zoomAbout(v: Viewport, factor: number, about: ScreenPoint): Viewport {
  const scale = Math.min(LARGEST_SCALE, Math.max(SMALLEST_SCALE, v.scale * factor));
  const k = scale / v.scale;
  return { scale, x: about[0] - k * (about[0] - v.x), y: about[1] - k * (about[1] - v.y) };
}

/** Free space around the panels, CSS pixels. */
export interface Insets {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A view that shows the whole box within the free space. */
export function fitBox(box: Box, width: number, height: number, insets: Insets, margin = 28): Viewport {
  const w = Math.max(40, width - insets.left - insets.right - 2 * margin),
    h = Math.max(40, height - insets.top - insets.bottom - 2 * margin);
  const bw = Math.max(box[2] - box[0], 1e-6),
    bh = Math.max(box[3] - box[1], 1e-6);
  const scale = Math.min(LARGEST_SCALE, Math.max(SMALLEST_SCALE, Math.min(w / bw, h / bh)));
  return {
    scale,
    x: insets.left + margin + w / 2 - (scale * (box[0] + box[2])) / 2,
    y: insets.top + margin + h / 2 + (scale * (box[1] + box[3])) / 2,
  };
}
