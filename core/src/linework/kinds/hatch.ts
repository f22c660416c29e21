import { Groups } from '../../geometry/index.ts';

/**
 * Hatches: families of parallel strokes of one pen, evenly spaced, each beside the next. Stairs, tables and
 * gratings are evenly spaced too, but wider than a draughtsman's hatch; the limits below are in sheet points,
 * because hatches are drawn for the eye on paper, whatever the scale.
 */

/** Widest spacing of strokes that run along the page's edges, and of slanting ones. */
const WIDEST_STRAIGHT = 10,
  WIDEST_SLANTING = 16;
/** Wider than this, strokes that all begin and end on two lines square to them are treads, rows or boards, not hatch. */
const WIDEST_IN_ROWS = 5;
/** Strokes that lie by this share nearer to one another than is usual in their family, or farther, are of another. */
const OTHER_ROW = 0.25;
/** Share of strokes that begin and end alike in such rows. */
const ROWS_SHARE = 0.8;
/** Strokes nearer than this are one line drawn twice. */
const NARROWEST = 0.4;
/** Fewer lines than this are walls, panes or coincidence. */
const FEWEST = 5;
const SHORTEST = 0.3;
/** Two spacings are equal within this, absolute or as a share. */
const SAME_GAP = 0.06,
  SAME_GAP_SHARE = 0.04;
/** Directions are told apart in steps of a quarter degree. */
const STEPS_PER_DEGREE = 4;
const DIRECTIONS = 180 * STEPS_PER_DEGREE;
/** Strokes of a hatch are at least this long, in spacings, at their median. */
const LEAST_LENGTH = 0.7;

export interface Hatches {
  /** 1 for each segment that is a stroke of a hatch. */
  marks: Uint8Array;
  /** How many families there are. */
  families: number;
}

/** `segments` x0, y0, x1, y1 each, `style` layer and pen each; only the first `count` are looked at. */
export function findHatches(segments: Float64Array, style: Int32Array, count: number): Hatches {
  const marks = new Uint8Array(count);
  let families = 0;
  for (const [direction, members] of byDirection(segments, style, count))
    families += markFamily(segments, members, direction, marks);
  return { marks, families };
}

/** Segments of one pen and direction. */
function byDirection(segments: Float64Array, style: Int32Array, count: number): [number, Int32Array][] {
  const keys = new Int32Array(count).fill(-1);
  let pens = 0;
  for (let i = 0; i < count; i++) pens = Math.max(pens, style[2 * i + 1] + 2);
  const sizes = new Int32Array(pens * DIRECTIONS);
  for (let i = 0; i < count; i++) {
    const dx = segments[4 * i + 2] - segments[4 * i],
      dy = segments[4 * i + 3] - segments[4 * i + 1];
    if (Math.abs(dx) < SHORTEST && Math.abs(dy) < SHORTEST) continue;
    const degrees = (Math.atan2(dy, dx) * 180) / Math.PI;
    const step = ((Math.round(degrees * STEPS_PER_DEGREE) % DIRECTIONS) + DIRECTIONS) % DIRECTIONS;
    sizes[(keys[i] = (style[2 * i + 1] + 1) * DIRECTIONS + step)]++;
  }
  const groups = new Map<number, { list: Int32Array; n: number }>();
  for (let i = 0; i < count; i++) {
    const key = keys[i];
    if (key < 0 || sizes[key] < FEWEST) continue;
    let group = groups.get(key);
    if (!group) groups.set(key, (group = { list: new Int32Array(sizes[key]), n: 0 }));
    group.list[group.n++] = i;
  }
  return [...groups].map(([key, { list }]) => [
    ((key % DIRECTIONS) / STEPS_PER_DEGREE) * (Math.PI / 180),
    list,
  ]);
}

