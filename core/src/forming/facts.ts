import type { TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import type { ModelPoint } from '../geometry/index.ts';
import { inScope, kernel } from './kernel.ts';

/** What a face is; millimetres, in the space of the part. Normals point out of the part. */
export type FaceForm =
  | { kind: 'plane'; at: ModelPoint; normal: ModelPoint }
  | { kind: 'cylinder'; at: ModelPoint; axis: ModelPoint; radius: number; hollow: boolean }
  | { kind: 'cone' | 'sphere' | 'torus' | 'free' };

const REVERSED = 'TopAbs_REVERSED';
const xyz = (p: { X(): number; Y(): number; Z(): number; delete(): void }): ModelPoint => {
  const out: ModelPoint = [p.X(), p.Y(), p.Z()];
  p.delete();
  return out;
};
const isReversed = (face: TopoDS_Shape) => String(face.Orientation()).endsWith(REVERSED);

/** The form of a face. */
export function formOfFace(shape: TopoDS_Shape): FaceForm {
  return inScope((s) => {
    const k = kernel(),
      face = k.TopoDS.Face(shape) as TopoDS_Face,
      surface = s.keep(new k.BRepAdaptor_Surface(face, true)),
      type = String(surface.GetType());
    if (type.endsWith('Plane')) {
      const plane = s.keep(surface.Plane()),
        position = s.keep(plane.Position()),
        at = xyz(plane.Location()),
        // A plane may be left-handed: its normal is that of its parameters.
        way = xyz(s.keep(position.XDirection()).Crossed(s.keep(position.YDirection()))),
        sign = isReversed(face) ? -1 : 1;
      return { kind: 'plane', at, normal: [sign * way[0], sign * way[1], sign * way[2]] };
    }
    if (type.endsWith('Cylinder')) {
      const cylinder = s.keep(surface.Cylinder()),
        axis = s.keep(cylinder.Axis());
      // Parameters of a right-handed cylinder give normals outwards; it is hollow where its face is turned.
      return {
        kind: 'cylinder',
        at: xyz(axis.Location()),
        axis: xyz(axis.Direction()),
        radius: cylinder.Radius(),
        hollow: isReversed(face) === s.keep(cylinder.Position()).Direct(),
      };
    }
    const kinds = { Cone: 'cone', Sphere: 'sphere', Torus: 'torus' } as const;
    const found = Object.entries(kinds).find(([end]) => type.endsWith(end));
    return { kind: found ? found[1] : 'free' };
  });
}

/** Where a flat face lies and which way it faces out of the part; null for one that is not flat. */
export function planeOfFace(shape: TopoDS_Shape): { at: ModelPoint; normal: ModelPoint } | null {
  const form = formOfFace(shape);
  return form.kind === 'plane' ? form : null;
}

/** Area of a face, square millimetres. */
export function areaOf(shape: TopoDS_Shape): number {
  return inScope((s) => {
    const k = kernel(),
      props = s.keep(new k.GProp_GProps());
    k.BRepGProp.SurfaceProperties(shape, props, false, false);
    return props.Mass();
  });
}

/** What an edge is, and its length. */
export interface EdgeForm {
  kind: 'line' | 'circle' | 'other';
  from: ModelPoint;
  middle: ModelPoint;
  to: ModelPoint;
  /** Of a circle or an arc. */
  radius: number | null;
  centre: ModelPoint | null;
  /** Of the axis of a circle. */
  axis: ModelPoint | null;
  length: number;
  /** So many points along it, both ends included. */
  along(count: number): ModelPoint[];
}

export function formOfEdge(shape: TopoDS_Shape): EdgeForm | null {
  const k = kernel(),
    edge = k.TopoDS.Edge(shape) as TopoDS_Edge;
  if (k.BRep_Tool.Degenerated(edge)) return null;
  return inScope((s) => {
    const curve = s.keep(new k.BRepAdaptor_Curve(edge)),
      [t0, t1] = [curve.FirstParameter(), curve.LastParameter()],
      at = (t: number): ModelPoint => xyz(curve.Value(t)),
      type = String(curve.GetType()),
      base = {
        from: at(t0),
        middle: at((t0 + t1) / 2),
        to: at(t1),
        along: (count: number) => pointsOf(edge, count),
      };
    // Lines run by their length; the kernel adds up any other curve, which takes its time.
    if (type.endsWith('Line'))
      return { ...base, kind: 'line', length: t1 - t0, radius: null, centre: null, axis: null };
    if (!type.endsWith('Circle')) {
      const props = s.keep(new k.GProp_GProps());
      k.BRepGProp.LinearProperties(edge, props, false, false);
      return { ...base, kind: 'other', length: props.Mass(), radius: null, centre: null, axis: null };
    }
    const circle = s.keep(curve.Circle());
    return {
      ...base,
      kind: 'circle',
      length: circle.Radius() * (t1 - t0),
      radius: circle.Radius(),
      centre: xyz(circle.Location()),
      axis: xyz(s.keep(circle.Axis()).Direction()),
    };
  });
}

function pointsOf(edge: TopoDS_Edge, count: number): ModelPoint[] {
  return inScope((s) => {
    const curve = s.keep(new (kernel().BRepAdaptor_Curve)(edge)),
      [t0, t1] = [curve.FirstParameter(), curve.LastParameter()];
    return Array.from({ length: count }, (_, i) => xyz(curve.Value(t0 + ((t1 - t0) * i) / (count - 1))));
  });
}
