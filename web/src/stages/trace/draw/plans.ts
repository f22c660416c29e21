import {
  circleThrough,
  normalAngle,
  pieceDirection,
  pieceEnd,
  pieceStart,
  regularCorners,
  slotPath,
  splineThrough,
  TAU,
  turnedRectangle,
  type Point,
} from '@calque/core/geometry';
import { arcThrough, endsOf, isRun, trackOf, type Pair } from '@calque/core/model';
import { tracedIn } from '@/table/hit';
import { distance, lengthField, typedLength } from '@/table/tools/geometry';
import type { Shape } from './drawn';
import type { Context, ShapePlan } from './shape-tool';

const pair = (p: Point): Pair => [p[0], p[1]];
const polygon = (points: readonly Point[]): Shape => ({
  type: 'path',
  points: points.map(pair),
  bulges: points.map(() => 0),
  closed: true,
});
/** A distance between picked points without the last bits that rounding left: what was typed stands as it was typed. */
const clean = (mm: number) => Math.round(mm * 1e9) / 1e9;
const circle = (centre: Point, radius: number): Shape | string =>
  radius > 0
    ? { type: 'arc', centre: pair(centre), radius: clean(radius), start: 0, sweep: TAU }
    : 'A circle needs a radius above 0: pick a point away from its centre.';
const ON_A_LINE = 'These three points lie on one line: no circle goes through them. Pick another.';
/** The point at a distance from another on the way to the cursor. */
const towards = (from: Point, to: Point, length: number): Point => {
  const d = distance(from, to);
  return d > 0
    ? [from[0] + (length * (to[0] - from[0])) / d, from[1] + (length * (to[1] - from[1])) / d]
    : [from[0] + length, from[1]];
};
const positive = (value: number | string, what: string): number | string =>
  typeof value === 'string' || value > 0 ? value : `The ${what} must be above 0.`;
/** To the side of the way from one point to another: above 0 to the left. */
const across = (a: Point, b: Point, p: Point) =>
  ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / distance(a, b);

export const RECTANGLE: ShapePlan = {
  id: 'rectangle',
  noun: 'Rectangle',
  label: 'Draw a rectangle',
  variants: [
    {
      words: 'by two corners',
      steps: ['click one corner', 'click the opposite corner, or type width and height'],
      shape: ([a, b]) =>
        a[0] === b[0] || a[1] === b[1]
          ? 'A rectangle needs a width and a height: pick a corner off the first one\u2019s axes.'
          : polygon([a, [b[0], a[1]], b, [a[0], b[1]]]),
      fields: ([a], live, { style }) =>
        a
          ? [
              lengthField('width', 'width', Math.abs(live[0] - a[0]), style),
              lengthField('height', 'height', Math.abs(live[1] - a[1]), style),
            ]
          : null,
      typed: ([a], values, live, { style }) => {
        const w = positive(typedLength(values.width, Math.abs(live[0] - a[0]), style), 'width'),
          h = positive(typedLength(values.height, Math.abs(live[1] - a[1]), style), 'height');
        if (typeof w === 'string') return w;
        return typeof h === 'string'
          ? h
          : [[a[0] + (live[0] < a[0] ? -w : w), a[1] + (live[1] < a[1] ? -h : h)]];
      },
    },
    {
      words: 'turned, by a side and a depth',
      steps: ['click one end of a side', 'click its other end', 'click how deep it is, or type it'],
      shape: ([a, b, c]) =>
        c === undefined
          ? { type: 'path', points: [pair(a), pair(b)], bulges: [0], closed: false }
          : Math.abs(across(a, b, c)) > 0
            ? polygon(turnedRectangle(a, b, c))
            : 'A rectangle needs a depth: pick a point beside its first side.',
      fields: ([a, b], live, { style }) =>
        b ? [lengthField('depth', 'depth', Math.abs(across(a, b, live)), style)] : null,
      typed: ([a, b], values, live, { style }) => {
        const depth = positive(typedLength(values.depth, Math.abs(across(a, b, live)), style), 'depth');
        if (typeof depth === 'string') return depth;
        const k = (across(a, b, live) < 0 ? -depth : depth) / distance(a, b);
        return [[b[0] - k * (b[1] - a[1]), b[1] + k * (b[0] - a[0])]];
      },
    },
  ],
};

