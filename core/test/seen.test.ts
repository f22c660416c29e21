import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '@calque/core/geometry';
import { groundStorey, modelOf, type Model, type Pair, type Wall, type WorkPlane } from '@calque/core/model';
import { frameOf, uprightPlane } from '@calque/core/planes';
import { bodiesOf, meshOf, seenFrom, type SeenLine } from '@calque/core/solids';
import { houseModel, window } from './given-house.ts';
import { wall } from './given-walls.ts';

const modelWith = (...walls: Wall[]): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
    groundStorey('ground'),
    ...walls,
  ]);
/** Looked at from the south: x goes east, y up. */
const south = (more: Partial<WorkPlane> = {}): WorkPlane => ({
  ...uprightPlane('p', { from: [0, 0], to: [10000, 0], height: 6000, name: 'South', role: 'elevation' })!,
  ...more,
});
const lengthOf = (lines: readonly SeenLine[]) =>
  lines.reduce((sum, { from, to }) => sum + Math.hypot(to[0] - from[0], to[1] - from[1]), 0);
const has = (lines: readonly SeenLine[], p: Point, q: Point) =>
  lines.some(({ from, to }) =>
    [
      [from, to],
      [to, from],
    ].some(
      ([a, b]) => Math.hypot(a[0] - p[0], a[1] - p[1]) < 0.01 && Math.hypot(b[0] - q[0], b[1] - q[1]) < 0.01,
    ),
  );

