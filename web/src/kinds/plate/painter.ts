import { flatRings, type Plate } from '@calque/core/model';
import { tinted } from '@/table/painters/tinted';
import type { Painter } from '@/table/painters/painter';

const TINT_ALPHA = 0.16;

export const PLATE_PAINTER: Painter<Plate> = tinted<Plate>(TINT_ALPHA, flatRings);
