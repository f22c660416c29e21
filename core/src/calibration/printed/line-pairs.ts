import type { SheetPoint } from '../../geometry/index.ts';
import { kindCode, LineIndex, STRIDE, type Linework, type PageText } from '../../linework/index.ts';
import { AxisFinder } from './axes.ts';
import { leadersOf } from './leaders.ts';
import {
  COLLINEAR,
  endsMatch,
  gathered,
  markOf,
  PARALLEL_SINE,
  SAME_PLACE,
  SHORT,
  SURE_END,
  TOUCH,
  type Axis,
  type Mark,
  type Station,
} from './marks.ts';

/**
 * A stretch of a line that a figure may measure: its two ends in sheet points, and how well that
 * looks, 0 to 1. `sure`: both ends have a tick, an arrow or a dot, not witness lines alone.
 */
export interface Stretch {
  from: SheetPoint;
  to: SheetPoint;
  points: number;
  score: number;
  sure: boolean;
  /** A tick or an arrow stands at an end: a dimension line, not the thing itself. */ marked: boolean;
}

/** Lengths on the paper nearer than this, as a share, are one: the same thing measured again. */
const SAME_LENGTH = 0.006;
/** How many different lengths there are. */
export function differentLengths(stretches: Iterable<Pick<Stretch, 'points'>>): number {
  let count = 0,
    last = 0;
  for (const points of [...stretches].map((s) => s.points).sort((a, b) => a - b)) {
    if (points <= last * (1 + SAME_LENGTH)) continue;
    count++;
    last = points;
  }
  return count;
}

/** So many lines are looked at around a place. */
const MOST_ROWS = 24;
/** Lines of a thing meet within this at its corners, sheet points, and are at least so long. */
const CORNER = 0.6,
  LEAST_EDGE = 10,
  SQUARE = 0.9985;
const MOST_GROWTH = 24;
const MOST_STRETCHES = 8;
/** How many marks to each side of a figure may be its end. */
const LOOK_BEYOND = 4;

const HATCH = kindCode('hatch');

export class StretchFinder {
  private readonly lines: LineIndex;
  private readonly edges: LineIndex;
  private readonly axes: AxisFinder;
  private readonly dots: { x: number; y: number; r: number }[] = [];

  /** `slack`: how far lines may miss the truth beyond what files do, sheet points: those read from a scan. */
  constructor(
    private readonly l: Linework,
    private readonly slack = 0,
  ) {
    const usable = (kinds: Uint8Array, objects: Int32Array) =>
      Int32Array.from(
        Array.from(kinds, (kind, i) => (kind !== HATCH && objects[i] >= 0 ? i : -1)).filter((i) => i >= 0),
      );
    this.lines = new LineIndex(l.segments, usable(l.segmentKind, l.segmentObject));
    this.edges = new LineIndex(
      l.fillEdges,
      Int32Array.from({ length: l.fillEdges.length / STRIDE.fillEdges }, (_, i) => i).filter(
        (i) => l.fillEdgeObject[i] >= 0,
      ),
    );
    this.axes = new AxisFinder(l.segments, this.lines, l.fillEdges, this.edges, slack);
    for (let i = 0; i < l.circles.length; i += STRIDE.circles)
      this.dots.push({ x: l.circles[i], y: l.circles[i + 1], r: l.circles[i + 2] });
  }

  /** The stretches that the text may stand for, the likeliest first. */
  stretchesOf(text: PageText): Stretch[] {
    const h = text.height,
      ux = Math.cos(text.radians),
      uy = Math.sin(text.radians);
    const middle: SheetPoint = [
      text.x + (ux * text.width) / 2 - uy * 0.35 * h,
      text.y + (uy * text.width) / 2 + ux * 0.35 * h,
    ];
    const found: Stretch[] = [];
    for (const axis of this.axes.near(text, middle)) found.push(...this.onAxis(text, middle, axis));
    return likeliest(found);
  }

