import { packedGlb } from '../gltf/pack.ts';
import type { PartSkin } from './skin.ts';

const FLOAT = 5126,
  UNSIGNED = 5125;

/** A part as binary glTF 2.0: metres, y up, in its colour. */
export function writePartGlb(
  { corners, normals, triangles }: PartSkin,
  { name, colour }: { name: string; colour: number },
): Uint8Array {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity];
  corners.forEach((v, i) => {
    low[i % 3] = Math.min(low[i % 3], v);
    high[i % 3] = Math.max(high[i % 3], v);
  });
  const binary = new Uint8Array(4 * (corners.length + normals.length + triangles.length));
  binary.set(new Uint8Array(corners.buffer, corners.byteOffset, corners.byteLength), 0);
  binary.set(unit(normals), corners.byteLength);
  binary.set(
    new Uint8Array(triangles.buffer, triangles.byteOffset, triangles.byteLength),
    corners.byteLength + normals.byteLength,
  );
  const channel = (shift: number) => linear(((colour >> shift) & 0xff) / 255);
  return packedGlb(
    {
      asset: { version: '2.0', generator: 'Calque' },
      scene: 0,
      scenes: [{ name, nodes: [0] }],
      // From millimetres with z up to metres with y up.
      nodes: [{ name, mesh: 0, matrix: [0.001, 0, 0, 0, 0, 0, -0.001, 0, 0, 0.001, 0, 0, 0, 0, 0, 1] }],
      meshes: [{ name, primitives: [{ attributes: { POSITION: 0, NORMAL: 1 }, indices: 2, material: 0 }] }],
      materials: [
        {
          name,
          pbrMetallicRoughness: {
            baseColorFactor: [channel(16), channel(8), channel(0), 1],
            metallicFactor: 0,
            roughnessFactor: 0.7,
          },
        },
      ],
      accessors: [
        { bufferView: 0, componentType: FLOAT, count: corners.length / 3, type: 'VEC3', min: low, max: high },
        { bufferView: 1, componentType: FLOAT, count: normals.length / 3, type: 'VEC3' },
        { bufferView: 2, componentType: UNSIGNED, count: triangles.length, type: 'SCALAR' },
      ],
      bufferViews: [
        { buffer: 0, byteOffset: 0, byteLength: corners.byteLength, target: 34962 },
        { buffer: 0, byteOffset: corners.byteLength, byteLength: normals.byteLength, target: 34962 },
        {
          buffer: 0,
          byteOffset: corners.byteLength + normals.byteLength,
          byteLength: triangles.byteLength,
          target: 34963,
        },
      ],
      buffers: [{ byteLength: binary.length }],
    },
    binary,
  );
}

/** Directions of length one, whatever the kernel left of them. */
function unit(normals: Float32Array): Uint8Array {
  const out = new Float32Array(normals.length);
  for (let i = 0; i < normals.length; i += 3) {
    const n = Math.hypot(normals[i], normals[i + 1], normals[i + 2]);
    if (n > 0) for (let k = 0; k < 3; k++) out[i + k] = normals[i + k] / n;
    else out[i + 2] = 1;
  }
  return new Uint8Array(out.buffer);
}

/** A share of a colour as screens show it, by its light (IEC 61966-2-1). */
const linear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
