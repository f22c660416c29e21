import type { SheetPoint } from '../../geometry/index.ts';
import { kindCode, LineIndex, STRIDE, type Linework, type PageText } from '../../linework/index.ts';

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

/** Lengths below are in heights of the figure where they say so, else in sheet points. */
const LINE_REACH = 2.3;
/** A piece of line shorter than the second (heights of the figure) only counts where it runs through the figure's middle; one shorter than the first never. */
const SHORTEST = 0.1,
  SHORT = 0.5,
  ON_LINE = 0.3;
const LONGEST_MARK = 4.5;
/** Things that touch may miss one another by this much. */
const TOUCH = 0.35;
const COLLINEAR = 0.3;
const PARALLEL_SINE = 0.035;
/** So many lines are looked at around a place. */
const MOST_ROWS = 24;
/** Lines of a thing meet within this at its corners, sheet points, and are at least so long. */
const CORNER = 0.6,
  LEAST_EDGE = 10,
  SQUARE = 0.9985;
/** A leader begins this near to its text, in heights, and has so many bends. */
const LEADER_REACH = 0.8,
  LEADER_BENDS = 2;
/** A shoulder is at most so many widths of its figure long, and four heights. */
const SHOULDER = 2;
const MOST_GROWTH = 24;
const MOST_STRETCHES = 8;
/** In a thicket only the likeliest lines are looked at: those along the figure, the nearest first. */
const MOST_AXES = 14,
  SLANTED_DOUBT = 3;
/** Lines drawn twice lie this near to one another, sheet points. */
const SAME_PLACE = 0.1;
/** A place ends a dimension surely from here on. */
const SURE_END = 0.5;
/** How many marks to each side of a figure may be its end. */
const LOOK_BEYOND = 4;
/** The wing of an arrow goes at least this far to its side. */
const LEAST_BARB = 0.2;

const HATCH = kindCode('hatch');

export interface Axis {
  x: number;
  y: number;
  ux: number;
  uy: number;
}
/** Strokes that lie within a text are its letters', give or take this share of its height. */
const LETTER_ROOM = 0.15;
function isOwnStroke({ x, y, width, height, radians }: PageText, s: Float64Array, i: number): boolean {
  const ux = Math.cos(radians),
    uy = Math.sin(radians),
    room = LETTER_ROOM * height;
  return [0, 2].every((k) => {
    const along = (s[4 * i + k] - x) * ux + (s[4 * i + k + 1] - y) * uy,
      up = -(s[4 * i + k] - x) * uy + (s[4 * i + k + 1] - y) * ux;
    return along > -room && along < width + room && up > -room / 2 && up < height;
  });
}

/** A place on the line where something ends or crosses it. */
interface Mark {
  t: number;
  what: 'tick' | 'barb' | 'dot' | 'witness' | 'upright' | 'corner';
  /** How far it goes to both sides of the line; its length and steepness tell marks of one kind from others. */
  above: number;
  below: number;
  length: number;
  slope: number;
}

/** Marks at one place. `end`: how sure it is that a dimension ends here, 0 to 1. */
interface Station {
  t: number;
  end: number;
  marked: boolean;
  witness: boolean;
  look: { length: number; slope: number } | null;
}

export class StretchFinder {
  private readonly lines: LineIndex;
  private readonly edges: LineIndex;
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
    for (const axis of this.axesNear(text, middle)) found.push(...this.onAxis(text, middle, axis));
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

