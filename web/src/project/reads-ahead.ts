import { create } from 'zustand';

const KEPT = 'calque-reads-ahead';

/** Are the printed dimensions of a chosen page read by themselves? Kept by the browser; a person can switch it off. */
export const useReadsAhead = create<{ on: boolean; set(on: boolean): void }>((set) => ({
  on: isOn(),
  set: (on) => {
    try {
      localStorage.setItem(KEPT, on ? 'yes' : 'no');
    } catch {
      // A browser that keeps nothing reads them again next time.
    }
    set({ on });
  },
}));

function isOn(): boolean {
  try {
    return globalThis.localStorage?.getItem(KEPT) !== 'no';
  } catch {
    return true;
  }
}
