import type { Traced } from '../kinds/index.ts';
import { endsOf } from './shape-of.ts';

/** Ends that lie this near to one another, millimetres, meet. */
const MEETS = 1;

/** The elements that hang together with the given ones, end on end, these included. */
export function chainOf(elements: readonly Traced[], start: Iterable<string>): Set<string> {
  const cell = (x: number, y: number) => `${Math.round(x / MEETS)},${Math.round(y / MEETS)}`;
  const at = new Map<string, Traced[]>();
  const ends = new Map(elements.map((e) => [e.id, endsOf(e) ?? []]));
  for (const e of elements) {
    for (const [x, y] of ends.get(e.id)!) {
      const here = at.get(cell(x, y));
      if (here) here.push(e);
      else at.set(cell(x, y), [e]);
    }
  }
  const found = new Set<string>(),
    open = [...start].filter((id) => ends.has(id));
  while (open.length > 0) {
    const id = open.pop()!;
    if (found.has(id)) continue;
    found.add(id);
    for (const [x, y] of ends.get(id)!) {
      for (let dx = -MEETS; dx <= MEETS; dx += MEETS) {
        for (let dy = -MEETS; dy <= MEETS; dy += MEETS) {
          for (const other of at.get(cell(x + dx, y + dy)) ?? [])
            if (ends.get(other.id)!.some((p) => Math.hypot(p[0] - x, p[1] - y) <= MEETS)) open.push(other.id);
        }
      }
    }
  }
  return found;
}
