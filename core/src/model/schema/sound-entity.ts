import type { Change, Fields } from '../changes/index.ts';
import type { Entity, EntityType } from '../entities.ts';
import type { Model } from '../model.ts';
import { soundBody } from '../../texts/index.ts';
import { ENTITY_SCHEMAS, type EntitySchema } from './entity-schemas.ts';
import { LONGEST_KEY, type MakeSound } from '../../kinds/fields.ts';

/** Makes the texts within a value sound; gives the very value where there was nothing to do. */
type Mend = (value: unknown) => unknown;

interface Inside {
  type: string;
  fields?: Record<string, Inside>;
  innerType?: Inside;
  spec: {
    meta?: {
      makeSound?: MakeSound;
      makeKeysSound?: boolean;
      holdsEntities?: boolean;
      holdsPlaced?: boolean;
      oneOfKinds?: Record<string, unknown>;
    };
  };
}

const isRecord = (x: unknown): x is Fields => typeof x === 'object' && x !== null && !Array.isArray(x);

function mendFields(mends: readonly (readonly [string, Mend])[]): Mend {
  return (value) => {
    if (!isRecord(value)) return value;
    let out = value;
    for (const [key, mend] of mends) {
      if (!Object.hasOwn(value, key)) continue;
      const mended = mend(value[key]);
      if (mended !== value[key]) out = { ...out, [key]: mended };
    }
    return out;
  };
}

const mendEach =
  (mend: Mend): Mend =>
  (value) => {
    if (!Array.isArray(value)) return value;
    const mended = value.map(mend);
    return mended.some((v, i) => v !== value[i]) ? mended : value;
  };

const mendKeys: Mend = (value) => {
  if (!isRecord(value)) return value;
  const entries = Object.entries(value).map(([key, v]) => [soundBody(key, LONGEST_KEY), v] as const);
  return entries.every(([key]) => Object.hasOwn(value, key)) ? value : Object.fromEntries(entries);
};

const mendEntity: Mend = (value) =>
  isRecord(value) && typeof value.type === 'string' ? (MENDS.get(value.type)?.(value) ?? value) : value;

/** What a schema's texts need; null where it holds none. */
function mendOf(schema: Inside): Mend | null {
  const { makeSound, makeKeysSound, holdsEntities, holdsPlaced, oneOfKinds } = schema.spec.meta ?? {};
  if (makeSound) return (value) => (typeof value === 'string' ? makeSound(value) : value);
  if (makeKeysSound) return mendKeys;
  if (holdsEntities) return mendEach(mendEntity);
  if (holdsPlaced) return mendFields([['placed', mendEntity]]);
  if (oneOfKinds) {
    const mends = new Map(Object.entries(oneOfKinds).map(([kind, shape]) => [kind, mendOf(shape as Inside)]));
    return (value) =>
      isRecord(value) ? (typeof value.kind === 'string' && mends.get(value.kind)?.(value)) || value : value;
  }
  if (schema.type === 'object') {
    const mends = Object.entries(schema.fields ?? {}).flatMap(([key, field]) => {
      const mend = mendOf(field);
      return mend ? [[key, mend] as const] : [];
    });
    return mends.length > 0 ? mendFields(mends) : null;
  }
  const inner = schema.innerType && mendOf(schema.innerType);
  return inner ? mendEach(inner) : null;
}

const MENDS = new Map(
  Object.entries(ENTITY_SCHEMAS).map(([type, schema]: [string, EntitySchema]) => [
    type,
    mendOf(schema as unknown as Inside) ?? ((v: unknown) => v),
  ]),
);

/** An entity whose texts may be stored: trimmed, shortened with an ellipsis, without what is no character. */
export const soundEntity = <T extends Entity>(entity: T): T => mendEntity(entity) as T;

/**
 * The change as it may be stored: the one door for every text that a person types or a sheet brings. `model` tells the
 * types of what is set.
 */
export function soundChange(model: Model, change: Change): Change {
  const added = new Map<string, EntityType>();
  const mend = (c: Change): Change => {
    switch (c.type) {
      case 'group': {
        const changes = c.changes.map(mend);
        return changes.some((part, i) => part !== c.changes[i]) ? { type: 'group', changes } : c;
      }
      case 'add': {
        added.set(c.entity.id, c.entity.type);
        const entity = soundEntity(c.entity);
        return entity === c.entity ? c : { type: 'add', entity };
      }
      case 'set': {
        const type = added.get(c.id) ?? model.get(c.id)?.type;
        const after = (type ? (MENDS.get(type)?.(c.after) ?? c.after) : c.after) as Fields;
        return after === c.after ? c : { ...c, after };
      }
      case 'remove':
        return c;
    }
  };
  return mend(change);
}
