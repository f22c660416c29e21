import {
  facing,
  planeFromWorld,
  type Frame,
  type ModelPoint,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import { edgesOf, type Body } from './body.ts';
import { areaOf, formOfEdge, planeOfFace } from './facts.ts';
import { flatPieces } from './flat-pieces.ts';
import { frameAlong } from './wires.ts';

/** The edges of a flat face at true size, on a plane of its own. */
export interface FaceOutline {
  frame: Frame;
  pieces: Piece[];
}

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
  const normal = facing(frame),
    pieces = edgesOf(best.face).flatMap((edge) => {
      const form = formOfEdge(edge);
      return form ? flatPieces(form, on, normal) : [];
    });
  return { frame, pieces };
}
