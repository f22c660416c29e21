import type { Box, Piece, Point } from '../geometry/index.ts';

/** A wall read from its two faces: its middle line and thickness, and where along that line doors and windows are drawn, millimetres of the plane. */
export interface FacePair {
  from: [number, number];
  to: [number, number];
  thickness: number;
  openings: { from: [number, number]; to: [number, number] }[];
}

/** Faces run the same way within this sine. */
const SAME_WAY = 2e-3;
/** Walls are no thinner and no thicker than this, millimetres. */
const THINNEST = 30,
  THICKEST = 1200;
/** Lines that miss by no more than this are one face, or meet, millimetres. */
const MEETS = 3;
/** A wall runs on across a gap that ends closed at both sides, and across one no wider than a crossing wall. */
const WIDEST_OPENING = 6000,
  WIDEST_CROSSING = 620;
/** A leaf is as long as its opening is wide, but for the frame: by no more than this share. */
const LEAF_MISFIT = 0.2;
/** Less of both faces than this, millimetres and as a share of the pointed line, is no wall. */
const LEAST_TOGETHER = 60,
  LEAST_SHARE = 0.3;
/** How much lines between two faces speak against them where they run beside them, and how much thickness does. */
const BETWEEN = 0.85,
  USUAL_THICKNESS = 350;
/** Ends that are closed from face to face speak for them, each as much as so many thicknesses of length. */
const CLOSED = 1.5;
/** Jambs and ends from face to face, two of them at most, make a wall so much likelier each. */
const JAMB = 0.6;
/** Lines of an opening speak so much less for a wall. */
const IN_OPENING = 0.8;
/** A second face on the other side of the pointer is so much less likely. */
const OTHER_SIDE = 0.7;
/** More than these nobody steps through. */
const MOST = 6;
/** How far along its line a wall is looked for, millimetres. */
const FARTHEST = 120000;

type Segment = Extract<Piece, { kind: 'segment' }>;
type Interval = [number, number];

/** Lines of one carrier: how far it lies across from the pointed face, and what of it is drawn. */
interface Carrier {
  off: number;
  drawn: Interval[];
}

/**
 * The walls of which a line may be one face, the likeliest first: which line runs longest beside it over the whole run of the wall,
 * with how little between them, and how well their ends are closed. `find`: the solid lines that may touch a box; `side`: where the pointer is.
 */