export const CIRCLE: ShapePlan = {
  id: 'circle',
  noun: 'Circle',
  label: 'Draw a circle',
  variants: [
    {
      words: 'by centre and radius',
      steps: ['click its centre', 'click a point of it, or type the radius'],
      shape: ([c, p]) => circle(c, distance(c, p)),
      fields: ([c], live, { style }) =>
        c ? [lengthField('radius', 'radius', distance(c, live), style)] : null,
      typed: ([c], values, live, { style }) => {
        const r = positive(typedLength(values.radius, distance(c, live), style), 'radius');
        return typeof r === 'string' ? r : [towards(c, live, r)];
      },
    },
    {
      words: 'by its diameter',
      steps: ['click one end of a diameter', 'click its other end, or type the diameter'],
      shape: ([a, b]) => circle([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], distance(a, b) / 2),
      fields: ([a], live, { style }) =>
        a ? [lengthField('diameter', 'diameter', distance(a, live), style)] : null,
      typed: ([a], values, live, { style }) => {
        const d = positive(typedLength(values.diameter, distance(a, live), style), 'diameter');
        return typeof d === 'string' ? d : [towards(a, live, d)];
      },
    },
    {
      words: 'through three points',
      steps: ['click a point of it', 'click another', 'click a third'],
      shape: ([a, b, c]) => {
        if (c === undefined) return circle([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], distance(a, b) / 2);
        const found = circleThrough(a, b, c);
        return found ? circle([found.cx, found.cy], found.r) : ON_A_LINE;
      },
    },
  ],
};

const chord = (a: Point, b: Point): Shape => ({ type: 'line', from: pair(a), to: pair(b) });

/** The arc between two points with a radius, on the side of a third, the shorter way round unless the third lies beyond the half circle. */
function arcByRadius(a: Point, b: Point, side: Point, r: number): Shape | string {
  const c = distance(a, b);
  if (r < c / 2)
    return 'The radius is less than half the distance between the ends: no arc of it reaches both.';
  const s = across(a, b, side) >= 0 ? 1 : -1,
    high = Math.abs(across(a, b, side)) > c / 2,
    rise = Math.sqrt(Math.max(0, r * r - (c * c) / 4));
  const height = high ? r + rise : r - rise,
    nx = (-(b[1] - a[1]) / c) * s,
    ny = ((b[0] - a[0]) / c) * s;
  const through: Point = [(a[0] + b[0]) / 2 + nx * height, (a[1] + b[1]) / 2 + ny * height];
  const arc = arcThrough(a, through, b);
  return arc ? { type: 'arc', ...arc.fields } : ON_A_LINE;
}
/** The radius that an arc over a chord has when it goes as high as a point. */
function radiusAt(a: Point, b: Point, p: Point): number {
  const h = Math.abs(across(a, b, p)),
    half = distance(a, b) / 2;
  return h === 0 ? Infinity : (half * half + h * h) / (2 * h);
}

export const ARC: ShapePlan = {
  id: 'arc',
  noun: 'Arc',
  label: 'Draw an arc',
  variants: [
    {
      words: 'through three points',
      steps: ['click where it begins', 'click a point of it', 'click where it ends'],
      shape: ([a, b, c]) => {
        if (c === undefined) return chord(a, b);
        const arc = arcThrough(a, b, c);
        return arc ? { type: 'arc', ...arc.fields } : ON_A_LINE;
      },
    },
    {
      words: 'by its ends and radius',
      steps: [
        'click where it begins',
        'click where it ends',
        'click how far it bends out, or type the radius',
      ],
      shape: ([a, b, c]) =>
        c === undefined
          ? chord(a, b)
          : across(a, b, c) === 0
            ? ON_A_LINE
            : arcByRadius(a, b, c, radiusAt(a, b, c)),
      fields: ([a, b], live, { style }) =>
        b ? [lengthField('radius', 'radius', Math.min(radiusAt(a, b, live), 1e9), style)] : null,
      typed: ([a, b], values, live, { style }) => {
        const r = positive(typedLength(values.radius, radiusAt(a, b, live), style), 'radius');
        if (typeof r === 'string') return r;
        const arc = arcByRadius(a, b, live, r);
        if (typeof arc === 'string') return arc;
        // The middle of the arc stands for it: from there the same radius is found again.
        if (arc.type !== 'arc') return ON_A_LINE;
        const middle = arc.start + arc.sweep / 2;
        return [
          [arc.centre[0] + arc.radius * Math.cos(middle), arc.centre[1] + arc.radius * Math.sin(middle)],
        ];
      },
    },
    {
      words: 'about a centre',
      steps: [
        'click its centre',
        'click where it begins, or type the radius',
        'click in the direction in which it ends, counter-clockwise (Alt: clockwise)',
      ],
      shape: ([c, a, b], { alt: clockwise }) => {
        if (b === undefined) return chord(c, a);
        const angle = (p: Point) => Math.atan2(p[1] - c[1], p[0] - c[0]);
        const start = normalAngle(angle(clockwise ? b : a)),
          sweep = normalAngle(angle(clockwise ? a : b) - start);
        return sweep > 0
          ? { type: 'arc', centre: pair(c), radius: clean(distance(c, a)), start, sweep }
          : 'The arc ends where it begins: pick another direction.';
      },
      fields: ([c, a], live, { style }) =>
        c && !a ? [lengthField('radius', 'radius', distance(c, live), style)] : null,
      typed: ([c], values, live, { style }) => {
        const r = positive(typedLength(values.radius, distance(c, live), style), 'radius');
        return typeof r === 'string' ? r : [towards(c, live, r)];
      },
    },
  ],
};

