import type { IfcAPI } from 'web-ifc';

/** The box about points that follow one another, as least and most in turn. */
export function boxOf(points: readonly number[]): number[] {
  const box = [0, 1, 2].flatMap(() => [Infinity, -Infinity]);
  points.forEach((v, i) => {
    const k = 2 * (i % 3);
    box[k] = Math.min(box[k], v);
    box[k + 1] = Math.max(box[k + 1], v);
  });
  return box;
}

/** What an independent reader makes of the bodies of an open IFC model, by their GlobalId: cubic millimetres, and boxes in the model's millimetres with z up. */
export function ifcBodies(api: IfcAPI, id: number): Map<string, { volume: number; box: number[] }> {
  const found = new Map<string, { volume: number; box: number[] }>();
  api.StreamAllMeshes(id, (mesh) => {
    let volume = 0;
    const all: number[] = [];
    for (let g = 0; g < mesh.geometries.size(); g++) {
      const placed = mesh.geometries.get(g),
        geometry = api.GetGeometry(id, placed.geometryExpressID),
        points = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize()),
        corners = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize()),
        t = placed.flatTransformation,
        at = (i: number) => {
          const [x, y, z] = [points[6 * i], points[6 * i + 1], points[6 * i + 2]];
          return [0, 1, 2].map((k) => t[k] * x + t[4 + k] * y + t[8 + k] * z + t[12 + k]);
        };
      for (let i = 0; i < corners.length; i += 3) {
        const [a, b, c] = [at(corners[i]), at(corners[i + 1]), at(corners[i + 2])];
        all.push(...a, ...b, ...c);
        volume +=
          (a[0] * (b[1] * c[2] - b[2] * c[1]) +
            a[1] * (b[2] * c[0] - b[0] * c[2]) +
            a[2] * (b[0] * c[1] - b[1] * c[0])) /
          6;
      }
    }
    const key = (api.GetLine(id, mesh.expressID) as { GlobalId: { value: string } }).GlobalId.value,
      [x0, x1, y0, y1, z0, z1] = boxOf(all);
    // Its y is up, and its z towards the front; metres.
    found.set(key, {
      volume: Math.abs(volume) * 1e9,
      box: [x0, x1, -z1, -z0, y0, y1].map((v) => v * 1000),
    });
  });
  return found;
}