export function facePairs(face: Segment, find: (box: Box) => Iterable<Piece>, side: Point): FacePair[] {
  const { from, to } = face,
    length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length === 0) return [];
  const ux = (to[0] - from[0]) / length,
    uy = (to[1] - from[1]) / length;
  const along = (p: Point) => (p[0] - from[0]) * ux + (p[1] - from[1]) * uy,
    across = (p: Point) => -(p[0] - from[0]) * uy + (p[1] - from[1]) * ux;
  const { carriers, caps } = beside(face, find, along, across, [ux, uy]);
  const own = carriers.find((c) => Math.abs(c.off) <= MEETS) ?? { off: 0, drawn: [[0, length]] };
  const place = Math.min(length, Math.max(0, along(side))),
    towards = Math.sign(across(side));
  const found: (FacePair & { score: number })[] = [];
  for (const other of carriers) {
    const thickness = Math.abs(other.off);
    if (other === own || thickness < THINNEST || thickness > THICKEST) continue;
    const both = common(own.drawn, other.drawn).filter(([a, b]) => b - a > MEETS);
    const [near, far] = [Math.min(0, other.off), Math.max(0, other.off)];
    const covers = (t: number) =>
      caps.filter((c) => Math.abs(c.at - t) <= MEETS && c.low <= near + MEETS && c.high >= far - MEETS);
    // What closes a wall goes from face to face and no farther: what goes farther closes a thicker one, of which this is a line in an opening.
    const closes = (t: number) => covers(t).some((c) => c.low >= near - MEETS && c.high <= far + MEETS);
    const isWithin = ([a, b]: Interval) =>
      [a, b].every(
        (t) =>
          !closes(t) &&
          covers(t).some((c) =>
            other.off > 0
              ? Math.abs(c.low) <= MEETS && c.high <= THICKEST
              : Math.abs(c.high) <= MEETS && c.low >= -THICKEST,
          ),
      );
    // A leaf that stands open lies in line with its jamb, as long as the opening is wide: both are one line.
    const isHinge = (t: number, width: number) =>
      covers(t).some(
        (c) =>
          Math.abs(Math.max(near - c.low, c.high - far) - width) <= LEAF_MISFIT * width &&
          Math.min(near - c.low, c.high - far) <= MEETS,
      );
    const isOpening = (a: number, b: number) =>
      (closes(a) && (closes(b) || isHinge(b, b - a))) || (closes(b) && isHinge(a, b - a));
    const run = runAround(both, place, own, other, isOpening, thickness);
    if (!run) continue;
    const within = both.filter(([a, b]) => a >= run[0] - MEETS && b <= run[1] + MEETS),
      together = total(within) - IN_OPENING * total(within.filter(isWithin));
    if (together < Math.max(LEAST_TOGETHER, Math.min(LEAST_SHARE * length, thickness))) continue;
    const between = carriers.filter(
      (c) =>
        c !== own &&
        c !== other &&
        c.off * Math.sign(other.off) > MEETS &&
        Math.abs(c.off) < thickness - MEETS,
    );
    // Glazing lies between faces as well, from jamb to jamb.
    const crowded = total(
      common(within, union(between.flatMap((c) => c.drawn.filter(([a, b]) => !(closes(a) && closes(b)))))),
    );
    const ends = within
      .filter((iv) => !isWithin(iv))
      .flat()
      .filter((t) => covers(t).length > 0).length;
    const jambs = caps.filter(
      (c) =>
        c.at >= run[0] - MEETS &&
        c.at <= run[1] + MEETS &&
        Math.abs(c.low - near) <= MEETS &&
        Math.abs(c.high - far) <= MEETS,
    );
    const score =
      (1 + JAMB * Math.min(2, jambs.length)) *
      ((together - BETWEEN * crowded + CLOSED * thickness * Math.min(ends, 4)) /
        (1 + thickness / USUAL_THICKNESS)) *
      (Math.sign(other.off) === towards || towards === 0 ? 1 : OTHER_SIDE);
    const [low, high] = endsOf(run, own, other, thickness);
    const at = (d: number): [number, number] => [
      from[0] + d * ux - (other.off / 2) * uy,
      from[1] + d * uy + (other.off / 2) * ux,
    ];
    const openings = union([
      ...openGaps(both, run, isOpening),
      ...glazed(
        jambs.map((c) => c.at),
        between,
      ),
    ]).map(([a, b]) => ({ from: at(a), to: at(b) }));
    found.push({ from: at(low), to: at(high), thickness, openings, score });
  }
  return found
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST)
    .map(({ score: _, ...pair }) => pair);
}

/** Gaps of both faces within a run that are closed as doors are. */
function openGaps(
  both: readonly Interval[],
  run: Interval,
  isOpening: (a: number, b: number) => boolean,
): Interval[] {
  const drawn = union(both).filter(([a, b]) => b > run[0] && a < run[1]);
  return drawn
    .slice(1)
    .map(([b], i): Interval => [drawn[i][1], b])
    .filter(([a, b]) => isOpening(a, b));
}

/** Stretches from one jamb to the next that lines between the faces run through: windows. */
function glazed(jambs: readonly number[], between: readonly Carrier[]): Interval[] {
  const at = [...jambs].sort((a, b) => a - b).filter((t, i, all) => i === 0 || t - all[i - 1] > MEETS);
  return at
    .slice(1)
    .map((b, i): Interval => [at[i], b])
    .filter(([a, b]) =>
      between.some((c) => c.drawn.some(([p, q]) => Math.abs(p - a) <= MEETS && Math.abs(q - b) <= MEETS)),
    );
}

/** Lines beside a face by carrier, and what closes them: short lines square to it. */
function beside(
  face: Segment,
  find: (box: Box) => Iterable<Piece>,
  along: (p: Point) => number,
  across: (p: Point) => number,
  [ux, uy]: Point,
): { carriers: Carrier[]; caps: { at: number; low: number; high: number }[] } {
  const { from } = face,
    ends = [-FARTHEST, FARTHEST].map((t): Point => [from[0] + t * ux, from[1] + t * uy]);
  const box: Box = [
    Math.min(ends[0][0], ends[1][0]) - THICKEST,
    Math.min(ends[0][1], ends[1][1]) - THICKEST,
    Math.max(ends[0][0], ends[1][0]) + THICKEST,
    Math.max(ends[0][1], ends[1][1]) + THICKEST,
  ];
  const lines: { off: number; s: number; t: number }[] = [],
    caps: { at: number; low: number; high: number }[] = [];
  for (const p of find(box)) {
    if (p.kind !== 'segment') continue;
    const dx = p.to[0] - p.from[0],
      dy = p.to[1] - p.from[1],
      own = Math.hypot(dx, dy),
      sine = own === 0 ? 1 : (dx * uy - dy * ux) / own;
    const [s, t] = [along(p.from), along(p.to)],
      [v, w] = [across(p.from), across(p.to)];
    if (own === 0 || Math.min(Math.abs(v), Math.abs(w)) > THICKEST + MEETS) continue;
    if (Math.abs(sine) <= SAME_WAY) lines.push({ off: (v + w) / 2, s: Math.min(s, t), t: Math.max(s, t) });
    else if (Math.abs(s - t) <= MEETS)
      caps.push({ at: (s + t) / 2, low: Math.min(v, w), high: Math.max(v, w) });
  }
  const carriers: Carrier[] = [];
  for (const { off, s, t } of lines.sort((a, b) => a.off - b.off)) {
    const last = carriers[carriers.length - 1];
    if (last && off - last.off <= MEETS / 2) last.drawn.push([s, t]);
    else carriers.push({ off, drawn: [[s, t]] });
  }
  for (const c of carriers) c.drawn = union(c.drawn);
  return { carriers, caps };
}

