import type { SheetPoint } from '../geometry/index.ts';

/** A snapped point is as good as the file's own figures, standard deviation, sheet points. */
export const SNAPPED_SIGMA = 0.03;
/** A hand with a mouse is good to so many pixels of the screen each way, standard deviation. */
export const HAND_PIXELS = 1.5;
/** Each pick is right within its reach in so many of 100; of two, one alone seldom spoils the length. */
const EACH = 0.95;
const STATED = 1.96;

/** A pick as the screen showed it: all in sheet points. */
export interface PickSeen {
  cursor: SheetPoint;
  /** What it was taken to be; null for a pick by eye. */
  taken: SheetPoint | null;
  /** What else lay under the cursor and could have been meant. */
  others: readonly SheetPoint[];
  /** Sheet points to a pixel of the screen. */
  perPixel: number;
  /** The direction in which the error counts, a unit vector: along the dimension that it ends. Every direction where absent. */
  along?: SheetPoint;
}

/** From so many marks under the cursor on there may be more than are told apart. */
const CROWDED = 8;

/**
 * How well a pick is known, standard deviation in sheet points: by the hand at the zoom at which it was made, and by what else it could
 * have meant. Each mark under the cursor is as likely as a hand that aims at it is to come where the cursor was (normally spread);
 * the deviation is so large that the marks within 1.96 of it hold 95 of 100 of that likelihood.
 */
export function pickSigma({ cursor, taken, others, perPixel, along }: PickSeen): number {
  const hand = HAND_PIXELS * perPixel;
  if (!taken) return hand;
  const likely = (p: SheetPoint) =>
    Math.exp(-((p[0] - cursor[0]) ** 2 + (p[1] - cursor[1]) ** 2) / (2 * hand * hand));
  const marks = [taken, ...others]
    .map((p) => ({
      away: along
        ? Math.abs((p[0] - taken[0]) * along[0] + (p[1] - taken[1]) * along[1])
        : Math.hypot(p[0] - taken[0], p[1] - taken[1]),
      likely: likely(p),
    }))
    .sort((a, b) => a.away - b.away);
  const all = marks.reduce((sum, m) => sum + m.likely, 0);
  // So far from everything that nothing is likely: it was dragged there by the snap, and may have meant the bare place.
  if (all < 1e-12) return Math.hypot(taken[0] - cursor[0], taken[1] - cursor[1]) / STATED;
  let held = 0,
    reach = 0;
  for (const m of marks) {
    reach = m.away;
    held += m.likely;
    if (held >= EACH * all) break;
  }
  return Math.max(SNAPPED_SIGMA, reach / STATED, others.length >= CROWDED ? hand : 0);
}
