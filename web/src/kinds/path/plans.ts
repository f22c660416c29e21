import { useTraceState } from '@/drawing/state';
import { regularCorners, slotPath, turnedRectangle, type Point } from '@calque/core/geometry';
import { across, pair, positive, towards } from '@/drawing/plan-points';
import { BY_WIDTH_AND_HEIGHT } from '@/drawing/two-corners';
import type { Shape } from '@/drawing/drawn';
import type { ShapePlan } from '@/drawing/shape-tool';
import { distance, lengthField, typedLength } from '@/table/tools/geometry';

const polygon = (points: readonly Point[]): Shape => ({
  type: 'path',
  points: points.map(pair),
  bulges: points.map(() => 0),
  closed: true,
});
const chord = (a: Point, b: Point): Shape => ({ type: 'line', from: pair(a), to: pair(b) });

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
      ...BY_WIDTH_AND_HEIGHT,
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
const sidesNow = () => useTraceState.getState().sides;

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
      ? polygon(regularCorners(c, p, sidesNow(), acrossFlats))
      : 'Pick a point away from the centre.',
  fields: ([c], live, { style }) =>
    c
      ? [
          { id: 'sides', label: 'sides', unit: 'number', live: String(sidesNow()) },
          lengthField('radius', acrossFlats ? 'to a side' : 'radius', distance(c, live), style),
        ]
      : null,
  typed: ([c], values, live, { style }) => {
    const n = values.sides?.trim() ? Number(values.sides) : sidesNow();
    if (!Number.isInteger(n) || n < 3 || n > MOST_SIDES)
      return `"${values.sides}" is no number of sides. Type a whole number from 3 to ${MOST_SIDES}.`;
    useTraceState.getState().setSides(n);
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
