import {
  apply,
  get,
  ofType,
  touchedIds,
  type Change,
  type Entity,
  type Model,
  type Pair,
  type Rule,
} from '../../model/index.ts';
import type { Sketch } from '../sketch/sketch.ts';
import { solveSketch } from '../sketch/solve.ts';
import { foundRules } from './found.ts';
import {
  fromSketch,
  isRuled,
  planeSketch,
  pointGrips,
  pointId,
  pointOf,
  ruledOn,
  rulesOn,
  type PlaneSketch,
} from './of-plane.ts';

/** On planes with more linework rules are not looked for as one draws, but when they are asked for. */
const MOST_FOLLOWED = 120;
/** Changes smaller than this are none, millimetres. */
const NONE = 1e-12;

/**
 * A change with what follows from the rules on the planes that it touches: linework comes to where they hold, rules whose linework is gone go with it.
 * What a person moved stays as near to where they put it as the rules allow; of what a figure drives, the end that is nearer to the plane's zero stays.
 * Where rules contradict one another the linework stays as the change has it: see planeState. With `newId` what is drawn on a plane of a part is given the
 * rules that nearly hold there.
 */
export function settled(before: Model, drawn: Change, newId: (() => string) | null = null): Change {
  const change = newId ? withFound(before, drawn, newId) : drawn;
  // Most projects have no rules: their changes pass at once.
  if (!before.hasType('rule') && !addsRule(change)) return change;
  const ids = new Set(touchedIds(change));
  const touched = [...ids].flatMap((id) => [before.get(id)]);
  const applied = apply(before, change);
  if (!applied.ok) return change;
  const planes = new Set<string>();
  for (const e of [...touched, ...[...ids].map((id) => applied.model.get(id))])
    if (e && (e.type === 'rule' || isRuled(e))) planes.add(e.planeId);
  const more: Change[] = [];
  for (const planeId of planes) {
    if (ofType(applied.model, 'rule').every((r) => r.planeId !== planeId)) continue;
    more.push(...followed(planeSketch(applied.model, planeId, before), before, applied.model, ids));
  }
  return more.length === 0 ? change : { type: 'group', changes: [change, ...more] };
}

/** Lines and arcs that are drawn on a plane of a part, with what holds nearly between them and what is there. */
function withFound(before: Model, change: Change, newId: () => string): Change {
  if (!before.hasType('part')) return change;
  const added = addedIn(change).filter(isRuled),
    planes = new Set(added.map((e) => e.planeId).filter((id) => get(before, 'plane', id)?.partId));
  if (planes.size === 0 || addsRule(change)) return change;
  const applied = apply(before, change);
  if (!applied.ok || [...planes].some((id) => ruledOn(applied.model, id).length > MOST_FOLLOWED))
    return change;
  const found = [...planes].flatMap((planeId) =>
    foundRules(
      ruledOn(applied.model, planeId).filter((e) => e.type !== 'constructionLine'),
      rulesOn(applied.model, planeId),
      new Set(added.map((e) => e.id)),
    ).map((r): Change => ({
      type: 'add',
      entity: { type: 'rule', id: newId(), planeId, value: null, ...r },
    })),
  );
  return found.length === 0 ? change : { type: 'group', changes: [change, ...found] };
}

const addedIn = (change: Change): Entity[] =>
  change.type === 'group' ? change.changes.flatMap(addedIn) : change.type === 'add' ? [change.entity] : [];

const addsRule = (change: Change): boolean =>
  change.type === 'group'
    ? change.changes.some(addsRule)
    : change.type === 'add' && change.entity.type === 'rule';

function followed(plane: PlaneSketch, before: Model, after: Model, ids: ReadonlySet<string>): Change[] {
  const changes: Change[] = plane.lost.map((entity) => ({ type: 'remove', entity }));
  const solved = solvedNear(plane.sketch, held(plane, before, after, ids));
  if (!solved) return changes;
  const at = new Map(solved.points.map((p) => [p.id, p]));
  const moved: Change[] = [];
  for (const e of plane.ruled.values()) {
    const fields = fromSketch(e, solved, at);
    if (!fields) return changes;
    const was = Object.fromEntries(Object.keys(fields).map((k) => [k, e[k as keyof typeof e]]));
    if (differs(was, fields)) moved.push({ type: 'set', id: e.id, before: was, after: { ...fields } });
  }
  return [...changes, ...moved];
}

const differs = (a: object, b: object): boolean => {
  const [x, y] = [a, b].map((v) => Object.values(v).flat() as number[]);
  return x.some((v, i) => Math.abs(v - y[i]) > NONE);
};

/** Points that stay where the change has them, if that can be: those that it moved; of a figure that it changed the end that leads. */
function held(
  { ruled, rules }: PlaneSketch,
  before: Model,
  after: Model,
  ids: ReadonlySet<string>,
): Map<string, Pair> {
  const out = new Map<string, Pair>();
  for (const id of ids) {
    const now = after.get(id),
      was = before.get(id);
    if (!now || !isRuled(now) || !ruled.has(id)) continue;
    for (const grip of pointGrips(now)) {
      const to = pointOf(now, grip),
        from = was && isRuled(was) && pointGrips(was).includes(grip) ? pointOf(was, grip) : null;
      if (!from || Math.hypot(to[0] - from[0], to[1] - from[1]) > NONE) out.set(pointId(id, grip), to);
    }
  }
  if (out.size > 0) return out;
  for (const rule of rules) {
    if (!ids.has(rule.id) || rule.value === null) continue;
    const ends = endsOf(rule, ruled);
    const lead = ends.sort((a, b) => Math.hypot(...a.at) - Math.hypot(...b.at))[0];
    if (lead) out.set(lead.id, lead.at);
  }
  return out;
}

function endsOf(rule: Rule, ruled: PlaneSketch['ruled']): { id: string; at: Pair }[] {
  return rule.of.flatMap(({ id, grip }) => {
    const e = ruled.get(id)!,
      grips = grip === null ? pointGrips(e) : [grip];
    return grips.map((g) => ({ id: pointId(id, g), at: pointOf(e, g) }));
  });
}

/** Solved with some points held; where that cannot be, as near to it as the rules allow; null where these contradict one another. */
export function solvedNear(sketch: Sketch, hold: ReadonlyMap<string, Pair>): Sketch | null {
  const fixed = [...hold].map(([id, at]) => ({
    id: `held:${id}`,
    kind: 'fixed' as const,
    of: [id] as [string],
    at,
  }));
  const first = solveSketch({ ...sketch, rules: [...sketch.rules, ...fixed] });
  if (first.holds) return { ...first.sketch, rules: sketch.rules };
  const then = solveSketch({ ...first.sketch, rules: sketch.rules });
  if (then.holds) return then.sketch;
  // What was compromised may have led astray: once more from where all was.
  const again = solveSketch(sketch);
  return again.holds ? again.sketch : null;
}
