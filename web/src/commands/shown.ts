import { create } from 'zustand';
import type { Command } from './command';

/** Stands for whatever tool is in hand. */
export const IN_HAND = 'in-hand';

/** Instruments can be shown at work; a list that opens speaks for itself. */
export const isShowable = (c: Command): boolean => c.on !== undefined && !c.opensList;

/** Which command is shown at work, by its id; null while none is. */
export const useShown = create<{ id: string | null; show(id: string | null): void }>((set) => ({
  id: null,
  show: (id) => set({ id }),
}));