  /** Stretches between neighbouring sure marks on all lines within `reach` of a place; `height`: of the figures there. */
  stretchesNear(place: SheetPoint, reach: number, height: number): Stretch[] {
    const s = this.l.segments,
      axes: Axis[] = [];
    for (const i of this.lines.inBox(
      place[0] - reach,
      place[1] - reach,
      place[0] + reach,
      place[1] + reach,
    )) {
      const [x, y, x1, y1] = [s[4 * i], s[4 * i + 1], s[4 * i + 2], s[4 * i + 3]],
        length = Math.hypot(x1 - x, y1 - y);
      if (length < SHORT * height) continue;
      const ux = (x1 - x) / length,
        uy = (y1 - y) / length;
      if (Math.abs(-(place[0] - x) * uy + (place[1] - y) * ux) > reach) continue;
      if (
        !axes.some(
          (a) =>
            Math.abs(a.ux * uy - a.uy * ux) < 0.004 &&
            Math.abs(-(x - a.x) * a.uy + (y - a.y) * a.ux) < COLLINEAR + this.slack,
        )
      )
        axes.push({ x, y, ux, uy });
      if (axes.length >= MOST_ROWS) break;
    }
    return axes.flatMap((axis) => {
      const t = (place[0] - axis.x) * axis.ux + (place[1] - axis.y) * axis.uy,
        at = (v: number): SheetPoint => [axis.x + v * axis.ux, axis.y + v * axis.uy];
      const ends = this.stationsWithin({ height }, axis, t - reach, t + reach).filter(
        (m) => m.end >= SURE_END,
      );
      return ends.slice(1).map((b, i): Stretch => ({
        from: at(ends[i].t),
        to: at(b.t),
        points: b.t - ends[i].t,
        score: endsMatch(ends, i, i + 1),
        sure: true,
        marked: ends[i].marked || b.marked,
      }));
    });
  }

  /** Places at which something ends or marks a line that begins at the axis' own point and is so long; `height`: of the figures there. */
  marksAlong(axis: Axis, length: number, height: number): number[] {
    return this.stationsWithin({ height }, axis, 0, length)
      .filter((m) => m.end >= SURE_END || m.witness)
      .map((m) => m.t);
  }

  /**
   * Is the stretch an edge of the thing itself: no ticks or arrows, and at both ends another line of the thing begins?
   * Lines square to it at dots or rings are the witness lines of a dimension.
   */
  isEdge({ from, to, points, marked, sure }: Stretch): boolean {
    if (marked) return false;
    const s = this.l.segments,
      ux = (to[0] - from[0]) / points,
      uy = (to[1] - from[1]) / points;
    const sines = [from, to].map(([x, y]) =>
      this.lines.inBox(x - CORNER, y - CORNER, x + CORNER, y + CORNER).flatMap((i) => {
        const dx = s[4 * i + 2] - s[4 * i],
          dy = s[4 * i + 3] - s[4 * i + 1],
          length = Math.hypot(dx, dy),
          sine = Math.abs(dx * uy - dy * ux) / length;
        return length > LEAST_EDGE &&
          sine > 0.09 &&
          [0, 2].some((k) => Math.hypot(s[4 * i + k] - x, s[4 * i + k + 1] - y) < CORNER)
          ? [sine]
          : [];
      }),
    );
    return sines.every((list) => list.length > 0) && (!sure || sines.flat().some((sine) => sine < SQUARE));
  }

  /** Where lines lead that begin at a text: the pieces of its leaders, each towards its tip. */
  leaders(text: PageText): { from: SheetPoint; to: SheetPoint }[] {
    return leadersOf(text, this.lines, this.l.segments);
  }

