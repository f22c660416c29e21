import { flatRings, type Slab } from '@calque/core/model';
import { tinted } from '@/table/painters/tinted';
import type { Painter } from '@/table/painters/painter';

const TINT_ALPHA = 0.06;

export const SLAB_PAINTER: Painter<Slab> = tinted<Slab>(TINT_ALPHA, flatRings);
