import type { ModelPoint } from '../../geometry/index.ts';
import { settingsOf, elementWords, type Loose, type Model } from '../../model/index.ts';
import { bodiesOf, type Body } from '../../solids/index.ts';
import { packedGlb } from './pack.ts';

/** Colours of kinds, red, green, blue from 0 to 1, linear. */
const COLOURS: Partial<Record<Loose['type'], readonly [number, number, number]>> = {
  wall: [0.88, 0.88, 0.84],
  slab: [0.69, 0.65, 0.55],
  column: [0.55, 0.6, 0.64],
  roof: [0.58, 0.4, 0.27],
  stair: [0.75, 0.72, 0.63],
  member: [0.42, 0.5, 0.56],
};
const OTHER = [0.8, 0.8, 0.8] as const;

const FLOAT = 5126;

interface Accessor {
  bufferView: number;
  byteOffset: number;
  componentType: number;
  count: number;
  type: 'VEC3';
  min?: number[];
  max?: number[];
}

/**
 * A building as binary glTF 2.0: a node for each storey and below it one for each element, by its name, with its id as `extras`;
 * metres, y up. Places are told about one near the building, which the root says: single precision holds them to a hundredth of a
 * millimetre. What it cannot carry: drawn lines, sheets, figures. Null where there is no solid.
 */
export function writeGlb(model: Model, storeyId?: string): Uint8Array | null {
  const bodies = bodiesOf(model).filter((b) => storeyId === undefined || b.on.id === storeyId);
  if (bodies.length === 0) return null;
  const meshes = bodies.map((b) => b.mesh().triangles),
    origin = middleOf(bodies, meshes),
    style = settingsOf(model);
  const types = [...new Set(bodies.map((b) => b.element.type))],
    storeys = [...new Set(bodies.map((b) => b.on))];
  const corners = meshes.reduce((n, t) => n + t.length / 3, 0),
    binary = new ArrayBuffer(corners * 24),
    places = new Float32Array(binary, 0, corners * 3),
    normals = new Float32Array(binary, corners * 12, corners * 3);
  const accessors: Accessor[] = [];
  let at = 0;
  meshes.forEach((triangles, i) => {
    const { lift } = bodies[i],
      first = at,
      low = [Infinity, Infinity, Infinity],
      high = [-Infinity, -Infinity, -Infinity];
    for (let t = 0; t < triangles.length; t += 9) {
      const normal = normalOf(triangles, t);
      for (let c = 0; c < 9; c += 3, at++)
        for (let axis = 0; axis < 3; axis++) {
          const value = triangles[t + c + axis] + (axis === 2 ? lift : 0) - origin[axis];
          places[3 * at + axis] = value;
          normals[3 * at + axis] = normal[axis];
          // As they stand in the file, rounded.
          low[axis] = Math.min(low[axis], places[3 * at + axis]);
          high[axis] = Math.max(high[axis], places[3 * at + axis]);
        }
    }
    const count = at - first;
    accessors.push(
      {
        bufferView: 0,
        byteOffset: first * 12,
        componentType: FLOAT,
        count,
        type: 'VEC3',
        min: low,
        max: high,
      },
      { bufferView: 1, byteOffset: first * 12, componentType: FLOAT, count, type: 'VEC3' },
    );
  });
  const elementNodes = bodies.map((b, i) => ({
      name: elementWords(b.element, style),
      mesh: i,
      extras: { id: b.element.id, kind: b.element.type },
    })),
    storeyNodes = storeys.map((s) => ({
      name: s.name,
      children: bodies.flatMap((b, i) => (b.on === s ? [i] : [])),
    })),
    root = {
      name: style.name,
      // From millimetres with z up to metres with y up.
      matrix: [
        0.001,
        0,
        0,
        0,
        0,
        0,
        -0.001,
        0,
        0,
        0.001,
        0,
        0,
        ...[origin[0], origin[2], -origin[1]].map((v) => v / 1000),
        1,
      ],
      children: storeyNodes.map((_, i) => elementNodes.length + i),
    };
  const json = {
    asset: { version: '2.0', generator: 'Calque' },
    scene: 0,
    scenes: [{ name: style.name, nodes: [elementNodes.length + storeyNodes.length] }],
    nodes: [...elementNodes, ...storeyNodes, root],
    meshes: bodies.map((b, i) => ({
      name: b.element.id,
      primitives: [
        { attributes: { POSITION: 2 * i, NORMAL: 2 * i + 1 }, material: types.indexOf(b.element.type) },
      ],
    })),
    materials: types.map((t) => ({
      name: t,
      pbrMetallicRoughness: {
        baseColorFactor: [...(COLOURS[t] ?? OTHER), 1],
        metallicFactor: 0,
        roughnessFactor: 0.9,
      },
    })),
    accessors,
    bufferViews: [
      { buffer: 0, byteOffset: 0, byteLength: corners * 12, byteStride: 12, target: 34962 },
      { buffer: 0, byteOffset: corners * 12, byteLength: corners * 12, byteStride: 12, target: 34962 },
    ],
    buffers: [{ byteLength: binary.byteLength }],
  };
  return packedGlb(json, new Uint8Array(binary));
}

/** The square direction of a triangle, seen from outside. */
function normalOf(t: Float64Array, i: number): ModelPoint {
  const [ax, ay, az] = [t[i + 3] - t[i], t[i + 4] - t[i + 1], t[i + 5] - t[i + 2]],
    [bx, by, bz] = [t[i + 6] - t[i], t[i + 7] - t[i + 1], t[i + 8] - t[i + 2]],
    [x, y, z] = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx],
    length = Math.hypot(x, y, z);
  return length === 0 ? [0, 0, 1] : [x / length, y / length, z / length];
}

function middleOf(bodies: readonly Body[], meshes: readonly Float64Array[]): ModelPoint {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity];
  meshes.forEach((t, k) => {
    for (let i = 0; i < t.length; i++) {
      const v = t[i] + (i % 3 === 2 ? bodies[k].lift : 0);
      low[i % 3] = Math.min(low[i % 3], v);
      high[i % 3] = Math.max(high[i % 3], v);
    }
  });
  return [0, 1, 2].map((k) => Math.round((low[k] + high[k]) / 2)) as unknown as ModelPoint;
}
