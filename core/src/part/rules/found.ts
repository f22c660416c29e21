import {
  isCircle,
  type Pair,
  type RelationKind,
  type Rule,
  type RulePlace,
  type TracedArc,
} from '../../model/index.ts';
import { stateOf } from '../sketch/state.ts';
import { solveSketch } from '../sketch/solve.ts';
import type { SketchRule } from '../sketch/sketch.ts';
import {
  centreGrip,
  placeStands,
  pointGrips,
  pointId,
  pointOf,
  sketchPieces,
  type Ruled,
} from './of-plane.ts';

/** How near to true something must be, to be taken for it. */
export interface Nearness {
  /** Points and lines, millimetres. */
  off: number;
  /** Directions, radians. */
  angle: number;
}
/** What a snap or a clean sheet gives. */
export const USUAL_NEARNESS: Nearness = { off: 0.05, angle: 0.004 };

/** A rule that is so, without an id yet. */
export type FoundRule = Pick<Rule, 'kind' | 'of'>;

/** More of them than this are not looked through for rules. */
export const MOST_LOOKED_THROUGH = 250;

const distance = (p: Pair, q: Pair) => Math.hypot(p[0] - q[0], p[1] - q[1]);
const whole = (id: string): RulePlace => ({ id, grip: null });

/** Sets of what has been put together, so that nothing is said twice. */
class Together {
  private readonly parent = new Map<string, string>();
  find(id: string): string {
    const up = this.parent.get(id);
    if (up === undefined || up === id) return id;
    const root = this.find(up);
    this.parent.set(id, root);
    return root;
  }
  /** True where they were not yet. */
  join(a: string, b: string): boolean {
    const [x, y] = [this.find(a), this.find(b)];
    if (x === y) return false;
    this.parent.set(x, y);
    return true;
  }
}

/**
 * Rules that hold nearly between pieces of linework, and that would make it true: ends together, centres together, lines level and upright, or parallel
 * or square to one another where they are neither, touching where they join, of one length or radius. What others say already is left out, as is what
 * contradicts those that are there (`given`). New pieces are told from others (`fresh`): a rule names one of them at least.
 */
export function foundRules(
  all: readonly Ruled[],
  given: readonly Rule[],
  fresh: ReadonlySet<string>,
  near: Nearness = USUAL_NEARNESS,
): FoundRule[] {
  if (all.length > MOST_LOOKED_THROUGH) return [];
  const find = (id: string) => all.find((e) => e.id === id),
    standing = given.filter((r) => r.of.every((p) => placeStands(p, find))),
    candidates = [
      ...joins(all, standing, near),
      ...directions(all, near),
      ...touches(all, near),
      ...equals(all, near),
      ...rests(all, standing, near),
      ...mirrored(all, near),
    ].filter((r) => r.of.some((p) => fresh.has(p.id)) && !standing.some((s) => sameRule(s, r)));
  return independent(all, standing, candidates, near);
}

const sameRule = (a: FoundRule, b: FoundRule): boolean =>
  a.kind === b.kind &&
  a.of.length === b.of.length &&
  a.of.every((p) => b.of.some((q) => q.id === p.id && q.grip === p.grip));

function joins(all: readonly Ruled[], given: readonly Rule[], { off }: Nearness): FoundRule[] {
  const points = all.flatMap((e) =>
    pointGrips(e).map((grip) => ({
      place: { id: e.id, grip },
      at: pointOf(e, grip),
      centre: e.type === 'arc' && grip === centreGrip(e),
    })),
  );
  const sets = new Together(),
    out: FoundRule[] = [];
  for (const rule of given)
    if (rule.kind === 'together')
      sets.join(...(rule.of.map((p) => pointId(p.id, p.grip!)) as [string, string]));
  // By columns of one nearness, so that not each is held against each.
  const columns = new Map<number, typeof points>();
  for (const p of points) {
    const column = Math.floor(p.at[0] / off);
    columns.set(column, [...(columns.get(column) ?? []), p]);
  }
  for (const p of points) {
    const column = Math.floor(p.at[0] / off);
    for (const c of [column, column + 1])
      for (const q of columns.get(c) ?? []) {
        if (q === p || q.place.id === p.place.id || distance(p.at, q.at) > off) continue;
        // A centre rests on a centre, an end on an end.
        if (p.centre !== q.centre) continue;
        if (!sets.join(pointId(p.place.id, p.place.grip), pointId(q.place.id, q.place.grip))) continue;
        out.push({ kind: 'together', of: [p.place, q.place] });
      }
  }
  return out;
}

