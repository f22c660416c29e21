/** Ink that hangs together: its box in pixels (x1, y1 beyond the last pixel), its pixels, and its runs by number. */
export interface Component {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  pixels: number;
  runs: number[];
}

/** Rows of ink: y, first x and the x beyond the last, three numbers each. */
export interface Components {
  runs: Int32Array;
  list: Component[];
}

/** Parts the ink into what hangs together, corners included (runs joined by union and find). */
export function componentsOf(mask: Uint8Array, width: number, height: number): Components {
  const runs: number[] = [];
  const parent: number[] = [];
  const find = (i: number): number => {
    let k = i;
    while (parent[k] !== k) k = parent[k] = parent[parent[k]];
    return k;
  };
  let before = 0,
    beforeEnd = 0;
  for (let y = 0; y < height; y++) {
    const first = parent.length;
    let above = before;
    for (let x = 0; x < width;) {
      if (!mask[y * width + x]) {
        x++;
        continue;
      }
      let end = x + 1;
      while (end < width && mask[y * width + end]) end++;
      const run = parent.length;
      runs.push(y, x, end);
      parent.push(run);
      while (above < beforeEnd && runs[3 * above + 2] < x) above++;
      for (let k = above; k < beforeEnd && runs[3 * k + 1] <= end; k++) {
        const a = find(k),
          b = find(run);
        if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
      }
      x = end;
    }
    before = first;
    beforeEnd = parent.length;
  }
  const list: Component[] = [];
  const of = new Map<number, Component>();
  for (let i = 0; i < parent.length; i++) {
    const root = find(i),
      y = runs[3 * i],
      x0 = runs[3 * i + 1],
      x1 = runs[3 * i + 2];
    const known = of.get(root);
    if (!known) {
      const component = { x0, y0: y, x1, y1: y + 1, pixels: x1 - x0, runs: [i] };
      of.set(root, component);
      list.push(component);
      continue;
    }
    known.x0 = Math.min(known.x0, x0);
    known.x1 = Math.max(known.x1, x1);
    known.y1 = Math.max(known.y1, y + 1);
    known.pixels += x1 - x0;
    known.runs.push(i);
  }
  return { runs: Int32Array.from(runs), list };
}
