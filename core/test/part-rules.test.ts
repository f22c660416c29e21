import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  apply,
  applyOrThrow,
  modelOf,
  ofType,
  type Change,
  type Entity,
  type Line,
  type Model,
  type Pair,
  type Rule,
  type TracedArc,
} from '@calque/core/model';
import { foundRules, planeState, ruledOn, ruleWords, settled, type Ruled } from '@calque/core/part';

const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
const line = (id: string, from: Pair, to: Pair): Line => ({
  type: 'line',
  id,
  planeId: 'top',
  from,
  to,
  source,
});
const arc = (id: string, centre: Pair, radius: number, start: number, sweep: number): TracedArc => ({
  type: 'arc',
  id,
  planeId: 'top',
  centre,
  radius,
  start,
  sweep,
  source,
});
const rule = (
  id: string,
  kind: Rule['kind'],
  of: [string, number | null][],
  value: number | null = null,
): Rule => ({ type: 'rule', id, planeId: 'top', kind, of: of.map(([e, grip]) => ({ id: e, grip })), value });

/** A rectangle of lines, a little crooked, and not quite closed. */
const crooked = (w: number, h: number, off: number): Line[] => [
  line('a', [0, 0], [w, off]),
  line('b', [w + off, 0], [w, h]),
  line('c', [w, h - off], [0, h]),
  line('d', [off / 2, h], [0, -off]),
];
const withFound = (elements: readonly Ruled[], near?: Parameters<typeof foundRules>[3]): Entity[] => [
  ...elements,
  ...foundRules(elements, [], new Set(elements.map((e) => e.id)), near).map((r, i) => ({
    type: 'rule' as const,
    id: `r${i}`,
    planeId: 'top',
    value: null,
    ...r,
  })),
];
const step = (model: Model, change: Change): Model => applyOrThrow(model, settled(model, change));
const lineAt = (m: Model, id: string) => m.get(id) as Line;

