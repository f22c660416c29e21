import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIRST_FORM, FORM, formOf, NewerForm, upgradeChange, upgradeEntity } from '@calque/core/formats';
import {
  apply,
  EMPTY_MODEL,
  parseChange,
  parseEntity,
  sameValue,
  type Change,
  type Entity,
} from '@calque/core/model';
import { anyEntity } from './any-entity.ts';

interface Kept {
  form: number;
  entities: unknown[];
  log: { label: string; change: unknown }[];
}
/** One example of every form that there has been, as a project of it was stored. They are never changed. */
const FOLDER = 'core/test/kept';
const kept = readdirSync(FOLDER).map((name) => JSON.parse(readFileSync(`${FOLDER}/${name}`, 'utf8')) as Kept);

it('an example of every form before this one is kept', () => {
  expect(kept.map((k) => k.form).sort((a, b) => a - b)).toEqual(
    Array.from({ length: FORM - FIRST_FORM }, (_, i) => FIRST_FORM + i),
  );
});

describe.each(kept)('a project of form $form', ({ form, entities, log }) => {
  it('opens: every entity passes, and its log leads from nothing to the very entities', () => {
    let model = EMPTY_MODEL;
    for (const { label, change } of log) {
      const applied = apply(model, parseChange(upgradeChange(change, form)));
      expect(applied, label).toMatchObject({ ok: true });
      if (applied.ok) model = applied.model;
    }
    const now = entities.map((e) => parseEntity(upgradeEntity(e, form)));
    expect(now.length).toBe(model.size);
    for (const e of now) expect(sameValue(e, model.get(e.id)), e.id).toBe(true);
  });

  it('goes back step by step to nothing: what undo would take back is in this form too', () => {
    let model = EMPTY_MODEL;
    const inverses: Change[] = [];
    for (const { change } of log) {
      const applied = apply(model, parseChange(upgradeChange(change, form)));
      if (!applied.ok) throw new Error('it does not apply');
      model = applied.model;
      inverses.push(applied.inverse);
    }
    for (const inverse of inverses.reverse()) {
      const applied = apply(model, inverse);
      if (!applied.ok) throw new Error('it is not undone');
      model = applied.model;
    }
    expect(model.size).toBe(0);
  });

  it('has openings with all that an opening has, within groups too', () => {
    const openings = entities
      .map((e) => upgradeEntity(e, form) as { openings?: unknown[]; elements?: { openings?: unknown[] }[] })
      .flatMap((e) => [e, ...(e.elements ?? [])].flatMap((x) => x.openings ?? []));
    if (form > 1) expect(openings.length).toBeGreaterThan(1);
    for (const o of openings) expect(o).toMatchObject({ kind: 'gap', assumed: ['kind', 'sill', 'head'] });
  });

  it('holds nothing that the first of the upgrades should have taken along, within groups neither', () => {
    expect(JSON.stringify(entities.map((e) => upgradeEntity(e, form)))).not.toContain('storeyId');
    expect(JSON.stringify(log.map((s) => upgradeChange(s.change, form)))).not.toContain('storeyId');
  });
});

describe('what is upgraded', () => {
  it('is the very value where it is of this form already', () => {
    fc.assert(
      fc.property(anyEntity, (e) => {
        expect(upgradeEntity(e, FORM)).toBe(e);
        const change = { type: 'add', entity: e };
        expect(upgradeChange(change, FORM)).toBe(change);
      }),
    );
  });

  it('is as good upgraded twice as once: a step sent without its form loses nothing', () => {
    fc.assert(
      fc.property(anyEntity, (e) => {
        expect(upgradeEntity(e, FIRST_FORM)).toEqual(e);
        expect(parseEntity(upgradeEntity(e, FIRST_FORM) as Entity)).toEqual(e);
      }),
    );
  });

  it('may be anything at all: what is no entity or change comes back as it was, or is refused by its check', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const change = upgradeChange(value, FIRST_FORM);
        expect(() => JSON.stringify([change, upgradeEntity(value, FIRST_FORM)])).not.toThrow();
      }),
    );
    const deep = (n: number): unknown => {
      let change: unknown = { type: 'add', entity: {} };
      for (let i = 0; i < n; i++) change = { type: 'group', changes: [change] };
      return change;
    };
    expect(() => upgradeChange(deep(20000), FIRST_FORM)).not.toThrow();
  });

  it('names in a set the plane that it named as a storey, before and after', () => {
    expect(
      upgradeChange({ type: 'set', id: 'w', before: { storeyId: 'a' }, after: { storeyId: 'b' } }, 1),
    ).toEqual({ type: 'set', id: 'w', before: { planeId: 'a' }, after: { planeId: 'b' } });
  });
});

describe('a form that was given', () => {
  it('is the first where nothing is said, and refused in words where it is newer or none', () => {
    expect(formOf(undefined, 'This')).toBe(FIRST_FORM);
    expect(formOf(FORM, 'This')).toBe(FORM);
    expect(() => formOf(FORM + 1, 'This package')).toThrow(NewerForm);
    expect(() => formOf(FORM + 1, 'This package')).toThrow(/This package was saved by a newer Calque/);
    for (const none of [0, -1, 1.5, '2', NaN, {}])
      expect(() => formOf(none, 'This')).toThrow(/does not say its form/);
  });
});
