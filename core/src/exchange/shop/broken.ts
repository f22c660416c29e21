import type { Stop } from './dims.ts';

/** A length along which something is drawn shorter than it is: stretches on which nothing happens are broken. */
export interface Broken {
  /** Where a place is drawn. */
  at(z: number): number;
  stop(z: number): Stop;
  /** Where the breaks are drawn. */
  breaks: readonly number[];
  length: number;
}

/** Stretches on which nothing happens that are longer than `longest` are drawn as long as that; `room` about what happens stays true. */
export function brokenLength(
  low: number,
  high: number,
  features: readonly number[],
  { longest, room }: { longest: number; room: number },
): Broken {
  const kept = [...features, low, high]
    .filter((z) => z >= low && z <= high)
    .sort((a, b) => a - b)
    .map((z): [number, number] => [Math.max(low, z - room), Math.min(high, z + room)]);
  const whole: [number, number][] = [];
  for (const [a, b] of kept) {
    const last = whole.at(-1);
    // Nothing is broken that would not become shorter.
    if (last && a - last[1] <= longest) last[1] = Math.max(last[1], b);
    else whole.push([a, b]);
  }
  const knots: [number, number][] = [],
    breaks: number[] = [];
  let drawn = 0;
  whole.forEach(([a, b], i) => {
    if (i > 0) {
      breaks.push(drawn + longest / 2);
      drawn += longest;
    }
    knots.push([a, drawn]);
    drawn += b - a;
    knots.push([b, drawn]);
  });
  const at = (z: number): number => {
    if (z <= knots[0][0]) return knots[0][1] + z - knots[0][0];
    for (let i = 1; i < knots.length; i++) {
      const [[z0, d0], [z1, d1]] = [knots[i - 1], knots[i]];
      if (z <= z1) return z1 > z0 ? d0 + ((z - z0) / (z1 - z0)) * (d1 - d0) : d1;
    }
    const [zn, dn] = knots.at(-1)!;
    return dn + z - zn;
  };
  return { at, stop: (z) => ({ drawn: at(z), true: z }), breaks, length: drawn };
}
