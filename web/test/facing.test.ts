import { expect, it } from 'vitest';
import { groundStorey, modelOf, usualOpening } from '@calque/core/model';
import { sceneOf } from '@calque/core/solids';
import { byFacing, narrowOf } from '@/space/facing';
import { member } from '../../core/test/given-members.ts';
import { wall } from '../../core/test/given-walls.ts';

it('what is parted by the way it looks is all of it, each in its way, the narrow last', () => {
  const walls = Array.from({ length: 20 }, (_, i) =>
      wall(`w${i}`, [0, i * 3000], [5000, i * 3000], {
        openings: [usualOpening('o', 'window', [1000, i * 3000], [2200, i * 3000])],
      }),
    ),
    skew = wall('skew', [0, -9000], [4000, -7000]),
    { groups } = sceneOf(modelOf([groundStorey('ground'), ...walls, skew])),
    [{ triangles }] = groups,
    parts = byFacing(triangles);
  const named = (t: Float32Array) =>
    Array.from({ length: t.length / 9 }, (_, i) => [...t.subarray(9 * i, 9 * i + 9)].join(' ')).sort();
  expect(parts.flatMap((p) => named(p.triangles)).sort()).toEqual(named(triangles));
  // Four ways along and across, up and down; the skew wall looks its own few.
  expect(parts.filter((p) => p.normal).length).toBe(6);
  expect(parts.filter((p) => !p.normal)).toHaveLength(1);
  for (const { normal, triangles: t, wide } of parts) {
    expect(wide).toBeLessThanOrEqual(t.length / 9);
    if (normal === null) continue;
    for (let i = 0; i < t.length; i += 9) {
      const along = [3, 6].map((k) =>
        [0, 1, 2].reduce((sum, j) => sum + normal[j] * (t[i + k + j] - t[i + j]), 0),
      );
      for (const off of along) expect(Math.abs(off)).toBeLessThan(1);
    }
  }
  // The wide faces of walls come first: the reveals and tops of these are 200 wide at most.
  expect(parts.some((p) => p.normal && p.wide === 0)).toBe(true);
  expect(parts.some((p) => p.wide > 0 && p.wide * 9 === p.triangles.length)).toBe(true);
});

it('of a frame its webs and flanges stay while it is turned, bolts and fillets may go', () => {
  const model = modelOf([
      groundStorey('ground'),
      member({ id: 'girder', from: [0, 0], to: [0, 4000], section: { form: 'table', name: 'IPE 300' } }),
      member({
        id: 'beam',
        from: [0, 2000],
        to: [4000, 2000],
        joints: [{ end: 'start', form: 'endPlate', to: 'girder' }],
      }),
    ]),
    [{ type, triangles }] = sceneOf(model).groups,
    share = (narrow: number) =>
      byFacing(triangles, narrow).reduce((n, p) => n + p.wide, 0) / (triangles.length / 9);
  // Of walls' own measure nothing would be left of it.
  expect(share(narrowOf('wall'))).toBeLessThan(0.02);
  expect(share(narrowOf(type))).toBeGreaterThan(0.05);
  expect(share(narrowOf(type))).toBeLessThan(0.5);
});
