import { SketchError, type Unknowns } from './unknowns.ts';
import { isFigure, type SketchFigure, type SketchRelation, type SketchRule } from './sketch.ts';

/** What must be nothing: how far it is from that, millimetres, and how that changes with each unknown that it has. */
export interface Equation {
  /** The rule that it is of; null for what an arc is by itself. */
  rule: string | null;
  /** Writes the change with the unknowns into a row, which it adds to, and gives how far off it is. */
  at(v: Float64Array, row: Float64Array): number;
}

/** Shorter than this, millimetres, has no direction of its own. */
const NO_LENGTH = 1e-9;

/** A length between two places with its direction; of one place it looks along x. */
function span(v: Float64Array, p: number, q: number): { length: number; ux: number; uy: number } {
  const dx = v[q] - v[p],
    dy = v[q + 1] - v[p + 1],
    length = Math.hypot(dx, dy);
  return length < NO_LENGTH ? { length, ux: 1, uy: 0 } : { length, ux: dx / length, uy: dy / length };
}

/** Adds what a length between two places changes by, so many times. */
function addSpan(row: Float64Array, p: number, q: number, ux: number, uy: number, times: number): void {
  row[q] += times * ux;
  row[q + 1] += times * uy;
  row[p] -= times * ux;
  row[p + 1] -= times * uy;
}

/** The radius of a round, and what it adds to a row. */
function radiusOf(
  v: Float64Array,
  { centre, radius, from }: ReturnType<Unknowns['round']>,
): { value: number; add(row: Float64Array, times: number): void } {
  if (radius !== null)
    return {
      value: v[radius],
      add: (row, times) => {
        row[radius] += times;
      },
    };
  const { length, ux, uy } = span(v, centre, from!);
  return { value: length, add: (row, times) => addSpan(row, centre, from!, ux, uy, times) };
}

/** The equations of a sketch: of its arcs, then of its rules in their order. Throws SketchError for rules that name what is not there. */
export function equationsOf(unknowns: Unknowns): Equation[] {
  const { sketch } = unknowns;
  return [
    ...sketch.curves.flatMap((c): Equation[] => {
      if (c.kind !== 'arc') return [];
      const [o, a, b] = [unknowns.point(c.centre), unknowns.point(c.from), unknowns.point(c.to)];
      return [{ rule: null, at: difference(o, a, o, b) }];
    }),
    ...sketch.rules.flatMap((rule) => ofRule(unknowns, rule).map((at): Equation => ({ rule: rule.id, at }))),
  ];
}

type At = Equation['at'];

/** One distance less another. */
const difference =
  (a: number, b: number, c: number, d: number): At =>
  (v, row) => {
    const first = span(v, a, b),
      second = span(v, c, d);
    addSpan(row, a, b, first.ux, first.uy, 1);
    addSpan(row, c, d, second.ux, second.uy, -1);
    return first.length - second.length;
  };

const same =
  (i: number, j: number): At =>
  (v, row) => {
    row[i] += 1;
    row[j] -= 1;
    return v[i] - v[j];
  };

const distance =
  (p: number, q: number, value: number): At =>
  (v, row) => {
    const { length, ux, uy } = span(v, p, q);
    addSpan(row, p, q, ux, uy, 1);
    return length - value;
  };

/** How far a place lies to the left of a line, less a value. */
const beside =
  (p: number, [a, b]: readonly [number, number], value: (v: Float64Array, row: Float64Array) => number): At =>
  (v, row) => {
    const { length, ux, uy } = span(v, a, b),
      [px, py] = [v[p] - v[a], v[p + 1] - v[a + 1]],
      off = ux * py - uy * px,
      // How far along it lies, as a share: the line turns about what is beside it.
      t = length < NO_LENGTH ? 0 : (px * ux + py * uy) / length;
    row[p] -= uy;
    row[p + 1] += ux;
    row[a] += uy * (1 - t);
    row[a + 1] -= ux * (1 - t);
    row[b] += uy * t;
    row[b + 1] -= ux * t;
    return off - value(v, row);
  };

