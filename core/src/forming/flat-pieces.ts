import { arcPiece, segmentPiece, type ModelPoint, type Piece, type Point } from '../geometry/index.ts';
import type { EdgeForm } from './facts.ts';

/** Of curves that are neither straight nor round on the plane so many chords are made. */
const CHORDS = 32;
const NEAR = 1e-9;

/**
 * An edge as it is seen on a plane, looking square onto it. `on` takes a point of space to the plane (millimetres), `normal` is square to it. Rounds that
 * stand at an angle to the plane come as chords; what is seen as a point comes as nothing.
 */
export function flatPieces(form: EdgeForm, on: (p: ModelPoint) => Point, normal: ModelPoint): Piece[] {
  const [from, middle, to] = [form.from, form.middle, form.to].map(on),
    far = ([x, y]: Point, [u, v]: Point) => Math.hypot(x - u, y - v);
  if (form.kind === 'line') return far(from, to) < NEAR ? [] : [segmentPiece(from, to)];
  const { axis, centre, radius: r } = form,
    lies = axis ? Math.abs(axis[0] * normal[0] + axis[1] * normal[1] + axis[2] * normal[2]) : 0;
  if (form.kind === 'circle' && centre && r !== null && lies > 1 - NEAR) {
    const [cx, cy] = on(centre),
      angle = ([x, y]: Point) => Math.atan2(y - cy, x - cx);
    if (form.length > 2 * Math.PI * r * (1 - NEAR))
      return [arcPiece({ cx, cy, r, start: 0, end: 2 * Math.PI })];
    // Counter-clockwise from one end to the other, by its middle.
    const sweep = form.length / r,
      turned = (a: number, b: number) => (((b - a) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI),
      start = turned(angle(from), angle(middle)) < Math.PI ? angle(from) : angle(to);
    return [arcPiece({ cx, cy, r, start, end: start + sweep })];
  }
  const row = form.along(CHORDS).map(on);
  // A round seen from its side is a straight stretch, to and fro.
  if (form.kind === 'circle' && lies < NEAR) {
    const ends = farthest(row);
    return ends ? [segmentPiece(...ends)] : [];
  }
  return row.slice(1).flatMap((p, i) => (far(row[i], p) < NEAR ? [] : [segmentPiece(row[i], p)]));
}

/** The two of a row of points on one line that lie the farthest apart. */
function farthest(row: readonly Point[]): [Point, Point] | null {
  const [first] = row,
    off = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]),
    a = row.reduce((x, p) => (off(first, p) > off(first, x) ? p : x), first),
    b = row.reduce((x, p) => (off(a, p) > off(a, x) ? p : x), a);
  return off(a, b) < NEAR ? null : [a, b];
}