function markFamily(
  segments: Float64Array,
  members: Int32Array,
  direction: number,
  marks: Uint8Array,
): number {
  const ux = Math.cos(direction),
    uy = Math.sin(direction);
  const n = members.length;
  // Across and along the direction, in the order of the distance across.
  const across = new Float64Array(n);
  for (let k = 0; k < n; k++)
    across[k] = -uy * middle(segments, members[k], 0) + ux * middle(segments, members[k], 1);
  const order = orderOf(across);
  const d = new Float64Array(n),
    from = new Float64Array(n),
    to = new Float64Array(n);
  for (let r = 0; r < n; r++) {
    const i = 4 * members[order[r]];
    const a = ux * segments[i] + uy * segments[i + 1],
      b = ux * segments[i + 2] + uy * segments[i + 3];
    d[r] = across[order[r]];
    from[r] = Math.min(a, b);
    to[r] = Math.max(a, b);
  }
  const slanting = Math.abs(Math.sin(2 * direction)) > 0.02;
  const widest = slanting ? WIDEST_SLANTING : WIDEST_STRAIGHT;
  const rows = { members, order, d, from, to, next: new Int32Array(n), before: new Int32Array(n), marks };
  findNeighbours(rows, widest, -1, rows.next);
  findNeighbours(rows, widest, 1, rows.before);
  return unite(rows);
}

/** Width of the strips, along the strokes, in which neighbours are looked for. */
const STRIP = 12;

/**
 * For each stroke the nearest one beside it that is not the same line: `step` -1 finds the next one, 1 the one before.
 * Strokes are taken in order, and each strip remembers those that have passed through it.
 */
function findNeighbours(
  { d, from, to }: Pick<Rows, 'd' | 'from' | 'to'>,
  widest: number,
  step: 1 | -1,
  out: Int32Array,
): void {
  const n = d.length;
  let least = Infinity,
    most = -Infinity;
  for (let r = 0; r < n; r++) {
    if (from[r] < least) least = from[r];
    if (to[r] > most) most = to[r];
  }
  // A chain for each strip, its latest stroke first: place in `passed` of the latest one, and of the one before each.
  const stripCount = Math.floor((most - least) / STRIP) + 1;
  const latest = new Int32Array(stripCount).fill(-1);
  const stripOf = (v: number) => Math.max(0, Math.min(stripCount - 1, Math.floor((v - least) / STRIP)));
  let entries = 0;
  for (let r = 0; r < n; r++) entries += stripOf(to[r]) - stripOf(from[r]) + 1;
  const passed = new Int32Array(entries),
    earlier = new Int32Array(entries);
  let used = 0;
  for (let k = 0; k < n; k++) {
    const r = step === 1 ? k : n - 1 - k;
    let best = -1,
      bestGap = widest;
    const last = stripOf(to[r] + widest);
    for (let c = stripOf(from[r] - widest); c <= last; c++) {
      for (let at = latest[c]; at >= 0; at = earlier[at]) {
        const q = passed[at];
        const gap = Math.abs(d[q] - d[r]);
        if (gap > bestGap) break;
        if (
          gap < NARROWEST ||
          (gap === bestGap && best >= 0) ||
          Math.min(to[r], to[q]) - Math.max(from[r], from[q]) <
            leastBeside(Math.min(to[r] - from[r], to[q] - from[q]), gap)
        )
          continue;
        best = q;
        bestGap = gap;
        break;
      }
    }
    out[r] = best;
    const end = stripOf(to[r]);
    for (let c = stripOf(from[r]); c <= end; c++) {
      passed[used] = r;
      earlier[used] = latest[c];
      latest[c] = used++;
    }
  }
}

/** How far two strokes lie beside one another at least: short ones, in the corners of an outline, may just miss; long ones run along one another. */
const leastBeside = (shorter: number, gap: number): number =>
  shorter < SHORT_STROKE * gap ? -gap : BESIDE * shorter;
const SHORT_STROKE = 3,
  BESIDE = 0.1;

const FINE = 1000;
const MOST = 2 ** 24;

/** Places in ascending order, to a thousandth of a point: value and place packed into one number sort without a comparing function. */
function orderOf(values: Float64Array): Uint32Array {
  const packed = new Float64Array(values.length);
  for (let k = 0; k < values.length; k++) packed[k] = Math.round(values[k] * FINE) * MOST + k;
  packed.sort();
  const order = new Uint32Array(values.length);
  for (let r = 0; r < order.length; r++) order[r] = ((packed[r] % MOST) + MOST) % MOST;
  return order;
}

