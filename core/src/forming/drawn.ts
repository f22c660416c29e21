import type { ModelPoint } from '../geometry/index.ts';
import type { FaceName } from '../model/index.ts';
import { facesOf, ShapeMap, type Body } from './body.ts';
import { bodyEdges } from './edges.ts';
import { formOfFace, type EdgeForm, type FaceForm } from './facts.ts';
import { meshOf, type Fineness } from './mesh.ts';

export const TO_LOOK_AT: Fineness = { off: 0.1, angle: 0.35 };

/** A face as it is shown and asked about. */
export interface ShownFace {
  name: FaceName;
  form: FaceForm;
  /** As its triangles have it, square millimetres. */
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
export function skinOf(body: Body, fineness: Fineness): Skin {
  const names = new ShapeMap<FaceName>();
  for (const { face, name } of body.faces) names.set(face, name);
  const { corners, triangles, groups } = meshOf(body.shape, fineness);
  // They come in the order in which the faces do.
  const shown = facesOf(body.shape).map((face, i) => ({
    name: names.get(face) ?? `unnamed:${i}`,
    form: formOfFace(face),
    ...groups[i],
  }));
  const { normals, areas } = shaded(corners, triangles, shown);
  return { corners, triangles, normals, faces: shown.map((f, i) => ({ ...f, area: areas[i] })) };
}

/** Directions out of the skin at its corners, the same for all triangles of a face that meet there, and how large its triangles are. */
function shaded(
  corners: Float32Array,
  triangles: Uint32Array,
  faces: readonly Omit<ShownFace, 'area'>[],
): { normals: Float32Array; areas: number[] } {
  const normals = new Float32Array(corners.length),
    areas = faces.map(({ start, count }) => {
      let twice = 0;
      for (let t = start; t < start + count; t += 3) {
        const a = 3 * triangles[t],
          b = 3 * triangles[t + 1],
          c = 3 * triangles[t + 2],
          ux = corners[b] - corners[a],
          uy = corners[b + 1] - corners[a + 1],
          uz = corners[b + 2] - corners[a + 2],
          vx = corners[c] - corners[a],
          vy = corners[c + 1] - corners[a + 1],
          vz = corners[c + 2] - corners[a + 2],
          nx = uy * vz - uz * vy,
          ny = uz * vx - ux * vz,
          nz = ux * vy - uy * vx;
        twice += Math.hypot(nx, ny, nz);
        for (const i of [a, b, c]) {
          normals[i] += nx;
          normals[i + 1] += ny;
          normals[i + 2] += nz;
        }
      }
      return twice / 2;
    });
  for (let i = 0; i < normals.length; i += 3) {
    const n = Math.hypot(normals[i], normals[i + 1], normals[i + 2]) || 1;
    for (let k = 0; k < 3; k++) normals[i + k] /= n;
  }
  return { normals, areas };
}

/** The edges of a body as points along them. */
export const edgeLines = (body: Body, fineness: Fineness): ShownEdge[] =>
  bodyEdges(body).map(({ between, form }) => ({
    between,
    middle: form.middle,
    length: form.length,
    radius: form.radius,
    points: Float32Array.from(form.along(pointsOn(form, fineness)).flat()),
  }));

/** Of other curves so many points. */
const OTHER_POINTS = 25;

/** How many points an edge is shown by: two of a line, of a round as its chords keep within what is allowed. */
function pointsOn({ kind, radius, length }: EdgeForm, { off, angle }: Fineness): number {
  if (kind === 'line') return 2;
  if (kind === 'other' || radius === null) return OTHER_POINTS;
  const step = Math.min(angle, off < radius ? 2 * Math.acos(1 - off / radius) : angle);
  return Math.max(2, Math.ceil(length / radius / step) + 1);
}
