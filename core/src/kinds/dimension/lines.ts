import { arcPiece, normalAngle, segmentPiece, TAU, type Piece, type Point } from '../../geometry/index.ts';
import type { Pair } from '../drawn.ts';

/** In shares of the figure's height: gap at the measured point, overhang beyond the dimension line, half a tick, the figure above the line. */
const GAP = 0.5,
  OVERHANG = 0.6,
  TICK = 0.35,
  ABOVE = 0.35;

/** What of a dimension says where its lines lie. */
interface Measured {
  measures: 'aligned' | 'horizontal' | 'vertical' | 'radius' | 'angle';
  points: Pair[];
  at: Pair;
  height: number;
}

const distance = (p: Point, q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]);
const towards = (p: Point, q: Point): [number, number] => {
  const l = distance(p, q);
  return l === 0 ? [1, 0] : [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
};

/** Direction along which a dimension of a length measures. */
function directionOf({ measures, points: [p, q] }: Measured): [number, number] {
  return measures === 'horizontal' ? [1, 0] : measures === 'vertical' ? [0, 1] : towards(p, q);
}

/** What a dimension measures: millimetres, or radians for an angle. */
export function measuredBy(d: Measured): number {
  const [p, q] = d.points;
  if (d.measures === 'radius') return distance(p, q);
  if (d.measures === 'angle') return angleArc(d).sweep;
  const [ux, uy] = directionOf(d);
  return Math.abs((q[0] - p[0]) * ux + (q[1] - p[1]) * uy);
}

/** The arc of an angle's dimension: of the two between its legs the one on which `at` lies. */
function angleArc({ points: [corner, a, b], at }: Measured): { start: number; sweep: number; r: number } {
  const angle = (p: Point) => Math.atan2(p[1] - corner[1], p[0] - corner[0]);
  const first = angle(a),
    sweep = normalAngle(angle(b) - first),
    here = normalAngle(angle(at) - first);
  const r = distance(corner, at);
  return here <= sweep
    ? { start: normalAngle(first), sweep, r }
    : { start: normalAngle(first + sweep), sweep: TAU - sweep, r };
}

/** The ends of the dimension line of a length. */
function lineEnds(d: Measured): [Point, Point] {
  const [ux, uy] = directionOf(d),
    { at } = d;
  const onLine = (p: Point): Point => {
    const along = (p[0] - at[0]) * ux + (p[1] - at[1]) * uy;
    return [at[0] + along * ux, at[1] + along * uy];
  };
  return [onLine(d.points[0]), onLine(d.points[1])];
}

/** Extension lines, dimension line and ticks. */
export function dimensionLines(d: Measured): Piece[] {
  const tick = (p: Point, [ux, uy]: Point): Piece => {
    const k = TICK * d.height,
      dx = k * (ux - uy),
      dy = k * (ux + uy);
    return segmentPiece([p[0] - dx, p[1] - dy], [p[0] + dx, p[1] + dy]);
  };
  const [p, q] = d.points;
  if (d.measures === 'radius') {
    const u = towards(p, d.at),
      end: Point = [p[0] + u[0] * distance(p, q), p[1] + u[1] * distance(p, q)];
    return [segmentPiece(p, distance(p, d.at) > distance(p, end) ? d.at : end), tick(end, u)];
  }
  if (d.measures === 'angle') {
    const { start, sweep, r } = angleArc(d);
    const legs = [q, d.points[2]].map((leg): Piece | null => {
      const u = towards(p, leg),
        from = distance(p, leg) + GAP * d.height,
        to = r + OVERHANG * d.height;
      return to > from
        ? segmentPiece([p[0] + from * u[0], p[1] + from * u[1]], [p[0] + to * u[0], p[1] + to * u[1]])
        : null;
    });
    return [
      arcPiece({ cx: p[0], cy: p[1], r, start, end: start + sweep }),
      ...legs.filter((l) => l !== null),
    ];
  }
  const u = directionOf(d),
    [a, b] = lineEnds(d);
  const extension = (from: Point, to: Point): Piece | null => {
    const l = distance(from, to),
      v = towards(from, to);
    if (l <= GAP * d.height) return null;
    const k = GAP * d.height,
      m = l + OVERHANG * d.height;
    return segmentPiece([from[0] + k * v[0], from[1] + k * v[1]], [from[0] + m * v[0], from[1] + m * v[1]]);
  };
  return [
    segmentPiece(a, b),
    ...[extension(p, a), extension(q, b)].filter((l) => l !== null),
    tick(a, u),
    tick(b, u),
  ];
}

/** Where the middle of a figure's foot stands and how it is turned: readable from below or from the right. */
export function figurePlace(d: Measured): { at: [number, number]; angle: number } {
  const lift = (p: Point, angle: number) => {
    const turned = normalAngle(angle),
      readable = turned > Math.PI / 2 + 1e-9 && turned <= 1.5 * Math.PI + 1e-9 ? turned - Math.PI : turned;
    return {
      at: [p[0] - ABOVE * d.height * Math.sin(readable), p[1] + ABOVE * d.height * Math.cos(readable)] as [
        number,
        number,
      ],
      angle: readable > Math.PI ? readable - TAU : readable,
    };
  };
  const [p] = d.points;
  if (d.measures === 'radius')
    return lift([(p[0] + d.at[0]) / 2, (p[1] + d.at[1]) / 2], Math.atan2(d.at[1] - p[1], d.at[0] - p[0]));
  if (d.measures === 'angle') {
    const { start, sweep, r } = angleArc(d),
      middle = start + sweep / 2;
    return lift([p[0] + r * Math.cos(middle), p[1] + r * Math.sin(middle)], middle - Math.PI / 2);
  }
  const [a, b] = lineEnds(d),
    u = directionOf(d);
  return lift([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], Math.atan2(u[1], u[0]));
}
