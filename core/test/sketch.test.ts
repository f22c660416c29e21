import { describe, expect, it } from 'vitest';
import { dragged, solveSketch, SketchError, stateOf, type Sketch } from '@calque/core/part';
import { equationsOf } from '../src/part/sketch/equations.ts';
import { Unknowns } from '../src/part/sketch/unknowns.ts';
import { dice, rectangle, solvable } from './given-sketches.ts';

const at = (s: Sketch, id: string) => s.points.find((p) => p.id === id)!.at;

/** How an equation changes with each unknown, by small steps: knows nothing of the rows that it gives itself. */
function slopes(u: Unknowns): { own: Float64Array[]; seen: Float64Array[] } {
  const equations = equationsOf(u),
    own = equations.map((e) => {
      const row = new Float64Array(u.count);
      e.at(u.values, row);
      return row;
    }),
    step = 1e-5,
    seen = equations.map((e) =>
      Float64Array.from({ length: u.count }, (_, k) => {
        const shifted = (by: number) => {
          const v = Float64Array.from(u.values);
          v[k] += by;
          return e.at(v, new Float64Array(u.count));
        };
        return (shifted(step) - shifted(-step)) / (2 * step);
      }),
    );
  return { own, seen };
}

/** Rank by turning rows square to one another, the longest first: no elimination. */
function rankOf(rows: readonly Float64Array[]): number {
  const left = rows.map((r) => Float64Array.from(r)),
    longest = Math.max(0, ...left.map((r) => Math.hypot(...r)));
  let rank = 0;
  for (;;) {
    left.sort((a, b) => Math.hypot(...b) - Math.hypot(...a));
    const [first] = left.splice(0, 1),
      l = first ? Math.hypot(...first) : 0;
    if (l <= 1e-6 * longest) return rank;
    rank++;
    for (const r of left) {
      const dot = r.reduce((s, v, k) => s + v * first[k], 0) / (l * l);
      for (let k = 0; k < r.length; k++) r[k] -= dot * first[k];
    }
  }
}

describe('a sketch', () => {
  it('a rectangle by its sides is where it must be, and nothing of it moves', () => {
    const { sketch, holds } = solveSketch(rectangle());
    expect(holds).toBe(true);
    for (const [id, x, y] of [
      ['a', 0, 0],
      ['b', 200, 0],
      ['c', 200, 100],
      ['d', 0, 100],
    ] as const)
      expect(at(sketch, id)).toEqual([expect.closeTo(x, 9), expect.closeTo(y, 9)]);
    expect(stateOf(rectangle())).toEqual({
      freedom: 0,
      free: new Set(),
      ways: [],
      redundant: [],
      contradictory: [],
    });
  });

  it('without a figure it can still move one way, and what moves is told; dragged it moves as far as it is free', () => {
    const rules = rectangle().rules.filter((r) => r.id !== 'width'),
      loose = { ...rectangle(), rules };
    expect(stateOf(loose)).toMatchObject({ freedom: 1, free: new Set(['b', 'c']) });
    const { sketch, holds } = dragged(solveSketch(loose).sketch, 'c', [260, 130]);
    expect(holds).toBe(true);
    expect(at(sketch, 'c')[1]).toBeCloseTo(100, 9);
    expect(at(sketch, 'c')[0]).toBeGreaterThan(220);
    expect(at(sketch, 'b')[0]).toBeCloseTo(at(sketch, 'c')[0], 9);
  });

  it('a circle in a corner touches both sides', () => {
    const { sketch, holds } = solveSketch({
      ...rectangle(),
      points: [...rectangle().points, { id: 'o', at: [30, 40] }],
      curves: [...rectangle().curves, { id: 'hole', kind: 'circle', centre: 'o', radius: 9 }],
      rules: [
        ...rectangle().rules,
        { id: 'r', kind: 'diameter', of: ['hole'], value: 30 },
        { id: 't1', kind: 'touching', of: ['south', 'hole'] },
        { id: 't2', kind: 'touching', of: ['hole', 'west'] },
      ],
    });
    expect(holds).toBe(true);
    expect(at(sketch, 'o')).toEqual([expect.closeTo(15, 9), expect.closeTo(15, 9)]);
  });

  it('equations change as they say they do', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const { own, seen } = slopes(new Unknowns(solvable(seed, 2).begin));
      own.forEach((row, i) =>
        row.forEach((v, k) => expect(Math.abs(v - seen[i][k]), `${seed} ${i} ${k}`).toBeLessThan(1e-4)),
      );
    }
  });

  it('a thousand random sketches are solved to a billionth of a millimetre, all rules in them', () => {
    const kinds = new Set<string>();
    for (let seed = 1; seed <= 1000; seed++) {
      const { begin } = solvable(seed, 2);
      for (const r of begin.rules) kinds.add(r.kind);
      const { holds, worst } = solveSketch(begin);
      expect(holds, `${seed}: ${worst}`).toBe(true);
    }
    expect(kinds.size).toBe(19);
  });

  it('the ways in which it can move are as many as a rank by another way says', () => {
    for (let seed = 1; seed <= 200; seed++) {
      const { truth } = solvable(seed, 0),
        u = new Unknowns(solveSketch(truth).sketch),
        { freedom } = stateOf(truth);
      expect(freedom, String(seed)).toBe(u.count - rankOf(slopes(u).seen));
    }
  });
});

