import { create } from 'zustand';
import { typeableLength, type UnitSystem } from '@calque/core/units';

/** The length (millimetres) or angle (radians) that was measured last, to be offered wherever one is typed. */
export type MeasuredFigure = { length: number } | { angle: number };

export const useLastMeasured = create<{ figure: MeasuredFigure | null; set(figure: MeasuredFigure): void }>(
  (set) => ({ figure: null, set: (figure) => set({ figure }) }),
);

/** It as it can be typed into a field of a kind; null where there is none of that kind. */
export function measuredAsTyped(kind: 'length' | 'angle', units: UnitSystem): string | null {
  const { figure } = useLastMeasured.getState();
  if (!figure) return null;
  if ('length' in figure) return kind === 'length' ? typeableLength(figure.length, units) : null;
  return kind === 'angle' ? String(Math.round(((figure.angle * 180) / Math.PI) * 1e6) / 1e6) : null;
}
