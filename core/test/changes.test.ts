import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  apply,
  EMPTY_MODEL,
  groundStorey,
  historyOf,
  inverseOf,
  modelOf,
  parseChange,
  parseEntity,
  remember,
  sameValue,
  setFields,
  type Change,
  type Entity,
  type LogStep,
  type Model,
  type Wall,
} from '@calque/core/model';

const wall = (id: string, x: number): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [x, 0],
  to: [x, 1000],
  thickness: 100,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'typed', thickness: 'typed' },
});

const ids = ['a', 'b', 'c', 'd'];
/** Any sequence of changes, made against whatever the model is by then. */
const sequences = fc.array(
  fc.record({
    id: fc.constantFrom(...ids),
    kind: fc.constantFrom('add', 'remove', 'set', 'group'),
    n: fc.integer({ min: 1, max: 500 }),
  }),
  { maxLength: 25 },
);

function changeFor(model: Model, { id, kind, n }: { id: string; kind: string; n: number }): Change | null {
  const there = model.get(id) as Wall | undefined;
  if (kind === 'add') return there ? null : { type: 'add', entity: wall(id, n) };
  if (!there) return null;
  if (kind === 'remove') return { type: 'remove', entity: there };
  const set = setFields(there, { thickness: n });
  if (kind === 'set' || !set) return set;
  const free = ids.find((i) => !model.has(i));
  return {
    type: 'group',
    changes: [set, ...(free ? [{ type: 'add' as const, entity: wall(free, n) }] : [])],
  };
}

const plain = (m: Model) => [...m.values()].sort((p, q) => p.id.localeCompare(q.id));

describe('changes', () => {
  it('every change is undone exactly by the inverse that apply gives, and by its own record', () => {
    fc.assert(
      fc.property(sequences, (steps) => {
        let model: Model = EMPTY_MODEL;
        for (const step of steps) {
          const change = changeFor(model, step);
          if (!change) continue;
          const done = apply(model, change);
          if (!done.ok) throw new Error('a fitting change was refused');
          const undone = apply(done.model, done.inverse);
          expect(undone.ok && plain(undone.model)).toEqual(plain(model));
          expect(sameValue(inverseOf(change), done.inverse)).toBe(true);
          model = done.model;
        }
      }),
    );
  });

  it('leaves the given model as it is, also when a group fails half-way', () => {
    const model = modelOf([wall('a', 0)]);
    const result = apply(model, {
      type: 'group',
      changes: [
        { type: 'set', id: 'a', before: { thickness: 100 }, after: { thickness: 5 } },
        { type: 'remove', entity: wall('zz', 1) },
      ],
    });
    expect(result).toEqual({ ok: false, refusal: { code: 'missing', id: 'zz' } });
    expect((model.get('a') as Wall).thickness).toBe(100);
  });

  it('refuses what was made against another state', () => {
    const model = modelOf([wall('a', 0)]);
    expect(
      apply(model, { type: 'set', id: 'a', before: { thickness: 90 }, after: { thickness: 5 } }),
    ).toMatchObject({ ok: false, refusal: { code: 'stale' } });
    expect(apply(model, { type: 'add', entity: wall('a', 3) })).toMatchObject({
      ok: false,
      refusal: { code: 'exists' },
    });
    expect(apply(model, { type: 'remove', entity: wall('a', 3) })).toMatchObject({
      ok: false,
      refusal: { code: 'stale' },
    });
  });
});

describe('history', () => {
  it('undoing and redoing any number of steps returns to where it was', () => {
    fc.assert(
      fc.property(sequences, fc.nat(12), (steps, back) => {
        const log: LogStep[] = [];
        const models: Model[] = [EMPTY_MODEL];
        const push = (step: Omit<LogStep, 'seq'>) => {
          const applied = apply(models.at(-1)!, step.change);
          if (!applied.ok) throw new Error('refused');
          log.push({ ...step, seq: log.length + 1 });
          models.push(applied.model);
        };
        steps.forEach((s, i) => {
          const change = changeFor(models.at(-1)!, s);
          if (change) push({ id: `s${i}`, label: '', kind: 'do', of: null, change });
        });
        const end = plain(models.at(-1)!);
        let undone = 0;
        for (; undone < back && historyOf(log).done.length > 0; undone++) {
          const last = historyOf(log).done.at(-1)!;
          push({ id: `u${undone}`, label: '', kind: 'undo', of: last.id, change: last.inverse });
        }
        for (let i = 0; i < undone; i++) {
          const next = historyOf(log).undone.at(-1)!;
          push({ id: `r${i}`, label: '', kind: 'redo', of: next.id, change: next.again });
        }
        expect(plain(models.at(-1)!)).toEqual(end);
      }),
    );
  });

  it('a new step ends what could be redone', () => {
    const add: Change = { type: 'add', entity: wall('a', 0) };
    let h = remember(historyOf([]), { id: '1', label: 'x', kind: 'do', of: null, change: add });
    h = remember(h, { id: '2', label: 'x', kind: 'undo', of: '1', change: inverseOf(add) });
    expect(h.undone).toHaveLength(1);
    expect(remember(h, { id: '3', label: 'y', kind: 'do', of: null, change: add }).undone).toHaveLength(0);
  });
});

describe('what comes from outside', () => {
  it('passes good entities through', () => {
    for (const e of [wall('a', 0), groundStorey('g')] as Entity[])
      expect(parseEntity(JSON.parse(JSON.stringify(e)))).toEqual(e);
  });
  it.each([
    ['no type', { id: 'a' }],
    ['an unknown type', { ...wall('a', 0), type: 'toString' }],
    ['an unknown field', { ...wall('a', 0), colour: 'red' }],
    ['no thickness', { ...wall('a', 0), thickness: 0 }],
    ['a string for a number', { ...wall('a', 0), height: '2700' }],
    ['infinity', { ...wall('a', 0), from: [Infinity, 0] }],
    ['no length', { ...wall('a', 0), to: [0, 0] }],
    ['a bad id', { ...wall('a b', 0) }],
  ])('refuses %s', (_, value) => expect(() => parseEntity(value)).toThrow());
  it('refuses changes that are none, or that would change id or type', () => {
    expect(() => parseChange({ type: 'drop' })).toThrow();
    expect(() => parseChange(null)).toThrow();
    expect(() => parseChange({ type: 'set', id: 'a', before: {}, after: { type: 'line' } })).toThrow(/type/);
    let deep: unknown = { type: 'add', entity: wall('a', 0) };
    for (let i = 0; i < 9; i++) deep = { type: 'group', changes: [deep] };
    expect(() => parseChange(deep)).toThrow();
  });
});
