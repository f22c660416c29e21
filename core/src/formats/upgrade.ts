import { FORM, type Stored, type Upgrade } from './form.ts';
import { to2 } from './upgrades/to-2.ts';
import { to3 } from './upgrades/to-3.ts';

/** One for each form after the first, in order. */
const UPGRADES: readonly Upgrade[] = [to2, to3];

const isRecord = (value: unknown): value is Stored =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Groups of changes lie no deeper than this; what does is refused by whoever checks it. */
const DEEPEST = 8;

/** Fields by one upgrade, with the elements that a group (assembly) keeps within itself: no group lies within a group. */
function upgradedFields(fields: Stored, upgrade: Upgrade): Stored {
  const next = upgrade.fields(fields);
  const { elements, open } = next;
  const inner: Stored = {};
  if (Array.isArray(elements))
    inner.elements = elements.map((e: unknown) => (isRecord(e) ? upgrade.fields(e) : e));
  if (isRecord(open) && isRecord(open.placed)) inner.open = { ...open, placed: upgrade.fields(open.placed) };
  return Object.keys(inner).length > 0 ? { ...next, ...inner } : next;
}

function upgradedChange(change: unknown, upgrade: Upgrade, depth: number): unknown {
  if (!isRecord(change) || depth > DEEPEST) return change;
  const part = (value: unknown) => (isRecord(value) ? upgradedFields(value, upgrade) : value);
  if (change.type === 'group' && Array.isArray(change.changes))
    return { ...change, changes: change.changes.map((c) => upgradedChange(c, upgrade, depth + 1)) };
  if (change.type === 'set') return { ...change, before: part(change.before), after: part(change.after) };
  return 'entity' in change ? { ...change, entity: part(change.entity) } : change;
}

const later = (form: number): readonly Upgrade[] => UPGRADES.filter((u) => u.to > form);

/** An entity of any form as it is stored now; unchecked, as it came. The very value where it is of this form. */
export const upgradeEntity = (value: unknown, form: number): unknown =>
  form === FORM ? value : later(form).reduce((v, u) => (isRecord(v) ? upgradedFields(v, u) : v), value);

/** A change of any form as it is stored now; unchecked, as it came. The very value where it is of this form. */
export const upgradeChange = (value: unknown, form: number): unknown =>
  form === FORM ? value : later(form).reduce((v, u) => upgradedChange(v, u, 0), value);