/** The angle from one line to another less a value, wrapped by a turn (or a half, where the sense of a line does not count). */
function turn(
  { values }: Unknowns,
  [a, b]: readonly [number, number],
  [c, d]: readonly [number, number],
  value: number,
  wrap: number,
): At {
  // An angle counts as it is at the end of the longer line, so that all equations are of one measure.
  const size = Math.max(span(values, a, b).length, span(values, c, d).length, 1);
  return (v, row) => {
    const first = span(v, a, b),
      second = span(v, c, d),
      angle = Math.atan2(second.uy, second.ux) - Math.atan2(first.uy, first.ux) - value,
      add = (p: number, q: number, s: ReturnType<typeof span>, times: number) =>
        addSpan(row, p, q, -s.uy, s.ux, times / Math.max(s.length, NO_LENGTH));
    add(c, d, second, size);
    add(a, b, first, -size);
    return size * (angle - wrap * Math.round(angle / wrap));
  };
}

const HALF = Math.PI,
  WHOLE = 2 * Math.PI;
const NOTHING = () => 0;

const ofRule = (u: Unknowns, rule: SketchRule): At[] =>
  isFigure(rule) ? ofFigure(u, rule) : ofRelation(u, rule);

function ofRelation(u: Unknowns, rule: SketchRelation): At[] {
  const [a, b, c] = rule.of as [string, string, string];
  switch (rule.kind) {
    case 'together':
      return both(u.point(a), u.point(b));
    case 'level':
    case 'upright': {
      const [p, q] = b === undefined ? u.line(a) : [u.point(a), u.point(b)],
        k = rule.kind === 'level' ? 1 : 0;
      return [same(p + k, q + k)];
    }
    case 'parallel':
      return [turn(u, u.line(a), u.line(b), 0, HALF)];
    case 'square':
      return [turn(u, u.line(a), u.line(b), HALF / 2, HALF)];
    case 'touching':
      return [touching(u, a, b)];
    case 'equal':
      return [equal(u, a, b)];
    case 'concentric':
      return both(u.round(a).centre, u.round(b).centre);
    case 'middle':
      return middle(u.point(a), u.line(b));
    case 'on':
      return [on(u, a, b)];
    case 'symmetric':
      return symmetric(u.point(a), u.point(b), u.line(c));
    case 'fixed': {
      const p = u.point(a);
      return [0, 1].map((k): At => (v, row) => {
        row[p + k] += 1;
        return v[p + k] - rule.at[k];
      });
    }
  }
}

function ofFigure(u: Unknowns, rule: SketchFigure): At[] {
  const [a, b] = rule.of as [string, string];
  switch (rule.kind) {
    case 'angle':
      return [turn(u, u.line(a), u.line(b), rule.value, WHOLE)];
    case 'length': {
      const [p, q] = b === undefined ? u.line(a) : [u.point(a), u.point(b)];
      return [distance(p, q, rule.value)];
    }
    case 'across':
    case 'up': {
      const k = rule.kind === 'up' ? 1 : 0,
        [p, q] = [u.point(a) + k, u.point(b) + k];
      return [
        (v, row) => {
          row[q] += 1;
          row[p] -= 1;
          return v[q] - v[p] - rule.value;
        },
      ];
    }
    case 'gap': {
      const line = u.line(b),
        p = u.point(a),
        // It stays on the side on which it lies.
        side = signOf(u, p, line);
      return [beside(p, line, () => side * rule.value)];
    }
    case 'radius':
    case 'diameter': {
      const round = u.round(a),
        value = rule.kind === 'radius' ? rule.value : rule.value / 2;
      return [
        (v, row) => {
          const r = radiusOf(v, round);
          r.add(row, 1);
          return r.value - value;
        },
      ];
    }
  }
}

const both = (p: number, q: number): At[] => [same(p, q), same(p + 1, q + 1)];

const signOf = (u: Unknowns, p: number, line: readonly [number, number]): 1 | -1 =>
  beside(p, line, NOTHING)(u.values, new Float64Array(u.count)) < 0 ? -1 : 1;

const middle = (p: number, [a, b]: readonly [number, number]): At[] =>
  [0, 1].map((k): At => (v, row) => {
    row[p + k] += 1;
    row[a + k] -= 0.5;
    row[b + k] -= 0.5;
    return v[p + k] - (v[a + k] + v[b + k]) / 2;
  });

