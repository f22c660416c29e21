import { applyTransform, compose, determinant, meanScale, movedArc, turnOf, type Point, type Transform } from '../geometry/index.ts';
import { storedTransform, type Area, type Note, type Pair, type Placed, type Traced } from './entities.ts';
import { withMembers } from './placed.ts';
import { arcFields, arcOf, noteCorners } from './shape-of.ts';

const MIRRORED = { centre: 'centre', left: 'right', right: 'left' } as const;

/**
 * A traced element where a similarity of the plane takes it. A wall that is mirrored shows its other side to the left, so its
 * faces stay where the mirror puts them; its thickness and height stay as they are, scaled or not. A mirrored text stays readable
 * and takes the place of its image; texts, figures and hatches grow with the rest.
 */
export function movedBy<T extends Traced>(element: T, map: Transform): T {
  const e: Traced = element, at = (p: Point) => applyTransform(map, p);
  const mirrored = determinant(map) < 0, scale = meanScale(map);
  const bent = (bulges: readonly number[]) => (mirrored ? bulges.map((b) => (b === 0 ? 0 : -b)) : [...bulges]);
  const dashed = <D extends { dash?: number[] | null }>(d: D) => (d.dash && scale !== 1 ? { dash: d.dash.map((n) => n * scale) } : {});
  const moved = (): Traced => {
    switch (e.type) {
      case 'placed': return movedPlaced(e, map);
      case 'wall': return { ...e, ...(e.openings && { openings: e.openings.map((o) => ({ from: at(o.from), to: at(o.to) })) }), from: at(e.from), to: at(e.to), alignment: mirrored ? MIRRORED[e.alignment] : e.alignment };
      case 'gridLine': return { ...e, from: at(e.from), to: at(e.to) };
      case 'line': return { ...e, ...dashed(e), from: at(e.from), to: at(e.to) };
      case 'arc': return { ...e, ...dashed(e), ...arcFields(movedArc(arcOf(e), map)), sweep: e.sweep };
      case 'path': return { ...e, ...dashed(e), points: e.points.map(at), bulges: bent(e.bulges) };
      case 'spline': return { ...e, ...dashed(e), controls: e.controls.map(at) };
      case 'text': return { ...e, ...movedText(e, map), height: e.height * scale };
      case 'dimension': return { ...e, points: e.points.map(at), at: at(e.at), height: e.height * scale };
      case 'area': return { ...e, rings: e.rings.map((r) => ({ points: r.points.map(at), bulges: bent(r.bulges) })), fill: movedFill(e.fill, map) };
    }
  };
  return moved() as T;
}

function movedPlaced(placed: Placed, map: Transform): Placed {
  const moved = { ...placed, placement: storedTransform(compose(map, placed.placement)) };
  return placed.members ? withMembers(moved, placed.members.map((e) => movedBy(e, map))) : moved;
}

function movedText(e: Note, map: Transform): { at: Pair; angle: number } {
  const direction = (angle: number) => Math.atan2(map[1] * Math.cos(angle) + map[3] * Math.sin(angle), map[0] * Math.cos(angle) + map[2] * Math.sin(angle));
  if (determinant(map) > 0) return { at: applyTransform(map, e.at), angle: direction(e.angle) };
  return { at: applyTransform(map, noteCorners(e)[1]), angle: direction(e.angle + Math.PI) };
}

function movedFill(fill: Area['fill'], map: Transform): Area['fill'] {
  if (fill.kind !== 'hatch') return fill;
  const turn = turnOf(map);
  return { ...fill, spacing: fill.spacing * meanScale(map), angle: determinant(map) < 0 ? turn - fill.angle : turn + fill.angle };
}
