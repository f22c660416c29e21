import type { Box } from '../../geometry/index.ts';
import { fitLengths, type FitModel, type KnownLength } from './lengths.ts';
import { anchorOf, statedError } from './stated-error.ts';

/** Candidates that are tried: the longest in each direction say most. */
const MOST_TRIED = 60;

/** The candidate whose knowledge would make the sheet surest, and how sure (millimetres at the worst corner); null when none helps. */
export function bestNext(
  known: readonly KnownLength[],
  candidates: readonly KnownLength[],
  model: FitModel,
  crop: Box,
): { at: number; across: number } | null {
  const length = (k: KnownLength) => Math.hypot(k.to[0] - k.from[0], k.to[1] - k.from[1]);
  const now = fitLengths(known, model);
  const before = now.ok ? statedError(now.fit, anchorOf(known), crop).across : Infinity;
  let best: { at: number; across: number } | null = null;
  const tried = candidates
    .map((k, at) => ({ k, at }))
    .sort((a, b) => length(b.k) - length(a.k))
    .slice(0, MOST_TRIED);
  for (const { k, at } of tried) {
    const all = [...known, k];
    const outcome = fitLengths(all, model);
    if (!outcome.ok) continue;
    const { across } = statedError(outcome.fit, anchorOf(all), crop);
    if (across < 0.97 * before && (!best || across < best.across)) best = { at, across };
  }
  return best;
}
