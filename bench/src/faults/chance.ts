/** The seed of this run; the same seed makes the same edits, though not the same timing. */
export const SEED = Number(process.argv[4] ?? Date.now() % 1e6);

let seed = SEED >>> 0 || 1;
export function chance(): number {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
}
export const pickOne = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)];
export const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
