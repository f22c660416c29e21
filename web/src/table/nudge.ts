import { create } from 'zustand';

/** How far an arrow key moves what is selected, or the sheet that is adjusted: millimetres; null for a pixel at the zoom. */
export const useNudge = create<{ step: number | null; setStep(step: number | null): void }>((set) => ({
  step: null,
  setStep: (step) => set({ step }),
}));
