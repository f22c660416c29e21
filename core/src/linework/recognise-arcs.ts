import {
  circleThrough,
  cubicAt,
  normalAngle,
  TAU,
  type Arc,
  type Cubic,
  type Point,
} from '../geometry/index.ts';

/**
 * How far a Bézier may lie from a circle and still be one: the classic four-piece circle errs by
 * 2.7e-4 of its radius, and producers print coordinates with two or three decimals.
 */
const RELATIVE_TOLERANCE = 6e-4;
const ABSOLUTE_TOLERANCE = 0.012;
/** Control points this close (sheet points) to the chord make a straight line of a Bézier. */
const STRAIGHT_TOLERANCE = 0.004;
const PROBES = [0.1, 0.25, 0.4, 0.6, 0.75, 0.9];

/** Points of a circle whose coordinates were rounded lie this far from the circle through three of them, in steps of the rounding. */
const ROUNDED = 2;
/** Whatever a file rounds to, what strays more than this share of the radius is no circle. */
const MOST_STRAY = 0.03;

/** How far a point may lie from a circle: what Béziers miss it by, and how the file rounds its coordinates (a step in sheet points; 0 where it does not). */
const tolerance = (r: number, rounding: number) =>
  RELATIVE_TOLERANCE * r + Math.max(ABSOLUTE_TOLERANCE, Math.min(ROUNDED * rounding, MOST_STRAY * r));

/** Is the Bézier drawn along its chord? Then it is a line. */
export function isStraight(c: Cubic): boolean {
  const dx = c[6] - c[0],
    dy = c[7] - c[1];
  const len = Math.hypot(dx, dy);
  if (len === 0) return false;
  const off = (x: number, y: number) => Math.abs((x - c[0]) * dy - (y - c[1]) * dx) / len;
  const along = (x: number, y: number) => ((x - c[0]) * dx + (y - c[1]) * dy) / len;
  const within = (s: number) => s >= -STRAIGHT_TOLERANCE && s <= len + STRAIGHT_TOLERANCE;
  return (
    off(c[2], c[3]) < STRAIGHT_TOLERANCE &&
    off(c[4], c[5]) < STRAIGHT_TOLERANCE &&
    within(along(c[2], c[3])) &&
    within(along(c[4], c[5]))
  );
}

interface Circle {
  cx: number;
  cy: number;
  r: number;
}

/** At least this bow (sheet points, or this share of the chord) tells an arc from a curve that is nearly straight. */
const SMALLEST_BOW = 0.05;
const SMALLEST_BOW_SHARE = 0.05;

/**
 * Point of a run of Béziers near a fraction 0..1 of its pieces: the nearest joint or middle of a piece,
 * for those alone lie on the circle exactly.
 */
function runAt(run: readonly Cubic[], fraction: number): Point {
  const place = Math.round(fraction * run.length * 2) / 2;
  const i = Math.min(run.length - 1, Math.floor(place));
  return cubicAt(run[i], place - i);
}

const startOf = (c: Cubic): Point => [c[0], c[1]];
const endOf = (c: Cubic): Point => [c[6], c[7]];

/** The circle that a whole run follows; 'flat' when it bends too little to tell, null when it is none. */
function circleOf(run: readonly Cubic[], rounding: number): Circle | 'flat' | null {
  const from = startOf(run[0]),
    to = endOf(run[run.length - 1]);
  const chord = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const middle = runAt(run, 0.5);
  const closed = chord < 0.1 * Math.hypot(middle[0] - from[0], middle[1] - from[1]);
  const circle = closed ? circleThrough(from, runAt(run, 1 / 4), middle) : circleThrough(from, middle, to);
  if (!circle || circle.r > 1e6) return 'flat';
  const bow = Math.hypot(middle[0] - (from[0] + to[0]) / 2, middle[1] - (from[1] + to[1]) / 2);
  if (bow < Math.min(2 * tolerance(circle.r, rounding), SMALLEST_BOW_SHARE * chord) && bow < SMALLEST_BOW)
    return 'flat';
  if (run.length === 1 && isStandardArc(run[0], circle, rounding)) return circle;
  return run.every(
    (piece) => followsCircle(piece, circle, rounding) || isStandardArc(piece, circle, rounding),
  )
    ? circle
    : null;
}

function followsCircle(c: Cubic, circle: Circle, rounding: number): boolean {
  const limit = tolerance(circle.r, rounding);
  const near = ([x, y]: Point) => Math.abs(Math.hypot(x - circle.cx, y - circle.cy) - circle.r) <= limit;
  return near(startOf(c)) && near(endOf(c)) && PROBES.every((t) => near(cubicAt(c, t)));
}

/**
 * Is the piece the usual Bézier construction of an arc of this circle? Tangent handles of
 * 4/3 tan(sweep / 4) radii stand for the arc even where, over a half turn, they miss it by 1.8 %.
 */
function isStandardArc(c: Cubic, circle: Circle, rounding: number): boolean {
  const { cx, cy, r } = circle;
  const limit = tolerance(r, rounding);
  const sweep = sweepOf(c, circle);
  if (Math.abs(sweep) > Math.PI * 1.02) return false;
  const handle = (4 / 3) * Math.tan(sweep / 4);
  const expected = (x: number, y: number, sign: number): Point => [
    x - sign * handle * (y - cy),
    y + sign * handle * (x - cx),
  ];
  const close = (p: Point, x: number, y: number) => Math.hypot(p[0] - x, p[1] - y) <= limit;
  return (
    Math.abs(Math.hypot(c[0] - cx, c[1] - cy) - r) <= limit &&
    Math.abs(Math.hypot(c[6] - cx, c[7] - cy) - r) <= limit &&
    close(expected(c[0], c[1], 1), c[2], c[3]) &&
    close(expected(c[6], c[7], -1), c[4], c[5])
  );
}

