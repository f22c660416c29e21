import type { TopoDS_Shape } from 'replicad-opencascadejs';
import type { ModelPoint } from '../geometry/index.ts';
import type { FaceName } from '../model/index.ts';
import { facesOf, ShapeMap, type Body } from './body.ts';
import { bodyEdges } from './edges.ts';
import { areaOf, formOfFace, type FaceForm } from './facts.ts';
import { inScope, kernel } from './kernel.ts';

/** How finely curves are broken into straight stretches: how far off these may be, millimetres, and the angle from one to the next, radians. */
export interface Fineness {
  off: number;
  angle: number;
}
export const TO_LOOK_AT: Fineness = { off: 0.1, angle: 0.35 };

/** A face as it is shown and asked about. */
export interface ShownFace {
  name: FaceName;
  form: FaceForm;
  area: number;
  /** Of the mesh's triangles, from which on and how many figures of `triangles`. */
  start: number;
  count: number;
}
/** An edge as it is shown and asked about. */
export interface ShownEdge {
  between: [FaceName, FaceName];
  middle: ModelPoint;
  length: number;
  /** Of a circle or arc; null for others. */
  radius: number | null;
  /** Points along it, three figures each. */
  points: Float32Array;
}

/** The skin of a body as flat triangles, face by face: corners (three figures each), directions out of it, and three corners to a triangle. */
export interface Skin {
  corners: Float32Array;
  normals: Float32Array;
  triangles: Uint32Array;
  faces: ShownFace[];
}

/** Breaks the skin of a body into triangles; faces that meet share the points of their edge exactly. */
export function skinOf(body: Body, { off, angle }: Fineness): Skin {
  const k = kernel(),
    names = new ShapeMap<FaceName>();
  for (const { face, name } of body.faces) names.set(face, name);
  const faces = facesOf(body.shape),
    raw = k.ReplicadMeshExtractor.extract(body.shape, off, angle, false),
    { buffer } = (k as unknown as { wasmMemory: WebAssembly.Memory }).wasmMemory;
  try {
    const groups = new Int32Array(buffer, raw.getFaceGroupsPtr() >>> 0, raw.getFaceGroupsSize()).slice();
    return {
      corners: new Float32Array(buffer, raw.getVerticesPtr() >>> 0, raw.getVerticesSize()).slice(),
      normals: new Float32Array(buffer, raw.getNormalsPtr() >>> 0, raw.getNormalsSize()).slice(),
      triangles: new Uint32Array(buffer, raw.getTrianglesPtr() >>> 0, raw.getTrianglesSize()).slice(),
      // They come in the order in which the faces do.
      faces: faces.map((face, i) => ({
        name: names.get(face) ?? `unnamed:${i}`,
        form: formOfFace(face),
        area: areaOf(face),
        start: groups[3 * i] ?? 0,
        count: groups[3 * i + 1] ?? 0,
      })),
    };
  } finally {
    raw.delete();
  }
}

/** The edges of a body as points along them. */
export const edgeLines = (body: Body, fineness: Fineness): ShownEdge[] =>
  bodyEdges(body).map(({ edge, between, form }) => ({
    between,
    middle: form.middle,
    length: form.length,
    radius: form.radius,
    points: pointsAlong(edge, fineness),
  }));

function pointsAlong(edge: TopoDS_Shape, { off, angle }: Fineness): Float32Array {
  return inScope((s) => {
    const k = kernel(),
      curve = s.keep(new k.BRepAdaptor_Curve(k.TopoDS.Edge(edge))),
      walk = s.keep(new k.GCPnts_TangentialDeflection(curve, angle, off, 2, 1e-9, 1e-7)),
      out = new Float32Array(3 * walk.NbPoints());
    for (let i = 0; i < walk.NbPoints(); i++) {
      const p = walk.Value(i + 1);
      out.set([p.X(), p.Y(), p.Z()], 3 * i);
      p.delete();
    }
    return out;
  });
}
