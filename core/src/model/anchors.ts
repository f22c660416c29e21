import { kindOf, type Anchor, type Pair, type Traced } from '../kinds/index.ts';
import { group, setFields, type Change } from './changes/index.ts';
import { isTraced, type Entity } from './entities.ts';
import type { Model } from './model.ts';
import { gripsOf } from './shape-of.ts';

/** Points nearer than this, millimetres, are one: a dimension picked there rests on what lies there. */
const RESTS = 1e-3;

/** How many of its grips others can rest on. */
const steady = (e: Traced): number => kindOf(e).steadyGrips ?? Infinity;

function anchored(model: Model, anchor: Anchor | null): Pair | null {
  const e = anchor && model.get(anchor.id);
  return e && isTraced(e) && kindOf(e).carries && anchor.grip < steady(e)
    ? (gripsOf(e)[anchor.grip] ?? null)
    : null;
}

/** An element with its points where what they rest on is now. */
export function rested<E extends Traced>(e: E, model: Model): E {
  const { rests } = kindOf(e);
  return !rests || rests.on(e).every((a) => a === null)
    ? e
    : rests.at(
        e,
        rests.on(e).map((a) => anchored(model, a)),
      );
}

/** What of an element rests on others: those that it is told to rest on instead; null lets it stay where it is. */
const renamed = <E extends Traced>(e: E, to: (anchor: Anchor) => Anchor | null): E =>
  kindOf(e).rests?.renamed(e, to) ?? e;

/** An element that rests on others of the same set by their new ids alone. */
export const restingWithin = <E extends Traced>(e: E, ids: ReadonlyMap<string, string>): E =>
  renamed(e, (a) => (ids.has(a.id) ? { ...a, id: ids.get(a.id)! } : null));

/** What a picked point rests on among elements: the first that has a grip there. */
export function anchorAt(elements: Iterable<Traced>, at: readonly [number, number]): Anchor | null {
  for (const e of elements) {
    if (!kindOf(e).carries) continue;
    const grip = gripsOf(e)
      .slice(0, steady(e))
      .findIndex((p) => Math.hypot(p[0] - at[0], p[1] - at[1]) <= RESTS);
    if (grip >= 0) return { id: e.id, grip };
  }
  return null;
}

const restsOnOne = (e: Entity, ids: ReadonlySet<string>): e is Traced =>
  isTraced(e) &&
  !ids.has(e.id) &&
  (kindOf(e)
    .rests?.on(e)
    .some((a) => a && ids.has(a.id)) ??
    false);

/** Takes elements away; what rests on them and stays keeps the points that it had on them. */
export function removeElements(model: Model, gone: readonly Traced[]): Change | null {
  const ids = new Set(gone.map((e) => e.id)),
    kept: (Change | null)[] = [];
  for (const e of model.values())
    if (restsOnOne(e, ids))
      kept.push(setFields<Traced>(e, fieldsOf(renamed(rested(e, model), (a) => (ids.has(a.id) ? null : a)))));
  return group([...kept, ...gone.map((entity): Change => ({ type: 'remove', entity }))]);
}

function fieldsOf(e: Traced): Partial<Omit<Traced, 'id' | 'type'>> {
  const { id: _, type: __, ...fields } = e;
  return fields;
}

/** Copies of elements, with new ids; those that rest on others rest on the copies of these, or where they are. */
export function copiesOf<T extends Traced>(elements: readonly T[], newId: () => string, model: Model): T[] {
  const ids = new Map(elements.map((e) => [e.id, newId()]));
  return elements.map((e) => restingWithin({ ...rested(e, model), id: ids.get(e.id)! }, ids));
}
