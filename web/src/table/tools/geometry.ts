import type { Point } from '@calque/core/geometry';
import { formatLength, formatNumber, parseAngle, parseLength, type LengthStyle } from '@calque/core/units';
import type { Field } from '../tool';

export const distance = (p: Point, q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]);
export const angleOf = (p: Point, q: Point) => Math.atan2(q[1] - p[1], q[0] - p[0]);

/** The point at a length and angle from another; either may be left as the cursor has it. */
export function pointAlong(
  from: Point,
  towards: Point,
  length: number | null,
  radians: number | null,
): [number, number] {
  const l = length ?? distance(from, towards);
  const a = radians ?? angleOf(from, towards);
  // Along the axes exactly, not to the last bit beside them.
  const clean = (v: number) => (Math.abs(v) < 1e-12 ? 0 : v);
  return [from[0] + l * clean(Math.cos(a)), from[1] + l * clean(Math.sin(a))];
}

const degrees = (radians: number) => `${formatNumber((radians * 180) / Math.PI, 1)}°`;
export const lengthField = (id: string, label: string, mm: number, style: LengthStyle): Field => ({
  id,
  label,
  unit: 'length',
  live: formatLength(mm, style),
});
export const angleField = (id: string, label: string, radians: number): Field => ({
  id,
  label,
  unit: 'angle',
  live: degrees(radians),
});

/** The figures by which a point may be typed: from the one before by length and angle or by offsets, or by its own coordinates; a first one also from what was touched (a ring shows it). */
export function pointFields(
  from: Point | null,
  live: Point,
  style: LengthStyle,
  touched: Point | null = null,
): Field[][] {
  const own = [lengthField('x', 'x', live[0], style), lengthField('y', 'y', live[1], style)];
  if (!from && touched)
    return [
      own,
      [
        lengthField('right', 'right of the ring', live[0] - touched[0], style),
        lengthField('up', 'up from it', live[1] - touched[1], style),
      ],
    ];
  if (!from) return [own];
  return [
    [
      lengthField('length', 'length', distance(from, live), style),
      angleField('angle', 'angle', angleOf(from, live)),
    ],
    [
      lengthField('right', 'right', live[0] - from[0], style),
      lengthField('up', 'up', live[1] - from[1], style),
    ],
    own,
  ];
}

/** A typed length; the live one where nothing was typed; words where it is none. */
export function typedLength(text: string | undefined, live: number, style: LengthStyle): number | string {
  if (!text?.trim()) return live;
  const parsed = parseLength(text, style.units);
  return parsed.ok ? parsed.mm : `"${text.trim()}" is not a length. Type it as 5250, 5.25 m or 3*1200+50.`;
}

/** The point that typed figures (see pointFields) mean; what was not typed is as the cursor has it. Words where they do not do. */
export function typedPoint(
  values: Record<string, string>,
  from: Point | null,
  live: Point,
  style: LengthStyle,
): [number, number] | string {
  const given = (id: string) => (values[id] ?? '').trim() !== '';
  if (!['x', 'y', 'right', 'up', 'length', 'angle'].some(given)) return [live[0], live[1]];
  if (given('x') || given('y')) {
    const x = typedLength(values.x, live[0], style),
      y = typedLength(values.y, live[1], style);
    return typeof x === 'string' ? x : typeof y === 'string' ? y : [x, y];
  }
  if (!from) return [live[0], live[1]];
  if (given('right') || given('up')) {
    // One typed offset alone means along that axis.
    const one = given('right') !== given('up');
    const right = typedLength(values.right, one ? 0 : live[0] - from[0], style),
      up = typedLength(values.up, one ? 0 : live[1] - from[1], style);
    return typeof right === 'string' ? right : typeof up === 'string' ? up : [from[0] + right, from[1] + up];
  }
  const length = given('length') ? typedLength(values.length, 0, style) : null;
  if (typeof length === 'string') return length;
  if (length !== null && length <= 0)
    return `"${values.length.trim()}" is not a length above 0. Type it as 5250, 5.25 m or 11'-4".`;
  const angle = given('angle') ? parseAngle(values.angle) : null;
  if (given('angle') && angle === null)
    return `"${values.angle.trim()}" is not an angle. Type degrees, such as 90 or 24.5.`;
  return pointAlong(from, live, length, angle);
}
