/** Strokes wider than about twice this many pixels are areas: their inside is left as it is and told by `deep`. */
const MOST_ROUNDS = 9;

/** For each set of eight neighbours (bits clockwise from above): may the pixel go in the first, in the second half of a round? */
const TABLE = (() => {
  const table = new Uint8Array(256);
  for (let code = 0; code < 256; code++) {
    const p = (k: number) => (code >> k) & 1;
    let count = 0,
      changes = 0;
    for (let k = 0; k < 8; k++) {
      count += p(k);
      if (!p(k) && p((k + 1) % 8)) changes++;
    }
    if (count < 2 || count > 6 || changes !== 1) continue;
    const [n, , e, , s, , w] = [p(0), 0, p(2), 0, p(4), 0, p(6)];
    if (!(n && e && s) && !(e && s && w)) table[code] |= 1;
    if (!(n && e && w) && !(n && s && w)) table[code] |= 2;
  }
  return table;
})();

/** Neighbours' offsets clockwise from above, for rows of `width`. */
export const neighbours = (width: number): readonly number[] => [
  -width,
  -width + 1,
  1,
  width + 1,
  width,
  width - 1,
  -1,
  -width - 1,
];

export function neighbourCode(mask: Uint8Array, i: number, around: readonly number[]): number {
  let code = 0;
  for (let k = 0; k < 8; k++) if (mask[i + around[k]]) code |= 1 << k;
  return code;
}

/**
 * Thins ink to lines one pixel wide (Zhang and Suen 1984). `mask` needs a frame of empty pixels. Only the rim of
 * what is left is looked at again. Returns the lines; pixels of areas too thick to be strokes are 2.
 */
export function thin(mask: Uint8Array, width: number): Uint8Array {
  const left = Uint8Array.from(mask);
  const around = neighbours(width);
  const listed = new Uint8Array(left.length);
  let rim: number[] = [];
  for (let i = 0; i < left.length; i++) if (left[i] && neighbourCode(left, i, around) !== 255) rim.push(i);
  for (let round = 0; round < MOST_ROUNDS && rim.length > 0; round++) {
    const next: number[] = [];
    let removed = 0;
    for (const half of [1, 2]) {
      const gone = rim.filter((i) => left[i] && TABLE[neighbourCode(left, i, around)] & half);
      for (const i of gone) left[i] = 0;
      removed += gone.length;
      for (const i of gone) {
        for (const k of around) {
          if (!left[i + k] || listed[i + k]) continue;
          listed[i + k] = 1;
          next.push(i + k);
        }
      }
    }
    if (removed === 0) break;
    rim = next.filter((i) => left[i]);
    for (const i of next) listed[i] = 0;
  }
  for (let i = 0; i < left.length; i++) if (left[i] && neighbourCode(left, i, around) === 255) left[i] = 2;
  return left;
}