describe('contradictions', () => {
  it('two figures of one length name one another, and nothing else', () => {
    const state = stateOf(rectangle([{ id: 'again', kind: 'length', of: ['south'], value: 210 }]));
    expect(state.contradictory).toEqual([{ rule: 'again', with: ['width'] }]);
    expect(state.freedom).toBe(0);
  });

  it('a figure that follows is redundant, with those from which it does', () => {
    const { redundant, contradictory } = stateOf(
      rectangle([{ id: 'diagonal', kind: 'length', of: ['a', 'c'], value: Math.hypot(200, 100) }]),
    );
    expect(contradictory).toEqual([]);
    expect(redundant).toHaveLength(1);
    expect(redundant[0].rule).toBe('diagonal');
    expect(new Set(redundant[0].with)).toEqual(new Set(['width', 'height', 's', 'e']));
  });

  it('planted among random rules, the figure is found, and without any one that it names all holds again', () => {
    let planted = 0;
    for (let seed = 1; seed <= 300 && planted < 60; seed++) {
      const { truth } = solvable(seed, 0),
        roll = dice(seed + 5000),
        state = stateOf(truth);
      const lengths = truth.rules.filter((r) => r.kind === 'length' || r.kind === 'radius');
      if (lengths.length === 0 || state.redundant.length > 0) continue;
      const one = lengths[Math.floor(roll() * lengths.length)];
      planted++;
      const wrong: Sketch = {
          ...truth,
          rules: [
            ...truth.rules,
            { ...one, id: 'planted', value: (one as { value: number }).value + 0.5 } as never,
          ],
        },
        { contradictory } = stateOf(wrong);
      expect(contradictory, String(seed)).toEqual([{ rule: 'planted', with: [one.id] }]);
      for (const gone of ['planted', one.id]) {
        const rest = { ...wrong, rules: wrong.rules.filter((r) => r.id !== gone) };
        expect(solveSketch(rest).holds, `${seed} ${gone}`).toBe(true);
      }
    }
    expect(planted).toBeGreaterThan(30);
  });

  it('rules that name what is not there are refused in words', () => {
    expect(() => solveSketch(rectangle([{ id: 'x', kind: 'radius', of: ['south'], value: 3 }]))).toThrow(
      SketchError,
    );
    expect(() => solveSketch(rectangle([{ id: 'x', kind: 'on', of: ['gone', 'south'] }]))).toThrow(
      /no point "gone"/,
    );
    expect(() => solveSketch(rectangle([{ id: 'x', kind: 'touching', of: ['south', 'north'] }]))).toThrow(
      /two lines/,
    );
    expect(solveSketch({ points: [], curves: [], rules: [] })).toMatchObject({ holds: true, steps: 0 });
  });
});
