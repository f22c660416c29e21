import { expect, it } from 'vitest';
import { bandOf, joinWalls, plainBody } from '@calque/core/building';
import { facePairs, wallsAcross } from '@calque/core/conversion';
import { distanceToPiece, unionOf, type Piece, type Point } from '@calque/core/geometry';
import { missing } from '../../core/test/missing.ts';
import { linesOf, trueWalls, TRUTH } from './sheet-walls.ts';

type Segment = Extract<Piece, { kind: 'segment' }>;

/** Each wall is pointed at along both its faces, a little to either side of them: how often, and how often it was the first offer and among the first three. */
async function pointed(name: string): Promise<[all: number, first: number, three: number]> {
  const find = await linesOf(name);
  let all = 0,
    first = 0,
    three = 0;
  for (const { a, b, thickness } of trueWalls(name)) {
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]),
      ux = (b[0] - a[0]) / length,
      uy = (b[1] - a[1]) / length;
    const place = (along: number, off: number): Point => [
        a[0] + along * ux - off * uy,
        a[1] + along * uy + off * ux,
      ],
      off = (p: Point) => Math.abs(-(p[0] - a[0]) * uy + (p[1] - a[1]) * ux);
    for (const side of [1, -1])
      for (let share = 0.06; share < 0.95; share += 0.0733)
        for (const beside of [12, -12]) {
          const on = place(share * length, (side * thickness) / 2);
          const face = find([on[0] - 5, on[1] - 5, on[0] + 5, on[1] + 5]).find(
            (p): p is Segment =>
              p.kind === 'segment' &&
              distanceToPiece(p, on) < 1.5 &&
              Math.abs((p.to[0] - p.from[0]) * uy - (p.to[1] - p.from[1]) * ux) <
                2e-3 * Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1]),
          );
          if (!face) continue;
          all++;
          const right = facePairs(face, find, place(share * length, (side * thickness) / 2 + beside)).map(
            (o) => Math.abs(o.thickness - thickness) < 2 && off(o.from) < 2 && off(o.to) < 2,
          );
          if (right[0]) first++;
          if (right.slice(0, 3).includes(true)) three++;
        }
  }
  return [all, first, three];
}

it('of walls pointed at anywhere along either face, the right one is the first offer for 97 of 100, and among the first three', async () => {
  const sums = [0, 0, 0],
    told: string[] = [];
  for (const name of Object.keys(TRUTH)) {
    const found = await pointed(name);
    told.push(`${name} ${found.join(' ')}`);
    // Walls that are fills alone, some with one edge missing, are another matter.
    if (name.startsWith('14')) expect(found[1] / found[0], told.join('; ')).toBeGreaterThan(0.93);
    else
      found.forEach((n, i) => {
        sums[i] += n;
      });
  }
  expect(sums[0]).toBeGreaterThan(5000);
  expect(sums[1] / sums[0], told.join('; ')).toBeGreaterThanOrEqual(0.99);
  expect(sums[2] / sums[0], told.join('; ')).toBeGreaterThanOrEqual(0.999);
});

it('joined, the walls of a plan are what their bodies are together: no hole, nothing beyond', () => {
  for (const name of Object.keys(TRUTH)) {
    const walls = trueWalls(name).map(({ a, b, thickness }, i) => ({
      id: `${i}`,
      type: 'wall' as const,
      planeId: 'g',
      from: [...a] as [number, number],
      to: [...b] as [number, number],
      thickness,
      alignment: 'centre' as const,
      height: 2700,
      heightAssumed: true,
      source: { underlayId: null, ends: 'snapped' as const, thickness: 'measured' as const },
    }));
    const { outlines } = joinWalls(walls),
      bodies = unionOf(walls.map((w) => plainBody(bandOf(w))));
    expect(
      [missing(bodies, outlines), missing(outlines, bodies)].every((mm2) => mm2 < 100),
      `${name}: ${missing(bodies, outlines)} missing, ${missing(outlines, bodies)} too much`,
    ).toBe(true);
  }
});

it('a stroke across a plan takes the walls that it goes across, and nothing that is none', async () => {
  let crossed = 0,
    right = 0,
    wrong = 0;
  const told: string[] = [];
  for (const name of Object.keys(TRUTH).filter((n) => !n.startsWith('14'))) {
    const find = await linesOf(name),
      walls = trueWalls(name),
      xs = walls.flatMap((w) => [w.a[0], w.b[0]]),
      ys = walls.flatMap((w) => [w.a[1], w.b[1]]);
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    /** On the line of a wall, as thick, and mostly within its ends or those of one in line with it. */
    const isOne = (
      o: { from: Point; to: Point; thickness: number },
      { a, b, thickness }: (typeof walls)[number],
    ) => {
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]),
        off = (p: Point) => Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / length;
      return Math.abs(o.thickness - thickness) < 2 && off(o.from) < 3 && off(o.to) < 3;
    };
    for (let i = 0; i < 10; i++)
      for (const across of [true, false]) {
        const f = (i + 0.37) / 10,
          from: Point = across ? [x0 - 700, y0 + f * (y1 - y0)] : [x0 + f * (x1 - x0), y0 - 700],
          to: Point = across ? [x1 + 700, from[1] + 23] : [from[0] + 23, y1 + 700];
        const found = wallsAcross(from, to, find);
        const side = (p: Point, q: Point, r: Point) =>
          Math.sign((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]));
        const hit = walls.filter(
          (w) => side(from, to, w.a) !== side(from, to, w.b) && side(w.a, w.b, from) !== side(w.a, w.b, to),
        );
        crossed += hit.length;
        right += hit.filter((w) => found.some((o) => isOne(o, w))).length;
        const not = found.filter((o) => !walls.some((w) => isOne(o, w)));
        wrong += not.length;
        not.forEach((o) =>
          told.push(
            `${name} ${Math.round(o.thickness)} at ${o.from.map(Math.round).join()} to ${o.to.map(Math.round).join()}`,
          ),
        );
      }
  }
  // A stroke through a door or along a wall goes across nothing that is drawn.
  expect(crossed).toBeGreaterThan(600);
  expect(right / crossed, told.join('; ')).toBeGreaterThan(0.8);
  expect(wrong / right, told.join('; ')).toBeLessThan(0.01);
});
