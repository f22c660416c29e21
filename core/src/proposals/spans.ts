/** A stretch along a line, from its lower end to its higher. */
export type Span = readonly [number, number];

/** Stretches put together where they overlap or come within `slack` of one another, in order. */
export function joined(spans: readonly Span[], slack = 0): [number, number][] {
  const out: [number, number][] = [];
  for (const [a, b] of [...spans].sort((p, q) => p[0] - q[0])) {
    const last = out.at(-1);
    if (last && a <= last[1] + slack) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

/** What two rows of stretches, each in order and apart, have in common. */
export function common(p: readonly Span[], q: readonly Span[]): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0, j = 0; i < p.length && j < q.length;) {
    const a = Math.max(p[i][0], q[j][0]),
      b = Math.min(p[i][1], q[j][1]);
    if (b > a) out.push([a, b]);
    if (p[i][1] < q[j][1]) i++;
    else j++;
  }
  return out;
}

export const total = (spans: readonly Span[]): number => spans.reduce((sum, [a, b]) => sum + b - a, 0);
/** How much of a stretch a row of others covers. */
export const covered = (of: Span, by: readonly Span[]): number => total(common([of], by));
