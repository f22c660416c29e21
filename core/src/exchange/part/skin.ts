/** The skin of a part as triangles: corners (three figures each, millimetres), directions out of it, three corners to a triangle. */
export interface PartSkin {
  corners: Float32Array;
  normals: Float32Array;
  triangles: Uint32Array;
}

/** Corners that are the same place as one: what faces share is shared. Triangles with no area of their own are left out. */
export function welded({ corners, triangles }: Pick<PartSkin, 'corners' | 'triangles'>): {
  corners: Float32Array;
  triangles: Uint32Array;
} {
  const index = new Map<string, number>(),
    places: number[] = [],
    to = new Uint32Array(corners.length / 3);
  for (let i = 0; i < to.length; i++) {
    const [x, y, z] = [corners[3 * i] + 0, corners[3 * i + 1] + 0, corners[3 * i + 2] + 0],
      key = `${x},${y},${z}`;
    let at = index.get(key);
    if (at === undefined) {
      at = places.length / 3;
      index.set(key, at);
      places.push(x, y, z);
    }
    to[i] = at;
  }
  const kept: number[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [to[triangles[t]], to[triangles[t + 1]], to[triangles[t + 2]]];
    if (a !== b && b !== c && c !== a) kept.push(a, b, c);
  }
  return { corners: Float32Array.from(places), triangles: Uint32Array.from(kept) };
}
