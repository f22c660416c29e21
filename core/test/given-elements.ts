import fc from 'fast-check';
import {
  compose,
  mirrorIn,
  rotationAbout,
  scalingAbout,
  splineThrough,
  TAU,
  translation,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { isRoundEnough, type Pair, type Traced, type Wall } from '@calque/core/model';

export const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
export const base = (id: string) => ({ id, planeId: 'ground', source });
export const number = fc.double({ min: -5000, max: 5000, noNaN: true });
export const place: fc.Arbitrary<Pair> = fc.tuple(number, number);
export const apart = (points: readonly Pair[]) =>
  points.every((p, i) => points.slice(i + 1).every((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) > 1));
export const places = (n: number, m = n) => fc.array(place, { minLength: n, maxLength: m }).filter(apart);
export const bulge = fc.oneof(fc.constant(0), fc.double({ min: -1.5, max: 1.5, noNaN: true }));

/** Any element that can be traced. */
export const element = (id: string): fc.Arbitrary<Traced> =>
  fc.oneof(
    places(2).map(([from, to]): Traced => ({ type: 'gridLine', ...base(id), from, to, name: 'A' })),
    places(2).map(([from, to]): Traced => ({ type: 'line', ...base(id), from, to, dash: [50, 30] })),
    fc
      .tuple(
        places(2),
        fc.constantFrom('centre', 'left', 'right'),
        fc.oneof(fc.constant(0), fc.double({ min: -1, max: 1, noNaN: true })),
      )
      .map(([[from, to], alignment, curve]): Traced => {
        const wall: Wall = {
          type: 'wall',
          ...base(id),
          from,
          to,
          thickness: 240,
          alignment: alignment as 'left',
          height: 2700,
          heightAssumed: true,
        };
        return curve !== 0 && isRoundEnough({ ...wall, curve }) ? { ...wall, curve } : wall;
      }),
    fc
      .tuple(
        place,
        fc.double({ min: 1, max: 4000, noNaN: true }),
        fc.double({ min: 0, max: TAU, noNaN: true }),
        fc.oneof(fc.constant(TAU), fc.double({ min: 0.05, max: 6.2, noNaN: true })),
      )
      .map(([centre, radius, start, sweep]): Traced => ({
        type: 'arc',
        ...base(id),
        centre,
        radius,
        start,
        sweep,
      })),
    fc
      .tuple(places(4), fc.array(bulge, { minLength: 4, maxLength: 4 }), fc.boolean())
      .map(([points, bulges, closed]): Traced => ({
        type: 'path',
        ...base(id),
        points,
        bulges: closed ? bulges : bulges.slice(1),
        closed,
      })),
    places(2, 6).map((points): Traced => ({ type: 'spline', ...base(id), controls: splineThrough(points) })),
    place.map((at): Traced => ({
      type: 'text',
      ...base(id),
      at,
      angle: 0.3,
      height: 125,
      text: 'Boat store',
    })),
    fc
      .tuple(places(3), fc.constantFrom('aligned', 'horizontal', 'vertical', 'radius'))
      .map(([[p, q, at], measures]): Traced => ({
        type: 'dimension',
        ...base(id),
        measures: measures as 'aligned',
        points: [p, q],
        on: [null, null],
        at,
        height: 125,
      })),
    fc.tuple(places(3), bulge).map(([points, b]): Traced => ({
      type: 'area',
      ...base(id),
      rings: [{ points, bulges: [b, 0, 0] }],
      fill: { kind: 'hatch', angle: 0.5, spacing: 300, crossed: true },
      name: '',
      figure: true,
    })),
  );
export const similarity: fc.Arbitrary<Transform> = fc
  .tuple(
    fc.double({ min: -3, max: 3, noNaN: true }),
    fc.double({ min: 0.2, max: 5, noNaN: true }),
    place,
    fc.boolean(),
  )
  .map(([angle, k, [x, y], mirrored]) =>
    compose(
      translation(x, y),
      compose(
        rotationAbout(angle, [0, 0]),
        compose(scalingAbout(k, [0, 0]), mirrored ? mirrorIn([0, 0], [1, 0])! : translation(0, 0)),
      ),
    ),
  );
export const near = (p: Point, q: Point, within: number) => Math.hypot(p[0] - q[0], p[1] - q[1]) <= within;
