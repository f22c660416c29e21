import { create } from 'zustand';
import type { Alignment } from '@calque/core/calibration';

/** Choices of the stage that are not part of the project. */
interface CalibrateState {
  /** Traced elements go along when the sheet is scaled, turned or moved. */
  carry: boolean;
  setCarry(carry: boolean): void;
  /** The sheet is turned about a point that is picked, not about its middle. */
  aboutPoint: boolean;
  setAboutPoint(aboutPoint: boolean): void;
  /** Common points may scale the sheet as well. */
  alignScaled: boolean;
  /** The pairs that are being picked, and what they say. */
  aligning: { pairs: number; alignment: Alignment | null; accept(): void; retell(): void } | null;
}

export const useCalibrateState = create<CalibrateState>((set) => ({
  carry: false,
  setCarry: (carry) => set({ carry }),
  aboutPoint: false,
  setAboutPoint: (aboutPoint) => set({ aboutPoint }),
  alignScaled: false,
  aligning: null,
}));
