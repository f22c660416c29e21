import { create } from 'zustand';
import type { WallAlignment } from '@calque/core/model';

/** What the next wall or other element will be. */
interface TraceState {
  thickness: number;
  thicknessFrom: 'typed' | 'measured';
  alignment: WallAlignment;
  /** The wall type that it is of, and whether its line lies on the core behind the face; null for none. */
  wallType: string | null;
  core: boolean;
  /** The layer that new elements come onto; null for none. */
  layerId: string | null;
  /** Height of texts and figures, millimetres. */
  textHeight: number;
  /** Sides of a regular shape. */
  sides: number;
  setThickness(thickness: number, from: 'typed' | 'measured'): void;
  setAlignment(alignment: WallAlignment, core?: boolean): void;
  setWallType(wallType: string | null): void;
  setLayer(layerId: string | null): void;
  setTextHeight(textHeight: number): void;
  setSides(sides: number): void;
}

const USUAL_THICKNESS = 100;
/** 2.5 mm of paper at 1:50. */
const USUAL_TEXT = 125;

export const useTraceState = create<TraceState>((set) => ({
  thickness: USUAL_THICKNESS,
  thicknessFrom: 'typed',
  alignment: 'centre',
  wallType: null,
  core: false,
  layerId: null,
  textHeight: USUAL_TEXT,
  sides: 6,
  setThickness: (thickness, thicknessFrom) => set({ thickness, thicknessFrom, wallType: null, core: false }),
  setAlignment: (alignment, core = false) => set({ alignment, core }),
  setWallType: (wallType) => set({ wallType }),
  setLayer: (layerId) => set({ layerId }),
  setTextHeight: (textHeight) => set({ textHeight }),
  setSides: (sides) => set({ sides }),
}));
