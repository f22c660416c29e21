import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  areaOfPieces,
  boxContains,
  bulgePiece,
  compose,
  flattenPiece,
  hatchLines,
  lengthOfPieces,
  mirrorIn,
  pieceAt,
  pieceBox,
  pieceLength,
  piecePart,
  ringArea,
  rotationAbout,
  scalingAbout,
  splineThrough,
  TAU,
  translation,
  grownBox,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import {
  alongPieces,
  apply,
  areaFigures,
  boxOf,
  copiesOf,
  dimensionWords,
  drawnLength,
  edgesOf,
  endsOf,
  figurePlace,
  gripsOf,
  group,
  isRun,
  jointGrips,
  measuredBy,
  modelOf,
  movedBy,
  parseEntity,
  piecesOf,
  removeElements,
  replaced,
  rested,
  stretched,
  trackOf,
  withEdge,
  withGrip,
  withinRing,
  type Area,
  type Change,
  type Dimension,
  type Entity,
  type Model,
  type Pair,
  type Traced,
  type TracedPath,
} from '@calque/core/model';

const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
const base = (id: string) => ({ id, planeId: 'ground', source });
const number = fc.double({ min: -5000, max: 5000, noNaN: true });
const place: fc.Arbitrary<Pair> = fc.tuple(number, number);
const apart = (points: readonly Pair[]) =>
  points.every((p, i) => points.slice(i + 1).every((q) => Math.hypot(p[0] - q[0], p[1] - q[1]) > 1));
const places = (n: number, m = n) => fc.array(place, { minLength: n, maxLength: m }).filter(apart);
const bulge = fc.oneof(fc.constant(0), fc.double({ min: -1.5, max: 1.5, noNaN: true }));

/** Any element that can be traced. */
const element = (id: string): fc.Arbitrary<Traced> =>
  fc.oneof(
    places(2).map(([from, to]): Traced => ({ type: 'gridLine', ...base(id), from, to, name: 'A' })),
    places(2).map(([from, to]): Traced => ({ type: 'line', ...base(id), from, to, dash: [50, 30] })),
    fc
      .tuple(places(2), fc.constantFrom('centre', 'left', 'right'))
      .map(([[from, to], alignment]): Traced => ({
        type: 'wall',
        ...base(id),
        from,
        to,
        thickness: 240,
        alignment: alignment as 'left',
        height: 2700,
        heightAssumed: true,
      })),
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
const similarity: fc.Arbitrary<Transform> = fc
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
const near = (p: Point, q: Point, within: number) => Math.hypot(p[0] - q[0], p[1] - q[1]) <= within;

describe('every element', () => {
  it('is sound, lies within its box, and so is what a move, turn, mirror or scale makes of it', () => {
    fc.assert(
      fc.property(element('e'), similarity, (e, map) => {
        for (const one of [e, movedBy(e, map)]) {
          expect(() => parseEntity(JSON.parse(JSON.stringify(one)))).not.toThrow();
          const box = grownBox(boxOf(one), 1e-3);
          for (const piece of piecesOf(one)) expect(boxContains(box, pieceBox(piece))).toBe(true);
        }
        const k = Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]));
        if (e.type !== 'dimension') expect(drawnLength(movedBy(e, map))).toBeCloseTo(k * drawnLength(e), 4);
        gripsOf(e).forEach((g, i) => {
          // A circle's quarters and a mirrored arc's ends are told anew; corners go where the map takes them.
          if (e.type !== 'arc' && e.type !== 'text')
            expect(
              near(
                gripsOf(movedBy(e, map))[i],
                [map[0] * g[0] + map[2] * g[1] + map[4], map[1] * g[0] + map[3] * g[1] + map[5]],
                1e-5,
              ),
            ).toBe(true);
        });
      }),
      { numRuns: 400 },
    );
  });
  it('a grip goes where it is put, and the rest of a path stays', () => {
    fc.assert(
      fc.property(element('e'), fc.nat(20), place, (e, n, to) => {
        const grips = gripsOf(e),
          grip = n % grips.length,
          moved = withGrip(e, grip, to);
        if (!moved) return;
        expect(() => parseEntity(JSON.parse(JSON.stringify(moved)))).not.toThrow();
        const now = gripsOf(moved);
        if (e.type === 'arc' && grip < grips.length - 1) {
          // The point lies on the arc or circle now.
          expect(
            moved.type === 'arc' &&
              Math.abs(Math.hypot(to[0] - moved.centre[0], to[1] - moved.centre[1]) - moved.radius) <
                1e-4 * Math.max(1, moved.radius),
          ).toBe(true);
          return;
        }
        expect(near(now[grip], to, 1e-9)).toBe(true);
        if (e.type === 'path')
          now.forEach((p, i) => {
            if (i !== grip) expect(p).toEqual(grips[i]);
          });
      }),
      { numRuns: 300 },
    );
  });
  it('a stretch moves with both its corners', () => {
    const path: TracedPath = {
      type: 'path',
      ...base('p'),
      points: [
        [0, 0],
        [100, 0],
        [100, 50],
        [0, 50],
      ],
      bulges: [0, 0, 0, 0],
      closed: true,
    };
    expect(edgesOf(path).map((e) => e.middle)).toEqual([
      [50, 0],
      [100, 25],
      [50, 50],
      [0, 25],
    ]);
    expect(withEdge(path, 2, [0, 30])).toMatchObject({
      points: [
        [0, 0],
        [100, 0],
        [100, 80],
        [0, 80],
      ],
    });
  });
  it('runs along its pieces again', () => {
    fc.assert(
      fc.property(element('e'), (e) => {
        if (!isRun(e)) return;
        const { pieces, closed } = trackOf(e),
          again = alongPieces(e, pieces, closed)!;
        expect(drawnLength(again)).toBeCloseTo(drawnLength(e), 5);
        expect(endsOf(again) === null).toBe(endsOf(e) === null);
        expect(jointGrips(e).length).toBeLessThanOrEqual(gripsOf(e).length);
      }),
    );
  });
});

