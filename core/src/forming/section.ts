import {
  facing,
  planeFromWorld,
  type Frame,
  type ModelPoint,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import { boxOf, edgesOf, facesOf, listOf, type Body } from './body.ts';
import { areaOf, formOfEdge } from './facts.ts';
import { TO_LOOK_AT } from './drawn.ts';
import { flatPieces } from './flat-pieces.ts';
import { inScope, kernel } from './kernel.ts';
import { meshOf } from './mesh.ts';
import { axes } from './wires.ts';

/** What a plane cuts through of a solid. */
export interface Section {
  /** Its outline, millimetres of the plane. */
  pieces: Piece[];
  /** Square millimetres. */
  area: number;
  /** The cut as triangles, in the space of the part. */
  corners: Float32Array;
  triangles: Uint32Array;
}

/** Cuts a body by a plane; null where that passes beside it. */
export function sectionOn(body: Body, frame: Frame): Section | null {
  const box = boxOf(body.shape);
  if (!box) return null;
  return inScope((s) => {
    const k = kernel(),
      // Wide enough to reach through the part from wherever the plane has its zero.
      reach =
        2 * Math.hypot(box[3] - box[0], box[4] - box[1], box[5] - box[2]) +
        2 * Math.max(...[0, 1, 2].map((i) => Math.abs((box[i] + box[i + 3]) / 2 - frame.origin[i]))),
      plane = s.keep(new k.gp_Pln(s.keep(axes(s, frame)))),
      sheet = s.keep(new k.BRepBuilderAPI_MakeFace(plane, -reach, reach, -reach, reach)).Face(),
      making = s.keep(new k.BRepAlgoAPI_Common());
    making.SetArguments(listOf(s, [sheet]));
    making.SetTools(listOf(s, [body.shape]));
    making.Build(s.keep(new k.Message_ProgressRange()));
    const cut = making.Shape(),
      faces = facesOf(cut);
    if (faces.length === 0) return null;
    const on = (p: ModelPoint): Point => planeFromWorld(frame, p).point,
      normal = facing(frame);
    return {
      pieces: edgesOf(cut).flatMap((edge) => {
        const form = formOfEdge(edge);
        return form ? flatPieces(form, on, normal) : [];
      }),
      area: faces.reduce((sum, f) => sum + areaOf(f), 0),
      ...meshOf(cut, TO_LOOK_AT),
    };
  });
}
