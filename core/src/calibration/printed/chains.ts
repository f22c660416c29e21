import type { SheetPoint } from '../../geometry/index.ts';

/** A printed total beside the printed lengths that make it up. `parts` and `total` are numbers in the list that was given. */
export interface ChainCheck {
  total: number;
  parts: number[];
  sum: number;
  agrees: boolean;
}

interface Printed {
  from: SheetPoint;
  to: SheetPoint;
  millimetres: number;
  view: number;
}

/** Ends that meet may miss one another by this, sheet points. */
const MEETS = 0.25;
const MOST_PARTS = 200;

/** Chains of dimensions in one row, held against a total that runs from their first end to their last. */
export function checkChains(dimensions: readonly Printed[]): ChainCheck[] {
  const checks: ChainCheck[] = [];
  dimensions.forEach((total, t) => {
    const dx = total.to[0] - total.from[0],
      dy = total.to[1] - total.from[1],
      length = Math.hypot(dx, dy);
    const ux = dx / length,
      uy = dy / length;
    // All that runs the same way, as stretches along the total; the row is told by its distance from it.
    const rows = new Map<number, { i: number; a: number; b: number }[]>();
    dimensions.forEach((d, i) => {
      if (i === t || d.view !== total.view) return;
      const ex = d.to[0] - d.from[0],
        ey = d.to[1] - d.from[1],
        own = Math.hypot(ex, ey);
      if (Math.abs(ux * ey - uy * ex) > 0.01 * own || own > length - MEETS) return;
      const along = (p: SheetPoint) => (p[0] - total.from[0]) * ux + (p[1] - total.from[1]) * uy;
      const row = Math.round((-(d.from[0] - total.from[0]) * uy + (d.from[1] - total.from[1]) * ux) / MEETS);
      const [a, b] = [along(d.from), along(d.to)].sort((p, q) => p - q);
      for (const key of [row - 1, row, row + 1]) {
        const list = rows.get(key);
        if (list && key !== row) list.push({ i, a, b });
        else if (key === row) rows.set(row, [...(list ?? []), { i, a, b }]);
      }
    });
    for (const stretches of rows.values()) {
      const parts = chainFrom(stretches, length);
      if (!parts) continue;
      const sum = parts.reduce((s, i) => s + dimensions[i].millimetres, 0);
      // Each figure is rounded to half a unit at most.
      checks.push({
        total: t,
        parts,
        sum,
        agrees: Math.abs(sum - total.millimetres) <= Math.max(1, 0.5 * (parts.length + 1)),
      });
      break;
    }
  });
  return checks;
}

/** Stretches that follow one another from 0 to the length, or null. */
function chainFrom(
  stretches: readonly { i: number; a: number; b: number }[],
  length: number,
): number[] | null {
  const parts: number[] = [];
  let at = 0;
  while (at < length - MEETS && parts.length < MOST_PARTS) {
    const next = stretches
      .filter((s) => Math.abs(s.a - at) <= MEETS && !parts.includes(s.i))
      .sort((p, q) => p.b - q.b)[0];
    if (!next || next.b > length + MEETS) return null;
    parts.push(next.i);
    at = next.b;
  }
  return parts.length >= 2 ? parts : null;
}