/** Ends nearer than this, millimetres, are one. */
const MEETS = 1e-3;

/** The direction in which something traced runs out at a point, for a curve that goes on from there; null where nothing ends. */
function runsOut({ table }: Context, at: Point): Point | null {
  for (const e of tracedIn(table, [at[0] - 1, at[1] - 1, at[0] + 1, at[1] + 1])) {
    if (!isRun(e) || !endsOf(e)) continue;
    const { pieces } = trackOf(e),
      first = pieces[0],
      last = pieces[pieces.length - 1];
    if (distance(pieceEnd(last), at) < MEETS) return pieceDirection(last, 1);
    const back = pieceDirection(first, 0);
    if (distance(pieceStart(first), at) < MEETS) return [-back[0], -back[1]];
  }
  return null;
}

const curve = (tangent: boolean) => ({
  words: tangent ? 'running on from what it meets' : 'free at its ends',
  steps: ['click where it begins', 'click the next point', 'click the next point, or the first to close it'],
  least: 2,
  shape: (points: readonly Point[], context: Context, closed: boolean): Shape | string => {
    if (points.length < 2 || (closed && points.length < 3))
      return 'A curve needs two points, a closed one three.';
    const out = tangent ? runsOut(context, points[0]) : null,
      into = tangent ? runsOut(context, points[points.length - 1]) : null;
    return {
      type: 'spline',
      controls: splineThrough(points, { first: out, last: into && [-into[0], -into[1]] }, closed),
    };
  },
});
export const CURVE: ShapePlan = {
  id: 'curve',
  noun: 'Curve',
  label: 'Draw a curve',
  variants: [curve(true), curve(false)],
};

export const SLOT: ShapePlan = {
  id: 'slot',
  noun: 'Slot',
  label: 'Draw a slot',
  variants: [
    {
      words: '',
      steps: [
        'click the centre of one end',
        'click the centre of the other end',
        'click how wide it is, or type it',
      ],
      shape: ([a, b, c]) => {
        if (c === undefined) return chord(a, b);
        const width = 2 * Math.abs(across(a, b, c));
        return width > 0
          ? { type: 'path', ...slotPath(a, b, width) }
          : 'A slot needs a width: pick a point beside its middle line.';
      },
      fields: ([a, b], live, { style }) =>
        b ? [lengthField('width', 'width', 2 * Math.abs(across(a, b, live)), style)] : null,
      typed: ([a, b], values, live, { style }) => {
        const w = positive(typedLength(values.width, 2 * Math.abs(across(a, b, live)), style), 'width');
        if (typeof w === 'string') return w;
        const k = w / 2 / distance(a, b);
        return [[b[0] - k * (b[1] - a[1]), b[1] + k * (b[0] - a[0])]];
      },
    },
  ],
};

const MOST_SIDES = 200;
/** Sides of the regular shape drawn last. */
let sides = 6;

const regular = (acrossFlats: boolean): ShapePlan['variants'][number] => ({
  words: acrossFlats ? 'across its flats' : 'by a corner',
  steps: [
    'click its centre',
    acrossFlats
      ? 'click the middle of a side, or type sides and distance'
      : 'click a corner, or type sides and radius',
  ],
  shape: ([c, p]) =>
    distance(c, p) > 0
      ? polygon(regularCorners(c, p, sides, acrossFlats))
      : 'Pick a point away from the centre.',
  fields: ([c], live, { style }) =>
    c
      ? [
          { id: 'sides', label: 'sides', unit: 'number', live: String(sides) },
          lengthField('radius', acrossFlats ? 'to a side' : 'radius', distance(c, live), style),
        ]
      : null,
  typed: ([c], values, live, { style }) => {
    const n = values.sides?.trim() ? Number(values.sides) : sides;
    if (!Number.isInteger(n) || n < 3 || n > MOST_SIDES)
      return `"${values.sides}" is no number of sides. Type a whole number from 3 to ${MOST_SIDES}.`;
    sides = n;
    if (!values.radius?.trim()) return [];
    const r = positive(typedLength(values.radius, 0, style), 'radius');
    return typeof r === 'string' ? r : [towards(c, live, r)];
  },
});
export const REGULAR: ShapePlan = {
  id: 'regular',
  noun: 'Regular shape',
  label: 'Draw a regular shape',
  variants: [regular(false), regular(true)],
};
