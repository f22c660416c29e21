import { ownerId } from '@calque/core/model';
import type { Scene, SceneElement, SceneGroup } from '@calque/core/solids';

/** A scene without the elements that are put away; the same where none are. */
export function sceneWithout(scene: Scene, away: ReadonlySet<string> | null): Scene {
  if (!away || away.size === 0) return scene;
  const isAway = ({ id }: SceneElement) => away.has(ownerId(id));
  return {
    ...scene,
    groups: scene.groups
      .map((group) => (group.elements.some(isAway) ? groupWithout(group, isAway) : group))
      .filter((g) => g.elements.length > 0),
  };
}

function groupWithout(group: SceneGroup, isAway: (e: SceneElement) => boolean): SceneGroup {
  const stay = group.elements.filter((e) => !isAway(e)),
    elements: SceneElement[] = [];
  let [t, k] = [0, 0];
  for (const e of stay) {
    const [nt, nk] = [e.triangles[1] - e.triangles[0], e.edges[1] - e.edges[0]];
    elements.push({ id: e.id, triangles: [t, t + nt], edges: [k, k + nk] });
    t += nt;
    k += nk;
  }
  return {
    ...group,
    elements,
    triangles: taken(
      group.triangles,
      stay.map((e) => e.triangles),
    ),
    edges: taken(
      group.edges,
      stay.map((e) => e.edges),
    ),
  };
}

/** The figures of some ranges of points, three each, one after another. */
function taken(from: Float32Array, ranges: readonly [number, number][]): Float32Array {
  const out = new Float32Array(3 * ranges.reduce((n, [a, b]) => n + b - a, 0));
  let at = 0;
  for (const [a, b] of ranges) {
    out.set(from.subarray(3 * a, 3 * b), at);
    at += 3 * (b - a);
  }
  return out;
}
