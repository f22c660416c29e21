import { create } from 'zustand';
import { contradictionOf } from '@calque/core/calibration';
import type { ScaleDoubt, Underlay } from '@calque/core/model';

/** What was read of sheets since the page was opened speaks against the scale that they lie at; by underlay. */
export const useDoubts = create<Readonly<Record<string, ScaleDoubt>>>(() => ({}));

export function setDoubt(underlayId: string, doubt: ScaleDoubt | null): void {
  useDoubts.setState(
    ({ [underlayId]: _, ...rest }) => (doubt ? { ...rest, [underlayId]: doubt } : rest),
    true,
  );
}

/** What the sheet itself says against the scale that it lies at: as a person was asked about it, or as it has been read since. */
export function doubtOf(
  u: Underlay,
  live: Readonly<Record<string, ScaleDoubt>> = useDoubts.getState(),
): ScaleDoubt | null {
  const doubt = u.calibration?.against ?? live[u.id];
  if (!doubt || (u.scaleState !== 'calibrated' && u.scaleState !== 'stated')) return null;
  // Laid otherwise since (undone, aligned): what was said against the scale that it had then is no doubt any more where it lies so now.
  return contradictionOf(u.placement, [
    { ...doubt, x: doubt.factor, y: doubt.factor, uncertainty: 0, text: '' },
  ])
    ? doubt
    : null;
}
