/** How sure something is by its own reckoning, and how many of a hundred such are right, as the bench counts them (docs/proposals.md); in between in proportion. */
export type Reliability = readonly (readonly [number, number])[];

/** Of walls, by their length. What other hands draw is less sure than what ours do: shares of ours are held down. */
export const WALLS: Reliability = [
  [0, 0],
  [0.3, 0.72],
  [0.4, 0.86],
  [0.5, 0.93],
  [0.7, 0.97],
  [1, 0.99],
];

export const OPENINGS: Reliability = [
  [0, 0],
  [0.5, 0.5],
  [0.6, 0.72],
  [0.66, 0.9],
  [0.75, 0.96],
  [1, 0.99],
];

/** Read from the ink of a scan: how many of a hundred that would be so sure on a file are right there. */
export const INK_WALLS: Reliability = [
    [0, 0],
    [0.7, 0.3],
    [0.8, 0.5],
    [0.86, 0.62],
    [0.91, 0.78],
    [0.95, 0.93],
    [1, 0.96],
  ],
  INK_OPENINGS: Reliability = [
    [0, 0],
    [0.9, 0.3],
    [0.96, 0.6],
    [1, 0.65],
  ];
/** What looks solid on a scan is right no oftener. */
export const INK_SOLID = 0.64;

/** Its own reckoning, 0 to 1, as the share that is right of those that reckon so. */
export function reliable(own: number, of: Reliability): number {
  for (let i = 1; i < of.length; i++) {
    const [[a, p], [b, q]] = [of[i - 1], of[i]];
    if (own <= b) return p + ((q - p) * (Math.max(a, own) - a)) / (b - a);
  }
  return of[of.length - 1][1];
}
