import { plainOutline } from '@calque/core/building';
import type { Wall } from '@calque/core/model';
import type { Painter } from '@/table/painters/painter';

/** Walls are painted together, by their joined outlines. */
export const WALL_PAINTER: Painter<Wall> = { strokes: false, outline: plainOutline };
