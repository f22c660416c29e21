import type { Entity } from '../entities.ts';
import type { Model } from '../model.ts';

/** Puts an entity that is not there yet. */
export interface AddChange {
  type: 'add';
  entity: Entity;
}
/** Takes an entity away; carries it whole, so that it can come back. */
export interface RemoveChange {
  type: 'remove';
  entity: Entity;
}
/** Replaces fields of an entity, naming the values that it expects to replace. */
export interface SetChange {
  type: 'set';
  id: string;
  before: Fields;
  after: Fields;
}
/** Several changes that are one step for the person. */
export interface GroupChange {
  type: 'group';
  changes: Change[];
}

export type Fields = Record<string, unknown>;
export type Change = AddChange | RemoveChange | SetChange | GroupChange;

/** Why a change does not apply: the entity is there already, is gone, or is not as the change expects. */
export type Refusal = { code: 'exists' | 'missing' | 'stale'; id: string };

export type Applied = { ok: true; model: Model; inverse: Change } | { ok: false; refusal: Refusal };