function on(u: Unknowns, point: string, curve: string): At {
  const p = u.point(point);
  if (u.curve(curve).kind === 'line') return beside(p, u.line(curve), NOTHING);
  const round = u.round(curve);
  return (v, row) => {
    const { length, ux, uy } = span(v, round.centre, p),
      r = radiusOf(v, round);
    addSpan(row, round.centre, p, ux, uy, 1);
    r.add(row, -1);
    return length - r.value;
  };
}

function equal(u: Unknowns, a: string, b: string): At {
  if (u.curve(a).kind === 'line') {
    const [p, q] = u.line(a),
      [r, s] = u.line(b);
    return difference(p, q, r, s);
  }
  const [first, second] = [u.round(a), u.round(b)];
  return (v, row) => {
    const [r, s] = [radiusOf(v, first), radiusOf(v, second)];
    r.add(row, 1);
    s.add(row, -1);
    return r.value - s.value;
  };
}

/** A line and a round, or two rounds: from outside, or one within the other, as they lie. */
function touching(u: Unknowns, a: string, b: string): At {
  const [first, second] = u.curve(a).kind === 'line' ? [a, b] : [b, a];
  if (u.curve(first).kind === 'line') {
    if (u.curve(second).kind === 'line')
      throw new SketchError('two lines do not touch: make them parallel, or one');
    const joint = u.joint(first, second);
    if (joint !== null) return runsOn(u.line(first), u.round(second).centre, joint);
    const line = u.line(first),
      round = u.round(second),
      side = signOf(u, round.centre, line);
    return beside(round.centre, line, (v, row) => {
      const r = radiusOf(v, round);
      r.add(row, -side);
      return side * r.value;
    });
  }
  const joint = u.joint(a, b);
  // Where they join, the joint and both centres are in one line.
  if (joint !== null) return beside(joint, [u.round(a).centre, u.round(b).centre], NOTHING);
  const [p, q] = [u.round(a), u.round(b)],
    now = span(u.values, p.centre, q.centre).length,
    [rp, rq] = [radiusOf(u.values, p).value, radiusOf(u.values, q).value],
    isWithin = Math.abs(now - Math.abs(rp - rq)) < Math.abs(now - (rp + rq)),
    larger = rp >= rq ? 1 : -1;
  return (v, row) => {
    const { length, ux, uy } = span(v, p.centre, q.centre),
      [r, s] = [radiusOf(v, p), radiusOf(v, q)],
      [kr, ks] = isWithin ? [larger, -larger] : [1, 1];
    addSpan(row, p.centre, q.centre, ux, uy, 1);
    r.add(row, -kr);
    s.add(row, -ks);
    return length - kr * r.value - ks * s.value;
  };
}

/**
 * A line and an arc that join at a point touch where the way from the centre to it is square to the line. That the centre is a radius from the line says
 * nothing there at first: it is so to second order however the arc turns about the joint.
 */
function runsOn([a, b]: readonly [number, number], centre: number, joint: number): At {
  return (v, row) => {
    const { length, ux, uy } = span(v, a, b),
      [wx, wy] = [v[joint] - v[centre], v[joint + 1] - v[centre + 1]],
      off = wx * ux + wy * uy,
      l = Math.max(length, NO_LENGTH);
    addSpan(row, centre, joint, ux, uy, 1);
    addSpan(row, a, b, (wx - off * ux) / l, (wy - off * uy) / l, 1);
    return off;
  };
}

/** The middle of two points lies on the line, and they lie square to it. */
function symmetric(p: number, q: number, [a, b]: readonly [number, number]): At[] {
  const half: At = (v, row) => {
    const one = new Float64Array(row.length),
      [left, right] = [beside(p, [a, b], NOTHING)(v, one), beside(q, [a, b], NOTHING)(v, one)];
    for (let i = 0; i < row.length; i++) row[i] += one[i] / 2;
    return (left + right) / 2;
  };
  const square: At = (v, row) => {
    const { length, ux, uy } = span(v, a, b),
      [dx, dy] = [v[q] - v[p], v[q + 1] - v[p + 1]],
      along = dx * ux + dy * uy,
      off = (dy * ux - dx * uy) / Math.max(length, NO_LENGTH);
    addSpan(row, p, q, ux, uy, 1);
    // The line turns: what lies across it changes how far they lie along.
    addSpan(row, a, b, -uy, ux, off);
    return along;
  };
  return [half, square];
}
