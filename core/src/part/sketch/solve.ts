import { equationsOf, type Equation } from './equations.ts';
import type { Sketch } from './sketch.ts';
import { Unknowns } from './unknowns.ts';

/** What came of solving a sketch. */
export interface Solved {
  sketch: Sketch;
  /** How far off the worst of its equations is, millimetres. */
  worst: number;
  /** Is that nothing? */
  holds: boolean;
  steps: number;
}

/** An equation holds within this, millimetres. */
export const HOLDS = 1e-9;
const MOST_STEPS = 200;
/** Damping begins here, and never ends quite: what is free stays where it is. */
const FIRST_DAMPING = 1e-3,
  LEAST_DAMPING = 1e-13,
  MOST_DAMPING = 1e12;

/**
 * Brings the points and radii of a sketch to where all its rules hold, as near as they are to where they lie (Levenberg-Marquardt over the equations
 * in the smaller of both measures: as many as there are equations). Where they cannot all hold, to where they are least off together. Throws
 * SketchError for rules that name what is not there.
 */
export function solveSketch(sketch: Sketch): Solved {
  const unknowns = new Unknowns(sketch),
    equations = nearTogether(equationsOf(unknowns), unknowns),
    { values, worst, steps } = solve(unknowns.values, equations);
  return { sketch: unknowns.with(values), worst, holds: worst <= HOLDS, steps };
}

/** Equations of neighbouring unknowns beside one another: what they have in common lies near the diagonal then. */
function nearTogether(equations: readonly Equation[], { values, count }: Unknowns): Equation[] {
  const first = new Map(
    equations.map((e) => {
      const row = new Float64Array(count);
      e.at(values, row);
      return [e, row.findIndex((v) => v !== 0)];
    }),
  );
  return [...equations].sort((a, b) => first.get(a)! - first.get(b)!);
}

/** A sketch with a point put somewhere, and all rules holding again as near to that as they can: what is dragged moves as far as it is free. */
export function dragged(sketch: Sketch, pointId: string, to: readonly [number, number]): Solved {
  return solveSketch({
    ...sketch,
    points: sketch.points.map((p) => (p.id === pointId ? { ...p, at: [to[0], to[1]] } : p)),
  });
}

/** Values and rows of equations, in one piece of memory for all steps. */
export class System {
  readonly off: Float64Array;
  readonly rows: Float64Array[];

  constructor(
    readonly equations: readonly Equation[],
    readonly unknowns: number,
  ) {
    this.off = new Float64Array(equations.length);
    this.rows = equations.map(() => new Float64Array(unknowns));
  }

  /** How far off all are together, squared. */
  at(values: Float64Array): number {
    let sum = 0;
    this.equations.forEach((e, i) => {
      this.rows[i].fill(0);
      const off = e.at(values, this.rows[i]);
      this.off[i] = off;
      sum += off * off;
    });
    return sum;
  }
}

const worstOf = (off: Float64Array): number => off.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

function solve(
  begin: Float64Array,
  equations: readonly Equation[],
): { values: Float64Array; worst: number; steps: number } {
  const m = equations.length,
    n = begin.length;
  let values: Float64Array = Float64Array.from(begin);
  if (m === 0) return { values, worst: 0, steps: 0 };
  let system = new System(equations, n),
    next = new System(equations, n),
    sum = system.at(values),
    damping = FIRST_DAMPING,
    steps = 0;
  const normal = new Float64Array(m * m),
    weights = new Float64Array(m);
  while (steps < MOST_STEPS && worstOf(system.off) > HOLDS / 10) {
    steps++;
    const from = square(system.rows, normal);
    let better = false;
    while (damping < MOST_DAMPING) {
      const trial = stepOf(system, { normal, from }, damping, weights, values);
      if (trial) {
        const then = next.at(trial);
        if (then < sum) {
          const settled = sum - then < 1e-15 * sum;
          values = trial;
          sum = then;
          [system, next] = [next, system];
          damping = Math.max(LEAST_DAMPING, damping / 10);
          better = !settled;
          break;
        }
      }
      damping *= 10;
    }
    if (!better) break;
  }
  return { values, worst: worstOf(system.off), steps };
}

/** Rows by rows, each with each; gives from where on each has something in common with others before it. */
function square(rows: readonly Float64Array[], out: Float64Array): Int32Array {
  const m = rows.length,
    from = new Int32Array(m),
    /** Rows by the unknowns that they have. */
    having: number[][] = Array.from({ length: rows[0]?.length ?? 0 }, () => []);
  out.fill(0);
  for (let i = 0; i < m; i++) {
    const row = rows[i];
    from[i] = i;
    for (let k = 0; k < row.length; k++) {
      if (row[k] === 0) continue;
      having[k].push(i);
      for (const j of having[k]) {
        out[i * m + j] += row[k] * rows[j][k];
        if (j < from[i]) from[i] = j;
      }
    }
  }
  return from;
}

/** The shortest step that takes all off, damped; null where the damped rows are still none. */
function stepOf(
  { off, rows }: System,
  { normal, from }: { normal: Float64Array; from: Int32Array },
  damping: number,
  weights: Float64Array,
  values: Float64Array,
): Float64Array | null {
  const m = off.length,
    l = new Float64Array(m * m);
  let mean = 0;
  for (let i = 0; i < m; i++) mean += normal[i * m + i] / m;
  const damp = damping * (mean + LEAST_DAMPING);
  for (let i = 0; i < m; i++)
    for (let j = from[i]; j <= i; j++) {
      let s = normal[i * m + j];
      if (i === j) s += damp;
      for (let k = Math.max(from[i], from[j]); k < j; k++) s -= l[i * m + k] * l[j * m + k];
      if (i === j) {
        if (!(s > 0)) return null;
        l[i * m + i] = Math.sqrt(s);
      } else l[i * m + j] = s / l[j * m + j];
    }
  for (let i = 0; i < m; i++) {
    let s = -off[i];
    for (let k = from[i]; k < i; k++) s -= l[i * m + k] * weights[k];
    weights[i] = s / l[i * m + i];
  }
  for (let i = m - 1; i >= 0; i--) {
    const w = weights[i] / l[i * m + i];
    weights[i] = w;
    for (let k = from[i]; k < i; k++) weights[k] -= l[i * m + k] * w;
  }
  const trial = Float64Array.from(values);
  for (let i = 0; i < m; i++) {
    const row = rows[i],
      w = weights[i];
    if (w !== 0) for (let k = 0; k < row.length; k++) if (row[k] !== 0) trial[k] += w * row[k];
  }
  return trial.every(Number.isFinite) ? trial : null;
}
