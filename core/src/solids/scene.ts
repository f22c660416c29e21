import type { ModelPoint } from '../geometry/index.ts';
import { ofType, storeysOf, type Loose, type Model } from '../model/index.ts';
import { bodiesOn, bodiesOnPlane, type Body } from './building.ts';

/** Which triangles (corners by threes) and which edges (ends by twos) of a group are an element's: from, and beyond. */
export interface SceneElement {
  id: string;
  triangles: [number, number];
  edges: [number, number];
}

/** All solids of a storey or a plane that are of one kind and on one layer, as one surface: a picture of a building has few of these, however large it is. */
export interface SceneGroup {
  /** Of the storey, or the plane, on which they are drawn. */
  storeyId: string;
  type: Loose['type'];
  /** Null for what is on no layer. */
  layerId: string | null;
  /** Corners, three figures each, about the scene's origin; three corners a triangle. */
  triangles: Float32Array;
  /** Ends, three figures each; two ends an edge. */
  edges: Float32Array;
  elements: SceneElement[];
}

/** A building as it is drawn in space; millimetres, z up. */
export interface Scene {
  /** A place near the middle of the building: what lies far from the model's zero is drawn as exactly as what lies near it. */
  origin: ModelPoint;
  /** Lowest and highest corner about the origin; null for an empty scene. */
  box: { low: ModelPoint; high: ModelPoint } | null;
  groups: SceneGroup[];
}

interface Gathered {
  group: Omit<SceneGroup, 'triangles' | 'edges'>;
  triangles: Float64Array[];
  edges: Float64Array[];
  lifts: number[];
}

/** What hears of a scene while it is made. */
export interface HearsOfScene {
  /** How much of it is done, from 0 to 1. */
  onShare?(share: number): void;
  /** Some storeys are done: what there is of them, made when it is asked for. */
  onSome?(some: () => Scene): void;
}

/** All solids of a building, storey by storey. */
export function sceneOf(model: Model, { onShare, onSome }: HearsOfScene = {}): Scene {
  const found = new Map<string, Gathered>(),
    storeys = storeysOf(model);
  storeys.forEach((storey, n) => {
    const bodies = bodiesOn(model, storey);
    bodies.forEach((body, i) => {
      gather(found, body);
      if (i % SHARE_EVERY === 0) onShare?.((n + i / bodies.length) / storeys.length);
    });
    if (n + 1 < storeys.length) onSome?.(() => sceneWith([...found.values()]));
  });
  for (const plane of ofType(model, 'plane'))
    for (const body of bodiesOnPlane(model, plane)) gather(found, body);
  return sceneWith([...found.values()]);
}

function gather(found: Map<string, Gathered>, { element, on, lift, mesh: made }: Body): void {
  const layerId = element.layerId ?? null,
    key = [on.id, element.type, layerId ?? ''].join(' ');
  let entry = found.get(key);
  if (!entry)
    found.set(
      key,
      (entry = {
        group: { storeyId: on.id, type: element.type, layerId, elements: [] },
        triangles: [],
        edges: [],
        lifts: [],
      }),
    );
  const mesh = made(),
    last = entry.group.elements.at(-1),
    [t, e] = [last?.triangles[1] ?? 0, last?.edges[1] ?? 0];
  entry.group.elements.push({
    id: element.id,
    triangles: [t, t + mesh.triangles.length / 3],
    edges: [e, e + mesh.edges.length / 3],
  });
  entry.triangles.push(mesh.triangles);
  entry.edges.push(mesh.edges);
  entry.lifts.push(lift);
}

function sceneWith(gathered: readonly Gathered[]): Scene {
  const box = boxOf(gathered),
    origin: ModelPoint = box
      ? [
          Math.round((box.low[0] + box.high[0]) / 2),
          Math.round((box.low[1] + box.high[1]) / 2),
          Math.round(box.low[2]),
        ]
      : [0, 0, 0];
  return {
    origin,
    box: box && { low: about(box.low, origin), high: about(box.high, origin) },
    groups: gathered.map(({ group, triangles, edges, lifts }) => ({
      ...group,
      elements: [...group.elements],
      triangles: together(triangles, lifts, origin),
      edges: together(edges, lifts, origin),
    })),
  };
}
const SHARE_EVERY = 50;

const about = (p: ModelPoint, o: ModelPoint): ModelPoint => [p[0] - o[0], p[1] - o[1], p[2] - o[2]];

function boxOf(entries: readonly Gathered[]): { low: ModelPoint; high: ModelPoint } | null {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity];
  for (const { triangles, lifts } of entries)
    triangles.forEach((list, k) => {
      for (let i = 0; i < list.length; i++) {
        const axis = i % 3,
          v = list[i] + (axis === 2 ? lifts[k] : 0);
        if (v < low[axis]) low[axis] = v;
        if (v > high[axis]) high[axis] = v;
      }
    });
  return low[0] > high[0] ? null : { low: [low[0], low[1], low[2]], high: [high[0], high[1], high[2]] };
}

/** Figures of many elements one after another, each lifted to its storey, about an origin. */
function together(lists: readonly Float64Array[], lifts: readonly number[], o: ModelPoint): Float32Array {
  const out = new Float32Array(lists.reduce((n, l) => n + l.length, 0));
  let at = 0;
  lists.forEach((list, k) => {
    for (let i = 0; i < list.length; i += 3) {
      out[at++] = list[i] - o[0];
      out[at++] = list[i + 1] - o[1];
      out[at++] = list[i + 2] + lifts[k] - o[2];
    }
  });
  return out;
}
