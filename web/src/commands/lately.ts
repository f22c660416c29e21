import { create } from 'zustand';

const KEPT = 6;

/** Instruments that were used last, the latest first. */
export const useLately = create<{ ids: readonly string[]; used(id: string): void }>((set) => ({
  ids: [],
  used: (id) => set(({ ids }) => ({ ids: [id, ...ids.filter((i) => i !== id)].slice(0, KEPT) })),
}));