describe('what is seen of a building from a plane', () => {
  it('a wall square on is its outline and its window, each edge once', () => {
    const { lines, cuts } = seenFrom(
      modelWith(
        wall('w', [1000, 2000], [5000, 2000], {
          height: 3000,
          thickness: 300,
          openings: [window('o', [2000, 2000], [3200, 2000])],
        }),
      ),
      south(),
    );
    for (const [p, q] of [
      [
        [1000, 0],
        [5000, 0],
      ],
      [
        [5000, 0],
        [5000, 3000],
      ],
      [
        [1000, 3000],
        [5000, 3000],
      ],
      [
        [1000, 0],
        [1000, 3000],
      ],
      [
        [2000, 900],
        [3200, 900],
      ],
      [
        [2000, 2100],
        [3200, 2100],
      ],
      [
        [2000, 900],
        [2000, 2100],
      ],
      [
        [3200, 900],
        [3200, 2100],
      ],
    ] as [Point, Point][])
      expect(has(lines, p, q), `${p} ${q}`).toBe(true);
    expect(lengthOf(lines)).toBeCloseTo(2 * (4000 + 3000) + 2 * (1200 + 1200), 1);
    expect(cuts).toEqual([]);
  });

  it('what stands behind is hidden but for what looks over and beside it', () => {
    const { lines } = seenFrom(
        modelWith(
          wall('front', [0, 1000], [4000, 1000], { height: 2000, thickness: 200 }),
          wall('back', [2000, 5000], [6000, 5000], { height: 3000, thickness: 200 }),
        ),
        south(),
      ),
      back = lines.filter((l) => l.element === 'back');
    expect(has(back, [2000, 2000], [2000, 3000])).toBe(true);
    expect(has(back, [2000, 3000], [6000, 3000])).toBe(true);
    expect(has(back, [4000, 0], [6000, 0])).toBe(true);
    expect(lengthOf(back)).toBeCloseTo(1000 + 4000 + 3000 + 2000, 1);
    // From the north it stands before.
    const north = seenFrom(
      modelWith(
        wall('front', [0, 1000], [4000, 1000], { height: 2000, thickness: 200 }),
        wall('back', [2000, 5000], [6000, 5000], { height: 3000, thickness: 200 }),
      ),
      uprightPlane('p', { from: [10000, 0], to: [0, 0], height: 6000, name: 'North', role: 'elevation' })!,
    ).lines.filter((l) => l.element === 'back');
    expect(lengthOf(north)).toBeCloseTo(2 * (4000 + 3000), 1);
  });

  it('a section begins at its plane and cuts what it goes through; a depth ends it', () => {
    const model = modelWith(
        wall('cut', [2000, -3000], [2000, 3000], { height: 2500, thickness: 400 }),
        wall('near', [3000, 1000], [5000, 1000], { height: 2500, thickness: 200 }),
        wall('far', [6000, 8000], [8000, 8000], { height: 2500, thickness: 200 }),
        wall('before', [9000, -2000], [11000, -2000], { height: 2500, thickness: 200 }),
      ),
      elements = (plane: WorkPlane) => new Set(seenFrom(model, plane).lines.map((l) => l.element));
    const section = south({ role: 'section' }),
      { cuts } = seenFrom(model, section);
    expect(elements(section)).toEqual(new Set(['cut', 'near', 'far']));
    expect(lengthOf(cuts)).toBeCloseTo(2 * (400 + 2500), 1);
    expect(elements(south({ role: 'section', depth: { behind: 3000 } }))).toEqual(new Set(['cut', 'near']));
    expect(elements(south({ role: 'section', depth: { before: 2500 } }))).toContain('before');
    // Of a wall that runs away from the plane only where it is cut is seen, within half a metre.
    const slab = seenFrom(model, south({ depth: { before: 0, behind: 500 } }));
    expect(slab.lines).toEqual([]);
    expect(lengthOf(slab.cuts)).toBeCloseTo(2 * (400 + 2500), 1);
  });

  it('random walls: no line is hidden anywhere, and every edge that nothing hides is there', () => {
    const place = fc.tuple(
        fc.integer({ min: 0, max: 9000 }),
        fc.integer({ min: 500, max: 9000 }),
      ) as fc.Arbitrary<Pair>,
      some = fc.array(fc.tuple(place, place, fc.integer({ min: 500, max: 4000 })), {
        minLength: 1,
        maxLength: 6,
      });
    fc.assert(
      fc.property(some, (given) => {
        const walls = given
          .filter(([p, q]) => Math.hypot(q[0] - p[0], q[1] - p[1]) > 300)
          .map(([p, q, height], i) => wall(`w${i}`, p, q, { height, thickness: 150 }));
        const model = modelWith(...walls),
          plane = south(),
          { lines } = seenFrom(model, plane),
          { triangles, edges } = all(model, plane);
        for (const line of lines)
          for (const t of [0.31, 0.5, 0.77]) {
            const p = mix(line.from, line.to, t),
              // The line is somewhere on an edge of its element; how near that lies is not told: as near as it can be.
              near = edges
                .filter((e) => e.element === line.element)
                .flatMap((e) => placeOn(e, p))
                .reduce((a, b) => Math.max(a, b), -Infinity);
            expect(near).toBeGreaterThan(-Infinity);
            expect(triangles.filter((tri) => depthIn(tri, p, 1) > near + 2)).toEqual([]);
          }
        for (const e of edges) {
          const t = 0.43,
            p = mix(e.from, e.to, t),
            near = e.from[2] + t * (e.to[2] - e.from[2]);
          if (Math.hypot(e.to[0] - e.from[0], e.to[1] - e.from[1]) < 1) continue;
          // Free by more than a hair: nothing before it even a little beside it.
          if (triangles.some((tri) => depthIn(tri, p, -1) > near - 2 && !isOn(tri, e))) continue;
          expect(lines.some((l) => offLine(l, p) < 0.2)).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('is quick for a whole house and leaves nothing of what lies behind its walls', () => {
    const { lines } = seenFrom(houseModel(), south({ origin: [0, -2000, 0] }));
    expect(lines.length).toBeGreaterThan(20);
    expect(lines.every((l) => [...l.from, ...l.to].every(Number.isFinite))).toBe(true);
  });
});

type P3 = [number, number, number];
interface Edge {
  from: P3;
  to: P3;
  element: string;
}
function all(
  model: Model,
  plane: WorkPlane,
): { triangles: { corners: P3[]; element: string }[]; edges: Edge[] } {
  const { origin, across } = frameOf(plane),
    at = (l: Float64Array, i: number): P3 => {
      const [dx, dy] = [l[i] - origin[0], l[i + 1] - origin[1]];
      return [dx * across[0] + dy * across[1], l[i + 2] - origin[2], dx * across[1] - dy * across[0]];
    };
  const triangles: { corners: P3[]; element: string }[] = [],
    edges: Edge[] = [];
  for (const { element, blocks } of bodiesOf(model)) {
    const m = meshOf(blocks);
    for (let i = 0; i < m.triangles.length; i += 9)
      triangles.push({
        corners: [at(m.triangles, i), at(m.triangles, i + 3), at(m.triangles, i + 6)],
        element: element.id,
      });
    for (let i = 0; i < m.edges.length; i += 6)
      edges.push({ from: at(m.edges, i), to: at(m.edges, i + 3), element: element.id });
  }
  return { triangles, edges };
}
const mix = (p: readonly number[], q: readonly number[], t: number): Point => [
  p[0] + t * (q[0] - p[0]),
  p[1] + t * (q[1] - p[1]),
];
/** How near a triangle is where a point is seen; -Infinity outside of it, or within `inside` of its sides. */
function depthIn({ corners: [a, b, c] }: { corners: P3[] }, [x, y]: Point, inside: number): number {
  const cross = (p: P3, q: P3, r: readonly number[]) =>
      (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]),
    whole = cross(a, b, c);
  if (Math.abs(whole) < 1) return -Infinity;
  const [w, u, v] = [cross(a, b, [x, y]), cross(b, c, [x, y]), cross(c, a, [x, y])].map(
      (s) => s * Math.sign(whole),
    ),
    side = (p: P3, q: P3) => Math.hypot(q[0] - p[0], q[1] - p[1]);
  if (w < inside * side(a, b) || u < inside * side(b, c) || v < inside * side(c, a)) return -Infinity;
  return (u * a[2] + v * b[2] + w * c[2]) / Math.abs(whole);
}
function placeOn(e: Edge, p: Point): number[] {
  const [dx, dy] = [e.to[0] - e.from[0], e.to[1] - e.from[1]],
    long = dx * dx + dy * dy;
  if (long < 1e-6)
    return Math.hypot(p[0] - e.from[0], p[1] - e.from[1]) < 0.1 ? [Math.max(e.from[2], e.to[2])] : [];
  const t = ((p[0] - e.from[0]) * dx + (p[1] - e.from[1]) * dy) / long,
    off = Math.abs(dx * (p[1] - e.from[1]) - dy * (p[0] - e.from[0])) / Math.sqrt(long);
  return off < 0.1 && t > -1e-6 && t < 1 + 1e-6 ? [e.from[2] + t * (e.to[2] - e.from[2])] : [];
}
/** Is an edge one of a triangle's own, or in its plane? */
function isOn({ corners: [a, b, c] }: { corners: P3[] }, e: Edge): boolean {
  const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
    v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]],
    n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]],
    long = Math.hypot(...n),
    off = (p: P3) => Math.abs(n[0] * (p[0] - a[0]) + n[1] * (p[1] - a[1]) + n[2] * (p[2] - a[2])) / long;
  return off(e.from) < 0.4 && off(e.to) < 0.4;
}
function offLine(l: SeenLine, p: Point): number {
  const [dx, dy] = [l.to[0] - l.from[0], l.to[1] - l.from[1]],
    t = Math.min(1, Math.max(0, ((p[0] - l.from[0]) * dx + (p[1] - l.from[1]) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(p[0] - l.from[0] - t * dx, p[1] - l.from[1] - t * dy);
}
