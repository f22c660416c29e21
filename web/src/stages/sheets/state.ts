import { create } from 'zustand';

/** What of the list of pages is to be brought into sight; not part of the project. */
interface SheetsState {
  wanted: { fileId: string; page: number; turn: number } | null;
  goTo(fileId: string, page: number): void;
}

export const useSheetsState = create<SheetsState>((set) => ({
  wanted: null,
  goTo: (fileId, page) => set((s) => ({ wanted: { fileId, page, turn: (s.wanted?.turn ?? 0) + 1 } })),
}));
