import { group, setFields, type Change } from './changes/index.ts';
import { kindOf, type Anchor, type Dimension, type Pair, type Traced } from '../kinds/index.ts';
import { isTraced } from './entities.ts';
import { ofType, type Model } from './model.ts';
import { gripsOf } from './shape-of.ts';

/** Points nearer than this, millimetres, are one: a dimension picked there rests on what lies there. */
const RESTS = 1e-3;

function anchored(model: Model, anchor: Anchor | null): Pair | null {
  const e = anchor && model.get(anchor.id);
  return e && isTraced(e) && kindOf(e).carriesDimensions ? gripsOf(e)[anchor.grip] ?? null : null;
}

/** A dimension with its points where the elements that they rest on are now. */
export function resolvedDimension(d: Dimension, model: Model): Dimension {
  if (d.on.every((a) => a === null)) return d;
  return { ...d, points: d.points.map((p, i) => anchored(model, d.on[i]) ?? p) };
}

/** What a picked point rests on among elements: the first that has a grip there. */
export function anchorAt(elements: Iterable<Traced>, at: readonly [number, number]): Anchor | null {
  for (const e of elements) {
    if (!kindOf(e).carriesDimensions) continue;
    const grip = gripsOf(e).findIndex((p) => Math.hypot(p[0] - at[0], p[1] - at[1]) <= RESTS);
    if (grip >= 0) return { id: e.id, grip };
  }
  return null;
}

/** Takes elements away; dimensions that stay keep the points that they had on them. */
export function removeElements(model: Model, gone: readonly Traced[]): Change | null {
  const ids = new Set(gone.map((e) => e.id));
  const kept = ofType(model, 'dimension').filter((d) => !ids.has(d.id) && d.on.some((a) => a && ids.has(a.id)));
  return group([
    ...kept.map((d) => setFields(d, { points: resolvedDimension(d, model).points, on: d.on.map((a) => (a && ids.has(a.id) ? null : a)) })),
    ...gone.map((entity): Change => ({ type: 'remove', entity })),
  ]);
}

/** Copies of elements, with new ids; dimensions among them rest on the copies of what they rested on, or where they are. */
export function copiesOf<T extends Traced>(elements: readonly T[], newId: () => string, model: Model): T[] {
  const ids = new Map(elements.map((e) => [e.id, newId()]));
  return elements.map((e) => {
    const copy = { ...e, id: ids.get(e.id)! };
    if (e.type !== 'dimension') return copy;
    const now = resolvedDimension(e, model);
    return { ...copy, points: now.points, on: e.on.map((a) => (a && ids.has(a.id) ? { ...a, id: ids.get(a.id)! } : null)) } as T;
  });
}
