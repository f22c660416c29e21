import {
  arcPiece,
  planeFromWorld,
  segmentPiece,
  type Frame,
  type ModelPoint,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import { edgesOf, type Body } from './body.ts';
import { areaOf, formOfEdge, planeOfFace } from './facts.ts';
import { frameAlong } from './wires.ts';

/** The edges of a flat face at true size, on a plane of its own. */
export interface FaceOutline {
  frame: Frame;
  pieces: Piece[];
}

/** Of other curves so many chords are made. */
const CHORDS = 32;

/** The outline of a flat face, by its name, or of the largest; null where the body has no such face. */
export function faceOutline(body: Body, name: string | null = null): FaceOutline | null {
  const flat = body.faces.flatMap((f) => {
      const plane = planeOfFace(f.face);
      return plane && (name === null || f.name === name)
        ? [{ face: f.face, plane, area: areaOf(f.face) }]
        : [];
    }),
    best = flat.sort((a, b) => b.area - a.area)[0];
  if (!best) return null;
  const frame = frameAlong(best.plane.at, best.plane.normal),
    on = (p: ModelPoint): Point => planeFromWorld(frame, p).point;
  const pieces = edgesOf(best.face).flatMap((edge): Piece[] => {
    const form = formOfEdge(edge);
    if (!form) return [];
    const [from, middle, to] = [form.from, form.middle, form.to].map(on);
    if (form.kind === 'line') return [segmentPiece(from, to)];
    if (form.kind === 'circle' && form.centre && form.radius !== null) {
      const [cx, cy] = on(form.centre),
        r = form.radius,
        angle = ([x, y]: Point) => Math.atan2(y - cy, x - cx);
      if (form.length > 2 * Math.PI * r * (1 - 1e-9))
        return [arcPiece({ cx, cy, r, start: 0, end: 2 * Math.PI })];
      // Counter-clockwise from one end to the other, by its middle.
      const sweep = form.length / r,
        turned = (a: number, b: number) => (((b - a) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI),
        start = turned(angle(from), angle(middle)) < Math.PI ? angle(from) : angle(to);
      return [arcPiece({ cx, cy, r, start, end: start + sweep })];
    }
    return form
      .along(CHORDS)
      .map(on)
      .slice(1)
      .map((p, i, all): Piece => segmentPiece(i === 0 ? from : all[i - 1], p));
  });
  return { frame, pieces };
}
