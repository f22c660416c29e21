import type { SheetPoint } from '../../geometry/index.ts';
import type { LineIndex, PageText } from '../../linework/index.ts';
import { COLLINEAR, LEAST_BARB, LONGEST_MARK, PARALLEL_SINE, SAME_PLACE, SHORT, type Axis } from './marks.ts';

/** Lengths below are in heights of the figure where they say so, else in sheet points. */
const LINE_REACH = 2.3;
/** A piece of line shorter than this never counts; a short one only where it runs so near through the figure's middle. */
const SHORTEST = 0.1,
  ON_LINE = 0.3;
/** In a thicket only the likeliest lines are looked at: those along the figure, the nearest first. */
const MOST_AXES = 14,
  SLANTED_DOUBT = 3;

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

/** The lines of a page that may carry a dimension, and how far each goes. */
export class AxisFinder {
  constructor(
    private readonly segments: Float64Array,
    private readonly lines: LineIndex,
    private readonly fillEdges: Float64Array,
    private readonly edges: LineIndex,
    private readonly slack: number,
  ) {}

  /** Lines beside or through the figure, each once: along its direction, or upright through a level figure. */
  near(text: PageText, middle: SheetPoint): Axis[] {
    const s = this.segments,
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
      e = this.fillEdges,
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

  /** How far the line goes on to both sides of the figure, with gaps no wider than `gap`, up to `reach`. */
  coverage(axis: Axis, tm: number, reach: number, gap: number): { from: number; to: number } {
    const at = (t: number): SheetPoint => [axis.x + t * axis.ux, axis.y + t * axis.uy];
    const s = this.segments;
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
    const e = this.fillEdges;
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
}
