import { weightOf, type Band } from './bands.ts';
import type { Way } from './carriers.ts';
import type { Run } from './runs.ts';
import { total } from './spans.ts';

/** A run counts as surely a wall from here on, and where it is so many times longer than thick. */
const SURE = 0.35,
  LONG = 4;
const LEAST_USED = 0.08;

/** How much of what each pen drew is a face of what is surely a wall: shares, and these as 0 to 1 of the pen of which most is. */
export function pensOfWalls(
  chosen: readonly Run[],
  ways: readonly Way[],
  drawn: ReadonlyMap<string, number>,
): { shares: Map<string, number>; pens: Map<string, number> } {
  const used = new Map<string, number>();
  for (const r of chosen) {
    if (r.thick || r.confidence < SURE || r.to - r.from < LONG * (r.offs[1] - r.offs[0])) continue;
    const length = total(r.both);
    for (const i of [r.low, r.high]) {
      const { pens } = ways[r.way].carriers[i],
        all = [...pens.values()].reduce((x, y) => x + y, 0);
      for (const [pen, n] of pens) used.set(pen, (used.get(pen) ?? 0) + (length * n) / all);
    }
  }
  const shares = new Map([...used].map(([pen, n]) => [pen, Math.min(1, n / (drawn.get(pen) ?? n))])),
    // A pen that drew little may by chance have drawn walls alone.
    weighed = new Map(
      [...shares].map(([pen, share]) => [
        pen,
        share * Math.min(1, used.get(pen)! / (LEAST_USED * Math.max(...used.values()))),
      ]),
    ),
    most = Math.max(1e-9, ...weighed.values());
  return { shares, pens: new Map([...weighed].map(([pen, share]) => [pen, share / most])) };
}

/** A pen has drawn a face that has drawn so much of it: windows and doors are drawn by others. */
const LEAST_SHARE = 0.1;

/** The pens that drew both faces, the one that drew most of them first; at least one. */
export function pensOfFaces({ carriers }: Way, { low, high }: Pick<Band, 'low' | 'high'>): string[] {
  const shares = [carriers[low], carriers[high]].map(({ pens }) => {
    const all = [...pens.values()].reduce((x, y) => x + y, 0);
    return new Map([...pens].map(([pen, n]) => [pen, n / all]));
  });
  const both = [...shares[0]].flatMap(([pen, share]): [string, number][] => {
    const least = Math.min(share, shares[1].get(pen) ?? 0);
    return least >= LEAST_SHARE ? [[pen, least]] : [];
  });
  if (both.length > 0) return both.sort((x, y) => y[1] - x[1]).map(([pen]) => pen);
  const [pen] = [...shares[0], ...shares[1]].reduce((x, y) => (y[1] > x[1] ? y : x));
  return [pen];
}

/** How much each pen draws walls by what its bands weigh, 0 to 1 of the one that most does. */
export function pensOf(
  bands: readonly Band[],
  pensOfBand: (b: Band) => readonly string[],
): Map<string, number> {
  const sums = new Map<string, number>();
  for (const b of bands) for (const pen of pensOfBand(b)) sums.set(pen, (sums.get(pen) ?? 0) + weightOf(b));
  const most = Math.max(1e-9, ...sums.values());
  return new Map([...sums].map(([pen, n]) => [pen, Math.sqrt(n / most)]));
}
