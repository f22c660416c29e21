import { create } from 'zustand';
import type { OpeningKind } from '@calque/core/model';

/** What was typed for openings of a kind, for those to come; absent: as the plan has them, or as is usual. Millimetres. */
export interface TypedFigures {
  width?: number;
  sill?: number;
  head?: number;
  depth?: number;
}

interface OpeningFigures extends Readonly<Record<OpeningKind, TypedFigures>> {
  type(kind: OpeningKind, figures: TypedFigures): void;
  forget(): void;
}

const NONE: Readonly<Record<OpeningKind, TypedFigures>> = { door: {}, window: {}, gap: {}, niche: {} };

export const useOpeningFigures = create<OpeningFigures>((set) => ({
  ...NONE,
  type: (kind, figures) => set((now) => ({ [kind]: { ...now[kind], ...figures } })),
  forget: () => set(NONE),
}));
