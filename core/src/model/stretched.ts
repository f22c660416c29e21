import { translation, type Point } from '../geometry/index.ts';
import type { Pair, Traced } from './entities.ts';
import { movedBy } from './moved.ts';
import { stretchesLeft, withGrip } from './reshaped.ts';
import { gripsOf, isCircle } from './shape-of.ts';

/**
 * An element with those of its points moved by a vector that a region holds, the others where they were: lines, paths, areas and
 * curves are stretched; an arc follows with its ends, and goes as a whole with both, a circle with its centre, a text with where it
 * begins, a dimension with the points that rest on nothing. The same element where nothing of it moves; null where nothing would be
 * left of it.
 */
export function stretched(e: Traced, holds: (p: Point) => boolean, by: Point): Traced | null {
  const at = (p: Pair): Pair => (holds(p) ? [p[0] + by[0], p[1] + by[1]] : p);
  const same = (a: readonly Pair[], b: readonly Pair[]) => a.every((p, i) => p === b[i]);
  switch (e.type) {
    case 'wall': case 'line': case 'gridLine': {
      const from = at(e.from), to = at(e.to);
      if (same([from, to], [e.from, e.to])) return e;
      return Math.hypot(to[0] - from[0], to[1] - from[1]) > 1e-6 ? { ...e, from, to } : null;
    }
    case 'path': {
      const points = e.points.map(at);
      if (same(points, e.points)) return e;
      return stretchesLeft(points, e.closed) ? { ...e, points } : null;
    }
    case 'area': {
      const rings = e.rings.map((r) => ({ ...r, points: r.points.map(at) }));
      if (rings.every((r, i) => same(r.points, e.rings[i].points))) return e;
      return rings.every((r) => stretchesLeft(r.points, true)) ? { ...e, rings } : null;
    }
    case 'spline': {
      // The handles go with the point that they belong to.
      const controls = e.controls.map((p, i): Pair => (holds(e.controls[3 * Math.round(i / 3)]) ? [p[0] + by[0], p[1] + by[1]] : p));
      return same(controls, e.controls) ? e : { ...e, controls };
    }
    case 'arc': {
      const grips = gripsOf(e), held = (isCircle(e) ? [grips[grips.length - 1]] : grips.slice(0, 2)).map(holds);
      if (held.every(Boolean)) return movedBy(e, translation(by[0], by[1]));
      const end = held.indexOf(true);
      return end < 0 ? e : withGrip(e, end, [grips[end][0] + by[0], grips[end][1] + by[1]]);
    }
    case 'placed': return holds(gripsOf(e)[0]) ? movedBy(e, translation(by[0], by[1])) : e;
    case 'text': {
      const place = at(e.at);
      return place === e.at ? e : { ...e, at: place };
    }
    case 'dimension': {
      const points = e.points.map((p, i) => (e.on[i] ? p : at(p))), place = at(e.at);
      return same(points, e.points) && place === e.at ? e : { ...e, points, at: place };
    }
  }
}
