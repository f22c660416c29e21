/** The quantile of a chi-square distribution at a normal deviate z (2.326 for 99 %), by Wilson and Hilferty (1931). */
export function chi2Quantile(freedom: number, z: number): number {
  const k = 2 / (9 * freedom);
  return freedom * (1 - k + z * Math.sqrt(k)) ** 3;
}
