import { isCircle, type Pair, type Rule, type RulePlace } from '@calque/core/model';
import { pointOf, type Ruled } from '@calque/core/part';

const whole = (e: Ruled): RulePlace => ({ id: e.id, grip: null });
const isLine = (e: Ruled) => e.type !== 'arc';
/** The sine of what two lines that run alongside may differ by. */
const ALONGSIDE = 0.02;

/** A figure that could drive what is selected, with what it is now. */
export interface Driven {
  kind: Rule['kind'];
  label: string;
  of: RulePlace[];
  now: number;
}

export function figuresFor(chosen: readonly Ruled[]): Driven[] {
  const [a, b] = chosen;
  if (chosen.length === 1 && a.type !== 'arc')
    return [
      {
        kind: 'length',
        label: 'Length',
        of: [whole(a)],
        now: Math.hypot(a.to[0] - a.from[0], a.to[1] - a.from[1]),
      },
    ];
  if (chosen.length === 1 && a.type === 'arc')
    return [
      isCircle(a)
        ? { kind: 'diameter', label: 'Diameter', of: [whole(a)], now: 2 * a.radius }
        : { kind: 'radius', label: 'Radius', of: [whole(a)], now: a.radius },
    ];
  if (chosen.length !== 2) return [];
  if (a.type !== 'arc' && b.type !== 'arc') {
    const n = Math.hypot(b.to[0] - b.from[0], b.to[1] - b.from[1]),
      gap =
        ((a.from[0] - b.from[0]) * (b.to[1] - b.from[1]) - (a.from[1] - b.from[1]) * (b.to[0] - b.from[0])) /
        n;
    const way = (e: Ruled) => {
        const [p, q] = [pointOf(e, 0), pointOf(e, 1)];
        return Math.atan2(q[1] - p[1], q[0] - p[0]);
      },
      turn = way(b) - way(a),
      // Between minus and plus half a turn.
      angle = turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
    const apart: Driven[] = [
      { kind: 'gap', label: 'Gap between them', of: [{ id: a.id, grip: 0 }, whole(b)], now: Math.abs(gap) },
    ];
    // Only what runs one way has a gap all along.
    return Math.abs(Math.sin(angle)) < ALONGSIDE
      ? apart
      : [{ kind: 'angle', label: 'Angle between them', of: [whole(a), whole(b)], now: angle }];
  }
  if (a.type === 'arc' && b.type === 'arc') {
    const of = [a, b].map((e): RulePlace => ({ id: e.id, grip: isCircle(e) ? 4 : 3 }));
    return [
      { kind: 'across', label: 'Centres across', of, now: b.centre[0] - a.centre[0] },
      { kind: 'up', label: 'Centres up', of, now: b.centre[1] - a.centre[1] },
    ];
  }
  const [line, round] = a.type === 'arc' ? [b, a] : [a, b];
  if (line.type === 'arc' || round.type !== 'arc') return [];
  const n = Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1]),
    off =
      ((round.centre[0] - line.from[0]) * (line.to[1] - line.from[1]) -
        (round.centre[1] - line.from[1]) * (line.to[0] - line.from[0])) /
      n;
  return [
    {
      kind: 'gap',
      label: 'Centre from the line',
      of: [{ id: round.id, grip: isCircle(round) ? 4 : 3 }, whole(line)],
      now: Math.abs(off),
    },
  ];
}

/** Rules that one press makes. */
export interface OfferedRule {
  kind: Rule['kind'];
  words: string;
  /** The places of each. */
  of: RulePlace[];
  /** More of its kind that belong to it: both ends of a line that is mirrored. */
  also?: RulePlace[][];
}

const centreOf = (e: Ruled): RulePlace => ({ id: e.id, grip: e.type === 'arc' && isCircle(e) ? 4 : 3 });
/** The end of a line that lies nearest to a place. */
function endNear(e: Ruled, at: Pair): RulePlace {
  const far = (grip: number) => {
    const [x, y] = pointOf(e, grip);
    return Math.hypot(x - at[0], y - at[1]);
  };
  return { id: e.id, grip: far(0) <= far(1) ? 0 : 1 };
}
const middleOf = (e: Ruled): Pair => {
  const [p, q] = [pointOf(e, 0), pointOf(e, 1)];
  return [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
};
const mirrored = ([x, y]: Pair, axis: Ruled): Pair => {
  const [p, q] = [pointOf(axis, 0), pointOf(axis, 1)],
    [dx, dy] = [q[0] - p[0], q[1] - p[1]],
    n = dx * dx + dy * dy || 1,
    t = ((x - p[0]) * dx + (y - p[1]) * dy) / n;
  return [2 * (p[0] + t * dx) - x, 2 * (p[1] + t * dy) - y];
};

/** Two that lie to either side of a third, a line: mirrored by it. */
function symmetryOf(chosen: readonly Ruled[]): OfferedRule[] {
  const axis = chosen.find((e) => e.type === 'constructionLine') ?? chosen.filter(isLine).at(-1),
    [a, b] = chosen.filter((e) => e !== axis);
  if (!axis || isLine(a) !== isLine(b)) return [];
  const by = { id: axis.id, grip: null };
  if (!isLine(a))
    return [{ kind: 'symmetric', words: 'Mirrored by the line', of: [centreOf(a), centreOf(b), by] }];
  const other = endNear(b, mirrored(pointOf(a, 0), axis));
  return [
    {
      kind: 'symmetric',
      words: 'Mirrored by the third',
      of: [{ id: a.id, grip: 0 }, other, by],
      also: [[{ id: a.id, grip: 1 }, { id: b.id, grip: 1 - other.grip! }, by]],
    },
  ];
}

/** Rules without a figure that what is selected could have. */
export function relationsFor(chosen: readonly Ruled[]): OfferedRule[] {
  const [a, b] = chosen,
    both = () => [whole(a), whole(b)];
  if (chosen.length === 1)
    return isLine(a)
      ? [
          { kind: 'level', words: 'Level', of: [whole(a)] },
          { kind: 'upright', words: 'Upright', of: [whole(a)] },
          { kind: 'fixed', words: 'Fix its beginning', of: [{ id: a.id, grip: 0 }] },
        ]
      : [
          {
            kind: 'fixed',
            words: 'Fix its centre',
            of: [{ id: a.id, grip: a.type === 'arc' && isCircle(a) ? 4 : 3 }],
          },
        ];
  if (chosen.length === 3) return symmetryOf(chosen);
  if (chosen.length !== 2) return [];
  if (isLine(a) && isLine(b))
    return [
      { kind: 'parallel', words: 'Parallel', of: both() },
      { kind: 'square', words: 'Square', of: both() },
      { kind: 'equal', words: 'Equally long', of: both() },
      { kind: 'on', words: 'End on the other', of: [endNear(a, middleOf(b)), whole(b)] },
      { kind: 'middle', words: 'End at its middle', of: [endNear(a, middleOf(b)), whole(b)] },
    ];
  if (!isLine(a) && !isLine(b))
    return [
      { kind: 'equal', words: 'Equally round', of: both() },
      { kind: 'concentric', words: 'One centre', of: both() },
      { kind: 'touching', words: 'Touching', of: both() },
    ];
  const [line, round] = isLine(a) ? [a, b] : [b, a];
  return [
    { kind: 'touching', words: 'Touching', of: both() },
    { kind: 'on', words: 'Centre on the line', of: [centreOf(round), whole(line)] },
    { kind: 'middle', words: 'Centre at its middle', of: [centreOf(round), whole(line)] },
  ];
}
