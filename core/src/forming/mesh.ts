import type { TopoDS_Shape } from 'replicad-opencascadejs';
import { kernel } from './kernel.ts';

/** How finely curves are broken into straight stretches: how far off these may be, millimetres, and the angle from one to the next, radians. */
export interface Fineness {
  off: number;
  angle: number;
}

/** Triangles of a shape: corners (three figures each), three corners to a triangle, and to each face where its triangles begin and how many figures they are. */
export interface ShapeMesh {
  corners: Float32Array;
  triangles: Uint32Array;
  groups: Int32Array;
}

/** Breaks a shape into triangles; faces that meet share the points of their edge exactly. */
export function meshOf(shape: TopoDS_Shape, { off, angle }: Fineness): ShapeMesh {
  const k = kernel(),
    raw = k.ReplicadMeshExtractor.extract(shape, off, angle, true),
    { buffer } = (k as unknown as { wasmMemory: WebAssembly.Memory }).wasmMemory;
  try {
    return {
      groups: new Int32Array(buffer, raw.getFaceGroupsPtr() >>> 0, raw.getFaceGroupsSize()).slice(),
      corners: new Float32Array(buffer, raw.getVerticesPtr() >>> 0, raw.getVerticesSize()).slice(),
      triangles: new Uint32Array(buffer, raw.getTrianglesPtr() >>> 0, raw.getTrianglesSize()).slice(),
    };
  } finally {
    raw.delete();
  }
}
