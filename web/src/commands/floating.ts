import { create } from 'zustand';

/** Cards that lie over the drawing until they are closed: one at a time. */
export type FloatingCard =
  'picks' | 'layers' | 'groups' | 'wallTypes' | 'schedule' | 'shelf' | 'along' | 'alone';

export const useFloating = create<{
  open: FloatingCard | null;
  show(card: FloatingCard | null): void;
  /** Opens it, or closes it where it is open. */
  flip(card: FloatingCard): void;
}>((set) => ({
  open: null,
  show: (open) => set({ open }),
  flip: (card) => set(({ open }) => ({ open: open === card ? null : card })),
}));
