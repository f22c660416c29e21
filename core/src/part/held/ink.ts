import {
  applyTransform,
  flattenPiece,
  makeRegion,
  regionContains,
  type Box,
  type Piece,
  type Point,
  MM_PER_POINT,
} from '../../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, LineIndex, STRIDE, type Linework } from '../../linework/index.ts';
import { cropRingOf, type Underlay } from '../../model/index.ts';
import type { SolidView } from './view.ts';

/** Straight lines of a sheet where they lie on a plane, x0, y0, x1, y1 each; `drawn`: it stands for the thing itself, not for a figure or an axis. */
export interface PlaneInk {
  lines: Float64Array;
  drawn: Uint8Array;
}

/** A view of a solid held against the lines of a sheet. */
export interface HeldView {
  /** Visible edges, in stretches, that the sheet has too. */
  on: Point[][];
  /** Those that it has not. */
  off: Point[][];
  /** The share of the visible edges' length that the sheet has, 0 to 1. */
  share: number;
  /** Lines of the sheet within the solid that the solid has not. */
  only: [Point, Point][];
}

/** Ink of these kinds never stands for an edge, and of those it may, but need not. */
const NEVER: ReadonlySet<string> = new Set(['text', 'hatch', 'picture', 'markup']),
  NEED_NOT: ReadonlySet<string> = new Set(['dimension']);
/** A pen with so many dashes and gaps draws axes. */
const AXIS_DASHES = 4;
/** Rounds are broken into chords that keep so near to them, millimetres of paper. */
const CHORDS_ON_PAPER = 0.02;

/** The ink of a sheet within a box of the plane on which it is laid. */
export function inkOn({ placement, ...laid }: Underlay, l: Linework, [x0, y0, x1, y1]: Box): PlaneInk {
  const lines: number[] = [],
    drawn: number[] = [],
    within = makeRegion([cropRingOf(laid)], 'nonzero'),
    scale = Math.hypot(placement[0], placement[1]);
  const put = (p: Point, q: Point, is: boolean) => {
    if (!regionContains(within, (p[0] + q[0]) / 2, (p[1] + q[1]) / 2)) return;
    const [[a, b], [c, d]] = [applyTransform(placement, p), applyTransform(placement, q)];
    if (Math.max(a, c) < x0 || Math.min(a, c) > x1 || Math.max(b, d) < y0 || Math.min(b, d) > y1) return;
    lines.push(a, b, c, d);
    drawn.push(is ? 1 : 0);
  };
  const each = (
    count: number,
    kinds: Uint8Array,
    style: Int32Array | null,
    take: (i: number, is: boolean) => void,
  ) => {
    for (let i = 0; i < count; i++) {
      const kind = ITEM_KINDS_OF_SHEET[kinds[i]];
      if (NEVER.has(kind)) continue;
      const pen = style ? l.pens[style[2 * i + 1]] : undefined;
      take(i, !NEED_NOT.has(kind) && (pen?.dash.length ?? 0) < AXIS_DASHES);
    }
  };
  const straight = (array: Float64Array, i: number, is: boolean) =>
    put([array[4 * i], array[4 * i + 1]], [array[4 * i + 2], array[4 * i + 3]], is);
  const curved = (piece: Piece, is: boolean) => {
    const points = flattenPiece(piece, CHORDS_ON_PAPER / MM_PER_POINT);
    for (let k = 1; k < points.length; k++) put(points[k - 1], points[k], is);
  };
  if (!(scale > 0)) return { lines: new Float64Array(0), drawn: new Uint8Array(0) };
  each(l.segments.length / STRIDE.segments, l.segmentKind, l.segmentStyle, (i, is) =>
    straight(l.segments, i, is),
  );
  each(l.fillEdges.length / STRIDE.fillEdges, l.fillEdgeKind, null, (i, is) => straight(l.fillEdges, i, is));
  each(l.arcs.length / STRIDE.arcs, l.arcKind, l.arcStyle, (i, is) => {
    const [cx, cy, r, start, end] = l.arcs.subarray(5 * i, 5 * i + 5);
    curved({ kind: 'arc', arc: { cx, cy, r, start, end }, clockwise: false }, is);
  });
  each(l.circles.length / STRIDE.circles, l.circleKind, l.circleStyle, (i, is) => {
    const [cx, cy, r] = l.circles.subarray(3 * i, 3 * i + 3);
    curved({ kind: 'arc', arc: { cx, cy, r, start: 0, end: 2 * Math.PI }, clockwise: false }, is);
  });
  each(l.curves.length / STRIDE.curves, l.curveKind, l.curveStyle, (i, is) => {
    const [a, b, c, d, e, f, g, h] = l.curves.subarray(8 * i, 8 * i + 8);
    curved({ kind: 'cubic', cubic: [a, b, c, d, e, f, g, h] }, is);
  });
  return { lines: Float64Array.from(lines), drawn: Uint8Array.from(drawn) };
}

/** Lines that run otherwise than an edge by more than this are others, as the sine of the angle. */
const SAME_WAY = 0.35;
/** An edge is asked at so many places at most, and is on the sheet in stretches of so many slacks at least. */
const MOST_PLACES = 20000,
  SHORTEST = 1.5;
/** A line of the sheet counts as the solid's where so much of it is. */
const MOSTLY = 0.5;