describe('edits and their inverses', () => {
  const ids = ['a', 'b', 'c', 'd', 'e'];
  const drawing = fc.tuple(...ids.map((id) => element(id)));
  type Step = {
    kind: 'move' | 'remove' | 'copy' | 'grip' | 'layer';
    which: number;
    map: Transform;
    to: Pair;
  };
  const step: fc.Arbitrary<Step> = fc.record({
    kind: fc.constantFrom('move', 'remove', 'copy', 'grip', 'layer'),
    which: fc.nat(50),
    map: similarity,
    to: place,
  });
  const changeOf = (model: Model, s: Step, n: number): Change | null => {
    const all = [...model.values()] as Traced[];
    if (all.length === 0) return null;
    const e = all[s.which % all.length];
    if (s.kind === 'move')
      return group(all.filter((_, i) => (i + s.which) % 2 === 0).map((x) => replaced(x, movedBy(x, s.map))));
    if (s.kind === 'remove') return removeElements(model, [e]);
    if (s.kind === 'copy')
      return group(copiesOf([e], () => `n${n}`, model).map((entity): Change => ({ type: 'add', entity })));
    if (s.kind === 'layer') return replaced(e, { ...e, layerId: `l${n}` });
    const moved = withGrip(e, s.which % gripsOf(e).length, s.to);
    return moved && replaced(e, moved);
  };
  it('give back the identical project, for random rows of them, however far it went', () => {
    fc.assert(
      fc.property(drawing, fc.array(step, { maxLength: 12 }), (elements, steps) => {
        const dimension: Dimension = {
          type: 'dimension',
          ...base('dim'),
          measures: 'aligned',
          points: [gripsOf(elements[0])[0], gripsOf(elements[1])[0]],
          on: [
            { id: 'a', grip: 0 },
            { id: 'b', grip: 0 },
          ],
          at: [0, 0],
          height: 100,
        };
        const first = modelOf([...elements, dimension] as Entity[]);
        let model: Model = first;
        const inverses: Change[] = [];
        steps.forEach((s, n) => {
          const change = changeOf(model, s, n),
            applied = change && apply(model, change);
          if (!applied?.ok) return;
          model = applied.model;
          inverses.push(applied.inverse);
        });
        for (const inverse of inverses.reverse()) {
          const applied = apply(model, inverse);
          expect(applied.ok).toBe(true);
          if (applied.ok) model = applied.model;
        }
        // What was absent comes back as null, which means the same; all else to the last bit, as it is stored.
        const plain = (m: Model) =>
          JSON.stringify(
            [...m.values()]
              .sort((x, y) => (x.id < y.id ? -1 : 1))
              .map((e) =>
                Object.fromEntries(
                  Object.entries(e)
                    .filter(([, v]) => v !== null)
                    .sort(([x], [y]) => (x < y ? -1 : 1)),
                ),
              ),
          );
        expect(plain(model)).toBe(plain(first));
      }),
      { numRuns: 200 },
    );
  });
  it('what a dimension rests on may go: it keeps its points, and comes back resting on it', () => {
    const line: Traced = { type: 'line', ...base('l'), from: [0, 0], to: [1000, 0] };
    const d: Dimension = {
      type: 'dimension',
      ...base('d'),
      measures: 'aligned',
      points: [
        [0, 0],
        [9, 9],
      ],
      on: [
        { id: 'l', grip: 0 },
        { id: 'l', grip: 1 },
      ],
      at: [500, 200],
      height: 100,
    };
    const model = modelOf([line, d]);
    const gone = apply(model, removeElements(model, [line])!);
    expect(gone.ok && gone.model.get('d')).toMatchObject({
      points: [
        [0, 0],
        [1000, 0],
      ],
      on: [null, null],
    });
    const back = gone.ok && apply(gone.model, gone.inverse);
    expect(back && back.ok && back.model.get('d')).toEqual(d);
    const [lineCopy, dimensionCopy] = copiesOf<Traced>(
      [line, d],
      (() => {
        let n = 0;
        return () => `copy${n++}`;
      })(),
      model,
    ) as [Traced, Dimension];
    expect(dimensionCopy.on).toEqual([
      { id: lineCopy.id, grip: 0 },
      { id: lineCopy.id, grip: 1 },
    ]);
    expect(measuredBy(rested(d, model))).toBe(1000);
  });
});

