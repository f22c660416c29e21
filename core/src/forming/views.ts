import type { TopoDS_Shape } from 'replicad-opencascadejs';
import { facing, type Frame, type ModelPoint, type Point } from '../geometry/index.ts';
import type { SolidView } from '../part/index.ts';
import { edgesOf, type Body } from './body.ts';
import { withoutRepetitions } from './courses.ts';
import { formOfEdge } from './facts.ts';
import { flatPieces } from './flat-pieces.ts';
import { inScope, kernel } from './kernel.ts';
import { pointAt, wayOf } from './wires.ts';

const UP: ModelPoint = [0, 0, 1];

/** What is seen of a body from the side to which a plane looks, hidden lines told from visible ones. */
export function viewOn(body: Body, frame: Frame): SolidView {
  return inScope((s) => {
    const k = kernel(),
      place = s.keep(new k.gp_Ax2(pointAt(s, frame.origin), wayOf(s, facing(frame)), wayOf(s, frame.across))),
      algorithm = s.keep(new k.HLRBRep_Algo());
    algorithm.Add(body.shape, 0);
    algorithm.Projector(s.keep(new k.HLRAlgo_Projector(place)));
    algorithm.Update();
    algorithm.Hide();
    const found = s.keep(new k.HLRBRep_HLRToShape(algorithm)),
      // They lie on the plane of the picture already.
      pieces = (shapes: readonly TopoDS_Shape[]) =>
        shapes.flatMap((shape) => {
          if (shape.IsNull()) return [];
          k.BRepLib.BuildCurves3d(shape);
          return edgesOf(shape).flatMap((edge) => {
            const form = formOfEdge(edge);
            return form ? flatPieces(form, ([x, y]): Point => [x, y], UP) : [];
          });
        });
    return withoutRepetitions({
      visible: pieces([found.VCompound(), found.OutLineVCompound()]),
      hidden: pieces([found.HCompound(), found.OutLineHCompound()]),
    });
  });
}
