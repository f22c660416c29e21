import { bulgePiece, circleThrough, normalAngle, pieceAt, TAU, translation, type Point } from '../geometry/index.ts';
import type { Pair, Traced, TracedArc } from './entities.ts';
import { movedBy } from './moved.ts';
import { endsOf, gripsOf, isCircle } from './shape-of.ts';

/** Points nearer than this, millimetres, are one. */
const ONE_POINT = 1e-6;
const near = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) <= ONE_POINT;
const pair = (p: Point): Pair => [p[0], p[1]];
const shifted = (p: Point, [dx, dy]: Point): Pair => [p[0] + dx, p[1] + dy];

/** Grips at which other elements join on: ends and corners, not middles, centres or where a text begins. */
export function jointGrips(e: Traced): number[] {
  if (e.type === 'text' || e.type === 'dimension' || e.type === 'gridLine' || e.type === 'placed') return [];
  if (e.type === 'arc') return endsOf(e) ? [0, 1] : [];
  const grips = gripsOf(e);
  return e.type === 'spline' ? [0, grips.length - 1] : grips.map((_, i) => i);
}

/** The element with one grip (see gripsOf) at another place; null where that would leave nothing of it. */
export function withGrip(e: Traced, grip: number, to: Point): Traced | null {
  const by: Point = [to[0] - gripsOf(e)[grip][0], to[1] - gripsOf(e)[grip][1]];
  switch (e.type) {
    case 'wall': case 'line': case 'gridLine': {
      const moved = grip === 0 ? { ...e, from: pair(to) } : { ...e, to: pair(to) };
      return near(moved.from, moved.to) ? null : moved;
    }
    case 'arc': return arcWithGrip(e, grip, to);
    case 'path': {
      const points = e.points.map((p, i) => (i === grip ? pair(to) : p));
      return stretchesLeft(points, e.closed) ? { ...e, points } : null;
    }
    case 'area': {
      let first = 0;
      const rings = e.rings.map((r) => {
        const points = r.points.map((p, i) => (first + i === grip ? pair(to) : p));
        first += points.length;
        return { ...r, points };
      });
      return rings.every((r) => stretchesLeft(r.points, true)) ? { ...e, rings } : null;
    }
    case 'spline': {
      // The handles beside a point go with it, and the two ends of a closed curve together.
      const last = e.controls.length - 1, closed = near(e.controls[0], e.controls[last]);
      const held = new Set([3 * grip]);
      if (closed && (grip === 0 || 3 * grip === last)) held.add(0).add(last);
      return { ...e, controls: e.controls.map((p, i) => ([i - 1, i, i + 1].some((k) => held.has(k)) ? shifted(p, by) : p)) };
    }
    case 'text': return { ...e, at: pair(to) };
    case 'placed': return movedBy(e, translation(by[0], by[1]));
    case 'dimension': {
      if (grip === e.points.length) return { ...e, at: pair(to) };
      return { ...e, points: e.points.map((p, i) => (i === grip ? pair(to) : p)), on: e.on.map((a, i) => (i === grip ? null : a)) };
    }
  }
}

/** Is there something left of every stretch between these points? */
export function stretchesLeft(points: readonly Point[], closed: boolean): boolean {
  return points.every((p, i) => (i + 1 < points.length ? !near(p, points[i + 1]) : !closed || !near(p, points[0])));
}

/** A circle's quarters set its radius, the centre moves it; an arc bends through its ends and middle, and keeps its direction. */
function arcWithGrip(e: TracedArc, grip: number, to: Point): TracedArc | null {
  const grips = gripsOf(e);
  if (grip === grips.length - 1) return { ...e, centre: pair(to) };
  if (isCircle(e)) {
    const radius = Math.hypot(to[0] - e.centre[0], to[1] - e.centre[1]);
    return radius > ONE_POINT ? { ...e, radius } : null;
  }
  const [from, end, middle] = grips.slice(0, 3).map((p, i): Point => (i === grip ? to : p));
  const arc = arcThrough(from, middle, end);
  return arc ? { ...e, ...arc.fields } : null;
}

/** The arc from one point through another to a third, with whether it runs clockwise; null where they lie on a line. */
export function arcThrough(from: Point, through: Point, to: Point): { fields: Pick<TracedArc, 'centre' | 'radius' | 'start' | 'sweep'>; clockwise: boolean } | null {
  const circle = circleThrough(from, through, to);
  if (!circle) return null;
  const angle = (p: Point) => Math.atan2(p[1] - circle.cy, p[0] - circle.cx);
  const full = normalAngle(angle(to) - angle(from)), part = normalAngle(angle(through) - angle(from));
  const clockwise = part > full;
  const sweep = clockwise ? TAU - full : full;
  return sweep > 1e-12 ? { fields: { centre: [circle.cx, circle.cy], radius: circle.r, start: normalAngle(angle(clockwise ? to : from)), sweep }, clockwise } : null;
}

/** Stretches of a path or an area that can be taken hold of in their middle and moved as a whole. */
export function edgesOf(e: Traced): { middle: [number, number]; grips: [number, number] }[] {
  const ring = (points: readonly Pair[], bulges: readonly number[], closed: boolean, first: number) =>
    bulges.slice(0, closed ? points.length : points.length - 1).map((bulge, i) => {
      const j = (i + 1) % points.length;
      return { middle: pieceAt(bulgePiece(points[i], points[j], bulge), 0.5), grips: [first + i, first + j] as [number, number] };
    });
  if (e.type === 'path') return ring(e.points, e.bulges, e.closed, 0);
  if (e.type !== 'area') return [];
  let first = 0;
  return e.rings.flatMap((r) => {
    const edges = ring(r.points, r.bulges, true, first);
    first += r.points.length;
    return edges;
  });
}

/** The element with one of its stretches moved by a vector, its neighbours drawn along. */
export function withEdge(e: Traced, edge: number, by: Point): Traced | null {
  const { grips } = edgesOf(e)[edge];
  let moved: Traced | null = e;
  for (const g of grips) moved = moved && withGrip(moved, g, shifted(gripsOf(e)[g], by));
  return moved;
}
