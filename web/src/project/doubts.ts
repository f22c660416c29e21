import { create } from 'zustand';
import type { ScaleDoubt, Underlay } from '@calque/core/model';

/** What was read of sheets since the page was opened speaks against the scale that they lie at; by underlay. */
export const useDoubts = create<Readonly<Record<string, ScaleDoubt>>>(() => ({}));

export function setDoubt(underlayId: string, doubt: ScaleDoubt | null): void {
  useDoubts.setState(({ [underlayId]: _, ...rest }) => (doubt ? { ...rest, [underlayId]: doubt } : rest), true);
}

/** What the sheet itself says against the scale that it lies at: as a person was asked about it, or as it has been read since. */
export const doubtOf = (u: Underlay, live: Readonly<Record<string, ScaleDoubt>> = useDoubts.getState()): ScaleDoubt | null => u.calibration?.against ?? live[u.id] ?? null;
