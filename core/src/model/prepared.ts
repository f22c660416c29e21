import { apply, touchedIds, type Change, type Refusal } from './changes/index.ts';
import type { Model } from './model.ts';
import { brokenBy, entitiesOf } from './references.ts';
import { parseEntity, soundChange } from './schema/index.ts';

/** The outcome; `invalid` says in words why the change can never be saved. */
export type Prepared =
  | { ok: true; change: Change; model: Model }
  | { ok: false; refusal: Refusal }
  | { ok: false; invalid: string };

/**
 * A change as it will be saved, and what it leads to: its texts made sound, checked by the schema and the references that the
 * server checks. What is shown before the server has answered went through this.
 */
export const prepare = (model: Model, wanted: Change): Prepared => checked(model, soundChange(model, wanted));

/** As prepare, for a change whose texts have been through it: one that takes another back must be exactly that. */
export function checked(model: Model, change: Change): Prepared {
  const applied = apply(model, change);
  if (!applied.ok) return applied;
  try {
    for (const id of touchedIds(change)) {
      const entity = applied.model.get(id);
      if (entity) parseEntity(entity);
    }
  } catch (error) {
    return { ok: false, invalid: error instanceof Error ? error.message : String(error) };
  }
  const broken = brokenBy(change, model, entitiesOf(applied.model));
  return broken ? { ok: false, invalid: broken } : { ok: true, change, model: applied.model };
}
