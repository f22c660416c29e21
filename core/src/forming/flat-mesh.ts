import earcut from 'earcut';
import { cross3, dot3, planeFromWorld, type ModelPoint, type Point } from '../geometry/index.ts';
import type { EdgeForm } from './facts.ts';
import { frameAlong } from './wires.ts';

/** Points so near together are one, millimetres; a point is on an edge within this. */
const ONE = 1e-4,
  ON_EDGE = 2e-4;
const FULL = 1 - 1e-9;

/** The points of a mesh while it is made: each once, and those of a face by its number. */
export class Places {
  private readonly known: number[];
  private readonly byFace = new Map<number, number[]>();
  private readonly cells = new Map<string, number>();

  constructor(corners: Float32Array) {
    this.known = Array.from(corners);
    for (let i = 0; i < corners.length / 3; i++) this.cells.set(this.cell(this.at(i)), i);
  }

  at = (i: number): ModelPoint => [this.known[3 * i], this.known[3 * i + 1], this.known[3 * i + 2]];
  corners = (): Float32Array => Float32Array.from(this.known);

  private cell = (p: ModelPoint, dx = 0, dy = 0, dz = 0): string =>
    `${Math.round(p[0] / ONE) + dx} ${Math.round(p[1] / ONE) + dy} ${Math.round(p[2] / ONE) + dz}`;

  /** The triangles of a face are these: their corners are its points. */
  take(face: number, triangles: Uint32Array): void {
    this.byFace.set(face, [...new Set(triangles)]);
  }

  pointsOf = (face: number): readonly number[] => this.byFace.get(face) ?? [];

  /** A point again, for a face of its own: where faces meet at an edge each is lit by itself. */
  again(i: number): number {
    this.known.push(...this.at(i));
    return this.known.length / 3 - 1;
  }

  /** The number of a point: of one that is there, else of a new one. */
  numberOf(p: ModelPoint): number {
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++) {
          const found = this.cells.get(this.cell(p, dx, dy, dz));
          if (found !== undefined) return found;
        }
    const n = this.known.length / 3;
    this.known.push(...p.map(Math.fround));
    this.cells.set(this.cell(p), n);
    return n;
  }
}

/** Fills a flat face between the points that its edges have, and adds its triangles, facing as its normal does. */
export function flatTriangles(
  face: { form: { at: ModelPoint; normal: ModelPoint }; edges: readonly { form: EdgeForm; other: number }[] },
  places: Places,
  triangles: number[],
): void {
  const frame = frameAlong(face.form.at, face.form.normal),
    on = (i: number): Point => planeFromWorld(frame, places.at(i)).point,
    rings = ringsOf(face.edges.map((e) => pointsAlong(e.form, e.other, places))).map((ring) => ({
      ring,
      area: Math.abs(areaOf(ring.map(on))),
    }));
  // What bounds it outside is the largest of its rings.
  rings.sort((a, b) => b.area - a.area);
  const all = rings.flatMap((r) => r.ring),
    flat = all.flatMap((i) => [...on(i)]),
    holes: number[] = [];
  let count = 0;
  for (const { ring } of rings) {
    if (count > 0) holes.push(count);
    count += ring.length;
  }
  const found = earcut(flat, holes),
    own = new Map<number, number>(),
    ownOf = (i: number): number => {
      const known = own.get(i) ?? places.again(i);
      own.set(i, known);
      return known;
    };
  for (let t = 0; t < found.length; t += 3) {
    const [a, b, c] = [all[found[t]], all[found[t + 1]], all[found[t + 2]]],
      [p, q, r] = [on(a), on(b), on(c)],
      twice = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
    triangles.push(...(twice < 0 ? [a, c, b] : [a, b, c]).map(ownOf));
  }
}

function areaOf(ring: readonly Point[]): number {
  let twice = 0;
  ring.forEach(([x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length];
    twice += x * v - u * y;
  });
  return twice / 2;
}

/** The points along an edge from one end to the other, as the face beyond has them; of a whole round from anywhere, its first not twice. */
function pointsAlong(form: EdgeForm, other: number, places: Places): number[] {
  const [first, last] = [places.numberOf(form.from), places.numberOf(form.to)],
    across = minus(form.to, form.from),
    length = Math.hypot(...across);
  if (form.kind === 'line') {
    const between = places.pointsOf(other).flatMap((i) => {
      const p = minus(places.at(i), form.from),
        t = dot3(p, across) / (length * length),
        off = Math.hypot(...p.map((v, k) => v - t * across[k]));
      return i !== first && i !== last && t > 0 && t < 1 && off <= ON_EDGE ? [{ i, t }] : [];
    });
    return [first, ...between.sort((a, b) => a.t - b.t).map((b) => b.i), last];
  }
  const centre = form.centre!,
    axis = form.axis!,
    r = form.radius!,
    x = minus(form.from, centre),
    y = cross3(axis, x),
    angleOf = (p: ModelPoint): number => {
      const v = minus(p, centre),
        a = Math.atan2(dot3(v, y), dot3(v, x));
      return a < 0 ? a + 2 * Math.PI : a;
    };
  const whole = form.length > 2 * Math.PI * r * FULL,
    // By its middle: which way round it goes from its first end.
    forward = whole || angleOf(form.middle) < angleOf(form.to),
    round = places.pointsOf(other).flatMap((i) => {
      const v = minus(places.at(i), centre);
      if (
        i === first ||
        i === last ||
        Math.abs(dot3(v, axis)) > ON_EDGE ||
        Math.abs(Math.hypot(...v) - r) > ON_EDGE
      )
        return [];
      const a = angleOf(places.at(i)),
        t = forward ? a : 2 * Math.PI - a,
        end = forward ? angleOf(form.to) : 2 * Math.PI - angleOf(form.to);
      return whole || t < end ? [{ i, t }] : [];
    });
  const row = round.sort((a, b) => a.t - b.t).map((p) => p.i);
  return whole ? [first, ...row] : [first, ...row, last];
}

const minus = (p: ModelPoint, q: ModelPoint): ModelPoint => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];

/** Rows of points put together to rings, end to end; a row that is a whole round is one by itself. */
function ringsOf(rows: readonly number[][]): number[][] {
  const out: number[][] = [],
    open: number[][] = [];
  for (const row of rows) {
    // The points of a whole round do not come back to the first.
    if (row.length > 2 && isRound(row, rows)) out.push(row);
    else open.push(row);
  }
  const left = new Set(open);
  for (const start of open) {
    if (!left.delete(start)) continue;
    const ring = [...start];
    for (let grown = true; grown && ring[0] !== ring.at(-1);) {
      grown = false;
      for (const row of left) {
        const end = ring.at(-1);
        if (row[0] !== end && row.at(-1) !== end) continue;
        ring.push(...(row[0] === end ? row : [...row].reverse()).slice(1));
        left.delete(row);
        grown = true;
        break;
      }
    }
    if (ring.length > 3 && ring[0] === ring.at(-1)) out.push(ring.slice(0, -1));
  }
  return out;
}

/** Does a row meet no other at its ends? */
const isRound = (row: readonly number[], rows: readonly number[][]): boolean =>
  !rows.some((r) => r !== row && [r[0], r.at(-1)].some((i) => i === row[0] || i === row.at(-1)));
