import { readFigure } from '../../units/index.ts';
import { LineIndex } from '../line-index.ts';
import type { Linework, PageText } from '../types.ts';

/**
 * Dimensions as a draughtsman draws them: a figure, beside or in a line of its own direction, and at both
 * ends of the figure's stretch a tick, an arrow or a witness line. Distances below are in heights of the figure.
 */
export interface DimensionParts {
  segments: Uint8Array;
  circles: Uint8Array;
  fillEdges: Uint8Array;
  texts: Uint8Array;
  found: number;
}

/** How far the line may lie from the middle of the figure. */
const LINE_REACH = 2;
/** A tick or the edge of an arrow is at most this long. */
const LONGEST_MARK = 4;
/** Sheet points by which things that touch may miss one another. */
const TOUCH = 0.6;
/** Sine of the angle within which directions are the same. */
const SAME_DIRECTION = 0.03;
/** A witness line stands where its mark does, sheet points, and goes no farther beyond its line; so much of an upright tick lies to either side. */
const AT_MARK = 1,
  AT_TICK = 0.35,
  MOST_BEYOND = 1.5,
  UPRIGHT_TICK = 0.25;
/** The figure stands near the middle of its stretch: at most this share of its width beside the line's end. */
const BESIDE = 0.6;

export function findDimensions(l: Linework, count: number, skip: Uint8Array): DimensionParts {
  const parts: DimensionParts = {
    segments: new Uint8Array(count),
    circles: new Uint8Array(l.circles.length / 3),
    fillEdges: new Uint8Array(l.fillEdges.length / 4),
    texts: new Uint8Array(l.texts.length),
    found: 0,
  };
  const figures = l.texts.flatMap((t, i) => {
    const figure = readFigure(t.text);
    return figure && figure.kind !== 'angle' ? [{ i, figure }] : [];
  });
  if (figures.length === 0) return parts;
  const finder = new Finder(l, count, skip, parts);
  for (const { i, figure } of figures) {
    if (finder.take(l.texts[i])) {
      parts.texts[i] = 1;
      parts.found++;
    } else if (figure.kind !== 'length') parts.texts[i] = 1;
  }
  return parts;
}

/** A mark where something touches the dimension line: `t` along it from the figure's middle. */
interface Mark {
  t: number;
  sure: boolean;
  /** May be a witness line, or whatever else ends at the line: it is one only where a sure mark stands. */
  beside?: boolean;
  take: () => void;
}

class Finder {
  private readonly lines: LineIndex;
  private readonly edges: LineIndex;

  constructor(
    private readonly l: Linework,
    count: number,
    skip: Uint8Array,
    private readonly parts: DimensionParts,
  ) {
    this.lines = new LineIndex(
      l.segments,
      Int32Array.from({ length: count }, (_, i) => i).filter((i) => !skip[i]),
    );
    this.edges = new LineIndex(
      l.fillEdges,
      Int32Array.from({ length: l.fillEdges.length / 4 }, (_, i) => i),
    );
  }

  take(text: PageText): boolean {
    const h = text.height,
      ux = Math.cos(text.radians),
      uy = Math.sin(text.radians);
    const mx = text.x + (ux * text.width) / 2 - uy * 0.35 * h,
      my = text.y + (uy * text.width) / 2 + ux * 0.35 * h;
    const s = this.l.segments;
    const along = (x: number, y: number) => (x - mx) * ux + (y - my) * uy;
    const off = (x: number, y: number) => -(x - mx) * uy + (y - my) * ux;
    const reach = LINE_REACH * h + text.width;
    const beside: { i: number; a: number; b: number; v: number }[] = [];
    for (const i of this.lines.inBox(mx - reach, my - reach, mx + reach, my + reach)) {
      const [x0, y0, x1, y1] = [s[4 * i], s[4 * i + 1], s[4 * i + 2], s[4 * i + 3]];
      const length = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
      if (length < h / 2 || Math.abs(-(x1 - x0) * uy + (y1 - y0) * ux) > SAME_DIRECTION * length) continue;
      const v = (off(x0, y0) + off(x1, y1)) / 2;
      if (Math.abs(v) > LINE_REACH * h) continue;
      const a = Math.min(along(x0, y0), along(x1, y1)),
        b = Math.max(along(x0, y0), along(x1, y1));
      beside.push({ i, a, b, v });
    }
    const slack = BESIDE * text.width;
    const whole = beside
      .filter((c) => c.a <= slack && c.b >= -slack)
      .sort((p, q) => Math.abs(p.v) - Math.abs(q.v));
    for (const c of whole) if (this.tryLine([c.i], c.a, c.b, c.v, text)) return true;
    // The figure may stand in a gap of its line.
    for (const left of beside) {
      if (left.b > 0 || Math.abs(left.v) > 0.5 * h) continue;
      const right = beside.find(
        (c) => c.a >= 0 && Math.abs(c.v - left.v) < TOUCH && c.a - left.b < text.width + 4 * h,
      );
      if (right && this.tryLine([left.i, right.i], left.a, right.b, left.v, text)) return true;
    }
    return false;
  }

