import { normalAngle, TAU } from '../../geometry/index.ts';
import {
  arcFields,
  isCircle,
  ofType,
  tracedOn,
  DRIVING,
  type ConstructionLine,
  type Line,
  type Model,
  type Pair,
  type Rule,
  type RulePlace,
  type TracedArc,
} from '../../model/index.ts';
import type { Sketch, SketchCurve, SketchPoint, SketchRule } from '../sketch/sketch.ts';

/** Linework that rules can hold: lines, construction lines, arcs and circles. */
export type Ruled = Line | ConstructionLine | TracedArc;
const RULED: ReadonlySet<string> = new Set(['line', 'constructionLine', 'arc']);
export const isRuled = (e: { type: string }): e is Ruled => RULED.has(e.type);

/** Grips of an arc that are points of a sketch: its ends and its centre; of a circle its centre alone. */
export const centreGrip = (e: TracedArc): number => (isCircle(e) ? 4 : 3);
export function pointGrips(e: Ruled): number[] {
  if (e.type !== 'arc') return [0, 1];
  return isCircle(e) ? [4] : [0, 1, 3];
}

export const pointId = (id: string, grip: number): string => `${id}.${grip}`;
const placeId = ({ id, grip }: RulePlace): string => (grip === null ? id : pointId(id, grip));

/** Where a point of linework is. */
export function pointOf(e: Ruled, grip: number): Pair {
  if (e.type !== 'arc') return grip === 0 ? e.from : e.to;
  if (grip === centreGrip(e)) return e.centre;
  const angle = e.start + (grip === 1 ? e.sweep : 0);
  return [e.centre[0] + e.radius * Math.cos(angle), e.centre[1] + e.radius * Math.sin(angle)];
}

/** Is a rule's place something that a sketch has? */
export function placeStands(place: RulePlace, find: (id: string) => { type: string } | undefined): boolean {
  const e = find(place.id);
  if (!e || !isRuled(e)) return false;
  return place.grip === null || pointGrips(e).includes(place.grip);
}

export const rulesOn = (model: Model, planeId: string): Rule[] =>
  ofType(model, 'rule').filter((r) => r.planeId === planeId);

const isDriving = (kind: Rule['kind']): boolean => (DRIVING as readonly string[]).includes(kind);

/** A rule as the solver takes it; `fixedAt` tells where what is fixed stays. */
function ruleOf(rule: Rule, fixedAt: (place: RulePlace) => Pair): SketchRule {
  const of = rule.of.map(placeId);
  if (rule.kind === 'fixed') return { id: rule.id, kind: 'fixed', of: [of[0]], at: fixedAt(rule.of[0]) };
  if (isDriving(rule.kind)) return { id: rule.id, kind: rule.kind, of, value: rule.value ?? 0 } as SketchRule;
  return { id: rule.id, kind: rule.kind, of } as SketchRule;
}

/** What of a plane takes part: all that rules name, and what hangs on it. */
export interface PlaneSketch {
  sketch: Sketch;
  /** Linework by its id. */
  ruled: ReadonlyMap<string, Ruled>;
  rules: readonly Rule[];
  /** Rules that name what is not there, or no part of a sketch. */
  lost: readonly Rule[];
}

/**
 * The linework of a plane that rules name, as a sketch. What is fixed stays where `before` has it (the model before a change; the same model where none
 * is given).
 */
export function planeSketch(model: Model, planeId: string, before: Model = model): PlaneSketch {
  const all = rulesOn(model, planeId),
    find = (id: string) => {
      const e = model.get(id);
      return e && isRuled(e) && e.planeId === planeId ? e : undefined;
    },
    rules = all.filter((r) => r.of.every((p) => placeStands(p, find))),
    ids = new Set(rules.flatMap((r) => r.of.map((p) => p.id))),
    ruled = new Map([...ids].map((id) => [id, find(id)!]));
  const fixedAt = (p: RulePlace): Pair => {
    const was = before.get(p.id);
    return pointOf(was && isRuled(was) && placeStands(p, () => was) ? was : ruled.get(p.id)!, p.grip ?? 0);
  };
  return {
    sketch: { ...sketchPieces(ruled.values()), rules: rules.map((r) => ruleOf(r, fixedAt)) },
    ruled,
    rules,
    lost: all.filter((r) => !rules.includes(r)),
  };
}

/** Linework as the points and curves of a sketch. */
export function sketchPieces(ruled: Iterable<Ruled>): { points: SketchPoint[]; curves: SketchCurve[] } {
  const points: SketchPoint[] = [],
    curves: SketchCurve[] = [];
  for (const e of ruled) {
    for (const grip of pointGrips(e)) points.push({ id: pointId(e.id, grip), at: pointOf(e, grip) });
    if (e.type !== 'arc')
      curves.push({ id: e.id, kind: 'line', from: pointId(e.id, 0), to: pointId(e.id, 1) });
    else if (isCircle(e))
      curves.push({ id: e.id, kind: 'circle', centre: pointId(e.id, 4), radius: e.radius });
    else
      curves.push({
        id: e.id,
        kind: 'arc',
        centre: pointId(e.id, 3),
        from: pointId(e.id, 0),
        to: pointId(e.id, 1),
      });
  }
  return { points, curves };
}

/** Linework where a solved sketch has it; null for what would be no linework there: a line or an arc of no length. */
export function fromSketch(
  e: Ruled,
  sketch: Sketch,
  at: ReadonlyMap<string, SketchPoint>,
): Partial<Ruled> | null {
  const point = (grip: number): Pair => [...at.get(pointId(e.id, grip))!.at];
  if (e.type !== 'arc') {
    const [from, to] = [point(0), point(1)];
    return Math.hypot(to[0] - from[0], to[1] - from[1]) > 1e-9 ? { from, to } : null;
  }
  if (isCircle(e)) {
    const curve = sketch.curves.find((c) => c.id === e.id),
      radius = curve?.kind === 'circle' ? curve.radius : e.radius;
    return radius > 1e-9 ? { centre: point(4), radius } : null;
  }
  const [from, to, centre] = [point(0), point(1), point(3)],
    radius = Math.hypot(from[0] - centre[0], from[1] - centre[1]),
    start = Math.atan2(from[1] - centre[1], from[0] - centre[0]),
    end = Math.atan2(to[1] - centre[1], to[0] - centre[0]),
    sweep = normalAngle(end - start);
  if (!(radius > 1e-9) || !(sweep > 1e-9) || sweep > TAU - 1e-9) return null;
  return arcFields({
    cx: centre[0],
    cy: centre[1],
    r: radius,
    start: normalAngle(start),
    end: normalAngle(start) + sweep,
  });
}

/** All linework of a plane that rules could hold. */
export const ruledOn = (model: Model, planeId: string): Ruled[] => tracedOn(model, planeId).filter(isRuled);
