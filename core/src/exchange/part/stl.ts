import { welded, type PartSkin } from './skin.ts';

const HEADER = 80,
  TRIANGLE = 50;

/** A part as binary STL, millimetres. */
export function writeStl(skin: PartSkin, name: string): Uint8Array {
  const { corners, triangles } = welded(skin),
    count = triangles.length / 3,
    out = new Uint8Array(HEADER + 4 + TRIANGLE * count),
    view = new DataView(out.buffer);
  // Never beginning with "solid", by which the text form is told.
  const words = `Calque, mm: ${name.replace(/[^ -~]/g, '_')}`.slice(0, HEADER);
  for (let i = 0; i < words.length; i++) out[i] = words.charCodeAt(i);
  view.setUint32(HEADER, count, true);
  const at = (i: number) => [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]];
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [0, 1, 2].map((k) => at(triangles[3 * t + k])),
      u = b.map((v, k) => v - a[k]),
      v = c.map((w, k) => w - a[k]),
      n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]],
      length = Math.hypot(...n) || 1;
    let offset = HEADER + 4 + TRIANGLE * t;
    for (const value of [...n.map((w) => w / length), ...a, ...b, ...c]) {
      view.setFloat32(offset, value, true);
      offset += 4;
    }
  }
  return out;
}
