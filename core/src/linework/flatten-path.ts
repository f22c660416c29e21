import { applyTransform, flattenCubic, type Cubic, type Point, type Transform } from '../geometry/index.ts';
import { CLOSE, Verb, type PathObject } from './page-objects.ts';

/** Pieces that a clip's or cover's curve is flattened to: within 0.03 % of a quarter circle's radius. */
const FLATTEN_PIECES = 24;

/** The path's rings in sheet space, curves flattened finely. */
export function flattenPath(
  object: Pick<PathObject, 'coords' | 'verbs' | 'count'>,
  matrix: Transform,
): Point[][] {
  const { coords, verbs, count } = object;
  const rings: Point[][] = [];
  let ring: Point[] = [];
  const at = (i: number): Point => applyTransform(matrix, [coords[2 * i], coords[2 * i + 1]]);
  for (let i = 0; i < count; i++) {
    const verb = verbs[i] & 7;
    if (verb === Verb.move) {
      if (ring.length > 2) rings.push(ring);
      ring = [at(i)];
    } else if (verb === Verb.line) ring.push(at(i));
    else {
      const from = ring[ring.length - 1] ?? at(i);
      const cubic = [...from, ...at(i), ...at(i + 1), ...at(i + 2)] as unknown as Cubic;
      ring.push(...flattenCubic(cubic, FLATTEN_PIECES).slice(1));
      i += 2;
    }
  }
  if (ring.length > 2) rings.push(ring);
  return rings;
}

/** Lines and curves of a path, closing lines with them. */
export function countPieces({ verbs, count }: PathObject): number {
  let n = 0;
  for (let i = 0; i < count; i++) {
    const verb = verbs[i] & 7;
    if (verb === Verb.line) n++;
    if (verb === Verb.curve) {
      n++;
      i += 2;
    }
    if (verbs[i] & CLOSE) n++;
  }
  return n;
}
