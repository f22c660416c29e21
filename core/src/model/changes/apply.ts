import type { Entity } from '../entities.ts';
import type { Model } from '../model.ts';
import type { Applied, Change, Fields, Refusal } from './change.ts';

/** Entities of one's own, to be changed in place. */
type EntitiesInPlace = Pick<Map<string, Entity>, 'get' | 'has'> & {
  set(id: string, e: Entity): unknown;
  delete(id: string): unknown;
};

/** Applies a change: the next model and the change that undoes it, or why it does not apply. The given model stays as it is. */
export function apply(model: Model, change: Change): Applied {
  const next = model.edit();
  const result = applyInto(next, change);
  return 'code' in result
    ? { ok: false, refusal: result }
    : { ok: true, model: next.done(), inverse: result };
}

/** As apply, for changes that are known to fit; throws where apply refuses. */
export function applyOrThrow(model: Model, change: Change): Model {
  const applied = apply(model, change);
  if (!applied.ok)
    throw new Error(`The change does not apply: ${applied.refusal.id} is ${applied.refusal.code}.`);
  return applied.model;
}

/**
 * Applies a change to a map of one's own, which is changed in place: for a log that is replayed step by step. Gives why it does
 * not apply, or null; after a refusal the map is of no more use.
 */
export function applyInPlace(model: EntitiesInPlace, change: Change): Refusal | null {
  const result = applyInto(model, change);
  return 'code' in result ? result : null;
}

function applyInto(model: EntitiesInPlace, change: Change): Change | Refusal {
  switch (change.type) {
    case 'add':
      if (model.has(change.entity.id)) return { code: 'exists', id: change.entity.id };
      model.set(change.entity.id, change.entity);
      return { type: 'remove', entity: change.entity };
    case 'remove': {
      const { id } = change.entity;
      const current = model.get(id);
      if (!current) return { code: 'missing', id };
      if (!sameEntity(current, change.entity)) return { code: 'stale', id };
      model.delete(id);
      return { type: 'add', entity: change.entity };
    }
    case 'set': {
      const current = model.get(change.id);
      if (!current) return { code: 'missing', id: change.id };
      const fields = current as unknown as Fields;
      if (
        Object.entries(change.before).some(([key, value]) => !sameValue(fields[key] ?? null, value ?? null))
      )
        return { code: 'stale', id: change.id };
      model.set(change.id, { ...current, ...change.after } as Entity);
      return { type: 'set', id: change.id, before: change.after, after: change.before };
    }
    case 'group': {
      const inverses: Change[] = [];
      for (const part of change.changes) {
        const inverse = applyInto(model, part);
        if ('code' in inverse) return inverse;
        inverses.push(inverse);
      }
      return { type: 'group', changes: inverses.reverse() };
    }
  }
}

/** Equality of JSON values, whatever the order of their keys. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b) || (a === 0 && b === 0)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const ka = Object.keys(a),
    kb = Object.keys(b);
  return ka.length === kb.length && ka.every((k) => sameValue((a as Fields)[k], (b as Fields)[k]));
}

/** Equality of two entities. A field that is absent and one that was put back to nothing are the same: an undone step leaves null. */
function sameEntity(a: Entity, b: Entity): boolean {
  if (a === b) return true;
  const [p, q] = [a as unknown as Fields, b as unknown as Fields];
  return [...new Set([...Object.keys(p), ...Object.keys(q)])].every((key) =>
    sameValue(p[key] ?? null, q[key] ?? null),
  );
}

/** Ids that a change touches. */
export function touchedIds(change: Change): string[] {
  if (change.type === 'group') return change.changes.flatMap(touchedIds);
  return [change.type === 'set' ? change.id : change.entity.id];
}

/** A set change for one entity from the fields that it is to have; null when it has them already. */
export function setFields<T extends Entity>(
  entity: T,
  fields: Partial<Omit<T, 'id' | 'type'>>,
): Change | null {
  const before: Fields = {},
    after: Fields = {};
  for (const [key, value] of Object.entries(fields)) {
    const current = (entity as unknown as Fields)[key];
    if (sameValue(current ?? null, value ?? null)) continue;
    // A field that is not there yet is told as null, for JSON leaves out what is undefined.
    before[key] = current ?? null;
    after[key] = value;
  }
  return Object.keys(after).length === 0 ? null : { type: 'set', id: entity.id, before, after };
}

/** The change that puts an entity as it is to be in place of what it was; of another type, it takes the old one away. */
export function replaced(before: Entity, after: Entity): Change | null {
  if (before.type !== after.type)
    return {
      type: 'group',
      changes: [
        { type: 'remove', entity: before },
        { type: 'add', entity: after },
      ],
    };
  const { id: _, type: __, ...fields } = after as Entity & Fields;
  const gone = Object.keys(before).filter((key) => key !== 'id' && key !== 'type' && !(key in fields));
  return setFields(before, {
    ...Object.fromEntries(gone.map((key) => [key, null])),
    ...fields,
  } as Partial<Entity>);
}

/** One change of several; null for none. */
export function group(changes: readonly (Change | null)[]): Change | null {
  const real = changes.filter((c): c is Change => c !== null);
  return real.length === 0 ? null : real.length === 1 ? real[0] : { type: 'group', changes: real };
}
