import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chainOf, type Line } from '@calque/core/model';

const line = (id: string, x0: number, y0: number, x1: number, y1: number): Line => ({
  type: 'line',
  id,
  planeId: 'g',
  from: [x0, y0],
  to: [x1, y1],
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});

describe('a chain', () => {
  it('is all that hangs together end on end, whichever way it was drawn, and within a millimetre', () => {
    const all = [
      line('a', 0, 0, 100, 0),
      line('b', 100.6, 0.3, 100, 80),
      line('c', 0, 80, 100, 80),
      line('d', 102, 0, 200, 0),
      line('e', 50, 0, 50, 40),
    ];
    expect([...chainOf(all, ['c'])].sort()).toEqual(['a', 'b', 'c']);
    expect([...chainOf(all, ['e'])]).toEqual(['e']);
    expect([...chainOf(all, ['gone'])]).toEqual([]);
  });
  it('is the same from any of its members', () => {
    const step = fc.tuple(
      fc.integer({ min: 0, max: 4 }),
      fc.integer({ min: 0, max: 4 }),
      fc.integer({ min: 0, max: 4 }),
      fc.integer({ min: 0, max: 4 }),
    );
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 14 }), (steps) => {
        const all = steps.map(([a, b, c, d], i) => line(`l${i}`, a * 500, b * 500, c * 500 + 1.5, d * 500));
        const chain = chainOf(all, ['l0']);
        for (const id of chain) expect(chainOf(all, [id])).toEqual(chain);
      }),
    );
  });
});