const directionOf = (e: Exclude<Ruled, TracedArc>): number =>
  Math.atan2(e.to[1] - e.from[1], e.to[0] - e.from[0]);
/** How far a direction is from another as lines have them, radians. */
const between = (a: number, b: number): number => {
  const d = Math.abs(a - b) % Math.PI;
  return Math.min(d, Math.PI - d);
};

function directions(all: readonly Ruled[], { angle }: Nearness): FoundRule[] {
  const lines = all.filter((e): e is Exclude<Ruled, TracedArc> => e.type !== 'arc'),
    slanting: Exclude<Ruled, TracedArc>[] = [],
    out: FoundRule[] = [];
  for (const line of lines) {
    const way = directionOf(line);
    if (between(way, 0) <= angle) out.push({ kind: 'level', of: [whole(line.id)] });
    else if (between(way, Math.PI / 2) <= angle) out.push({ kind: 'upright', of: [whole(line.id)] });
    else {
      const like = slanting.find((s) => between(directionOf(s), way) <= angle),
        across = slanting.find((s) => between(directionOf(s), way + Math.PI / 2) <= angle);
      if (like) out.push({ kind: 'parallel', of: [whole(like.id), whole(line.id)] });
      else if (across) out.push({ kind: 'square', of: [whole(across.id), whole(line.id)] });
      slanting.push(line);
    }
  }
  return out;
}

/** The direction of a piece at one of its ends. */
function wayAt(e: Ruled, grip: number): number {
  if (e.type !== 'arc') return directionOf(e);
  return e.start + (grip === 1 ? e.sweep : 0) + Math.PI / 2;
}

/** Pieces that run on into one another where they join. */
function touches(all: readonly Ruled[], { off, angle }: Nearness): FoundRule[] {
  const open = all.filter((e) => e.type !== 'arc' || !isCircle(e)),
    out: FoundRule[] = [];
  for (let i = 0; i < open.length; i++)
    for (let j = i + 1; j < open.length; j++) {
      const [a, b] = [open[i], open[j]];
      if (a.type !== 'arc' && b.type !== 'arc') continue;
      const met = [0, 1]
        .flatMap((g) => [0, 1].map((h) => [g, h]))
        .find(([g, h]) => distance(pointOf(a, g), pointOf(b, h)) <= off);
      if (met && between(wayAt(a, met[0]), wayAt(b, met[1])) <= 2.5 * angle)
        out.push({ kind: 'touching', of: [whole(a.id), whole(b.id)] });
    }
  return out;
}

function equals(all: readonly Ruled[], { off }: Nearness): FoundRule[] {
  const rounds = all.filter((e): e is TracedArc => e.type === 'arc'),
    leaders: TracedArc[] = [],
    out: FoundRule[] = [];
  for (const e of rounds) {
    const like = leaders.find((l) => Math.abs(l.radius - e.radius) <= off && isCircle(l) === isCircle(e));
    if (like) out.push({ kind: 'equal', of: [whole(like.id), whole(e.id)] });
    else leaders.push(e);
  }
  return out;
}

/** Ends and centres that lie on a line of another: at its middle, else somewhere on it. What is joined to an end of it is not said again. */
function rests(all: readonly Ruled[], given: readonly Rule[], { off }: Nearness): FoundRule[] {
  const lines = all.filter((e): e is Exclude<Ruled, TracedArc> => e.type !== 'arc'),
    known = new Set(
      given.flatMap((r) =>
        RESTING.has(r.kind) && r.of[0] ? [`${r.of[0].id} ${r.of[0].grip} ${r.of[1]?.id}`] : [],
      ),
    ),
    out: FoundRule[] = [];
  for (const e of all)
    for (const grip of pointGrips(e)) {
      const p = pointOf(e, grip);
      for (const line of lines) {
        if (line.id === e.id || known.has(`${e.id} ${grip} ${line.id}`)) continue;
        const [a, b] = [pointOf(line, 0), pointOf(line, 1)],
          n = distance(a, b);
        if (n < off || distance(p, a) <= off || distance(p, b) <= off) continue;
        const t = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / (n * n),
          away = Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / n;
        if (away > off || t < 0 || t > 1) continue;
        const of = [{ id: e.id, grip }, whole(line.id)];
        out.push({ kind: Math.abs(t - 0.5) * n <= off ? 'middle' : 'on', of });
      }
    }
  return out;
}
const RESTING: ReadonlySet<Rule['kind']> = new Set<Rule['kind']>(['on', 'middle']);

