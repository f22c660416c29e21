/** Paper is the brighter fifth of what is seen: lines do not darken it. */
const BRIGHT_SHARE = 0.8;

/** The brightness of the paper, by how often each grey (0 to 255) was counted, `all` in sum. */
export function paperOf(counts: Uint32Array, all: number): number {
  let left = BRIGHT_SHARE * all,
    value = 0;
  while (value < 255 && (left -= counts[value]) > 0) value++;
  return value;
}

/** The squares beside one in a grid of so many columns, `count` in all. */
export function beside(i: number, columns: number, count: number): number[] {
  const c = i % columns,
    out: number[] = [];
  if (c > 0) out.push(i - 1);
  if (c < columns - 1) out.push(i + 1);
  if (i >= columns) out.push(i - columns);
  if (i < count - columns) out.push(i + columns);
  return out;
}