  /** Where lines lead that begin at a text, bent or straight: the pieces of its leaders, each towards its tip. */
  leaders(text: PageText): { from: SheetPoint; to: SheetPoint }[] {
    const h = text.height,
      ux = Math.cos(text.radians),
      uy = Math.sin(text.radians),
      s = this.l.segments;
    const local = (x: number, y: number) => [
      (x - text.x) * ux + (y - text.y) * uy,
      -(x - text.x) * uy + (y - text.y) * ux,
    ];
    const beside = ([x, y]: SheetPoint) => {
      const [u, v] = local(x, y);
      return (
        u > -LEADER_REACH * h &&
        u < text.width + LEADER_REACH * h &&
        v > -LEADER_REACH * h &&
        v < h + LEADER_REACH * h
      );
    };
    const pieces: { from: SheetPoint; to: SheetPoint }[] = [],
      seen = new Set<number>();
    const follow = (x: number, y: number, left: number) => {
      for (const i of this.lines.inBox(x - TOUCH, y - TOUCH, x + TOUCH, y + TOUCH)) {
        if (seen.has(i)) continue;
        for (const k of [0, 2]) {
          if (Math.hypot(s[4 * i + k] - x, s[4 * i + k + 1] - y) > TOUCH) continue;
          seen.add(i);
          const end: SheetPoint = [s[4 * i + 2 - k], s[4 * i + 3 - k]];
          if (!beside(end)) pieces.push({ from: [s[4 * i + k], s[4 * i + k + 1]], to: end });
          if (left > 0) follow(end[0], end[1], left - 1);
          break;
        }
      }
    };
    const [mx, my] = [text.x + (ux * text.width) / 2, text.y + (uy * text.width) / 2],
      reach = text.width / 2 + (1 + LEADER_REACH) * h;
    for (const i of this.lines.inBox(mx - reach, my - reach, mx + reach, my + reach)) {
      const p = local(s[4 * i], s[4 * i + 1]),
        q = local(s[4 * i + 2], s[4 * i + 3]);
      // The shoulder of a leader runs along under its figure, farther than it.
      if (
        Math.abs(q[1] - p[1]) < PARALLEL_SINE * Math.abs(q[0] - p[0]) &&
        Math.abs(p[1]) < LEADER_REACH * h &&
        Math.max(p[0], q[0]) > 0.3 * text.width &&
        Math.min(p[0], q[0]) < 0.7 * text.width &&
        Math.abs(q[0] - p[0]) < SHOULDER * text.width + 4 * h &&
        !seen.has(i)
      ) {
        seen.add(i);
        for (const k of [0, 2]) follow(s[4 * i + k], s[4 * i + k + 1], LEADER_BENDS - 1);
      }
      for (const k of [0, 2])
        if (!seen.has(i) && beside([s[4 * i + k], s[4 * i + k + 1]]))
          follow(s[4 * i + k], s[4 * i + k + 1], LEADER_BENDS);
    }
    return pieces;
  }

  /** Lines beside or through the figure, each once: along its direction, or upright through a level figure. */
  private axesNear(text: PageText, middle: SheetPoint): Axis[] {
    const s = this.l.segments,
      h = text.height;
    const reach = LINE_REACH * h + text.width / 2 + 3 * h;
    const tx = Math.cos(text.radians),
      ty = Math.sin(text.radians);
    const axes: (Axis & { length: number; doubt: number })[] = [];
    for (const i of this.lines.inBox(
      middle[0] - reach,
      middle[1] - reach,
      middle[0] + reach,
      middle[1] + reach,
    )) {
      const [x0, y0, x1, y1] = [s[4 * i], s[4 * i + 1], s[4 * i + 2], s[4 * i + 3]];
      const length = Math.hypot(x1 - x0, y1 - y0);
      // On a scan the strokes of letters are lines as well.
      if (length < (this.slack > 0 ? SHORT : SHORTEST) * h || (this.slack > 0 && isOwnStroke(text, s, i)))
        continue;
      const ux = (x1 - x0) / length,
        uy = (y1 - y0) / length;
      const off = Math.abs(-(middle[0] - x0) * uy + (middle[1] - y0) * ux);
      const sine = Math.abs(ux * ty - uy * tx);
      // Of a short stretch with its figure in a gap little is left of the line.
      if (length < SHORT * h && (off > ON_LINE * h || (sine > PARALLEL_SINE && sine < 0.999))) continue;
      // The half extent of the figure across the line.
      const half = 0.5 * h + (sine * text.width) / 2;
      if (off > (sine < PARALLEL_SINE ? LINE_REACH * h : half + h)) continue;
      const t0 = (x0 - middle[0]) * ux + (y0 - middle[1]) * uy;
      const beyond = Math.max(0, t0, -(t0 + length));
      if (beyond > text.width / 2 + 3 * h) continue;
      const same = axes.find(
        (a) =>
          Math.abs(a.ux * uy - a.uy * ux) < 0.004 &&
          Math.abs(
            -(middle[0] - a.x) * a.uy +
              (middle[1] - a.y) * a.ux -
              Math.sign(a.ux * ux + a.uy * uy) * (-(middle[0] - x0) * uy + (middle[1] - y0) * ux),
          ) <
            COLLINEAR + this.slack,
      );
      const doubt = off / h + (sine < PARALLEL_SINE ? 0 : SLANTED_DOUBT);
      if (!same) axes.push({ x: x0, y: y0, ux, uy, length, doubt });
      else if (length > same.length) Object.assign(same, { x: x0, y: y0, ux, uy, length });
    }
    axes.push(
      ...this.arrowAxes(text, middle).filter(
        (a) =>
          !axes.some(
            (b) =>
              Math.abs(a.ux * b.uy - a.uy * b.ux) < 0.004 &&
              Math.abs(-(a.x - b.x) * b.uy + (a.y - b.y) * b.ux) < COLLINEAR + this.slack,
          ),
      ),
    );
    return axes.sort((a, b) => a.doubt - b.doubt).slice(0, MOST_AXES);
  }

