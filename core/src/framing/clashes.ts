import Flatbush from 'flatbush';
import { cross3, dot3, minus3, type ModelPoint } from '../geometry/index.ts';
import { cutAt, type KnownSection } from '../model/index.ts';
import type { PlacedMember } from './placed.ts';
import { sectionX, type JoinedFrame, type Shape } from './joints/index.ts';

/** Members overlap by less than this where one only touches the other, millimetres. */
const TOUCHES = 2;

/** A web or a flange as a box: its middle, its three directions of length one, and half its sizes along these. */
interface Slab {
  middle: ModelPoint;
  axes: readonly [ModelPoint, ModelPoint, ModelPoint];
  half: readonly [number, number, number];
}

/** Rectangles of a section that fill it but for its fillets: x and y from and to. */
function rectanglesOf({ sizes, b, h }: KnownSection): [number, number, number, number][] {
  const [x, y] = [b / 2, h / 2];
  switch (sizes?.shape) {
    case 'I':
      return [
        [-x, x, y - sizes.tf, y],
        [-x, x, -y, sizes.tf - y],
        [-sizes.tw / 2, sizes.tw / 2, -y, y],
      ];
    case 'channel':
      return [
        [-x, x, y - sizes.tf, y],
        [-x, x, -y, sizes.tf - y],
        [-x, sizes.tw - x, -y, y],
      ];
    case 'tee':
      return [
        [-x, x, y - sizes.tf, y],
        [-sizes.tw / 2, sizes.tw / 2, -y, y],
      ];
    case 'angle':
      return [
        [-x, x, -y, sizes.tw - y],
        [-x, sizes.tw - x, -y, y],
      ];
    default:
      return [[-x, x, -y, y]];
  }
}

const SQUARE: Pick<Shape, 'notches'> = { notches: [] };

/** A member as boxes: each as far along as its section's part is left by cuts and copes at its middle. */
function slabsOf(m: PlacedMember, section: KnownSection, shape: Shape | undefined): Slab[] {
  const X = sectionX(m),
    length = Math.hypot(...minus3(m.to, m.from)),
    { notches } = shape ?? SQUARE;
  return rectanglesOf(section).flatMap(([x0, x1, y0, y1]): Slab[] => {
    const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2],
      back = (end: 'start' | 'end') =>
        Math.max(
          0,
          ...notches
            .filter(
              (n) =>
                n.end === end &&
                (n.side === 'top' ? y > section.h / 2 - n.depth : y < n.depth - section.h / 2),
            )
            .map((n) => n.length),
        ),
      z0 = (shape ? cutAt(shape.start, [x, y]) : 0) + back('start'),
      z1 = (shape ? cutAt(shape.end, [x, y]) : length) - back('end'),
      z = (z0 + z1) / 2;
    return z1 - z0 <= 2 * TOUCHES
      ? []
      : [
          {
            middle: [0, 1, 2].map(
              (i) => m.from[i] + x * X[i] + y * m.up[i] + z * m.along[i],
            ) as unknown as ModelPoint,
            axes: [X, m.up, m.along],
            half: [(x1 - x0) / 2, (y1 - y0) / 2, (z1 - z0) / 2],
          },
        ];
  });
}

/** How far two boxes overlap: the least distance that parts them, by the fifteen axes that can (Gottschalk, Lin and Manocha 1996); 0 or less where they are apart. */
function overlapOf(a: Slab, b: Slab): number {
  const d = minus3(b.middle, a.middle),
    axes: ModelPoint[] = [...a.axes, ...b.axes];
  for (const p of a.axes)
    for (const q of b.axes) {
      const c = cross3(p, q),
        length = Math.hypot(...c);
      if (length > 1e-6) axes.push([c[0] / length, c[1] / length, c[2] / length]);
    }
  let least = Infinity;
  for (const axis of axes) {
    const reach = (s: Slab) => s.axes.reduce((sum, w, i) => sum + s.half[i] * Math.abs(dot3(w, axis)), 0),
      overlap = reach(a) + reach(b) - Math.abs(dot3(d, axis));
    if (overlap <= 0) return 0;
    least = Math.min(least, overlap);
  }
  return least;
}

/** The box about slabs: least and most of x, y and z. */
function boxAbout(slabs: readonly Slab[]): { low: [number, number, number]; high: [number, number, number] } {
  const low: [number, number, number] = [Infinity, Infinity, Infinity],
    high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const { middle, axes, half } of slabs)
    for (const k of [0, 1, 2] as const) {
      const reach = axes.reduce((sum, w, i) => sum + half[i] * Math.abs(w[k]), 0);
      low[k] = Math.min(low[k], middle[k] - reach);
      high[k] = Math.max(high[k], middle[k] + reach);
    }
  return { low, high };
}

/** Pairs of members that run into one another by more than two millimetres, fillets aside; what is joined to one another is cut by that. */
export function clashesOf(frame: JoinedFrame): [string, string][] {
  const bodies = frame.members.flatMap((m) => {
    const slabs = m.section ? slabsOf(m, m.section, frame.shapes.get(m.member.id)) : [];
    return slabs.length > 0 ? [{ m, slabs, ...boxAbout(slabs) }] : [];
  });
  if (bodies.length === 0) return [];
  const index = new Flatbush(bodies.length);
  for (const { low, high } of bodies) index.add(low[0], low[1], high[0], high[1]);
  index.finish();
  const meets = (a: PlacedMember, b: PlacedMember) =>
      [...(a.member.joints ?? []), ...(a.member.cleats ?? [])].some((j) => j.to === b.member.id),
    found: [string, string][] = [];
  bodies.forEach(({ m, slabs, low, high }, i) => {
    for (const j of index.search(low[0], low[1], high[0], high[1])) {
      const other = bodies[j];
      if (j <= i || other.low[2] >= high[2] || other.high[2] <= low[2]) continue;
      if (meets(m, other.m) || meets(other.m, m)) continue;
      if (slabs.some((a) => other.slabs.some((b) => overlapOf(a, b) > TOUCHES)))
        found.push([m.member.id, other.m.member.id]);
    }
  });
  return found;
}
