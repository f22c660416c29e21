import type { TopoDS_Shape } from 'replicad-opencascadejs';
import { dot3, type ModelPoint } from '../../geometry/index.ts';
import { edgesOf, partsOf, type Body } from '../body.ts';
import { StepFault } from '../fault.ts';
import { formOfEdge } from '../facts.ts';
import { inScope, kernel } from '../kernel.ts';
import { axisPlane, plus, pointAt } from '../wires.ts';
import { BEYOND, reachAlong } from './context.ts';

const shown = (p: ModelPoint): string => p.map((v) => Number(v.toFixed(2))).join(', ');

/**
 * Where lines through places along a way first meet a body, coming from far before it. Where a line runs in what is hollow already, the first that a
 * cylinder so wide round it meets counts. Throws StepFault for one that meets nothing.
 */
export function entriesOf(
  body: Body,
  places: readonly ModelPoint[],
  way: ModelPoint,
  wide: number,
): ModelPoint[] {
  const found = places.map((): number | null => null),
    lines = places.map((p) => {
      const [least, most] = reachAlong(body, p, way);
      return { from: plus(p, way, least - BEYOND), to: plus(p, way, most + BEYOND) };
    });
  inScope((s) => {
    const k = kernel(),
      builder = s.keep(new k.TopoDS_Builder()),
      compound = s.keep(new k.TopoDS_Compound());
    builder.MakeCompound(compound);
    for (const { from, to } of lines)
      builder.Add(compound, s.keep(new k.BRepBuilderAPI_MakeEdge(pointAt(s, from), pointAt(s, to))).Edge());
    const making = s.keep(
      new k.BRepAlgoAPI_Common(compound, body.shape, s.keep(new k.Message_ProgressRange())),
    );
    for (const edge of edgesOf(making.Shape())) {
      const form = formOfEdge(edge);
      if (!form) continue;
      for (const p of [form.from, form.to])
        lines.forEach((_, i) => {
          const off: ModelPoint = [p[0] - places[i][0], p[1] - places[i][1], p[2] - places[i][2]],
            along = dot3(off, way);
          if (Math.hypot(off[0] - along * way[0], off[1] - along * way[1], off[2] - along * way[2]) > 1e-6)
            return;
          found[i] = Math.min(found[i] ?? Infinity, along);
        });
    }
  });
  return places.map((p, i) => {
    const along = found[i] ?? firstInCylinder(body.shape, lines[i], way, wide, p);
    if (along === null) throw new StepFault(`A hole of it lies beside the part, at ${shown(p)}.`, p);
    return plus(p, way, along);
  });
}

/** How far along a line from a place a cylinder round it first meets a shape; null where it does not. */
function firstInCylinder(
  shape: TopoDS_Shape,
  { from, to }: { from: ModelPoint; to: ModelPoint },
  way: ModelPoint,
  wide: number,
  place: ModelPoint,
): number | null {
  return inScope((s) => {
    const k = kernel(),
      height = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]),
      cylinder = s.keep(new k.BRepPrimAPI_MakeCylinder(axisPlane(s, from, way), wide / 2, height)).Shape(),
      making = s.keep(new k.BRepAlgoAPI_Common(cylinder, shape, s.keep(new k.Message_ProgressRange())));
    const solids = partsOf(making.Shape(), 'SOLID');
    if (solids.length === 0) return null;
    const places = solids.map((solid) => reachAlong({ shape: solid, faces: [] }, place, way)[0]);
    return Math.min(...places);
  });
}
