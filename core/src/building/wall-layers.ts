import { insideIntervals, makeRegion, type Point, type Polygon, type Ring } from '../geometry/index.ts';
import { wallTypeOf, type Model, type Wall, type WallLayer, type WallType } from '../model/index.ts';
import { cutWalls, type CutWalls } from './joins.ts';
import { halfOfRing } from './opened.ts';
import { coresOf, joinedByLayers, limitsIn, type LineLimits } from './layer-joins.ts';
import { straightParts } from './straight-parts.ts';
import {
  bandOf,
  nichesOf,
  openStretches,
  pointAt,
  throughOpeningsOf,
  type WallBand,
} from './wall-geometry.ts';

/** A layer where it lies in its wall: to the left of the drawn line between these distances, millimetres. */
interface LaidLayer {
  layer: WallLayer;
  right: number;
  left: number;
}

/** The layers of a wall from its first to its last, as they lie about its drawn line. */
function laidLayers(wall: Wall, type: WallType): LaidLayer[] {
  const band = bandOf(wall),
    fromLeft = wall.firstLayer !== 'right';
  let at = fromLeft ? band.left : -band.right;
  return type.layers.map((layer) => {
    const next = fromLeft ? at - layer.thickness : at + layer.thickness,
      laid = { layer, right: Math.min(at, next), left: Math.max(at, next) };
    at = next;
    return laid;
  });
}

/** What of a wall's own body each of its layers takes, in their order: together all of it. */
export function layerBodies(
  wall: Wall,
  type: WallType,
  own: readonly Polygon[],
): { layer: WallLayer; body: Polygon[] }[] {
  if (wall.curve) {
    const parts = straightParts(wall).map(({ wall: part, slice }) =>
      layerBodies(
        part,
        type,
        own.map((rings) => rings.map(slice).filter((r) => r.length > 2)).filter((rings) => rings.length > 0),
      ),
    );
    return type.layers.map((layer, i) => ({ layer, body: parts.flatMap((p) => p[i].body) }));
  }
  const band = bandOf(wall),
    // Seen across, distances along it are those to the left of the wall's line.
    across: WallBand = { ...band, ux: -band.uy, uy: band.ux },
    laid = laidLayers(wall, type),
    [least, most] = [Math.min(...laid.map((l) => l.right)), Math.max(...laid.map((l) => l.left))];
  const between = (ring: Ring, { right, left }: LaidLayer): Ring => {
    // The outermost take what pieces of corners lie beyond the faces.
    const above = right === least ? ring : halfOfRing(ring, across, right, 1);
    return left === most ? above : halfOfRing(above, across, left, -1);
  };
  return laid.map((one) => ({
    layer: one.layer,
    body: own
      .map((rings) => rings.map((ring) => between(ring, one)).filter((ring) => ring.length > 2))
      .filter((rings) => rings.length > 0),
  }));
}

/** The lines between the layers of the walls that have any, as they are cut to one another. */
export function linesOfLayers(
  model: Model,
  walls: readonly Wall[],
  cut: () => Pick<CutWalls, 'bodies' | 'meets'> = () => cutWalls(walls),
): [Point, Point][] {
  const typed = walls.flatMap((wall) => {
    const type = wallTypeOf(model, wall);
    return type && type.layers.length > 1 ? [{ wall, type }] : [];
  });
  if (typed.length === 0) return [];
  const { bodies: plain, meets } = cut(),
    { bodies, passes } = joinedByLayers(walls, { bodies: plain, meets }, coresOf(model)),
    limits = limitsIn({ walls, model, meets, passes });
  return typed.flatMap(({ wall, type }) => {
    const body = bodies.get(wall.id);
    return body ? layerLines(wall, type, body, wall.curve ? undefined : limits(wall)) : [];
  });
}

const UNLIMITED: LineLimits = { start: () => null, end: () => null, open: () => [] };

/** The lines between the layers of a wall in plan, within its body as it is cut to its neighbours and as far as these let them, not across its openings. */
export function layerLines(
  wall: Wall,
  type: WallType,
  body: Ring,
  limits: LineLimits = UNLIMITED,
): [Point, Point][] {
  if (wall.curve)
    return straightParts(wall).flatMap(({ wall: part, slice }) =>
      throughOpeningsOf(part).length > 0 ? [] : layerLines(part, type, slice(body)),
    );
  const band = bandOf(wall),
    region = makeRegion([body], 'nonzero'),
    through = throughOpeningsOf(wall),
    niches = nichesOf(wall),
    beyond = band.left + band.right,
    whole = band.length + 2 * beyond;
  return laidLayers(wall, type)
    .slice(0, -1)
    .flatMap(({ right, left }) => {
      const at = wall.firstLayer === 'right' ? left : right,
        cut = niches.filter((n) => n.right < at && n.left > at),
        open = openStretches([...through, ...cut, ...limits.open(at)].sort((p, q) => p.from - q.from)),
        [start, end] = [limits.start(at), limits.end(at)],
        [x0, y0] = pointAt(band, -beyond, at),
        [x1, y1] = pointAt(band, band.length + beyond, at);
      return (
        insideIntervals(region, x0, y0, x1, y1, 0)
          .map(([from, to]): [number, number] => [from * whole - beyond, to * whole - beyond])
          // A core may go on beyond the body, and a finish ends before it.
          .map(([from, to], i, all): [number, number] => [
            i === 0 ? (start ?? from) : from,
            i === all.length - 1 ? (end ?? to) : to,
          ])
          .flatMap(([from, to]) => without(open, from, to))
          .map(([from, to]): [Point, Point] => [pointAt(band, from, at), pointAt(band, to, at)])
      );
    });
}

/** What stretches that are open leave of one. */
function without(
  open: readonly { from: number; to: number }[],
  from: number,
  to: number,
): [number, number][] {
  const left: [number, number][] = [];
  let at = from;
  for (const o of open) {
    if (o.from > at) left.push([at, Math.min(o.from, to)]);
    at = Math.max(at, o.to);
  }
  if (at < to) left.push([at, to]);
  return left.filter(([a, b]) => b > a);
}
