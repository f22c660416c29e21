import * as yup from 'yup';
import type { Change, Fields } from '../changes/index.ts';
import type { Entity } from '../entities.ts';
import { parseEntity } from './entity-schemas.ts';

const DEEPEST_GROUP = 4;
/** A converted sheet comes as one step. */
export const LARGEST_STEP = 250000;

const isRecord = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);

/** Checks a change that came from outside. Entities that a `set` makes are checked when it is applied; what a `remove` names must be what is there. */
export function parseChange(value: unknown): Change {
  let parts = 0;
  const parse = (v: unknown, depth: number): Change => {
    if (isRecord(v)) {
      if (v.type !== 'group' && ++parts > LARGEST_STEP)
        throw new yup.ValidationError(`A step may change up to ${LARGEST_STEP} elements. Do it in parts.`);
      if (v.type === 'add') return { type: 'add', entity: parseEntity(v.entity) };
      if (v.type === 'remove' && isRecord(v.entity) && typeof v.entity.id === 'string')
        return { type: 'remove', entity: v.entity as unknown as Entity };
      if (v.type === 'set' && typeof v.id === 'string' && isRecord(v.before) && isRecord(v.after))
        return parseSet(v.id, v.before, v.after);
      if (
        v.type === 'group' &&
        Array.isArray(v.changes) &&
        v.changes.length <= LARGEST_STEP &&
        depth < DEEPEST_GROUP
      ) {
        return { type: 'group', changes: v.changes.map((c) => parse(c, depth + 1)) };
      }
    }
    throw new yup.ValidationError(
      'This is not a change: it must be add, remove, set or group with their values.',
    );
  };
  return parse(value, 0);
}

function parseSet(id: string, before: Fields, after: Fields): Change {
  const forbidden = ['id', 'type'].filter((key) => Object.hasOwn(after, key));
  if (forbidden.length > 0)
    throw new yup.ValidationError(`A change may not replace ${forbidden.join(' or ')}.`);
  return { type: 'set', id, before, after };
}
