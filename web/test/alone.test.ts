import { expect, it } from 'vitest';
import type { Scene } from '@calque/core/solids';
import { sceneWithout } from '../src/space/alone.ts';

const group = (ids: string[]): Scene['groups'][number] => ({
  storeyId: 'ground',
  type: 'member',
  layerId: null,
  elements: ids.map((id, i) => ({ id, triangles: [3 * i, 3 * i + 3], edges: [2 * i, 2 * i + 2] })),
  triangles: Float32Array.from(ids.flatMap((_, i) => Array.from({ length: 9 }, (__, k) => 100 * i + k))),
  edges: Float32Array.from(ids.flatMap((_, i) => Array.from({ length: 6 }, (__, k) => 100 * i + k))),
});

it('a scene without some elements has the figures of the others, in their places', () => {
  const scene: Scene = { origin: [0, 0, 0], box: null, groups: [group(['a', 'p/b', 'c']), group(['d'])] },
    without = sceneWithout(scene, new Set(['p', 'd']));
  expect(without.groups).toHaveLength(1);
  const [only] = without.groups;
  expect(only.elements).toEqual([
    { id: 'a', triangles: [0, 3], edges: [0, 2] },
    { id: 'c', triangles: [3, 6], edges: [2, 4] },
  ]);
  expect([...only.triangles]).toEqual([
    0, 1, 2, 3, 4, 5, 6, 7, 8, 200, 201, 202, 203, 204, 205, 206, 207, 208,
  ]);
  expect([...only.edges]).toEqual([0, 1, 2, 3, 4, 5, 200, 201, 202, 203, 204, 205]);
  expect(sceneWithout(scene, null)).toBe(scene);
  expect(sceneWithout(scene, new Set(['x'])).groups).toEqual(scene.groups);
});
