import { circleThrough, normalAngle, TAU, type Point } from '@calque/core/geometry';
import { arcThrough } from '@calque/core/model';
import { across, clean, pair, positive, towards } from '@/drawing/plan-points';
import type { Shape } from '@/drawing/drawn';
import type { ShapePlan } from '@/drawing/shape-tool';
import { distance, lengthField, typedLength } from '@/table/tools/geometry';

const circle = (centre: Point, radius: number): Shape | string =>
  radius > 0
    ? { type: 'arc', centre: pair(centre), radius: clean(radius), start: 0, sweep: TAU }
    : 'A circle needs a radius above 0: pick a point away from its centre.';
const ON_A_LINE = 'These three points lie on one line: no circle goes through them. Pick another.';

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
