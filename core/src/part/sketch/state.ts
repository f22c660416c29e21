import { equationsOf } from './equations.ts';
import type { Sketch } from './sketch.ts';
import { HOLDS, solveSketch, System } from './solve.ts';
import { Unknowns } from './unknowns.ts';

/** A rule that says what others say already, or what they contradict: with these it cannot be, and leaving any one of them resolves it. */
export interface Clash {
  rule: string;
  with: string[];
}

/** What of a sketch is fixed, and what is not. */
export interface SketchState {
  /** In how many ways it can still move. */
  freedom: number;
  /** Points, and circles by their radius, that can still move. */
  free: ReadonlySet<string>;
  /** Each way to move: how far it takes points (x, y) and the radii of circles, beside one another. */
  ways: ReadonlyMap<string, readonly number[]>[];
  /** Rules that follow from others. */
  redundant: Clash[];
  /** Rules that contradict others. */
  contradictory: Clash[];
}

/** Rows shorter than this share of their length, less what others say, say nothing of their own. */
const NOTHING_NEW = 1e-7;
/** A way to move that stirs an unknown by less than this leaves it where it is. */
const STILL = 1e-7;
/** What is off by more than this where nothing more can be done is a contradiction, millimetres. */
const CONTRADICTS = 1e-6;

/**
 * In how many ways a sketch can still move, and what of it; which rules follow from others, and which contradict others, with the fewest that they
 * do so with. By elimination of the equations where the sketch is solved: an equation that is a sum of others by itself is one of these.
 */
export function stateOf(given: Sketch): SketchState {
  const solved = solveSketch(given),
    unknowns = new Unknowns(solved.sketch),
    equations = equationsOf(unknowns),
    n = unknowns.count,
    system = new System(equations, n);
  system.at(unknowns.values);
  const basis: { row: Float64Array; pivot: number; of: Map<number, number> }[] = [],
    dependent: { equation: number; of: Map<number, number> }[] = [];
  system.rows.forEach((given, i) => {
    const row = Float64Array.from(given),
      of = new Map<number, number>([[i, 1]]),
      length = Math.hypot(...row);
    for (const b of basis) {
      const times = row[b.pivot];
      if (times === 0) continue;
      for (let k = 0; k < n; k++) row[k] -= times * b.row[k];
      row[b.pivot] = 0;
      for (const [e, w] of b.of) of.set(e, (of.get(e) ?? 0) - times * w);
    }
    let pivot = 0;
    for (let k = 1; k < n; k++) if (Math.abs(row[k]) > Math.abs(row[pivot])) pivot = k;
    if (n === 0 || !(Math.abs(row[pivot]) > NOTHING_NEW * (length || 1))) {
      dependent.push({ equation: i, of });
      return;
    }
    const by = 1 / row[pivot];
    for (let k = 0; k < n; k++) row[k] *= by;
    for (const [e, w] of of) of.set(e, w * by);
    // The others lose what they have of it, so that each has its pivot alone.
    for (const b of basis) {
      const times = b.row[pivot];
      if (times === 0) continue;
      for (let k = 0; k < n; k++) b.row[k] -= times * row[k];
      b.row[pivot] = 0;
      for (const [e, w] of of) b.of.set(e, (b.of.get(e) ?? 0) - times * w);
    }
    basis.push({ row, pivot, of });
  });
  const redundant: Clash[] = [],
    contradictory: Clash[] = [];
  for (const { equation, of } of dependent) {
    const rule = equations[equation].rule,
      largest = Math.max(...[...of.values()].map(Math.abs)),
      others = new Set<string>();
    let off = 0;
    for (const [e, w] of of) {
      if (Math.abs(w) <= STILL * largest) continue;
      off += w * system.off[e];
      const other = equations[e].rule;
      if (other !== null && other !== rule) others.add(other);
    }
    // An arc says nothing that can be taken away.
    const own = rule ?? [...others][0];
    if (own === undefined) continue;
    others.delete(own);
    const clash = { rule: own, with: [...others] };
    (Math.abs(off) > (solved.worst > HOLDS ? CONTRADICTS : Infinity) ? contradictory : redundant).push(clash);
  }
  return {
    freedom: n - basis.length,
    ...movesOf(unknowns, basis),
    redundant,
    contradictory,
  };
}

/** The ways to move that are left, one to each unknown without a pivot, and what they stir. */
function movesOf(
  { sketch, count }: Unknowns,
  basis: readonly { row: Float64Array; pivot: number }[],
): Pick<SketchState, 'free' | 'ways'> {
  const pivots = new Set(basis.map((b) => b.pivot)),
    free = new Set<string>(),
    ways: Map<string, readonly number[]>[] = [];
  for (let k = 0; k < count; k++) {
    if (pivots.has(k)) continue;
    const move = new Float64Array(count),
      way = new Map<string, readonly number[]>();
    move[k] = 1;
    for (const { row, pivot } of basis) if (Math.abs(row[k]) > STILL) move[pivot] = -row[k];
    sketch.points.forEach((p, i) => {
      if (move[2 * i] !== 0 || move[2 * i + 1] !== 0) way.set(p.id, [move[2 * i], move[2 * i + 1]]);
    });
    let at = 2 * sketch.points.length;
    for (const c of sketch.curves)
      if (c.kind === 'circle') {
        if (move[at] !== 0) way.set(c.id, [move[at]]);
        at++;
      }
    for (const id of way.keys()) free.add(id);
    ways.push(way);
  }
  return { free, ways };
}
