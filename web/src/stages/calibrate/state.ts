import { create } from 'zustand';

/** Choices of the stage that are not part of the project. */
interface CalibrateState {
  /** Traced elements go along when the sheet is scaled, turned or moved. */
  carry: boolean;
  setCarry(carry: boolean): void;
}

export const useCalibrateState = create<CalibrateState>((set) => ({ carry: false, setCarry: (carry) => set({ carry }) }));