describe('figures', () => {
  it('of areas are exact, holes and bends included', () => {
    const square = {
      points: [
        [0, 0],
        [4000, 0],
        [4000, 3000],
        [0, 3000],
      ] as Pair[],
      bulges: [0, 0, 0, 0],
    };
    expect(
      areaFigures({
        rings: [
          square,
          {
            points: [
              [1000, 1000],
              [2000, 1000],
              [2000, 2000],
              [1000, 2000],
            ],
            bulges: [0, 0, 0, 0],
          },
        ],
      }),
    ).toEqual({ area: 11e6, perimeter: 18000 });
    const round: Pick<Area, 'rings'> = {
      rings: [
        {
          points: [
            [-500, 0],
            [500, 0],
          ],
          bulges: [1, 1],
        },
      ],
    };
    expect(areaFigures(round).area).toBeCloseTo(Math.PI * 250000, 4);
    expect(areaFigures(round).perimeter).toBeCloseTo(Math.PI * 1000, 6);
  });
  it('of a closed curve agree with a fine polygon', () => {
    fc.assert(
      fc.property(places(3, 7), (points) => {
        const e: Traced = { type: 'spline', ...base('s'), controls: splineThrough(points, {}, true) },
          pieces = piecesOf(e);
        const ring = pieces.flatMap((p) => Array.from({ length: 400 }, (_, i) => pieceAt(p, i / 400)));
        expect(Math.abs(areaOfPieces(pieces) - ringArea(ring))).toBeLessThan(1e-4 * 5000 * 5000);
      }),
      { numRuns: 50 },
    );
  });
  it('are written readably: upright ones from the right, never on their head', () => {
    fc.assert(
      fc.property(
        places(3),
        fc.constantFrom('aligned', 'horizontal', 'vertical', 'radius'),
        ([p, q, at], measures) => {
          const { angle } = figurePlace({ measures: measures as 'aligned', points: [p, q], at, height: 100 });
          expect(angle).toBeGreaterThan(-Math.PI / 2 - 1e-6);
          expect(angle).toBeLessThan(Math.PI / 2 + 1e-6);
        },
      ),
    );
    expect(
      dimensionWords(
        {
          measures: 'radius',
          points: [
            [0, 0],
            [250, 0],
          ],
          at: [9, 9],
          height: 1,
        },
        { units: 'mm', precision: 0 },
      ),
    ).toBe('R 250');
    expect(
      dimensionWords(
        {
          measures: 'angle',
          points: [
            [0, 0],
            [250, 0],
            [0, 9],
          ],
          at: [9, 9],
          height: 1,
        },
        { units: 'mm', precision: 0 },
      ),
    ).toBe('90.0°');
  });
});

