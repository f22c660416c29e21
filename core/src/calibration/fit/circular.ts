/** Two-sided 95 % of a normal distribution, and the radius that holds 95 % of a round one in two dimensions (√(−2 ln 0.05)). */
export const NORMAL_95 = 1.959964,
  PLANE_95 = 2.447747;

/** Steps of a quarter turn, which stands for all four. */
const STEPS = 60,
  HALVINGS = 16;
/** Flatter than this, the distribution is a line. */
const FLAT = 0.02;

/**
 * The radius of the circle that holds 95 % of a normal distribution in two dimensions with these standard
 * deviations along its axes: its density integrated over the radius in closed form, over the angle in steps.
 */
export function radius95(long: number, short: number): number {
  if (!(short > FLAT * long)) return NORMAL_95 * long;
  const inside = (r: number) => {
    let sum = 0;
    for (let i = 0; i < STEPS; i++) {
      const angle = (Math.PI * (i + 0.5)) / (2 * STEPS);
      const k = (Math.cos(angle) / long) ** 2 + (Math.sin(angle) / short) ** 2;
      sum += (1 - Math.exp((-r * r * k) / 2)) / k;
    }
    return sum / (STEPS * long * short);
  };
  let low = NORMAL_95 * long * 0.999,
    high = PLANE_95 * long * 1.001;
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (inside(middle) < 0.95) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