describe('rules found in linework', () => {
  it('closes and straightens a rectangle, each rule once, and leaves its size free', () => {
    const entities = withFound(crooked(100, 60, 0.02)),
      kinds = ofType(modelOf(entities), 'rule')
        .map((r) => r.kind)
        .sort();
    expect(kinds).toEqual([
      'level',
      'level',
      'together',
      'together',
      'together',
      'together',
      'upright',
      'upright',
    ]);
    const state = planeState(modelOf(entities), 'top');
    expect(state).toMatchObject({ freedom: 4, redundant: [], contradictory: [] });
  });

  it('sees rounds that run on, equal ones, parallel and square ones, and common centres', () => {
    const r = 10,
      turned = ([x, y]: Pair): Pair => [
        x * Math.cos(0.3) - y * Math.sin(0.3),
        x * Math.sin(0.3) + y * Math.cos(0.3),
      ];
    const elements: Ruled[] = [
      line('a', turned([10, 0]), turned([90, 0])),
      arc('k', turned([90, 10]), r, -Math.PI / 2 + 0.3, Math.PI / 2),
      line('b', turned([100, 10]), turned([100, 50])),
      arc('l', turned([90, 50]), r, 0.3, Math.PI / 2),
      line('c', turned([90, 60]), turned([10, 60])),
      arc('hole', turned([90, 50]), 4, 0, 2 * Math.PI),
    ];
    const found = foundRules(elements, [], new Set(elements.map((e) => e.id))),
      count = (kind: string) => found.filter((f) => f.kind === kind).length;
    expect(count('together')).toBe(5);
    expect(count('touching')).toBe(4);
    expect(count('equal')).toBe(1);
    expect(count('square') + count('parallel')).toBeGreaterThanOrEqual(1);
    expect(count('level') + count('upright')).toBe(0);
  });

  it('finds what lies at the middle of a line or on it, and rounds that a construction line mirrors', () => {
    const axis = {
        ...line('axis', [50, -20], [50, 90]),
        type: 'constructionLine' as const,
      } as unknown as Ruled,
      full = 2 * Math.PI,
      elements: Ruled[] = [
        line('base', [0, 0], [100, 0]),
        line('rib', [50.02, 0.01], [50, 40]),
        line('stop', [20, 0.02], [10, 30]),
        axis,
        arc('left', [30, 60], 5, 0, full),
        arc('right', [70.03, 60], 5.01, 0, full),
        arc('other', [70, 80], 5, 0, full),
      ];
    const found = foundRules(elements, [], new Set(elements.map((e) => e.id))),
      of = (kind: string) => found.filter((f) => f.kind === kind).map((f) => f.of.map((p) => p.id).join(' '));
    expect(of('middle')).toContain('rib base');
    expect(of('on')).toContain('stop base');
    expect(of('symmetric')).toEqual(['left right axis']);
    // All of it at once, moved by no more than it was off.
    const rules = found.map((r, i) => ({
        type: 'rule' as const,
        id: `r${i}`,
        planeId: 'top',
        value: null,
        ...r,
      })),
      before = modelOf([...elements]),
      model = applyOrThrow(
        before,
        settled(before, { type: 'group', changes: rules.map((entity): Change => ({ type: 'add', entity })) }),
      ),
      at = (id: string) => model.get(id) as TracedArc;
    expect(planeState(model, 'top').contradictory).toEqual([]);
    expect(at('left').centre[0] + at('right').centre[0]).toBeCloseTo(
      2 * (model.get('axis') as Line).from[0],
      6,
    );
    expect(Math.abs(at('left').centre[0] - 30)).toBeLessThan(0.1);
  });

  it('says nothing of what is not nearly so, nor of what is there already', () => {
    expect(
      foundRules([line('a', [0, 0], [100, 3]), line('b', [100, 5], [180, 40])], [], new Set(['a', 'b'])),
    ).toEqual([]);
    const entities = withFound(crooked(100, 60, 0)),
      model = modelOf(entities);
    expect(foundRules(ruledOn(model, 'top'), ofType(model, 'rule'), new Set(['a', 'b', 'c', 'd']))).toEqual(
      [],
    );
    expect(foundRules(ruledOn(model, 'top'), [], new Set())).toEqual([]);
  });

  it('never moves anything by more than it was off', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 20 }),
            fc.integer({ min: 0, max: 20 }),
            fc.integer({ min: -40, max: 40 }),
          ),
          { minLength: 3, maxLength: 9 },
        ),
        (places) => {
          const points = places.map(([x, y, off]): Pair => [x * 10 + off / 1000, y * 10 - off / 1000]),
            lines = points.flatMap((p, i) => {
              const q = points[(i + 1) % points.length];
              return Math.hypot(p[0] - q[0], p[1] - q[1]) > 1 ? [line(`l${i}`, p, q)] : [];
            }),
            found = foundRules(lines, [], new Set(lines.map((l) => l.id))),
            before = modelOf(lines),
            change: Change = {
              type: 'group',
              changes: found.map((r, i) => ({
                type: 'add',
                entity: { type: 'rule', id: `r${i}`, planeId: 'top', value: null, ...r },
              })),
            };
          const after = step(before, change);
          for (const l of lines)
            for (const k of ['from', 'to'] as const)
              expect(
                Math.hypot(lineAt(after, l.id)[k][0] - l[k][0], lineAt(after, l.id)[k][1] - l[k][1]),
              ).toBeLessThan(1.01);
          expect(planeState(after, 'top').contradictory).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('what rules make of a change', () => {
  const start = (): Model => {
    const model = modelOf(crooked(100, 60, 0.02));
    const found = foundRules(ruledOn(model, 'top'), [], new Set(['a', 'b', 'c', 'd']));
    return step(model, {
      type: 'group',
      changes: found.map((r, i) => ({
        type: 'add',
        entity: { type: 'rule', id: `r${i}`, planeId: 'top', value: null, ...r },
      })),
    });
  };

  it('makes what was found true to a billionth', () => {
    const m = start();
    expect(lineAt(m, 'a').from[1]).toBeCloseTo(lineAt(m, 'a').to[1], 9);
    expect(lineAt(m, 'b').from).toEqual([
      expect.closeTo(lineAt(m, 'a').to[0], 9),
      expect.closeTo(lineAt(m, 'a').to[1], 9),
    ]);
  });

  it('lets a figure drive: the end nearer to zero stays', () => {
    const m = step(start(), { type: 'add', entity: rule('w', 'length', [['a', null]], 120) });
    expect(lineAt(m, 'a').to[0] - lineAt(m, 'a').from[0]).toBeCloseTo(120, 9);
    expect(lineAt(m, 'a').from[0]).toBeCloseTo(lineAt(start(), 'a').from[0], 6);
    const again = step(m, { type: 'set', id: 'w', before: { value: 120 }, after: { value: 80 } });
    expect(lineAt(again, 'c').from[0] - lineAt(again, 'c').to[0]).toBeCloseTo(80, 9);
    expect(planeState(again, 'top').freedom).toBe(3);
  });

  it('moves what hangs on what is dragged, as far as the rules allow', () => {
    const m = step(start(), { type: 'add', entity: rule('w', 'length', [['a', null]], 120) }),
      a = lineAt(m, 'a');
    const dragged = step(m, {
      type: 'set',
      id: 'a',
      before: { to: a.to },
      after: { to: [a.to[0] + 30, a.to[1] + 20] },
    });
    expect(lineAt(dragged, 'a').to[0] - lineAt(dragged, 'a').from[0]).toBeCloseTo(120, 9);
    expect(lineAt(dragged, 'a').to[1]).toBeCloseTo(lineAt(dragged, 'a').from[1], 9);
    expect(lineAt(dragged, 'b').from[0]).toBeCloseTo(lineAt(dragged, 'a').to[0], 9);
    expect(lineAt(dragged, 'a').to[1]).toBeGreaterThan(a.to[1] + 5);
  });

  it('leaves linework where it is when figures contradict one another, and names the fewest', () => {
    const m = step(start(), { type: 'add', entity: rule('w', 'length', [['a', null]], 120) }),
      worse = step(m, { type: 'add', entity: rule('v', 'length', [['c', null]], 90) });
    expect(lineAt(worse, 'a')).toEqual(lineAt(m, 'a'));
    const { contradictory } = planeState(worse, 'top');
    expect(contradictory).toHaveLength(1);
    const named = [contradictory[0].rule, ...contradictory[0].with].map((r) => r.id);
    expect(named).toContain('v');
    expect(named).toContain('w');
    const resolved = step(worse, { type: 'remove', entity: worse.get('w')! });
    expect(lineAt(resolved, 'a').to[0] - lineAt(resolved, 'a').from[0]).toBeCloseTo(90, 9);
  });

  it('takes away the rules of what is taken away, and comes back whole', () => {
    const m = start(),
      change = settled(m, { type: 'remove', entity: m.get('a')! }),
      done = apply(m, change);
    if (!done.ok) throw new Error('refused');
    const names = ofType(done.model, 'rule').flatMap((r) => r.of.map((p) => p.id));
    expect(names).not.toContain('a');
    expect(names.length).toBeGreaterThan(0);
    const back = apply(done.model, done.inverse);
    expect(back.ok && [...back.model.values()].length).toBe([...m.values()].length);
  });

  it('holds what is fixed', () => {
    const m = step(start(), { type: 'add', entity: rule('f', 'fixed', [['a', 1]]) }),
      a = lineAt(m, 'a');
    const driven = step(m, { type: 'add', entity: rule('w', 'length', [['a', null]], 150) });
    expect(lineAt(driven, 'a').to).toEqual([expect.closeTo(a.to[0], 9), expect.closeTo(a.to[1], 9)]);
    expect(lineAt(driven, 'a').from[0]).toBeCloseTo(a.to[0] - 150, 9);
  });

  it('passes over what no rule holds', () => {
    const change: Change = { type: 'add', entity: line('x', [0, 0], [1, 1]) };
    expect(settled(modelOf([]), change)).toBe(change);
  });

  it('says rules in words', () => {
    const m = start(),
      style = { units: 'mm', precision: 1 } as const,
      words = ofType(m, 'rule').map((r) => ruleWords(m, r, style));
    expect(words).toContain('line level');
    expect(words).toContain('two ends of a line together');
    expect(
      ruleWords(m, rule('w', 'length', [['a', null]], 120), style)
        .replaceAll('\u00a0', ' ')
        .replaceAll('\u202f', ' '),
    ).toMatch(/^length 120/);
  });
});