/** Signed sweep of a piece about the circle's centre, by its middle so that more than a half turn is told. */
function sweepOf(c: Cubic, { cx, cy }: Circle): number {
  const angle = (p: Point) => Math.atan2(p[1] - cy, p[0] - cx);
  const a = angle([c[0], c[1]]),
    m = angle(cubicAt(c, 0.5)),
    b = angle([c[6], c[7]]);
  const step = (from: number, to: number) => {
    const d = normalAngle(to - from);
    return d > Math.PI ? d - TAU : d;
  };
  return step(a, m) + step(m, b);
}

export type Recognised =
  | { kind: 'segment'; points: [number, number, number, number] }
  | { kind: 'arc'; arc: Arc }
  | { kind: 'circle'; circle: Circle }
  | { kind: 'curve'; curve: Cubic };

/** Producers cut circles into at most this many pieces that are too flat to tell one by one. */
const MOST_FLAT_PIECES = 12;
/** No arc is drawn in more pieces; longer runs are looked at so many pieces at a time. */
const MOST_PIECES = 1000;

/**
 * Turns a connected run of Béziers into circles, arcs, lines and remaining curves. Pieces that follow
 * the same circle in the same direction become one arc; a full turn becomes a circle. `rounding`: the step of the file's coordinates.
 */
export function recogniseRun(run: readonly Cubic[], rounding = 0): Recognised[] {
  const out: Recognised[] = [];
  let i = 0;
  while (i < run.length) {
    const first = run[i];
    if (isPoint(first) || isStraight(first)) {
      out.push({ kind: 'segment', points: [first[0], first[1], first[6], first[7]] });
      i++;
      continue;
    }
    const found = longestArc(run, i, rounding);
    out.push(found ? found.piece : { kind: 'curve', curve: first });
    i += found ? found.pieces : 1;
  }
  return out;
}

/** The longest arc that starts at piece `from`; the whole rest is tried first, for it mostly is one. */
function longestArc(
  run: readonly Cubic[],
  from: number,
  rounding: number,
): { piece: Recognised; pieces: number } | null {
  const rest = from === 0 && run.length <= MOST_PIECES ? run : run.slice(from, from + MOST_PIECES);
  const whole = rest.length > 1 ? arcOfPieces(rest, rounding) : null;
  if (whole && whole !== 'flat') return { piece: whole, pieces: rest.length };
  let best: { piece: Recognised; pieces: number } | null = null;
  for (let n = 1; n <= rest.length; n++) {
    if (n > 1 && isStraight(rest[n - 1])) break;
    const piece = arcOfPieces(rest.slice(0, n), rounding);
    if (piece === 'flat' && n < MOST_FLAT_PIECES) continue;
    if (!piece || piece === 'flat') break;
    best = { piece, pieces: n };
    if (piece.kind === 'circle') break;
  }
  return best;
}

function arcOfPieces(pieces: readonly Cubic[], rounding: number): Recognised | 'flat' | null {
  const circle = circleOf(pieces, rounding);
  if (circle === null || circle === 'flat') return circle;
  let sweep = 0;
  for (const piece of pieces) {
    const more = sweepOf(piece, circle);
    if (sweep !== 0 && Math.sign(more) !== Math.sign(sweep)) return null;
    sweep += more;
  }
  return Math.abs(sweep) > TAU + 1e-2 ? null : arcOf(pieces, circle, sweep, rounding);
}

const isPoint = (c: Cubic) =>
  c[0] === c[6] && c[1] === c[7] && c[2] === c[0] && c[3] === c[1] && c[4] === c[0] && c[5] === c[1];

function arcOf(pieces: readonly Cubic[], rough: Circle, sweep: number, rounding: number): Recognised {
  const first = pieces[0],
    last = pieces[pieces.length - 1];
  if (
    Math.abs(sweep) > TAU - 1e-2 &&
    Math.hypot(first[0] - last[6], first[1] - last[7]) < tolerance(rough.r, rounding)
  ) {
    return { kind: 'circle', circle: meanCircle(pieces) };
  }
  const middle = runAt(pieces, 0.5);
  const { cx, cy, r } = circleThrough([first[0], first[1]], middle, [last[6], last[7]]) ?? rough;
  const a = Math.atan2(first[1] - cy, first[0] - cx),
    b = Math.atan2(last[7] - cy, last[6] - cx);
  const start = normalAngle(sweep > 0 ? a : b);
  const span = normalAngle(sweep > 0 ? b - a : a - b);
  return { kind: 'arc', arc: { cx, cy, r, start, end: start + (span === 0 ? TAU : span) } };
}

/** Centre and radius of a full turn from its joints and middles, all of which lie on the circle. */
function meanCircle(pieces: readonly Cubic[]): Circle {
  const points: Point[] = pieces.flatMap((p) => [[p[0], p[1]] as Point, cubicAt(p, 0.5)]);
  const cx = points.reduce((s, p) => s + p[0], 0) / points.length;
  const cy = points.reduce((s, p) => s + p[1], 0) / points.length;
  const r = points.reduce((s, p) => s + Math.hypot(p[0] - cx, p[1] - cy), 0) / points.length;
  return { cx, cy, r };
}
