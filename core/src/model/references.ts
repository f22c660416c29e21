import { touchedIds } from './changes/apply.ts';
import type { Change } from './changes/change.ts';
import type { Model } from './model.ts';
import { kindOf, KINDS, type Refers, type Traced } from '../kinds/index.ts';
import { isTraced, PLANE_TYPES, SETTINGS_ID, type Entity, type EntityType } from './entities.ts';

/** What an entity cannot be without: another entity, of one of these types. */
export interface Reference {
  types: readonly EntityType[];
  id: string;
  /** In words: what the entity has of it. */ as: string;
}

const plane = (id: string): Reference => ({ types: PLANE_TYPES, id, as: 'storey or plane' });

/**
 * What an entity stands on and may not outlive. What follows by rule is not among them: a dimension's point keeps its place where
 * what it rested on is gone, a source keeps its sheet's name, a part without its group is a free element.
 */
export function referencesOf(e: Entity): Reference[] {
  if (isTraced(e)) {
    const own = [plane(e.planeId)];
    if (e.layerId) own.push({ types: ['layer'], id: e.layerId, as: 'layer' });
    for (const { field, type, as } of kindOf(e).refers)
      own.push({ types: [type], id: e[field] as string, as });
    return own;
  }
  if (e.type === 'underlay') return [plane(e.planeId)];
  if (e.type === 'rule') return [plane(e.planeId)];
  if (e.type === 'plane') return e.partId ? [{ types: ['part'], id: e.partId, as: 'part' }] : [];
  if (e.type === 'feature') return [{ types: ['part'], id: e.partId, as: 'part' }];
  if (e.type === 'check' || e.type === 'calibration')
    return [{ types: ['underlay'], id: e.underlayId, as: 'sheet on the table' }];
  return [];
}

const OF_KINDS = Object.values(KINDS).flatMap((k) => k.refers as readonly Refers<Traced>[]);

/** Types that others may stand on: removing one of another type never leaves anything behind. */
export const STOOD_ON: ReadonlySet<EntityType> = new Set<EntityType>([
  ...PLANE_TYPES,
  'layer',
  'underlay',
  'part',
  ...OF_KINDS.map((r) => r.type),
]);

/** Fields by which entities name what they stand on; the same as in referencesOf, for a database that is to be asked. */
export const REFERRING_FIELDS: readonly string[] = [
  ...new Set(['planeId', 'layerId', 'underlayId', 'partId', ...OF_KINDS.map((r) => r.field)]),
];

/** What a step would leave broken, in words; null where nothing. */
export interface Entities {
  get(id: string): Entity | undefined;
  /** Others that may name one of these ids, all of them at least. */
  standingOn(ids: ReadonlySet<string>): Iterable<Entity>;
  /** Is there a storey that is none of those? */
  hasStoreyBeside(ids: ReadonlySet<string>): boolean;
}

/** Why the entities that a change touched cannot stay as they are `after` it: what they stand on is missing. Null where all stand. */
export function brokenBy(change: Change, before: Pick<Entities, 'get'>, after: Entities): string | null {
  const ids = new Set(touchedIds(change));
  const gone = new Set<string>();
  for (const id of ids) {
    const now = after.get(id),
      was = before.get(id);
    if (now) {
      const missing = missingOf(now, after, was);
      if (missing) return missing;
    } else if (was && STOOD_ON.has(was.type)) gone.add(id);
  }
  if (ids.has(SETTINGS_ID) && !after.get(SETTINGS_ID)) return 'a project cannot be without its settings';
  if (gone.size === 0) return null;
  const storeys = [...gone].some((id) => before.get(id)?.type === 'storey');
  if (storeys && !after.hasStoreyBeside(gone)) return 'a project needs one storey at least';
  for (const e of after.standingOn(gone)) {
    const on = referencesOf(e).find((r) => gone.has(r.id));
    if (on) return `something still needs the ${on.as} that it removes`;
  }
  return null;
}

/** A reference that is broken already is no reason to refuse a change of something else. */
function missingOf(e: Entity, after: Pick<Entities, 'get'>, was: Entity | undefined): string | null {
  const before = was ? referencesOf(was) : [];
  const missing = referencesOf(e).find(
    (r) => !stands(r, after.get(r.id)) && !before.some((b) => b.id === r.id && b.as === r.as),
  );
  return missing ? `the ${missing.as} that it needs is not there` : null;
}

const stands = ({ types }: Reference, e: Entity | undefined): boolean =>
  e !== undefined && types.includes(e.type);

/** Entities of a whole model, as brokenBy asks for them. */
export function entitiesOf(model: Model): Entities {
  return {
    get: (id) => model.get(id),
    standingOn: () => model.values(),
    hasStoreyBeside: (ids) => model.ofType('storey').some((e) => !ids.has(e.id)),
  };
}
