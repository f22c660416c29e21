/** Sums of points, weight by weight, that can be added up before a line is fitted. */
export interface Sums {
  n: number;
  x: number;
  y: number;
  xx: number;
  xy: number;
  yy: number;
}

export const noSums = (): Sums => ({ n: 0, x: 0, y: 0, xx: 0, xy: 0, yy: 0 });

export function addPoint(s: Sums, x: number, y: number, w = 1): void {
  s.n += w;
  s.x += w * x;
  s.y += w * y;
  s.xx += w * x * x;
  s.xy += w * x * y;
  s.yy += w * y * y;
}

export const joined = (a: Sums, b: Sums): Sums => ({
  n: a.n + b.n,
  x: a.x + b.x,
  y: a.y + b.y,
  xx: a.xx + b.xx,
  xy: a.xy + b.xy,
  yy: a.yy + b.yy,
});

/** The straight line through points by least squares across it: its middle, direction (the main axis of the scatter) and the spread across. */
export function axisOf({ n, x, y, xx, xy, yy }: Sums): {
  x: number;
  y: number;
  ux: number;
  uy: number;
  rms: number;
} {
  const mx = x / n,
    my = y / n,
    a = xx / n - mx * mx,
    b = xy / n - mx * my,
    c = yy / n - my * my;
  const angle = 0.5 * Math.atan2(2 * b, a - c);
  const least = (a + c) / 2 - Math.hypot((a - c) / 2, b);
  return { x: mx, y: my, ux: Math.cos(angle), uy: Math.sin(angle), rms: Math.sqrt(Math.max(0, least)) };
}
