import { neighbourCode, neighbours } from './thin.ts';

/** Pixels of a thinned stroke from one end or junction to the next, in order: numbers of pixels in the frame's rows. */
export type Chain = readonly number[];

/** How often the ring of eight neighbours changes from empty to set. */
const CHANGES = (() => {
  const table = new Uint8Array(256);
  for (let code = 0; code < 256; code++)
    for (let k = 0; k < 8; k++) if (!((code >> k) & 1) && (code >> ((k + 1) % 8)) & 1) table[code]++;
  return table;
})();

/** Cuts thinned ink at its junctions and follows what is left. Pixels next to a junction, whose place it bends, are left out. */
export function chainsOf(thinned: Uint8Array, width: number): Chain[] {
  const around = neighbours(width);
  // Straight neighbours before slanted ones, so that no pixel of a step is left behind.
  const straightFirst = [0, 2, 4, 6, 1, 3, 5, 7].map((k) => around[k]);
  const beside = [0, 2, 4, 6].map((k) => around[k]);
  const line = Uint8Array.from(thinned);
  const junctions: number[] = [];
  for (let i = 0; i < line.length; i++) if (line[i] > 1) line[i] = 0;
  for (let i = 0; i < line.length; i++)
    if (line[i] && CHANGES[neighbourCode(thinned, i, around)] >= 3) junctions.push(i);
  for (const i of junctions) {
    line[i] = 0;
    for (const k of beside) line[i + k] = 0;
  }
  const chains: Chain[] = [];
  const follow = (start: number): number[] => {
    const chain = [start];
    line[start] = 0;
    for (let at = start; ;) {
      const step = straightFirst.find((k) => line[at + k]);
      if (step === undefined) return chain;
      at += step;
      line[at] = 0;
      chain.push(at);
    }
  };
  const ends: number[] = [];
  for (let i = 0; i < line.length; i++)
    if (line[i] && CHANGES[neighbourCode(line, i, around)] <= 1) ends.push(i);
  for (const i of ends) if (line[i]) chains.push(follow(i));
  for (let i = 0; i < line.length; i++) if (line[i]) chains.push(follow(i));
  return chains;
}
