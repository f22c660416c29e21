import { apply, touchedIds, type Change, type Refusal } from './changes/index.ts';
import type { Model } from './model.ts';
import { brokenBy, entitiesOf } from './references.ts';
import { parseEntity, soundChange } from './schema/index.ts';

export type Prepared = { ok: true; change: Change; model: Model } | { ok: false; refusal: Refusal } | { ok: false; invalid: string };

/**
 * A change as it will be saved, and what it leads to: its texts made sound, checked by the schema and the references that the
 * server checks. What is shown before the server has answered went through this.
 */
export function prepare(model: Model, wanted: Change): Prepared {
  const change = soundChange(model, wanted);
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
