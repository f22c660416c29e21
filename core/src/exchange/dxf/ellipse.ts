import { Verb } from '../../linework/page-objects.ts';
import type { Point } from '../../geometry/index.ts';

/** Pieces per quarter of an ellipse. */
const ELLIPSE_PIECES = 4;

/** An arc of the unit circle as Béziers, counter-clockwise; a placement makes an ellipse of it. */
export function unitArc(start: number, end: number): { verbs: number[]; points: Point[] } {
  const pieces = Math.max(1, Math.ceil(((end - start) / (Math.PI / 2)) * ELLIPSE_PIECES));
  const step = (end - start) / pieces,
    handle = (4 / 3) * Math.tan(step / 4);
  const points: Point[] = [[Math.cos(start), Math.sin(start)]];
  for (let i = 0; i < pieces; i++) {
    const a = start + i * step,
      b = a + step;
    points.push(
      [Math.cos(a) - handle * Math.sin(a), Math.sin(a) + handle * Math.cos(a)],
      [Math.cos(b) + handle * Math.sin(b), Math.sin(b) - handle * Math.cos(b)],
      [Math.cos(b), Math.sin(b)],
    );
  }
  return { verbs: [Verb.move, ...Array.from({ length: pieces }, () => Verb.curve)], points };
}
