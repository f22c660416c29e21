import type { TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import { edgesOf, facesOf, ShapeMap } from './body.ts';
import { formOfEdge, formOfFace, type EdgeForm, type FaceForm } from './facts.ts';
import { flatTriangles, Places } from './flat-mesh.ts';
import { inScope, kernel } from './kernel.ts';

/** How finely curves are broken into straight stretches: how far off these may be, millimetres, and the angle from one to the next, radians. */
export interface Fineness {
  off: number;
  angle: number;
}

/** Triangles of a shape: corners (three figures each), three corners to a triangle, and to each of its faces where its triangles begin and how many figures they are. */
export interface ShapeMesh {
  corners: Float32Array;
  triangles: Uint32Array;
  groups: { start: number; count: number }[];
}

/** A flat face whose edges are lines and rounds, with what its edges meet. */
interface FlatFace {
  index: number;
  form: Extract<FaceForm, { kind: 'plane' }>;
  edges: {
    form: EdgeForm;
    /** The face beyond it, by its number; its own where there is none. */ other: number;
  }[];
}

/**
 * Breaks a shape into triangles; faces that meet share the points of their edge exactly. Flat faces between lines and rounds are filled here, by the points
 * that the faces around them have: the kernel takes seconds for one with hundreds of holes.
 */
export function meshOf(shape: TopoDS_Shape, fineness: Fineness): ShapeMesh {
  const faces = facesOf(shape),
    flat = flatFaces(faces),
    filled = new Set(flat.map((f) => f.index)),
    curved = faces.flatMap((face, i) => (filled.has(i) ? [] : [{ face, i }]));
  const raw =
      curved.length > 0
        ? extracted(
            curved.map((c) => c.face),
            fineness,
          )
        : NOTHING,
    groups: ShapeMesh['groups'] = faces.map(() => ({ start: 0, count: 0 })),
    places = new Places(raw.corners),
    triangles: number[] = [];
  curved.forEach(({ i }, k) => {
    groups[i] = { start: triangles.length, count: raw.groups[3 * k + 1] };
    const from = raw.groups[3 * k];
    for (let t = from; t < from + groups[i].count; t++) triangles.push(raw.triangles[t]);
    places.take(i, raw.triangles.subarray(from, from + groups[i].count));
  });
  for (const face of flat) {
    const start = triangles.length;
    flatTriangles(face, places, triangles);
    groups[face.index] = { start, count: triangles.length - start };
  }
  return { corners: places.corners(), triangles: Uint32Array.from(triangles), groups };
}

const NOTHING = { groups: new Int32Array(0), corners: new Float32Array(0), triangles: new Uint32Array(0) };

/** Flat faces that are filled here; a round between two flat faces is none, and a face that meets itself is left to the kernel. */
function flatFaces(faces: readonly TopoDS_Face[]): FlatFace[] {
  const forms = faces.map((f) => formOfFace(f)),
    beyond = new ShapeMap<number[]>(),
    edges = faces.map((face, i) =>
      edgesOf(face).map((edge): TopoDS_Edge => {
        const row = beyond.get(edge);
        if (row) row.push(i);
        else beyond.set(edge, [i]);
        return edge;
      }),
    );
  return faces.flatMap((_, index): FlatFace[] => {
    const form = forms[index];
    if (form.kind !== 'plane') return [];
    const own = edges[index].map((edge) => {
      const met = beyond.get(edge) ?? [],
        other = met.find((i) => i !== index) ?? index;
      return { form: formOfEdge(edge), other, met: met.length };
    });
    const fills = own.every(
      (e) =>
        e.form !== null &&
        e.met === 2 &&
        e.other !== index &&
        (e.form.kind === 'line' || (e.form.kind === 'circle' && forms[e.other].kind !== 'plane')),
    );
    return fills ? [{ index, form, edges: own.map(({ form: f, other }) => ({ form: f!, other })) }] : [];
  });
}

/** Triangles as the kernel makes them, of several faces at once. */
function extracted(faces: readonly TopoDS_Shape[], { off, angle }: Fineness) {
  return inScope((s) => {
    const k = kernel(),
      builder = s.keep(new k.TopoDS_Builder()),
      all = s.keep(new k.TopoDS_Compound());
    builder.MakeCompound(all);
    for (const face of faces) builder.Add(all, face);
    const raw = s.keep(k.ReplicadMeshExtractor.extract(all, off, angle, true)),
      { buffer } = (k as unknown as { wasmMemory: WebAssembly.Memory }).wasmMemory;
    return {
      groups: new Int32Array(buffer, raw.getFaceGroupsPtr() >>> 0, raw.getFaceGroupsSize()).slice(),
      corners: new Float32Array(buffer, raw.getVerticesPtr() >>> 0, raw.getVerticesSize()).slice(),
      triangles: new Uint32Array(buffer, raw.getTrianglesPtr() >>> 0, raw.getTrianglesSize()).slice(),
    };
  });
}