/** Holds what is seen of a solid against the ink of a sheet: what lies within `slack` millimetres and runs the same way is the same. */
export function heldOnInk(view: SolidView, ink: PlaneInk, slack: number): HeldView {
  const fine = slack / 4,
    visible = view.visible.map((p) => flattenPiece(p, fine)),
    hidden = view.hidden.map((p) => flattenPiece(p, fine)),
    length = visible.reduce((sum, row) => sum + lengthOf(row), 0),
    step = Math.max(slack, length / MOST_PLACES),
    sheet = new Lines(ink.lines);
  const on: Point[][] = [],
    off: Point[][] = [];
  let there = 0;
  for (const row of visible)
    for (const { points, is } of stretches(
      row,
      step,
      (p, way) => sheet.has(p, way, slack),
      SHORTEST * slack,
    )) {
      (is ? on : off).push(points);
      if (is) there += lengthOf(points);
    }
  return {
    on,
    off,
    share: length > 0 ? there / length : 0,
    only: onlyOnSheet(view, [...visible, ...hidden], ink, slack, step),
  };
}

/** Straight lines asked by place. */
class Lines {
  private readonly index: LineIndex;
  constructor(private readonly lines: Float64Array) {
    this.index = new LineIndex(
      lines,
      Int32Array.from({ length: lines.length / 4 }, (_, i) => i),
    );
  }

  /** Does one of them pass here, in this way? */
  has([x, y]: Point, [ux, uy]: Point, slack: number): boolean {
    const { lines } = this;
    return this.index.inBox(x - slack, y - slack, x + slack, y + slack).some((i) => {
      const [x0, y0, x1, y1] = lines.subarray(4 * i, 4 * i + 4),
        [dx, dy] = [x1 - x0, y1 - y0],
        n = Math.hypot(dx, dy);
      if (n === 0 || Math.abs(dx * uy - dy * ux) > SAME_WAY * n) return false;
      const t = Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / (n * n)));
      return Math.hypot(x - x0 - t * dx, y - y0 - t * dy) <= slack;
    });
  }
}

const lengthOf = (row: readonly Point[]): number =>
  row.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - row[i][0], p[1] - row[i][1]), 0);

/** A row of points in stretches that are so or not, asked every `step`; what is shorter than `least` goes with what is before it. */
function stretches(
  row: readonly Point[],
  step: number,
  ask: (p: Point, way: Point) => boolean,
  least: number,
): { points: Point[]; is: boolean }[] {
  const out: { points: Point[]; is: boolean }[] = [];
  for (let i = 1; i < row.length; i++) {
    const [p, q] = [row[i - 1], row[i]],
      n = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (n === 0) continue;
    const way: Point = [(q[0] - p[0]) / n, (q[1] - p[1]) / n],
      parts = Math.max(1, Math.ceil(n / step)),
      at = (t: number): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
    for (let k = 0; k < parts; k++) {
      const is = ask(at((k + 0.5) / parts), way),
        last = out.at(-1);
      if (last?.is === is) last.points.push(at((k + 1) / parts));
      else out.push({ points: [at(k / parts), at((k + 1) / parts)], is });
    }
  }
  return out.reduce<typeof out>((kept, s) => {
    const last = kept.at(-1);
    if (last && (last.is === s.is || lengthOf(s.points) < least)) last.points.push(...s.points.slice(1));
    else kept.push(s);
    return kept;
  }, []);
}

/** Lines of the sheet inside the solid's own box, not through the middle of a round, that no edge of it covers. */
function onlyOnSheet(
  view: SolidView,
  rows: readonly (readonly Point[])[],
  { lines, drawn }: PlaneInk,
  slack: number,
  step: number,
): [Point, Point][] {
  const all = rows.flat();
  if (all.length === 0) return [];
  const xs = all.map((p) => p[0]),
    ys = all.map((p) => p[1]),
    low = [xs.reduce((a, b) => Math.min(a, b)) - slack, ys.reduce((a, b) => Math.min(a, b)) - slack],
    high = [xs.reduce((a, b) => Math.max(a, b)) + slack, ys.reduce((a, b) => Math.max(a, b)) + slack],
    inside = ([x, y]: Point) => x >= low[0] && x <= high[0] && y >= low[1] && y <= high[1];
  const edges = new Lines(
      Float64Array.from(rows.flatMap((row) => row.slice(1).flatMap((q, i) => [...row[i], ...q]))),
    ),
    centres = [...view.visible, ...view.hidden].flatMap((p): Point[] =>
      p.kind === 'arc' ? [[p.arc.cx, p.arc.cy]] : [],
    );
  const out: [Point, Point][] = [];
  for (let i = 0; i < drawn.length; i++) {
    if (drawn[i] === 0) continue;
    const [x0, y0, x1, y1] = lines.subarray(4 * i, 4 * i + 4),
      [p, q]: [Point, Point] = [
        [x0, y0],
        [x1, y1],
      ],
      n = Math.hypot(x1 - x0, y1 - y0);
    if (n < SHORTEST * slack || !inside(p) || !inside(q)) continue;
    const way: Point = [(x1 - x0) / n, (y1 - y0) / n];
    // The axes of a round run through its centre.
    if (centres.some(([cx, cy]) => Math.abs((cx - x0) * way[1] - (cy - y0) * way[0]) < slack)) continue;
    const parts = Math.max(2, Math.ceil(n / step));
    let covered = 0;
    for (let k = 0; k < parts; k++) {
      const t = (k + 0.5) / parts;
      if (edges.has([x0 + (x1 - x0) * t, y0 + (y1 - y0) * t], way, slack)) covered++;
    }
    if (covered < MOSTLY * parts) out.push([p, q]);
  }
  return out;
}
