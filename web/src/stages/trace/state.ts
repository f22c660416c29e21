import { create } from 'zustand';
import type { WallAlignment } from '@calque/core/model';

/** What the next wall will be. */
interface TraceState {
  thickness: number;
  thicknessFrom: 'typed' | 'measured';
  alignment: WallAlignment;
  setThickness(thickness: number, from: 'typed' | 'measured'): void;
  setAlignment(alignment: WallAlignment): void;
}

const USUAL_THICKNESS = 100;

export const useTraceState = create<TraceState>((set) => ({
  thickness: USUAL_THICKNESS, thicknessFrom: 'typed', alignment: 'centre',
  setThickness: (thickness, thicknessFrom) => set({ thickness, thicknessFrom }),
  setAlignment: (alignment) => set({ alignment }),
}));
