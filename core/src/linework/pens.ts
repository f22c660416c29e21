import { cubicLength, type Box } from '../geometry/index.ts';
import { asCubic } from './collector.ts';
import { kindCode, type Linework, type Pen, type SheetKind } from './types.ts';

/** What is drawn with one pen: how many pieces and how long together, sheet points. */
export interface PenUse {
  pen: number;
  items: number;
  length: number;
}

/** The pens that draw something that shows, the one with the longest line first. */
export function penUses(l: Linework): PenUse[] {
  const uses = l.pens.map((_, pen): PenUse => ({ pen, items: 0, length: 0 }));
  const add = (style: Int32Array, object: Int32Array, lengthAt: (i: number) => number) => {
    for (let i = 0; i < object.length; i++) {
      const pen = style[2 * i + 1];
      if (pen < 0 || object[i] < 0) continue;
      uses[pen].items++;
      uses[pen].length += lengthAt(i);
    }
  };
  add(l.segmentStyle, l.segmentObject, (i) =>
    Math.sqrt(
      (l.segments[4 * i + 2] - l.segments[4 * i]) ** 2 + (l.segments[4 * i + 3] - l.segments[4 * i + 1]) ** 2,
    ),
  );
  add(l.arcStyle, l.arcObject, (i) => l.arcs[5 * i + 2] * (l.arcs[5 * i + 4] - l.arcs[5 * i + 3]));
  add(l.circleStyle, l.circleObject, (i) => 2 * Math.PI * l.circles[3 * i + 2]);
  add(l.curveStyle, l.curveObject, (i) => cubicLength(asCubic(l.curves, 8 * i)));
  return uses.filter((u) => u.items > 0).sort((a, b) => b.length - a.length || a.pen - b.pen);
}

/** A pen by what it is, the same on every sheet: width in hundredths of a point, colour, dash. */
export const penKey = ({ width, colour, dash }: Pen): string =>
  `${Math.round(width * 100) / 100}|${colour.toString(16).padStart(6, '0')}${dash.length > 0 ? `|${dash.map((d) => Math.round(d * 10) / 10).join(' ')}` : ''}`;

/** All straight lines of a page that belong to the drawing itself: strokes and edges of fills, without mark-ups. */
export function straightLines(l: Linework): Float64Array {
  let drawn = l.segmentObject.length;
  while (drawn > 0 && l.segmentObject[drawn - 1] < 0) drawn--;
  const all = new Float64Array(4 * drawn + l.fillEdges.length);
  all.set(l.segments.subarray(0, 4 * drawn));
  all.set(l.fillEdges, 4 * drawn);
  return all;
}

/** Straight strokes of one kind that lie within a box, x0, y0, x1, y1 each; without mark-ups. */
export function linesOfKind(l: Linework, kind: SheetKind, [x0, y0, x1, y1]: Box): Float64Array {
  const code = kindCode(kind),
    out: number[] = [];
  for (let i = 0; i < l.segmentKind.length; i++) {
    if (l.segmentKind[i] !== code || l.segmentObject[i] < 0) continue;
    const line = l.segments.subarray(4 * i, 4 * i + 4);
    if (
      Math.min(line[0], line[2]) >= x0 &&
      Math.max(line[0], line[2]) <= x1 &&
      Math.min(line[1], line[3]) >= y0 &&
      Math.max(line[1], line[3]) <= y1
    )
      out.push(...line);
  }
  return Float64Array.from(out);
}
