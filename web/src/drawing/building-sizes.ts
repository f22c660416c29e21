import { create } from 'zustand';
import type { SlabMeasure, RoofMeasure } from '@calque/core/model';

/** What the next slab, column, roof or stair will measure; kept while the page is open. Millimetres, radians. */
interface BuildingSizes {
  slab: { thickness: number };
  column: { width: number; depth: number; diameter: number };
  roof: { pitch: number; overhang: number; thickness: number };
  stair: { width: number; thickness: number };
  /** Which of these a person has said: a thickness said of slabs says nothing of roofs. */
  said: { slab: readonly SlabMeasure[]; roof: readonly RoofMeasure[] };
}

export const useBuildingSizes = create<BuildingSizes>(() => ({
  slab: { thickness: 200 },
  column: { width: 300, depth: 300, diameter: 300 },
  roof: { pitch: Math.PI / 6, overhang: 0, thickness: 200 },
  stair: { width: 1000, thickness: 150 },
  said: { slab: [], roof: [] },
}));