  /** Of a short stretch nothing may show but two filled arrows with the figure between them: the line runs through their tips. */
  private arrowAxes(text: PageText, middle: SheetPoint): (Axis & { length: number; doubt: number })[] {
    const h = text.height,
      e = this.l.fillEdges,
      reach = text.width / 2 + 3 * h;
    const near = this.edges
      .inBox(middle[0] - reach, middle[1] - reach, middle[0] + reach, middle[1] + reach)
      .filter((i) => Math.hypot(e[4 * i + 2] - e[4 * i], e[4 * i + 3] - e[4 * i + 1]) <= LONGEST_MARK * h);
    const out: (Axis & { length: number; doubt: number })[] = [];
    for (const turn of [text.radians, text.radians + Math.PI / 2]) {
      const ux = Math.cos(turn),
        uy = Math.sin(turn),
        across = (x: number, y: number) => -(x - middle[0]) * uy + (y - middle[1]) * ux;
      for (const i of near) {
        for (const k of [0, 2]) {
          const [x, y] = [e[4 * i + k], e[4 * i + k + 1]],
            v = across(x, y),
            own = across(e[4 * i + 2 - k], e[4 * i + 3 - k]) - v;
          if (
            Math.abs(v) > ON_LINE * h ||
            Math.abs(own) < LEAST_BARB ||
            out.some((a) => a.ux === ux && a.uy === uy && Math.abs(across(a.x, a.y) - v) < COLLINEAR)
          )
            continue;
          const mirrored = near.some(
            (m) =>
              m !== i &&
              [0, 2].some(
                (n) =>
                  Math.hypot(e[4 * m + n] - x, e[4 * m + n + 1] - y) < SAME_PLACE &&
                  Math.abs(across(e[4 * m + 2 - n], e[4 * m + 3 - n]) - v + own) < 0.1 * Math.abs(own),
              ),
          );
          if (mirrored)
            out.push({
              x,
              y,
              ux,
              uy,
              length: 0,
              doubt: Math.abs(v) / h + (turn === text.radians ? 0 : SLANTED_DOUBT),
            });
        }
      }
    }
    return out;
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
      const { from, to } = this.coverage(axis, tm, reach, gap);
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

  /** How far the line goes on to both sides of the figure, with gaps no wider than `gap`, up to `reach`. */
  private coverage(axis: Axis, tm: number, reach: number, gap: number): { from: number; to: number } {
    const at = (t: number): SheetPoint => [axis.x + t * axis.ux, axis.y + t * axis.uy];
    const s = this.l.segments;
    const pieces: [number, number][] = [];
    for (const i of this.lines.along(at(tm - reach), at(tm + reach), COLLINEAR + this.slack)) {
      const [x0, y0, x1, y1] = [
        s[4 * i] - axis.x,
        s[4 * i + 1] - axis.y,
        s[4 * i + 2] - axis.x,
        s[4 * i + 3] - axis.y,
      ];
      if (
        Math.abs(-x0 * axis.uy + y0 * axis.ux) > COLLINEAR + this.slack ||
        Math.abs(-x1 * axis.uy + y1 * axis.ux) > COLLINEAR + this.slack
      )
        continue;
      const a = x0 * axis.ux + y0 * axis.uy,
        b = x1 * axis.ux + y1 * axis.uy;
      pieces.push([Math.min(a, b), Math.max(a, b)]);
    }
    // Filled arrows may cover all of the line that there is.
    const e = this.l.fillEdges;
    for (const i of this.edges.along(at(tm - gap), at(tm + gap), COLLINEAR + this.slack)) {
      const [x0, y0, x1, y1] = [
        e[4 * i] - axis.x,
        e[4 * i + 1] - axis.y,
        e[4 * i + 2] - axis.x,
        e[4 * i + 3] - axis.y,
      ];
      const v0 = Math.abs(-x0 * axis.uy + y0 * axis.ux),
        v1 = Math.abs(-x1 * axis.uy + y1 * axis.ux),
        a = x0 * axis.ux + y0 * axis.uy,
        b = x1 * axis.ux + y1 * axis.uy;
      if (Math.min(v0, v1) <= COLLINEAR && Math.max(v0, v1) < 0.5 * Math.abs(b - a))
        pieces.push([Math.min(a, b), Math.max(a, b)]);
    }
    let from = tm,
      to = tm,
      grown = true;
    while (grown) {
      grown = false;
      for (const [a, b] of pieces) {
        if (a <= to + gap && b > to) {
          to = b;
          grown = true;
        }
        if (b >= from - gap && a < from) {
          from = a;
          grown = true;
        }
      }
    }
    return { from: Math.max(from, tm - reach), to: Math.min(to, tm + reach) };
  }

  private stationsWithin(text: Pick<PageText, 'height'>, axis: Axis, from: number, to: number): Station[] {
    const h = text.height,
      slack = 1.2 * h;
    const at = (t: number): SheetPoint => [axis.x + t * axis.ux, axis.y + t * axis.uy];
    const p = at(from - slack),
      q = at(to + slack);
    const marks: Mark[] = [];
    for (const i of this.lines.along(p, q, TOUCH + this.slack))
      this.markOf(this.l.segments, i, axis, h, false, marks);
    for (const i of this.edges.along(p, q, TOUCH + this.slack))
      this.markOf(this.l.fillEdges, i, axis, h, true, marks);
    for (const { x, y, r } of this.dots) {
      const t = (x - axis.x) * axis.ux + (y - axis.y) * axis.uy,
        v = -(x - axis.x) * axis.uy + (y - axis.y) * axis.ux;
      if (r <= h && Math.abs(v) <= TOUCH + this.slack && t > from - slack && t < to + slack)
        marks.push({ t, what: 'dot', above: r, below: r, length: 2 * r, slope: 1 });
    }
    return gathered(
      marks.filter((m) => m.t >= from - slack && m.t <= to + slack),
      Math.max(0.5, 0.14 * h),
    );
  }

  /** What a line or the edge of a fill marks on the axis, if anything. */
  private markOf(
    lines: Float64Array,
    i: number,
    axis: Axis,
    h: number,
    filled: boolean,
    marks: Mark[],
  ): void {
    const [x0, y0, x1, y1] = [
      lines[4 * i] - axis.x,
      lines[4 * i + 1] - axis.y,
      lines[4 * i + 2] - axis.x,
      lines[4 * i + 3] - axis.y,
    ];
    const p = [x0 * axis.ux + y0 * axis.uy, -x0 * axis.uy + y0 * axis.ux],
      q = [x1 * axis.ux + y1 * axis.uy, -x1 * axis.uy + y1 * axis.ux];
    const touch = TOUCH + this.slack;
    if (Math.min(p[1], q[1]) > touch || Math.max(p[1], q[1]) < -touch) return;
    const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (length < 0.05) return;
    const slope = Math.abs(q[1] - p[1]) / length;
    const short = length <= LONGEST_MARK * h;
    const shape = { above: Math.max(p[1], q[1], 0), below: -Math.min(p[1], q[1], 0), length, slope };
    if (slope > 0.99) {
      // The foot of a filled arrow crosses its line as well: only strokes are witnesses.
      if (!filled)
        marks.push({
          t: crossing(p, q),
          what: short && Math.abs(shape.above - shape.below) < 0.25 * length ? 'upright' : 'witness',
          ...shape,
        });
      return;
    }
    if (slope < 0.06) return;
    if (!short) {
      // The next edge of a thing whose lengths are written along its edges.
      const end = filled ? undefined : [p, q].find((e) => Math.abs(e[1]) <= touch);
      if (end) marks.push({ t: end[0], what: 'corner', ...shape });
      return;
    }
    const touching = [p, q].filter((e) => Math.abs(e[1]) <= Math.min(touch, 0.25 * Math.abs(q[1] - p[1])));
    // A stroke across the line is a tick; one that ends on it is half an arrow.
    if (touching.length === 1 && Math.max(shape.above, shape.below) > LEAST_BARB)
      marks.push({ t: touching[0][0], what: 'barb', ...shape });
    else if (p[1] * q[1] < 0 && slope > 0.15 && slope < 0.985)
      marks.push({ t: crossing(p, q), what: 'tick', ...shape });
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

/** Marks of one dimension are drawn alike; a mark of the same look between them would have ended it sooner. */
function endsMatch(marks: readonly Station[], i: number, k: number): number {
  const a = marks[i],
    b = marks[k];
  const alike = (p: Station, q: Station) =>
    p.look !== null &&
    q.look !== null &&
    Math.abs(p.look.length - q.look.length) < 0.06 * p.look.length + 0.05 &&
    Math.abs(p.look.slope - q.look.slope) < 0.04;
  let quality =
    (0.4 + 0.6 * Math.min(a.end, b.end)) * (alike(a, b) ? 1 : 0.6) * (a.witness && b.witness ? 1 : 0.85);
  for (let m = i + 1; m < k; m++)
    quality *= marks[m].end >= SURE_END && (alike(marks[m], a) || alike(marks[m], b)) ? 0.35 : 0.94;
  return quality;
}

const crossing = (p: readonly number[], q: readonly number[]) =>
  p[0] + (p[1] / (p[1] - q[1])) * (q[0] - p[0]);

/** Marks close together are one place: a witness line says exactly where. */
function gathered(marks: readonly Mark[], within: number): Station[] {
  const sorted = [...marks].sort((a, b) => a.t - b.t);
  const groups: Mark[][] = [];
  for (const mark of sorted) {
    const last = groups[groups.length - 1];
    if (last && mark.t - last[last.length - 1].t <= within) last.push(mark);
    else groups.push([mark]);
  }
  const mean = (list: readonly Mark[]) => list.reduce((sum, m) => sum + m.t, 0) / list.length;
  return groups.map((g) => {
    const of = (...what: Mark['what'][]) => g.filter((m) => what.includes(m.what));
    const witnesses = of('witness'),
      uprights = of('upright', 'corner'),
      ends = of('tick', 'barb', 'dot')
        .map((m) => ({ m, sure: sureness(m, g) }))
        .sort((p, q) => q.sure - p.sure);
    const best = ends[0] as { m: Mark; sure: number } | undefined;
    // Of several lines square to it, the one through the mark is its witness.
    const nearest = best && Math.min(...witnesses.map((m) => Math.abs(m.t - best.m.t)));
    const placed =
      witnesses.length > 0
        ? witnesses.filter((m) => !best || Math.abs(m.t - best.m.t) <= nearest! + SAME_PLACE)
        : best
          ? ends.filter((e) => e.sure >= 0.9 * best.sure).map((e) => e.m)
          : uprights;
    return {
      t: mean(placed),
      end: best?.sure ?? 0,
      marked: ends.some((e) => e.m.what !== 'dot' && e.sure >= SURE_END),
      witness: witnesses.length + uprights.length > 0,
      look: best ? { length: best.m.length, slope: best.m.slope } : null,
    };
  });
}

/** A tick goes as far to both sides, a barb has its mirror image; what is neither just happens to be there. */
function sureness(mark: Mark, group: readonly Mark[]): number {
  if (mark.what === 'dot') return 1;
  if (mark.what === 'tick')
    return Math.abs(mark.above - mark.below) < 0.2 * (mark.above + mark.below) ? 1 : 0.3;
  const mirrored = group.some(
    (m) =>
      m.what === 'barb' &&
      Math.abs(m.length - mark.length) < 0.1 * mark.length &&
      m.above > m.below !== mark.above > mark.below &&
      Math.abs(m.slope - mark.slope) < 0.1,
  );
  return mirrored ? 1 : 0.4;
}