describe('pieces', () => {
  it('a bend too flat to be told from its chord is straight, whatever its size', () => {
    for (const bulge of [5e-324, -1e-200, 1e-15])
      for (const size of [5e-324, 1e-8, 1, 1e9]) {
        const piece = bulgePiece([0, 0], [3 * size, 0], bulge);
        expect([piece.kind, pieceLength(piece)]).toEqual(['segment', 3 * size]);
      }
  });
  it('a bulge is the tangent of a quarter of the sweep, its arc ends where it should', () => {
    fc.assert(
      fc.property(
        places(2),
        fc.double({ min: -3, max: 3, noNaN: true }).filter((b) => Math.abs(b) > 1e-3),
        ([from, to], b) => {
          const piece = bulgePiece(from, to, b);
          expect(near(pieceAt(piece, 0), from, 1e-5) && near(pieceAt(piece, 1), to, 1e-5)).toBe(true);
          if (piece.kind === 'arc')
            expect(Math.tan((piece.arc.end - piece.arc.start) / 4)).toBeCloseTo(Math.abs(b), 9);
        },
      ),
    );
  });
  it('parts make the whole, chords stay within their tolerance', () => {
    fc.assert(
      fc.property(element('e'), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (e, t) => {
        for (const piece of piecesOf(e)) {
          if (pieceLength(piece) < 1) continue;
          const parts = [piecePart(piece, 0, t), piecePart(piece, t, 1)];
          expect(Math.abs(lengthOfPieces(parts) - pieceLength(piece)) / pieceLength(piece)).toBeLessThan(
            2e-2,
          );
          if (piece.kind !== 'arc') continue;
          for (const [i, p] of flattenPiece(piece, 0.5).entries()) {
            if (i === 0) continue;
            const q = flattenPiece(piece, 0.5)[i - 1],
              m: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
            expect(Math.abs(Math.hypot(m[0] - piece.arc.cx, m[1] - piece.arc.cy) - piece.arc.r)).toBeLessThan(
              0.51,
            );
          }
        }
      }),
      { numRuns: 100 },
    );
  });
  it('hatch lines lie within what they fill, at their spacing', () => {
    const lines = hatchLines(
      [
        [
          [0, 0],
          [1000, 0],
          [1000, 1000],
          [0, 1000],
        ],
        [
          [400, 400],
          [600, 400],
          [600, 600],
          [400, 600],
        ],
      ],
      0,
      100,
    );
    expect(lines).toHaveLength(9 + 1 + 1);
    expect(lines.filter(([p]) => p[1] === 500).map(([p, q]) => [p[0], q[0]])).toEqual([
      [0, 400],
      [600, 1000],
    ]);
  });
});

