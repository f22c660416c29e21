import { expect, it } from 'vitest';
import { bandOf, gapNear } from '@calque/core/building';
import { boxOfPoints, grownBox, MM_PER_POINT, type Piece, type Point } from '@calque/core/geometry';
import { linesOf, trueWalls, TRUTH } from './sheet-walls.ts';

/** A leaf turns by a quarter, give or take this; leaves are so wide, millimetres. */
const QUARTER = 0.12,
  NARROWEST = 500,
  WIDEST = 1400;
/** So far beside its wall a hinge lies, millimetres, beside half its thickness. */
const BESIDE = 60;

it('every door of the practice sheets is found in its wall: both edges, the one at which it hangs, and its side', async () => {
  const told: string[] = [];
  let doors = 0;
  for (const name of Object.keys(TRUTH)) {
    const find = await linesOf(name),
      walls = trueWalls(name),
      point = TRUTH[name].millimetres * MM_PER_POINT;
    const everything = find([-1e9, -1e9, 1e9, 1e9]);
    for (const piece of everything) {
      if (piece.kind !== 'arc') continue;
      const { cx, cy, r, start, end } = piece.arc;
      if (r < NARROWEST || r > WIDEST || Math.abs(end - start - Math.PI / 2) > QUARTER) continue;
      const ends = [start, end].map((a): Point => [cx + r * Math.cos(a), cy + r * Math.sin(a)]);
      for (const w of walls) {
        const band = bandOf({
            id: 'w',
            from: [...w.a] as [number, number],
            to: [...w.b] as [number, number],
            thickness: w.thickness,
            alignment: 'centre',
          }),
          local = ([x, y]: Point): [number, number] => {
            const [dx, dy] = [x - band.from[0], y - band.from[1]];
            return [dx * band.ux + dy * band.uy, -dx * band.uy + dy * band.ux];
          };
        const [t, v] = local([cx, cy]);
        // The door of this wall: it hangs beside it, and one end of its swing lies there too.
        const shut = ends
            .map(local)
            .find((e) => Math.abs(e[1] - v) < 0.2 * r && Math.abs(e[0] - t) > 0.7 * r),
          open = ends.map(local).find((e) => Math.abs(e[0] - t) < 0.2 * r && Math.abs(e[1] - v) > 0.7 * r);
        if (!shut || !open || Math.abs(v) > w.thickness / 2 + BESIDE || t < -r || t > band.length + r)
          continue;
        doors++;
        const middle = (t + shut[0]) / 2,
          near: Piece[] = find(grownBox(boxOfPoints([w.a, w.b]), 3 * r));
        const gap = gapNear(band, middle, near),
          hinge = t < shut[0] ? 'from' : 'to';
        // Its edges are the plan's own, to a tenth of a point.
        const isJamb = (n: Piece, edge: number, within: number): boolean =>
          n.kind === 'segment' && [n.from, n.to].every((e) => Math.abs(local(e)[0] - edge) < within);
        const wrong =
          gap === null
            ? 'no gap'
            : gap.seen.kind !== 'door'
              ? gap.seen.kind
              : gap.seen.hung !== hinge
                ? 'other edge'
                : gap.seen.opens !== (open[1] > v ? 'left' : 'right')
                  ? 'other side'
                  : Math.abs(gap[hinge] - t) > 0.12 * r + point
                    ? `edge off by ${Math.round(gap[hinge] - t)}`
                    : [gap.from, gap.to].some((edge) => !near.some((n) => isJamb(n, edge, 0.1 * point)))
                      ? 'no jamb at its edge'
                      : null;
        if (wrong) told.push(`${name} at ${Math.round(cx)}, ${Math.round(cy)}: ${wrong}`);
        break;
      }
    }
  }
  expect(doors).toBeGreaterThan(40);
  expect(told).toEqual([]);
}, 120000);
