import { convexHull, type Point } from '../../geometry/index.ts';
import { beside, paperOf } from '../paper.ts';
import type { Raster } from '../raster.ts';

/** The photo is looked at in so many squares along its longer side. */
const SQUARES = 400;
/** From square to square paper changes its brightness by less than this share (light falls off, a shadow is soft); at the sheet's edge it jumps. */
const JUMP = 0.055;
/** A sheet is at least so much of the photo, and fills its hull so far; the squares at its edge are half table. */
const LEAST_SHARE = 0.15,
  FILLS = 0.9,
  INSIDE = 2.2;
/** Less than this share of the photo around a sheet is no table. */
const LEAST_TABLE = 0.02;
/** As bright as paper, give or take this share. */
const SAME_PAPER = 0.04;

/**
 * Where the sheet lies on the photo of a sheet on a table: the ring of its outline, pixels, a little inside of its edge; null where
 * no edge is seen, so that all of the photo may be paper.
 */
export function sheetOutline({ width, height, grey }: Raster): Point[] | null {
  const size = Math.max(4, Math.ceil(Math.max(width, height) / SQUARES)),
    columns = Math.floor(width / size),
    rows = Math.floor(height / size);
  if (columns < 20 || rows < 20) return null;
  const bright = new Float64Array(columns * rows),
    counts = new Uint32Array(256);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      counts.fill(0);
      for (let y = r * size; y < (r + 1) * size; y++)
        for (let x = c * size; x < (c + 1) * size; x++) counts[grey[y * width + x]]++;
      bright[r * columns + c] = paperOf(counts, size * size);
    }
  const paper = brightest(bright, columns, rows);
  const region = largestRegion(paper, columns);
  const squares = region.reduce((n, v) => n + v, 0),
    all = columns * rows;
  if (squares < LEAST_SHARE * all || squares > (1 - LEAST_TABLE) * all) return null;
  const corners: [number, number][] = [];
  for (let r = 0; r < rows; r++) {
    let first = -1,
      last = -1;
    for (let c = 0; c < columns; c++)
      if (region[r * columns + c]) {
        if (first < 0) first = c;
        last = c;
      }
    if (first >= 0) corners.push([first, r], [first, r + 1], [last + 1, r], [last + 1, r + 1]);
  }
  const hull = convexHull(corners);
  if (squares < FILLS * Math.abs(areaOf(hull))) return null;
  if (isPaperToo(paper, region)) return null;
  // Where the photo itself ends nothing is taken off.
  const ring = inset(
    hull,
    INSIDE,
    (p, q) =>
      [p, q].every((e) => e[0] <= 0.5) ||
      [p, q].every((e) => e[1] <= 0.5) ||
      [p, q].every((e) => e[0] >= columns - 0.5) ||
      [p, q].every((e) => e[1] >= rows - 0.5),
  );
  return ring.length < 3 ? null : ring.map(([x, y]) => [x * size, y * size]);
}

/** Is most of what lies around as bright as the region itself? Then it is another part of the same sheet, and no table. */
function isPaperToo(paper: Float64Array, region: Uint8Array): boolean {
  const inside = [...paper].filter((_, i) => region[i]).sort((a, b) => a - b),
    usual = inside[inside.length >> 1];
  let around = 0,
    same = 0;
  region.forEach((v, i) => {
    if (v) return;
    around++;
    if (Math.abs(paper[i] / usual - 1) < SAME_PAPER) same++;
  });
  return same > around / 2;
}

/** The brightest of a square and the eight around it: a filled wall one square wide is no edge. */
function brightest(bright: Float64Array, columns: number, rows: number): Float64Array {
  const across = new Float64Array(bright.length),
    out = new Float64Array(bright.length);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++)
      across[r * columns + c] = Math.max(
        bright[r * columns + c],
        bright[r * columns + Math.max(0, c - 1)],
        bright[r * columns + Math.min(columns - 1, c + 1)],
      );
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++)
      out[r * columns + c] = Math.max(
        across[r * columns + c],
        across[Math.max(0, r - 1) * columns + c],
        across[Math.min(rows - 1, r + 1) * columns + c],
      );
  return out;
}

/** Squares that hang together without a jump of brightness: the largest such region, with what it encloses. */
function largestRegion(paper: Float64Array, columns: number): Uint8Array {
  const label = new Int32Array(paper.length).fill(-1);
  let best = -1,
    most = 0;
  for (let start = 0; start < paper.length; start++) {
    if (label[start] >= 0) continue;
    const queue = [start];
    label[start] = start;
    for (let k = 0; k < queue.length; k++) {
      const i = queue[k];
      for (const n of beside(i, columns, paper.length)) {
        if (label[n] >= 0 || Math.abs(paper[n] - paper[i]) > JUMP * Math.max(paper[n], paper[i], 40))
          continue;
        label[n] = start;
        queue.push(n);
      }
    }
    if (queue.length > most) [best, most] = [start, queue.length];
  }
  const region = Uint8Array.from(label, (v) => (v === best ? 1 : 0));
  // What cannot be reached from the frame without crossing the region is enclosed: pictures, shaded parts, title blocks.
  const outside = new Uint8Array(paper.length),
    queue: number[] = [];
  for (let i = 0; i < paper.length; i++)
    if (
      !region[i] &&
      (i % columns === 0 || i % columns === columns - 1 || i < columns || i >= paper.length - columns)
    ) {
      outside[i] = 1;
      queue.push(i);
    }
  for (let k = 0; k < queue.length; k++) {
    for (const n of beside(queue[k], columns, paper.length)) {
      if (outside[n] || region[n]) continue;
      outside[n] = 1;
      queue.push(n);
    }
  }
  return outside.map((v) => 1 - v);
}

const areaOf = (ring: readonly (readonly [number, number])[]): number =>
  ring.reduce((sum, p, i) => {
    const q = ring[(i + 1) % ring.length];
    return sum + p[0] * q[1] - q[0] * p[1];
  }, 0) / 2;

/** A convex ring (counter-clockwise with y up) moved in by so much at every side that does not `stay`. */
function inset(
  ring: readonly (readonly [number, number])[],
  by: number,
  stay: (p: readonly [number, number], q: readonly [number, number]) => boolean,
): [number, number][] {
  let out = ring.map((p): [number, number] => [p[0], p[1]]);
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length],
      length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (length < 1e-9 || stay(p, q)) return;
    const nx = -(q[1] - p[1]) / length,
      ny = (q[0] - p[0]) / length;
    const depth = (e: readonly number[]) => (e[0] - p[0]) * nx + (e[1] - p[1]) * ny - by;
    const kept: [number, number][] = [];
    out.forEach((a, k) => {
      const b = out[(k + 1) % out.length],
        da = depth(a),
        db = depth(b);
      if (da >= 0) kept.push(a);
      if (da * db < 0)
        kept.push([a[0] + ((b[0] - a[0]) * da) / (da - db), a[1] + ((b[1] - a[1]) * da) / (da - db)]);
    });
    out = kept;
  });
  return out;
}
