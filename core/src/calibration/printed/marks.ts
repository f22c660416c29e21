/** Places on a line at which a dimension may end: ticks, arrows, dots, witness lines. */

/** Heights of the figure. */
export const LONGEST_MARK = 4.5;
/** Things that touch may miss one another by this much. */
export const TOUCH = 0.35;
/** Lines drawn twice lie this near to one another, sheet points. */
export const SAME_PLACE = 0.1;
/** A place ends a dimension surely from here on. */
export const SURE_END = 0.5;
/** The wing of an arrow goes at least this far to its side. */
export const LEAST_BARB = 0.2;
/** Lines whose directions differ by less than this sine run alike. */
export const PARALLEL_SINE = 0.035;
/** A piece of line shorter than this, in heights of the figure, says little by itself. */
export const SHORT = 0.5;
/** Lines of one axis miss one another by less, sheet points. */
export const COLLINEAR = 0.3;

/** A line through a point, with its direction of length one. */
export interface Axis {
  x: number;
  y: number;
  ux: number;
  uy: number;
}
/** A place on the line where something ends or crosses it. */
export interface Mark {
  t: number;
  what: 'tick' | 'barb' | 'dot' | 'witness' | 'upright' | 'corner';
  /** How far it goes to both sides of the line; its length and steepness tell marks of one kind from others. */
  above: number;
  below: number;
  length: number;
  slope: number;
}

/** Marks at one place. `end`: how sure it is that a dimension ends here, 0 to 1. */
export interface Station {
  t: number;
  end: number;
  marked: boolean;
  witness: boolean;
  look: { length: number; slope: number } | null;
}

/** What a line or the edge of a fill marks on the axis, if anything. */
export function markOf(
  lines: Float64Array,
  i: number,
  axis: Axis,
  { height: h, filled, touch }: { height: number; filled: boolean; touch: number },
): Mark | null {
  const [x0, y0, x1, y1] = [
    lines[4 * i] - axis.x,
    lines[4 * i + 1] - axis.y,
    lines[4 * i + 2] - axis.x,
    lines[4 * i + 3] - axis.y,
  ];
  const p = [x0 * axis.ux + y0 * axis.uy, -x0 * axis.uy + y0 * axis.ux],
    q = [x1 * axis.ux + y1 * axis.uy, -x1 * axis.uy + y1 * axis.ux];
  if (Math.min(p[1], q[1]) > touch || Math.max(p[1], q[1]) < -touch) return null;
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  if (length < 0.05) return null;
  const slope = Math.abs(q[1] - p[1]) / length;
  const short = length <= LONGEST_MARK * h;
  const shape = { above: Math.max(p[1], q[1], 0), below: -Math.min(p[1], q[1], 0), length, slope };
  if (slope > 0.99) {
    // The foot of a filled arrow crosses its line as well: only strokes are witnesses.
    const what = short && Math.abs(shape.above - shape.below) < 0.25 * length ? 'upright' : 'witness';
    return filled ? null : { t: crossing(p, q), what, ...shape };
  }
  if (slope < 0.06) return null;
  if (!short) {
    // The next edge of a thing whose lengths are written along its edges.
    const end = filled ? undefined : [p, q].find((e) => Math.abs(e[1]) <= touch);
    return end ? { t: end[0], what: 'corner', ...shape } : null;
  }
  const touching = [p, q].filter((e) => Math.abs(e[1]) <= Math.min(touch, 0.25 * Math.abs(q[1] - p[1])));
  // A stroke across the line is a tick; one that ends on it is half an arrow.
  if (touching.length === 1 && Math.max(shape.above, shape.below) > LEAST_BARB)
    return { t: touching[0][0], what: 'barb', ...shape };
  return p[1] * q[1] < 0 && slope > 0.15 && slope < 0.985
    ? { t: crossing(p, q), what: 'tick', ...shape }
    : null;
}

/** Marks of one dimension are drawn alike; a mark of the same look between them would have ended it sooner. */
export function endsMatch(marks: readonly Station[], i: number, k: number): number {
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
export function gathered(marks: readonly Mark[], within: number): Station[] {
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
