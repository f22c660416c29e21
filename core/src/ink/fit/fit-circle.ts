/** A circle in the space of its points. */
export interface FittedCircle {
  cx: number;
  cy: number;
  r: number;
}

/** A weighted point: x, y, weight. */
export type Weighted = readonly [x: number, y: number, weight: number];

/**
 * The circle with the least sum of weighted squared distances to points: the algebraic fit of Kasa (1976) as a start, then
 * Gauss-Newton on the distances themselves. Null where the points say no circle.
 */
export function fitCircle(points: readonly Weighted[]): FittedCircle | null {
  const total = points.reduce((s, p) => s + p[2], 0);
  if (points.length < 3 || total <= 0) return null;
  const mx = points.reduce((s, [x, , w]) => s + w * x, 0) / total,
    my = points.reduce((s, [, y, w]) => s + w * y, 0) / total;
  let [suu, suv, svv, suz, svz, sz] = [0, 0, 0, 0, 0, 0];
  for (const [x, y, w] of points) {
    const u = x - mx,
      v = y - my,
      z = u * u + v * v;
    suu += w * u * u;
    suv += w * u * v;
    svv += w * v * v;
    suz += w * u * z;
    svz += w * v * z;
    sz += w * z;
  }
  const det = suu * svv - suv * suv;
  if (Math.abs(det) < 1e-9 * (suu + svv) ** 2) return null;
  let cx = (suz * svv - svz * suv) / (2 * det),
    cy = (svz * suu - suz * suv) / (2 * det),
    r = Math.sqrt(cx * cx + cy * cy + sz / total);
  for (let step = 0; step < 12; step++) {
    // Normal equations of the residuals d - r with the derivatives -ex, -ey, -1.
    let [axx, axy, ax1, ayy, ay1, bx, by, b1] = [0, 0, 0, 0, 0, 0, 0, 0];
    for (const [x, y, w] of points) {
      const dx = x - mx - cx,
        dy = y - my - cy,
        d = Math.hypot(dx, dy);
      if (d === 0) continue;
      const ex = dx / d,
        ey = dy / d,
        off = d - r;
      axx += w * ex * ex;
      axy += w * ex * ey;
      ax1 += w * ex;
      ayy += w * ey * ey;
      ay1 += w * ey;
      bx += w * ex * off;
      by += w * ey * off;
      b1 += w * off;
    }
    const solved = solve3(
      [
        [axx, axy, ax1],
        [axy, ayy, ay1],
        [ax1, ay1, total],
      ],
      [bx, by, b1],
    );
    if (!solved) break;
    const [dx, dy, dr] = solved;
    cx += dx;
    cy += dy;
    r += dr;
    if (Math.abs(dx) + Math.abs(dy) + Math.abs(dr) < 1e-9 * (1 + r)) break;
  }
  return r > 0 && Number.isFinite(r) ? { cx: cx + mx, cy: cy + my, r } : null;
}

/** Three equations by Cramer's rule; null where they say nothing. */
function solve3(
  m: readonly (readonly [number, number, number])[],
  b: readonly [number, number, number],
): [number, number, number] | null {
  const det = (p: readonly (readonly number[])[]) =>
    p[0][0] * (p[1][1] * p[2][2] - p[1][2] * p[2][1]) -
    p[0][1] * (p[1][0] * p[2][2] - p[1][2] * p[2][0]) +
    p[0][2] * (p[1][0] * p[2][1] - p[1][1] * p[2][0]);
  const whole = det(m);
  if (Math.abs(whole) < 1e-12) return null;
  const column = (i: number) => det(m.map((row, k) => row.map((v, j) => (j === i ? b[k] : v)))) / whole;
  return [column(0), column(1), column(2)];
}