/** Rounds of one size that a construction line mirrors: each with one other, not with all. */
function mirrored(all: readonly Ruled[], { off }: Nearness): FoundRule[] {
  const rounds = all.filter((e): e is TracedArc => e.type === 'arc'),
    out: FoundRule[] = [];
  for (const axis of all) {
    if (axis.type !== 'constructionLine') continue;
    const [[x, y], [u, v]] = [pointOf(axis, 0), pointOf(axis, 1)],
      n = Math.hypot(u - x, v - y);
    if (n < off) continue;
    const [dx, dy] = [(u - x) / n, (v - y) / n],
      side = ([px, py]: Pair) => (px - x) * dy - (py - y) * dx,
      through = ([px, py]: Pair): Pair => {
        const far = 2 * side([px, py]);
        return [px - far * dy, py + far * dx];
      };
    const taken = new Set<string>();
    for (const a of rounds) {
      if (taken.has(a.id) || Math.abs(side(a.centre)) <= off) continue;
      const b = rounds.find(
        (r) =>
          r.id !== a.id &&
          !taken.has(r.id) &&
          isCircle(r) === isCircle(a) &&
          Math.abs(r.radius - a.radius) <= off &&
          distance(r.centre, through(a.centre)) <= off,
      );
      if (!b) continue;
      taken.add(a.id).add(b.id);
      out.push({
        kind: 'symmetric',
        of: [{ id: a.id, grip: centreGrip(a) }, { id: b.id, grip: centreGrip(b) }, whole(axis.id)],
      });
    }
  }
  return out;
}

/** Those that say something of their own and can all be so at once, with what they move no more than what is near. */
function independent(
  all: readonly Ruled[],
  given: readonly Rule[],
  candidates: readonly FoundRule[],
  { off }: Nearness,
): FoundRule[] {
  if (candidates.length === 0) return [];
  const pieces = sketchPieces(all),
    id = (p: RulePlace) => (p.grip === null ? p.id : pointId(p.id, p.grip));
  const asRule = (r: FoundRule, name: string, value: number | null): SketchRule =>
    ({
      id: name,
      kind: r.kind,
      of: r.of.map(id),
      ...(value === null ? {} : { value }),
      ...(r.kind === 'fixed' ? { at: pieces.points.find((p) => p.id === id(r.of[0]))!.at } : {}),
    }) as SketchRule;
  let kept = candidates.map((rule, i) => ({ rule, name: `found:${i}` }));
  const rules = () => [
    ...given.map((r) => asRule(r, r.id, r.value)),
    ...kept.map((k) => asRule(k.rule, k.name, null)),
  ];
  for (let round = 0; round < 3 && kept.length > 0; round++) {
    const state = stateOf({ ...pieces, rules: rules() }),
      out = new Set(
        [...state.redundant, ...state.contradictory].map((c) => c.rule).filter((r) => r.startsWith('found:')),
      );
    if (out.size === 0) break;
    kept = kept.filter((k) => !out.has(k.name));
  }
  const solved = solveSketch({ ...pieces, rules: rules() }),
    farthest = Math.max(
      0,
      ...solved.sketch.points.map((p, i) => distance([...p.at] as Pair, [...pieces.points[i].at] as Pair)),
    );
  // What would move more than it was off by is not meant so: ends alone are put together then.
  if (!solved.holds || farthest > 20 * off)
    return kept.map((k) => k.rule).filter((r) => r.kind === ('together' satisfies RelationKind));
  return kept.map((k) => k.rule);
}
