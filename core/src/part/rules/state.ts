import type { Model, Rule } from '../../model/index.ts';
import { stateOf } from '../sketch/state.ts';
import { planeSketch, ruledOn, pointGrips, pointId } from './of-plane.ts';

/** A rule that says what others say, or that cannot be together with them. */
export interface RuleClash {
  rule: Rule;
  with: Rule[];
}

/** What of a plane's linework is fixed. */
export interface PlaneState {
  rules: readonly Rule[];
  /** In how many ways the linework can still move, that which no rule names too. */
  freedom: number;
  /** Elements of which something can still move. */
  free: ReadonlySet<string>;
  redundant: RuleClash[];
  contradictory: RuleClash[];
}

/** The state of a plane's linework; a whole that can be moved and turned freely has three ways of these. */
export function planeState(model: Model, planeId: string): PlaneState {
  const { sketch, rules, ruled } = planeSketch(model, planeId),
    state = stateOf(sketch),
    byId = new Map(rules.map((r) => [r.id, r])),
    clash = (c: { rule: string; with: string[] }): RuleClash => ({
      rule: byId.get(c.rule)!,
      with: c.with.flatMap((id) => byId.get(id) ?? []),
    });
  const unruled = ruledOn(model, planeId).filter((e) => !ruled.has(e.id) && e.type !== 'constructionLine');
  const free = new Set(unruled.map((e) => e.id));
  for (const e of ruled.values())
    if (state.free.has(e.id) || pointGrips(e).some((g) => state.free.has(pointId(e.id, g)))) free.add(e.id);
  return {
    rules,
    freedom:
      state.freedom +
      unruled.reduce((n, e) => n + (e.type !== 'arc' ? 4 : pointGrips(e).length === 1 ? 3 : 5), 0),
    free,
    redundant: state.redundant.map(clash),
    contradictory: state.contradictory.map(clash),
  };
}
