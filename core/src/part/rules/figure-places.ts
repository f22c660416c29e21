import type { Model, Pair, Rule } from '../../model/index.ts';
import { isRuled, pointGrips, pointOf, type Ruled } from './of-plane.ts';

/** Between what a figure that drives stands, plane millimetres. */
export type FigurePlaces =
  | { kind: 'straight'; measures: 'aligned' | 'horizontal' | 'vertical'; from: Pair; to: Pair }
  | { kind: 'round'; centre: Pair; radius: number }
  /** The two lines, each from one end to the other. */
  | { kind: 'angle'; first: [Pair, Pair]; second: [Pair, Pair] };

/** Where a figure stands in the linework as it is; null for what has no figure or is gone. */
export function figurePlaces(model: Model, rule: Rule): FigurePlaces | null {
  if (rule.value === null) return null;
  const elements = rule.of.map((p) => model.get(p.id)),
    ruled = elements.filter((e): e is Ruled => e !== undefined && isRuled(e));
  if (ruled.length !== elements.length || ruled.length === 0) return null;
  const ends = (i: number): Pair[] => {
    const { grip } = rule.of[i];
    return grip === null
      ? pointGrips(ruled[i])
          .slice(0, 2)
          .map((g) => pointOf(ruled[i], g))
      : [pointOf(ruled[i], grip)];
  };
  const all = ruled.map((_, i) => ends(i));
  if (rule.kind === 'radius' || rule.kind === 'diameter') {
    const [e] = ruled;
    return e.type === 'arc' ? { kind: 'round', centre: e.centre, radius: e.radius } : null;
  }
  if (rule.kind === 'angle') {
    const [a, b] = all;
    return a?.length === 2 && b?.length === 2
      ? { kind: 'angle', first: [a[0], a[1]], second: [b[0], b[1]] }
      : null;
  }
  const [p, q, r] = all.flat();
  if (!p || !q) return null;
  const between = (measures: 'aligned' | 'horizontal' | 'vertical', from: Pair, to: Pair): FigurePlaces => ({
    kind: 'straight',
    measures,
    from,
    to,
  });
  if (rule.kind === 'across') return between('horizontal', p, q);
  if (rule.kind === 'up') return between('vertical', p, q);
  if (rule.kind === 'length') return between('aligned', p, q);
  // A gap runs from its point square to the line.
  if (rule.kind !== 'gap' || !r) return null;
  const [dx, dy] = [r[0] - q[0], r[1] - q[1]],
    n = dx * dx + dy * dy,
    t = n === 0 ? 0 : ((p[0] - q[0]) * dx + (p[1] - q[1]) * dy) / n;
  return between('aligned', p, [q[0] + t * dx, q[1] + t * dy]);
}
