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

/** The pen that drew most of both faces. */
export function mainPen({ carriers }: Way, { low, high }: Pick<Band, 'low' | 'high'>): string {
  const sums = new Map<string, number>();
  for (const c of [carriers[low], carriers[high]])
    for (const [pen, n] of c.pens) sums.set(pen, (sums.get(pen) ?? 0) + n);
  return [...sums].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
}

/** How much each pen draws walls by what its bands weigh, 0 to 1 of the one that most does. */
export function pensOf(bands: readonly Band[], penOf: (b: Band) => string): Map<string, number> {
  const sums = new Map<string, number>();
  for (const b of bands) sums.set(penOf(b), (sums.get(penOf(b)) ?? 0) + weightOf(b));
  const most = Math.max(1e-9, ...sums.values());
  return new Map([...sums].map(([pen, n]) => [pen, Math.sqrt(n / most)]));
}
