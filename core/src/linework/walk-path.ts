import { applyTransform, type Cubic } from '../geometry/index.ts';
import { CLOSE, Verb, type PathObject } from './page-objects.ts';
import { recogniseRun, type Recognised } from './recognise-arcs.ts';
import { roundingOf } from './rounding.ts';

/** A circle, an arc or a curve that was recognised. */
export type Shape = Exclude<Recognised, { kind: 'segment' }>;

/** Where the pieces of a path go. */
export interface PathPieces {
  segment(x0: number, y0: number, x1: number, y1: number): void;
  shape(piece: Shape): void;
}

/** Walks a path's subpaths in sheet space. Lines go straight out; runs of Béziers are recognised first. Returns the step that its curves' coordinates were rounded to, sheet points. */
export function walkPath(object: PathObject, closeAll: boolean, into: PathPieces): number {
  const { coords, verbs, count, matrix: m } = object;
  const [a, b, c, d, e, f] = m;
  let startX = 0,
    startY = 0,
    x = 0,
    y = 0;
  let run: Cubic[] = [];
  let open = false;
  let rounding = -1;
  const flush = () => {
    if (rounding < 0) rounding = roundingOf(coords, count, m);
    for (const piece of recogniseRun(run, rounding)) {
      if (piece.kind === 'segment') into.segment(...piece.points);
      else into.shape(piece);
    }
    run = [];
  };
  for (let i = 0; i < count; i++) {
    const verb = verbs[i] & 7;
    const px = coords[2 * i],
      py = coords[2 * i + 1];
    const nx = a * px + c * py + e,
      ny = b * px + d * py + f;
    if (verb === Verb.line) {
      if (run.length > 0) flush();
      into.segment(x, y, nx, ny);
      x = nx;
      y = ny;
      open = true;
    } else if (verb === Verb.move) {
      if (run.length > 0) flush();
      if (open && closeAll && (x !== startX || y !== startY)) into.segment(x, y, startX, startY);
      x = startX = nx;
      y = startY = ny;
      open = false;
    } else {
      const [qx, qy] = applyTransform(m, [coords[2 * i + 2], coords[2 * i + 3]]);
      const [ex, ey] = applyTransform(m, [coords[2 * i + 4], coords[2 * i + 5]]);
      run.push([x, y, nx, ny, qx, qy, ex, ey]);
      i += 2;
      x = ex;
      y = ey;
      open = true;
    }
    if (verbs[i] & CLOSE) {
      if (run.length > 0) flush();
      // A closing line back to the start that the file spells out is one line, not two.
      if (open && (x !== startX || y !== startY)) into.segment(x, y, startX, startY);
      x = startX;
      y = startY;
      open = false;
    }
  }
  if (run.length > 0) flush();
  if (open && closeAll && (x !== startX || y !== startY)) into.segment(x, y, startX, startY);
  return Math.max(0, rounding);
}