/** Intervals made one where they touch. */
function union(intervals: readonly Interval[]): Interval[] {
  const out: Interval[] = [];
  for (const [a, b] of [...intervals].sort((p, q) => p[0] - q[0])) {
    const last = out[out.length - 1];
    if (last && a <= last[1] + MEETS) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

function common(a: readonly Interval[], b: readonly Interval[]): Interval[] {
  return a.flatMap(([p, q]) =>
    b.flatMap(([r, s]): Interval[] =>
      Math.min(q, s) > Math.max(p, r) ? [[Math.max(p, r), Math.min(q, s)]] : [],
    ),
  );
}

const total = (intervals: readonly Interval[]): number => intervals.reduce((sum, [a, b]) => sum + b - a, 0);

/** The run of a wall around a place: where both faces are drawn, on across openings that are closed at both sides, and across walls that cross or meet it. */
function runAround(
  both: readonly Interval[],
  place: number,
  own: Carrier,
  other: Carrier,
  isOpening: (a: number, b: number) => boolean,
  thickness: number,
): Interval | null {
  const sorted = [...both].sort((p, q) => p[0] - q[0]);
  const near = ([a, b]: Interval) => Math.max(0, a - place, place - b);
  const start = sorted.reduce((best, iv, i) => (best < 0 || near(iv) < near(sorted[best]) ? i : best), -1);
  // A face may go on a little beyond its other at a corner.
  const goesOn =
    start < 0 || near(sorted[start]) <= Math.max(WIDEST_CROSSING, 2 * thickness)
      ? undefined
      : own.drawn.find(
          ([p, q]) =>
            p <= place + MEETS && q >= place - MEETS && q > sorted[start][0] && p < sorted[start][1],
        );
  if (start < 0 || (near(sorted[start]) > Math.max(WIDEST_CROSSING, 2 * thickness) && !goesOn)) return null;
  let [low, high] = sorted[start],
    first = start,
    last = start;
  const runsOn = (a: number, b: number) => {
    if (b - a <= WIDEST_CROSSING) return true;
    // One of the faces goes on: the other is broken by what meets it, or by a niche.
    if ([own, other].some((c) => c.drawn.some(([p, q]) => p <= a + MEETS && q >= b - MEETS)))
      return b - a <= WIDEST_OPENING;
    return b - a <= WIDEST_OPENING && isOpening(a, b);
  };
  while (last + 1 < sorted.length && runsOn(high, sorted[last + 1][0]))
    high = Math.max(high, sorted[++last][1]);
  while (first > 0 && runsOn(sorted[first - 1][1], low)) low = Math.min(low, sorted[--first][0]);
  // Where only the pointed face is drawn, the wall is as thick as where both are.
  return goesOn ? [Math.min(low, goesOn[0]), Math.max(high, goesOn[1])] : [low, high];
}

/** At a corner one face is shorter by the other wall: the middle line ends midway; where a face goes far beyond, what both have counts. */
function endsOf([low, high]: Interval, own: Carrier, other: Carrier, thickness: number): Interval {
  const reach = (t: number, side: 1 | -1) => {
    const ends = [own, other].map((c) => {
      const on = c.drawn.find(([p, q]) => p <= t + MEETS && q >= t - MEETS);
      return on?.[side > 0 ? 1 : 0] ?? t;
    });
    return Math.abs(ends[0] - ends[1]) <= 2 * thickness ? (ends[0] + ends[1]) / 2 : t;
  };
  return [reach(low, -1), reach(high, 1)];
}