describe('stretching', () => {
  const ring: Pair[] = [
    [0, 0],
    [1000, 0],
    [1000, 500],
    [0, 500],
  ];
  const right = (p: Point) => p[0] >= 900;
  it('moves the points that the box holds and leaves the others, also by just the length of a side', () => {
    const path: Traced = { type: 'path', ...base('p'), points: ring, bulges: [0, 0, 0, 0], closed: true };
    expect(stretched(path, right, [250, 0])).toMatchObject({
      points: [
        [0, 0],
        [1250, 0],
        [1250, 500],
        [0, 500],
      ],
    });
    // The lower corner lands where the upper one was: that is moved as well.
    expect(stretched(path, right, [0, 500])).toMatchObject({
      points: [
        [0, 0],
        [1000, 500],
        [1000, 1000],
        [0, 500],
      ],
    });
    expect(stretched(path, right, [-1000, 0])).toBeNull();
    expect(stretched(path, () => false, [250, 0])).toBe(path);
  });
  it('takes an arc along by its end, as a whole by both, a circle by its centre', () => {
    const arc: Traced = {
      type: 'arc',
      ...base('a'),
      centre: [0, 0],
      radius: 1000,
      start: 0,
      sweep: Math.PI / 2,
    };
    const bent = stretched(arc, right, [0, -200])!;
    expect(near(gripsOf(bent)[0], [1000, -200], 1e-6) && near(gripsOf(bent)[1], [0, 1000], 1e-6)).toBe(true);
    expect(stretched(arc, () => true, [10, 20])).toMatchObject({ centre: [10, 20], radius: 1000 });
    const circle: Traced = { type: 'arc', ...base('c'), centre: [0, 0], radius: 1000, start: 0, sweep: TAU };
    expect(stretched(circle, right, [0, 9])).toBe(circle);
  });
  it('by nothing and back again gives what it was, whatever it is', () => {
    fc.assert(
      fc.property(
        element('e'),
        fc.double({ min: -4000, max: 4000, noNaN: true }),
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: -900, max: 900 }),
        (e, x, dx, dy) => {
          const held = new Set(
            gripsOf(e)
              .filter((p) => p[0] > x)
              .map((p) => p.join()),
          );
          if (e.type === 'arc') return;
          const there = stretched(e, (p) => held.has(p.join()), [dx, dy]);
          if (!there) return;
          expect(() => parseEntity(JSON.parse(JSON.stringify(there)))).not.toThrow();
          gripsOf(there).forEach((g, i) =>
            expect(
              near(
                g,
                held.has(gripsOf(e)[i].join())
                  ? [gripsOf(e)[i][0] + dx, gripsOf(e)[i][1] + dy]
                  : gripsOf(e)[i],
                1e-9,
              ),
            ).toBe(true),
          );
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('within an outline', () => {
  it('is what lies wholly in it; what only reaches in is touched', () => {
    const { holds, touches } = withinRing([
      [0, 0],
      [1000, 0],
      [1000, 1000],
      [500, 200],
      [0, 1000],
    ]);
    const at = (from: Pair, to: Pair): Traced => ({ type: 'line', ...base('l'), from, to });
    expect([holds(at([100, 50], [900, 50])), touches(at([100, 50], [900, 50]))]).toEqual([true, true]);
    // Both ends are in, but the notch lies between.
    expect([holds(at([50, 800], [950, 800])), touches(at([50, 800], [950, 800]))]).toEqual([false, true]);
    expect([holds(at([100, 50], [100, -50])), touches(at([100, 50], [100, -50]))]).toEqual([false, true]);
    expect([holds(at([480, 900], [520, 900])), touches(at([480, 900], [520, 900]))]).toEqual([false, false]);
    expect(touches(at([-100, 100], [1100, 100]))).toBe(true);
    const text: Traced = {
      type: 'text',
      ...base('t'),
      at: [-500, -500],
      angle: 0,
      height: 3000,
      text: 'All round it',
    };
    expect([holds(text), touches(text)]).toEqual([false, true]);
  });
});