  private onAxis(text: PageText, middle: SheetPoint, axis: Axis): Stretch[] {
    const h = text.height;
    const tm = (middle[0] - axis.x) * axis.ux + (middle[1] - axis.y) * axis.uy;
    const off = Math.abs(-(middle[0] - axis.x) * axis.uy + (middle[1] - axis.y) * axis.ux);
    const stations = this.stations(text, axis, tm);
    const across = Math.abs(axis.ux * Math.sin(text.radians) - axis.uy * Math.cos(text.radians));
    const parallel = across < PARALLEL_SINE;
    /** How much of the line the figure takes up, to both sides of its middle. */
    const half =
      (Math.abs(axis.ux * Math.cos(text.radians) + axis.uy * Math.sin(text.radians)) * text.width) / 2;
    const nearness = parallel
      ? 1 / (1 + 0.12 * Math.max(0, off / h - 0.5) ** 2)
      : 0.7 / (1 + 0.5 * Math.max(0, (off - (across * text.width) / 2) / h) ** 2);
    const out: Stretch[] = [];
    const offer = (marks: readonly Station[], i: number, k: number, quality: number) => {
      const a = marks[i],
        b = marks[k],
        points = b.t - a.t;
      if (points < 0.5 * h) return;
      const centred = 1 - Math.min(1, Math.abs(tm - (a.t + b.t) / 2) / (points / 2 + half));
      const place = (t: number): SheetPoint => [axis.x + t * axis.ux, axis.y + t * axis.uy];
      out.push({
        from: place(a.t),
        to: place(b.t),
        points,
        score: quality * endsMatch(marks, i, k) * nearness * (0.45 + 0.55 * centred),
        sure: Math.min(a.end, b.end) >= SURE_END,
        marked: a.marked || b.marked,
      });
    };
    for (const [marks, quality] of [
      [stations.filter((m) => m.end >= SURE_END), 1],
      [stations.filter((m) => m.end > 0), 0.8],
      [stations, 0.4],
    ] as const) {
      const found = marks.findIndex((m) => m.t > tm),
        right = found < 0 ? marks.length : found;
      for (let i = Math.max(0, right - LOOK_BEYOND); i < right; i++)
        for (let k = right; k < Math.min(marks.length, right + LOOK_BEYOND); k++) offer(marks, i, k, quality);
      // A figure that does not fit between its ends stands beside them.
      const fits = (a: Station, b: Station) => b.t - a.t < 2 * half + 2 * h;
      if (right >= 2 && fits(marks[right - 2], marks[right - 1]) && tm - marks[right - 1].t < half + 3 * h)
        offer(marks, right - 2, right - 1, 0.75 * quality);
      if (
        right + 1 < marks.length &&
        fits(marks[right], marks[right + 1]) &&
        marks[right].t - tm < half + 3 * h
      )
        offer(marks, right, right + 1, 0.75 * quality);
    }
    return out;
  }

  /** Places along the axis at which something ends it, in order. Goes out from the figure until both sides have two ends or the line ends. */
  private stations(text: PageText, axis: Axis, tm: number): Station[] {
    const h = text.height;
    const gap = Math.max(text.width + 6 * h, 8 * h);
    let reach = text.width + 8 * h;
    for (let k = 0; k < MOST_GROWTH; k++, reach *= 1.7) {
      const { from, to } = this.axes.coverage(axis, tm, reach, gap);
      const stations = this.stationsWithin(text, axis, from, to);
      const ends = stations.filter((s) => s.end >= SURE_END);
      const done = (side: Station[], edge: number) => side.length >= 2 || Math.abs(edge - tm) < reach - 1e-6;
      if (
        done(
          ends.filter((s) => s.t <= tm),
          from,
        ) &&
        done(
          ends.filter((s) => s.t > tm),
          to,
        )
      )
        return stations;
    }
    return [];
  }

  private stationsWithin(text: Pick<PageText, 'height'>, axis: Axis, from: number, to: number): Station[] {
    const h = text.height,
      slack = 1.2 * h;
    const at = (t: number): SheetPoint => [axis.x + t * axis.ux, axis.y + t * axis.uy];
    const p = at(from - slack),
      q = at(to + slack);
    const marks: Mark[] = [];
    const touch = TOUCH + this.slack;
    const add = (index: LineIndex, lines: Float64Array, filled: boolean) => {
      for (const i of index.along(p, q, touch)) {
        const mark = markOf(lines, i, axis, { height: h, filled, touch });
        if (mark) marks.push(mark);
      }
    };
    add(this.lines, this.l.segments, false);
    add(this.edges, this.l.fillEdges, true);
    for (const { x, y, r } of this.dots) {
      const t = (x - axis.x) * axis.ux + (y - axis.y) * axis.uy,
        v = -(x - axis.x) * axis.uy + (y - axis.y) * axis.ux;
      if (r <= h && Math.abs(v) <= touch && t > from - slack && t < to + slack)
        marks.push({ t, what: 'dot', above: r, below: r, length: 2 * r, slope: 1 });
    }
    return gathered(
      marks.filter((m) => m.t >= from - slack && m.t <= to + slack),
      Math.max(0.5, 0.14 * h),
    );
  }
}

/** The likeliest stretches, each once. */
function likeliest(found: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = [],
    near = (p: SheetPoint, q: SheetPoint) => Math.abs(p[0] - q[0]) + Math.abs(p[1] - q[1]) < SAME_PLACE;
  for (const s of [...found].sort((a, b) => b.score - a.score)) {
    if (
      !out.some(
        (o) => (near(o.from, s.from) && near(o.to, s.to)) || (near(o.from, s.to) && near(o.to, s.from)),
      )
    )
      out.push(s);
    if (out.length === MOST_STRETCHES) break;
  }
  return out;
}