  /** Is there a mark at both ends of the stretch that holds the figure? Then all of it is a dimension. */
  private tryLine(segments: readonly number[], a: number, b: number, v: number, text: PageText): boolean {
    const marks = this.marksOn(segments, a, b, v, text);
    const sure = marks.filter((m) => m.sure);
    const before = sure.filter((m) => m.t < 0).map((m) => m.t),
      after = sure.filter((m) => m.t >= 0).map((m) => m.t);
    const inner = [Math.max(...before), Math.min(...after)];
    if (!Number.isFinite(inner[0]) || !Number.isFinite(inner[1]) || inner[1] - inner[0] < text.height / 2)
      return false;
    // The foot of an arrow lies nearer than its tip: the mark is all of it.
    const reach = LONGEST_MARK * text.height;
    const left = Math.min(...before.filter((t) => t >= inner[0] - reach)),
      right = Math.max(...after.filter((t) => t <= inner[1] + reach));
    const between = (t: number) => (t >= left && t <= inner[0]) || (t >= inner[1] && t <= right);
    // The figure belongs to the stretch that its middle lies in, not to a far one.
    for (const i of segments) this.parts.segments[i] = 1;
    const near = (t: number) =>
      between(t) || Math.min(Math.abs(t - left), Math.abs(t - right)) <= text.height;
    const ticks = sure.filter((m) => !m.beside),
      isAt = (m: Mark, of: readonly Mark[], reach: number) => of.some((s) => Math.abs(s.t - m.t) <= reach);
    for (const m of marks) {
      if (!near(m.t)) continue;
      // Beside a tick a leaf or a pane may stand, that is no witness line; without ticks witness lines are the marks.
      const isTold = isAt(m, ticks, text.height) ? isAt(m, ticks, AT_TICK) : isAt(m, sure, AT_MARK);
      if (!m.beside || isTold) m.take();
    }
    return true;
  }

  private marksOn(own: readonly number[], a: number, b: number, v: number, text: PageText): Mark[] {
    const { l, parts } = this;
    const h = text.height,
      ux = Math.cos(text.radians),
      uy = Math.sin(text.radians);
    const mx = text.x + (ux * text.width) / 2 - uy * 0.35 * h,
      my = text.y + (uy * text.width) / 2 + ux * 0.35 * h;
    const at = (t: number, w: number): [number, number] => [mx + t * ux - w * uy, my + t * uy + w * ux];
    const corners = [at(a - h, v - h), at(b + h, v - h), at(b + h, v + h), at(a - h, v + h)];
    const box = [
      Math.min(...corners.map((p) => p[0])),
      Math.min(...corners.map((p) => p[1])),
      Math.max(...corners.map((p) => p[0])),
      Math.max(...corners.map((p) => p[1])),
    ] as const;
    const marks: Mark[] = [];
    const pen = l.segmentStyle[2 * own[0] + 1];
    const look = (array: Float64Array, i: number, filled: boolean, take: () => void) => {
      const [x0, y0, x1, y1] = [array[4 * i], array[4 * i + 1], array[4 * i + 2], array[4 * i + 3]];
      const p = [(x0 - mx) * ux + (y0 - my) * uy, -(x0 - mx) * uy + (y0 - my) * ux - v],
        q = [(x1 - mx) * ux + (y1 - my) * uy, -(x1 - mx) * uy + (y1 - my) * ux - v];
      const length = Math.sqrt((q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2);
      // Does it touch the line? Then where.
      if (Math.min(p[1], q[1]) > TOUCH || Math.max(p[1], q[1]) < -TOUCH) return;
      const k = Math.abs(q[1] - p[1]) < 1e-9 ? 0.5 : Math.max(0, Math.min(1, p[1] / (p[1] - q[1])));
      const t = p[0] + k * (q[0] - p[0]);
      if (t < a - h || t > b + h) return;
      const slope = length === 0 ? 0 : Math.abs(q[1] - p[1]) / length;
      if (filled) {
        if (length <= LONGEST_MARK * h) marks.push({ t, sure: slope > 0.05, take });
      } else if (slope > 0.985) {
        const mark = uprightMark(p[1], q[1], h, l.segmentStyle[2 * i + 1] === pen);
        if (mark) marks.push({ t, sure: mark.sure, beside: true, take });
      } else if (slope > 0.15 && length <= LONGEST_MARK * h) marks.push({ t, sure: true, take });
    };
    for (const i of this.lines.inBox(...box))
      if (!own.includes(i))
        look(l.segments, i, false, () => {
          parts.segments[i] = 1;
        });
    for (const i of this.edges.inBox(...box))
      look(l.fillEdges, i, true, () => {
        parts.fillEdges[i] = 1;
      });
    for (let i = 0; i < l.circles.length / 3; i++) {
      const x = l.circles[3 * i] - mx,
        y = l.circles[3 * i + 1] - my,
        r = l.circles[3 * i + 2];
      const t = x * ux + y * uy,
        w = -x * uy + y * ux - v;
      if (r <= h && Math.abs(w) <= TOUCH && t >= a - h && t <= b + h)
        marks.push({
          t,
          sure: true,
          take: () => {
            parts.circles[i] = 1;
          },
        });
    }
    return marks;
  }
}

/**
 * A line square to a dimension line, from `v` to `w` across it: a witness line goes a little beyond the line that it ends, and is of its pen; a tick stands across
 * it, about as far to both sides; a wall that it ends at does neither. `h`: how tall the figure is.
 */
function uprightMark(v: number, w: number, h: number, isOwnPen: boolean): { sure: boolean } | null {
  const length = Math.abs(w - v),
    beyond = Math.min(Math.abs(v), Math.abs(w)),
    crosses = v * w < 0,
    isTick = length <= LONGEST_MARK * h && crosses && beyond > UPRIGHT_TICK * length,
    isWitness = isOwnPen && (!crosses || beyond <= MOST_BEYOND * h);
  return isTick || isWitness
    ? { sure: isOwnPen && crosses && beyond > LEAST_BEYOND && beyond <= MOST_BEYOND * h }
    : null;
}
/** A witness line that goes so little beyond may only touch, sheet points. */
const LEAST_BEYOND = 0.3;
