import { Color } from 'three';
import type { Shades } from '@calque/core/part';

/** Measures of a skin with the colour of each. */
export interface ShownShades {
  of: Shades;
  colour(value: number): string;
}

/** From thin to thick: told apart by lightness too, so that they can be read without seeing colours. */
export const THICKNESS_STOPS = ['#b3261e', '#e0892b', '#e8d27a', '#8fb9a8', '#2f5d9b'] as const;
export const DRAFT_BANDS = { opens: '#2f5d9b', other: '#8fb9a8', upright: '#e0892b' } as const;
const NONE = '#9aa2a8';

/** The colour at a share of a row of stops; beyond its ends that of the end. */
export function colourAt(stops: readonly string[], share: number): string {
  if (!Number.isFinite(share)) return NONE;
  const at = Math.min(1, Math.max(0, share)) * (stops.length - 1),
    i = Math.min(stops.length - 2, Math.floor(at));
  return `#${new Color(stops[i]).lerp(new Color(stops[i + 1]), at - i).getHexString()}`;
}