const middle = (s: Float64Array, i: number, axis: 0 | 1) => (s[4 * i + axis] + s[4 * i + 2 + axis]) / 2;
const sameGap = (a: number, b: number) =>
  Math.abs(a - b) <= Math.max(SAME_GAP, SAME_GAP_SHARE * Math.max(a, b));

interface Rows {
  members: Int32Array;
  order: Uint32Array;
  d: Float64Array;
  from: Float64Array;
  to: Float64Array;
  next: Int32Array;
  before: Int32Array;
  marks: Uint8Array;
}

/** Joins strokes whose neighbours on both sides are equally far into families, and marks the families that are large enough. */
function unite({ members, order, d, from, to, next, before, marks }: Rows): number {
  const n = d.length;
  const groups = new Groups(n);
  const linked = new Uint8Array(n);
  const link = (a: number, b: number, c: number) => {
    if (a < 0 || b < 0 || c < 0 || !sameGap(d[b] - d[a], d[c] - d[b])) return;
    groups.join(a, b);
    groups.join(b, c);
    linked[a] = linked[b] = linked[c] = 1;
  };
  // With the stroke in the middle, first and last: pieces of one stroke share their neighbours.
  for (let r = 0; r < n; r++) {
    link(before[r], r, next[r]);
    if (next[r] >= 0) link(r, next[r], next[next[r]]);
    if (before[r] >= 0) link(before[before[r]], before[r], r);
  }
  const families = new Map<number, number[]>();
  for (let r = 0; r < n; r++) {
    if (!linked[r]) continue;
    const key = groups.of(r);
    const family = families.get(key);
    if (family) family.push(r);
    else families.set(key, [r]);
  }
  const gapOf = new Float64Array(n);
  let found = 0;
  for (const joined of families.values()) {
    const usual = spacing(joined, d);
    if (usual === null) continue;
    // A stroke may stand in two rows, each with a spacing of its own: what is not of the family's is another's.
    const family = joined.filter((r) =>
        [before[r], next[r]].some(
          (q) => q >= 0 && Math.abs(Math.abs(d[q] - d[r]) - usual) <= OTHER_ROW * usual,
        ),
      ),
      gap = spacing(family, d);
    if (gap === null) continue;
    const lengths = family.map((r) => to[r] - from[r]).sort((a, b) => a - b);
    if (
      lengths[lengths.length >> 1] < LEAST_LENGTH * gap ||
      (gap > WIDEST_IN_ROWS && inRows(family, from, to))
    )
      continue;
    found++;
    for (const r of family) {
      marks[members[order[r]]] = 1;
      gapOf[r] = gap;
    }
  }
  // Short remains at the corners of the outline, and the first and last stroke, have a neighbour on one side only.
  for (let r = 0; r < n; r++) {
    if (gapOf[r] > 0) continue;
    for (const q of [before[r], next[r]])
      if (q >= 0 && gapOf[q] > 0 && sameGap(Math.abs(d[q] - d[r]), gapOf[q])) marks[members[order[r]]] = 1;
  }
  return found;
}

/** Do nearly all strokes begin on one line and end on another, both square to them? */
function inRows(family: readonly number[], from: Float64Array, to: Float64Array): boolean {
  const middleOf = (values: Float64Array) =>
    family.map((r) => values[r]).sort((a, b) => a - b)[family.length >> 1];
  const start = middleOf(from),
    end = middleOf(to);
  return (
    family.filter((r) => Math.abs(from[r] - start) < 1 && Math.abs(to[r] - end) < 1).length >=
    ROWS_SHARE * family.length
  );
}

/** The spacing of a family (of many equal ones the median), or null when it has too few lines. */
function spacing(family: readonly number[], d: Float64Array): number | null {
  const gaps: number[] = [];
  let lines = 1;
  for (let k = 1; k < family.length; k++) {
    const gap = d[family[k]] - d[family[k - 1]];
    if (gap < NARROWEST / 2) continue;
    lines++;
    gaps.push(gap);
  }
  return lines < FEWEST ? null : gaps.sort((a, b) => a - b)[gaps.length >> 1];
}
