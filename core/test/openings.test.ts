import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bandOf,
  cutWalls,
  gapNear,
  joinWalls,
  linesOfOpenings,
  openingSeen,
  openingsOf,
  seenInGap,
  shownParts,
} from '@calque/core/building';
import {
  arcPiece,
  ringArea,
  rotationAbout,
  segmentPiece,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import {
  alongPieces,
  anchorAt,
  apply,
  freeOpeningId,
  gripsOf,
  groundStorey,
  modelOf,
  nextTag,
  movedBy,
  taggedApart,
  parseEntity,
  setFields,
  stretched,
  usualOpening,
  withGrip,
  type OpeningKind,
  type Pair,
  type Traced,
  type Wall,
  type WallOpening,
} from '@calque/core/model';
import { takeoff } from '@calque/core/takeoff';
import { wall } from './given-walls.ts';

const door = (from: Pair, to: Pair, more: Partial<WallOpening> = {}): WallOpening => ({
  ...usualOpening('o1', 'door', from, to),
  ...more,
});
const line = (a: Pair, b: Pair): Piece => segmentPiece(a, b);
const areaOf = (rings: readonly (readonly Point[])[]) => rings.reduce((sum, r) => sum + ringArea(r), 0);

describe('openings of a wall', () => {
  const with2 = wall('w', [0, 0], [6000, 0], {
    openings: [door([4900, 3], [4000, 3], { id: 'a' }), door([1000, 0], [2200, 0], { id: 'b' })],
  });
  const places = (w: Wall) => openingsOf(w).map((o) => [o.opening.id, o.from, o.to]);

  it('lie along it in order, are cut to it, and are its own no more where it was moved away from them', () => {
    expect(places(with2)).toEqual([
      ['b', 1000, 2200],
      ['a', 4000, 4900],
    ]);
    expect(places({ ...with2, to: [4500, 0] })).toEqual([
      ['b', 1000, 2200],
      ['a', 4000, 4500],
    ]);
    expect(places({ ...with2, to: [800, 0] })).toEqual([]);
    expect(places({ ...with2, from: [0, 900], to: [6000, 900] })).toEqual([]);
    expect(places(wall('w', [0, 0], [6000, 0]))).toEqual([]);
  });

  it('go where it goes, and a mirrored door opens to the other side of its way', () => {
    const turned = movedBy(with2, [0, 2, -2, 0, 500, 700]);
    expect(openingsOf(turned).flatMap((o) => [o.from, o.to].map((d) => Math.round(d)))).toEqual([
      2000, 4400, 8000, 9800,
    ]);
    expect(turned.openings![0].opens).toBe('left');
    expect(movedBy(with2, [-1, 0, 0, 1, 0, 0]).openings![0].opens).toBe('right');
  });

  it('are taken hold of by their edges, which slide along the wall; an edge never comes to lie on the other', () => {
    expect(gripsOf(with2)).toHaveLength(6);
    const moved = withGrip(with2, 4, [1300, 700]) as Wall;
    expect(places(moved)[0]).toEqual(['b', 1300, 2200]);
    expect(moved.openings![1].from).toEqual([1300, 0]);
    expect(withGrip(with2, 4, [2200, 50])).toBeNull();
    const far = stretched(with2, (p) => p[0] > 3500, [500, 0]) as Wall;
    expect(places(far)).toEqual([
      ['b', 1000, 2200],
      ['a', 4500, 5400],
    ]);
  });

  it('stay with the part of a wall that was parted or shortened; those of the rest go with the rest, and one beside it has none', () => {
    const part = (from: Pair, to: Pair) =>
      (alongPieces(with2, [segmentPiece(from, to)]) as Wall).openings!.map((o) => o.id);
    expect(part([0, 0], [3000, 0])).toEqual(['b']);
    expect(part([3000, 0], [6000, 0])).toEqual(['a']);
    expect(part([0, 500], [6000, 500])).toEqual([]);
  });

  it('come and go, so nothing rests on their edges: a dimension picked there keeps its place', () => {
    expect(anchorAt([with2], [1000, 0])).toBeNull();
    expect(anchorAt([with2], [6000, 0])).toEqual({ id: 'w', grip: 1 });
  });

  it('have ids of their own, and figures that are sound', () => {
    expect(() => parseEntity(with2)).not.toThrow();
    for (const bad of [
      { id: 'b' },
      { head: 0 },
      { sill: -1 },
      { leaves: 3 },
      { kind: 'hole' },
      { assumed: ['x'] },
    ])
      expect(() =>
        parseEntity({ ...with2, openings: [{ ...with2.openings![0], ...bad }, with2.openings![1]] }),
      ).toThrow();
    expect(freeOpeningId([{ id: 'o1' }, { id: 'o3' }])).toBe('o2');
  });
});

describe('a plan with openings', () => {
  it('shows a wall in parts, with jambs to snap to; what it draws is the body less the openings, at any angle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.constantFrom('centre', 'left', 'right'),
        fc.array(fc.integer({ min: 0, max: 58 }), { minLength: 1, maxLength: 5 }),
        (angle, alignment, at) => {
          const openings = at.map((n, i) =>
            door([100 * n, 0], [100 * n + 180, 0], { id: `o${i + 1}`, kind: 'gap' }),
          );
          const map = rotationAbout(angle, [300, 200]),
            w = movedBy(wall('w', [0, 0], [6000, 0], { alignment, openings }), map);
          const covered = new Set(at.flatMap((n) => Array.from({ length: 180 }, (_, k) => 100 * n + k)));
          const open = [...covered].filter((x) => x < 6000).length,
            { outlines } = joinWalls([w]);
          expect(areaOf(outlines.flat())).toBeCloseTo((6000 - open) * 200, -1);
          const { faces } = cutWalls([w]);
          // Jambs go from face to face.
          const across = faces
            .get('w')!
            .filter((f) => Math.abs(Math.hypot(f[2] - f[0], f[3] - f[1]) - 200) < 1e-6);
          expect(across.length).toBeGreaterThanOrEqual(2);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leaves walls without openings as they are, and openings at corners to the cut body', () => {
    const corner = [
      wall('a', [0, 0], [4000, 0], { openings: [door([0, 0], [900, 0], { kind: 'gap' })] }),
      wall('b', [0, 0], [0, 3000]),
    ];
    const cut = cutWalls(corner);
    expect(cut.parts.has('b')).toBe(false);
    expect(shownParts(cut)).toHaveLength(2 + 1);
    for (const ring of shownParts(cut)) expect(Math.abs(ringArea(ring))).toBeGreaterThan(0);
  });

  it('draws leaves that stand open on their side, hung at their edge, whichever way the opening was drawn', () => {
    const swing = (o: WallOpening) => {
      const [{ lines }] = linesOfOpenings(wall('w', [0, 0], [6000, 0], { openings: [o] }));
      const leaf = lines[0] as Extract<Piece, { kind: 'segment' }>;
      return [leaf.from, leaf.to].map((p) => p.map((v) => Math.round(v)));
    };
    expect(swing(door([1000, 0], [1900, 0]))).toEqual([
      [1000, 100],
      [1000, 1000],
    ]);
    expect(swing(door([1000, 0], [1900, 0], { hung: 'to', opens: 'right' }))).toEqual([
      [1900, -100],
      [1900, -1000],
    ]);
    // Drawn the other way round, the same words mean the other side and edge.
    expect(swing(door([1900, 0], [1000, 0]))).toEqual([
      [1900, -100],
      [1900, -1000],
    ]);
    const arcs = linesOfOpenings(
      wall('w', [0, 0], [6000, 0], { openings: [door([1000, 0], [2800, 0], { leaves: 2 })] }),
    )[0].lines.filter((p) => p.kind === 'arc');
    expect(arcs).toHaveLength(2);
    for (const a of arcs) {
      if (a.kind !== 'arc') continue;
      expect(a.arc.r).toBeCloseTo(900, 9);
      expect(a.arc.end - a.arc.start).toBeCloseTo(Math.PI / 2, 9);
    }
  });
});

describe('what a plan shows in a gap', () => {
  const band = bandOf(wall('w', [0, 0], [6000, 0]));
  const jambs: Piece[] = [line([1000, -100], [1000, 100]), line([1900, 100], [1900, -100])];
  const faces: Piece[] = [
    line([0, 100], [1000, 100]),
    line([1900, 100], [6000, 100]),
    line([0, -100], [1000, -100]),
    line([1900, -100], [6000, -100]),
  ];
  const swung = (hinge: number, side: 1 | -1, r = 900): Piece[] => {
    const towards = hinge === 1000 ? 1 : -1,
      [a, b] = [side > 0 ? Math.PI / 2 : -Math.PI / 2, towards > 0 ? 0 : Math.PI];
    const start = Math.min(a, b) + (b === Math.PI && side < 0 ? 1.5 * Math.PI : 0);
    return [
      line([hinge, side * 100], [hinge, side * (100 + r)]),
      arcPiece({ cx: hinge, cy: side * 100, r, start, end: start + Math.PI / 2 }),
    ];
  };

  it('is a door with the edge at which it hangs and its side, by its swing or by its leaf alone', () => {
    for (const hinge of [1000, 1900])
      for (const side of [1, -1] as const) {
        const wanted = {
          kind: 'door',
          leaves: 1,
          hung: hinge === 1000 ? 'from' : 'to',
          opens: side > 0 ? 'left' : 'right',
          swingSeen: true,
        };
        const pieces = [...faces, ...jambs, ...swung(hinge, side)];
        expect(seenInGap(band, 1000, 1900, pieces), `${hinge} ${side}`).toEqual(wanted);
        expect(seenInGap(band, 1000, 1900, [...jambs, swung(hinge, side)[0]])).toEqual(wanted);
      }
  });

  it('is a double door, a window, or nothing but a gap', () => {
    const double = [...jambs, ...swung(1000, 1, 450), ...swung(1900, 1, 450)];
    expect(seenInGap(band, 1000, 1900, double)).toMatchObject({ kind: 'door', leaves: 2, opens: 'left' });
    expect(seenInGap(band, 1000, 1900, [...jambs, line([1000, 20], [1900, 20])])).toMatchObject({
      kind: 'window',
    });
    expect(seenInGap(band, 1000, 1900, [...faces, ...jambs])).toMatchObject({
      kind: 'gap',
      swingSeen: false,
    });
    // What stands near by and is no leaf of it.
    const table: Piece[] = [line([1300, 600], [2100, 600]), line([1300, 600], [1300, 1500])];
    expect(seenInGap(band, 1000, 1900, [...jambs, ...table])).toMatchObject({ kind: 'gap' });
  });

  it('has its edges where the plan draws the jambs, and none where the wall goes on', () => {
    const pieces = [...faces, ...jambs, ...swung(1000, 1)];
    expect(gapNear(band, 1400, pieces)).toMatchObject({ from: 1000, to: 1900, seen: { kind: 'door' } });
    expect(gapNear(band, 3000, pieces)).toBeNull();
    const wholeFaces: Piece[] = [line([0, 100], [6000, 100]), line([0, -100], [6000, -100])];
    // Two lines across a wall that goes on are no opening: a grid line and the end of a cupboard, say.
    expect(gapNear(band, 1400, [...wholeFaces, ...jambs])).toBeNull();
    expect(gapNear(band, 1400, [...wholeFaces, ...jambs, line([1000, 0], [1900, 0])])).toMatchObject({
      seen: { kind: 'window' },
    });
  });

  it('has a jamb also where the leaf stands open in line with it; a grid line right across the wall is none', () => {
    const joined = [line([1000, 100], [1000, -1000]), jambs[1], ...swung(1000, -1).slice(1)];
    expect(gapNear(band, 1400, [...faces, ...joined])).toMatchObject({
      from: 1000,
      to: 1900,
      seen: { kind: 'door', hung: 'from', opens: 'right' },
    });
    const gridLine = line([1500, -3000], [1500, 3000]);
    expect(gapNear(band, 1400, [...faces, ...jambs, gridLine])).toMatchObject({ from: 1000, to: 1900 });
  });

  it('is kept with what the plan does not say marked as assumed', () => {
    const seen = openingSeen('o1', band, 1000, 1900, [...jambs, ...swung(1900, -1)]);
    expect(seen).toMatchObject({ kind: 'door', hung: 'to', opens: 'right', from: [1000, 0], to: [1900, 0] });
    expect(seen.assumed).toEqual(['sill', 'head']);
    expect(openingSeen('o1', band, 1000, 1900, [...jambs, line([1000, 0], [1900, 0])])).toMatchObject({
      kind: 'window',
      sill: 900,
    });
  });
});

describe('the takeoff', () => {
  const model = (...walls: Wall[]) =>
    modelOf([
      { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
      groundStorey('ground'),
      ...walls,
    ]);

  it('counts a wall with its openings by the closed formula', () => {
    const { walls, openings, storeys } = takeoff(
      model(
        wall('w', [0, 0], [6000, 0], {
          openings: [
            door([1000, 0], [1900, 0], { id: 'd', tag: 'D01', head: 2100, hung: 'to' }),
            door([3000, 0], [4500, 0], { id: 'f', kind: 'window', leaves: 0, sill: 900, head: 2100 }),
          ],
        }),
      ),
    );
    expect(walls[0]).toMatchObject({ length: 6000, height: 2700, thickness: 200, area: 16.2 });
    const open = 0.9 * 2.1 + 1.5 * 1.2;
    expect(walls[0].net).toBeCloseTo(16.2 - open, 12);
    expect(walls[0].volume).toBeCloseTo(0.2 * (16.2 - open), 12);
    expect(openings.map((o) => [o.id, o.width, o.height, o.hung])).toEqual([
      ['w.d', 900, 2100, { edge: 'to', opens: 'left' }],
      ['w.f', 1500, 1200, null],
    ]);
    expect(storeys[0]).toMatchObject({ level: 0, assumed: ['height'] });
  });

  it('of walls that meet is that of their outline times their height, less the openings: mitred, teed, at any turn', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.integer({ min: 80, max: 400 }),
        fc.integer({ min: 250, max: 3000 }),
        (angle, thickness, at) => {
          const map = rotationAbout(angle, [100, 50]),
            openings = [door([at, 0], [at + 800, 0], { kind: 'gap', head: 2100 })];
          const walls = [
            wall('a', [0, 0], [5000, 0], { thickness, openings }),
            wall('b', [5000, 0], [5000, 4000], { thickness }),
            wall('c', [5000, 4000], [0, 4000], { thickness }),
            wall('d', [0, 4000], [0, 0], { thickness }),
            wall('e', [4400, 0], [4400, 4000], { thickness: 100 }),
          ].map((w) => movedBy(w, map));
          const counted = takeoff(model(...walls)).walls.reduce((sum, w) => sum + w.volume, 0);
          const solid = areaOf(joinWalls(walls.map((w) => ({ ...w, openings: null }))).outlines.flat());
          expect(counted).toBeCloseTo((solid * 2700 - 800 * thickness * 2100) / 1e9, 6);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('counts what lies over one another once, and nothing above the wall', () => {
    const gap = (id: string, from: number, to: number, sill: number, head: number) =>
      door([from, 0], [to, 0], { id, kind: 'gap' as OpeningKind, sill, head });
    const [row] = takeoff(
      model(
        wall('w', [0, 0], [6000, 0], {
          openings: [gap('a', 1000, 2000, 0, 2000), gap('b', 1500, 2500, 1000, 9000)],
        }),
      ),
    ).walls;
    const open = 0.5 * 2 + 0.5 * 2.7 + 0.5 * 1.7;
    expect(row.net).toBeCloseTo(16.2 - open, 12);
  });

  it('follows a change of an opening like any other, and back', () => {
    const w = wall('w', [0, 0], [6000, 0]),
      m = model(w);
    const applied = apply(m, setFields(w, { openings: [door([1000, 0], [1900, 0])] })!);
    expect(applied.ok && takeoff(applied.model).openings).toHaveLength(1);
    const back = applied.ok && apply(applied.model, applied.inverse);
    expect(back && back.ok && takeoff(back.model)).toEqual(takeoff(m));
  });
});

describe('tags of copies', () => {
  const tagged = (id: string, ...tags: string[]): Wall =>
    wall(id, [0, 0], [9000, 0], {
      openings: tags.map((tag, i) => ({
        ...usualOpening(`o${i}`, tag.startsWith('W') ? 'window' : 'door', [1000 * i, 0], [1000 * i + 900, 0]),
        tag,
      })),
    });
  const tagsOf = (list: readonly Traced[]) =>
    list.flatMap((e) => (e.type === 'wall' ? (e.openings ?? []).map((o) => o.tag) : []));
  it('run on where they do so by themselves; names of one’s own, and what nobody has yet, stay', () => {
    const there = tagged('a', 'D01', 'W07', 'Gate', ''),
      model = modelOf([groundStorey('ground'), there]);
    expect(nextTag(model, 'door')).toBe('D02');
    expect(nextTag(model, 'gap')).toBe('');
    const copies = ['b', 'c'].map((id) => ({ ...there, id }));
    expect(tagsOf(taggedApart(model, copies))).toEqual(['D02', 'W08', 'Gate', '', 'D03', 'W09', 'Gate', '']);
    expect(tagsOf(taggedApart(model, [tagged('d', 'D40', 'D40')]))).toEqual(['D40', 'D41']);
  });
});
