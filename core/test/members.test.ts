import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  determinant,
  mirrorIn,
  planeFromWorld,
  rotationAbout,
  type ModelPoint,
  type Transform,
} from '@calque/core/geometry';
import {
  cutLength,
  endsSwapped,
  groundStorey,
  gripsOf,
  kindOf,
  knownSection,
  memberAxis,
  memberLook,
  memberMass,
  modelOf,
  movedBy,
  nameOfSizes,
  parseEntity,
  sectionTyped,
  withGrip,
  type GivenSection,
  type Member,
  type PlacingPoint,
} from '@calque/core/model';
import { frameOf, uprightPlane } from '@calque/core/planes';
import { bodiesOf, enclosedBy } from '@calque/core/solids';
import { member } from './given-members.ts';

const CHANNEL: GivenSection = { form: 'table', name: 'UPE 200' },
  ANGLE: GivenSection = { form: 'table', name: 'L 100x50x8' };

/** The places of a member's solid, to a thousandth of a millimetre, in no order. */
function placesOf(m: Member, plane?: ReturnType<typeof uprightPlane>): string[] {
  const [body] = bodiesOf(modelOf([groundStorey('ground'), ...(plane ? [plane] : []), m])),
    { triangles } = body.mesh(),
    out = new Set<string>();
  for (let i = 0; i < triangles.length; i += 3)
    out.add([0, 1, 2].map((k) => Math.round(triangles[i + k] * 1000) + 0).join(' '));
  return [...out].sort();
}
const extent = (m: Member): ModelPoint[] => {
  const places = placesOf(m).map((p) => p.split(' ').map((v) => Number(v) / 1000));
  return [Math.min, Math.max].map(
    (f) => [0, 1, 2].map((k) => f(...places.map((p) => p[k]))) as unknown as ModelPoint,
  );
};

describe('a member', () => {
  it('has the volume of its section by its length, cut back at its ends, and weighs it', () => {
    for (const section of [
      CHANNEL,
      ANGLE,
      { form: 'table', name: 'SHS 100x100x5 hot' },
      { form: 'table', name: 'IPE 200' },
    ] as GivenSection[]) {
      const m = member({ section, back: [100, 50], rise: [0, 700] }),
        [body] = bodiesOf(modelOf([groundStorey('ground'), m])),
        known = knownSection(section)!;
      // Arcs of the picture are chords, which lie within 0.2 mm.
      expect(enclosedBy(body.mesh()) / (known.figures.area * cutLength(m))).toBeCloseTo(1, 2);
      expect(cutLength(m)).toBeCloseTo(Math.hypot(4000, 700) - 150, 9);
      expect(memberMass(m)).toBeCloseTo((known.figures.area / 1e6) * (cutLength(m) / 1000) * 7850, 9);
    }
    const flat = member({
        section: { form: 'sizes', shape: 'rectangle', h: 200, b: 60, tw: 0, tf: 0, r: 0 },
      }),
      [body] = bodiesOf(modelOf([groundStorey('ground'), flat]));
    expect(enclosedBy(body.mesh()) / (200 * 60 * 4000)).toBeCloseTo(1, 12);
    // Twelve edges: each end has four, which the sides share.
    expect(nameOfSizes({ shape: 'rectangle', h: 200, b: 60, tw: 0, tf: 0, r: 0 })).toBe('60x200');
  });

  it('lies by the point that is chosen: the line is its top, its middle, its foot, at its left or right', () => {
    const low = (point: PlacingPoint) => extent(member({ point }));
    expect(low(5)).toEqual([
      [0, -50, -100],
      [4000, 50, 100],
    ]);
    // The line is the top of the member.
    expect(low(8)).toEqual([
      [0, -50, -200],
      [4000, 50, 0],
    ]);
    expect(low(2)).toEqual([
      [0, -50, 0],
      [4000, 50, 200],
    ]);
    // Looking along x with z up, right is towards smaller y: at its left edge it lies to the right.
    expect(low(4)).toEqual([
      [0, -100, -100],
      [4000, 0, 100],
    ]);
    expect(low(6)).toEqual([
      [0, 0, -100],
      [4000, 100, 100],
    ]);
    // Turned by a quarter its flanges stand upright.
    expect(extent(member({ turn: Math.PI / 2 }))).toEqual([
      [0, -100, -50],
      [4000, 100, 50],
    ]);
  });

  it('stands square on its plane where it begins and ends at one place of it', () => {
    const post = member({ to: [0, 0], rise: [0, 3000], role: 'column' });
    expect(extent(post)).toEqual([
      [-100, -50, 0],
      [100, 50, 3000],
    ]);
    const { visible, rings } = memberLook(post);
    // Its section: twelve corners, four of them rounded.
    expect(visible).toHaveLength(16);
    expect(rings).toHaveLength(1);
    expect(kindOf(post).grips(post)).toEqual([[0, 0]]);
    expect(withGrip(post, 0, [500, 700])).toMatchObject({ from: [500, 700], to: [500, 700] });
  });

  const anyMember = fc
    .record({
      from: fc.tuple(fc.integer({ min: -3000, max: 3000 }), fc.integer({ min: -3000, max: 3000 })),
      to: fc.tuple(fc.integer({ min: 4000, max: 9000 }), fc.integer({ min: -3000, max: 3000 })),
      rise: fc.constantFrom<[number, number][]>([0, 0], [500, 500], [0, 2500]),
      upright: fc.boolean(),
      section: fc.constantFrom(CHANNEL, ANGLE, { form: 'table', name: 'IPE 200' } as GivenSection),
      point: fc.constantFrom<PlacingPoint[]>(1, 2, 3, 4, 5, 6, 7, 8, 9),
      turn: fc.constantFrom(0, Math.PI / 2, 0.4, -2),
      mirrored: fc.boolean(),
      back: fc.constantFrom<[number, number][]>([0, 0], [20, 70]),
    })
    .map(({ upright, ...m }) =>
      member({ ...m, ...(upright && { to: m.from, rise: [0, 2800] as [number, number] }) }),
    );

  it('stands where it stood when its ends are changed for one another, and comes back', () => {
    fc.assert(
      fc.property(anyMember, (m) => {
        const other = endsSwapped(m);
        expect([other.from, other.to]).toEqual([m.to, m.from]);
        expect(placesOf(other)).toEqual(placesOf(m));
        expect(placesOf(endsSwapped(other))).toEqual(placesOf(m));
      }),
      { numRuns: 150 },
    );
  });

  it('goes where a turn or a mirror of its plane takes each of its places, on a plan and on an upright plane', () => {
    const plane = uprightPlane('side', {
      from: [0, 0],
      to: [3000, 4000],
      height: 9000,
      name: 'A',
      role: 'elevation',
    })!;
    const maps: Transform[] = [
      rotationAbout(0.9, [100, 200]),
      mirrorIn([0, 0], [0, 1000])!,
      mirrorIn([0, 500], [3000, 1200])!,
      [1, 0, 0, 1, 250, -75],
    ];
    fc.assert(
      fc.property(anyMember, fc.constantFrom(...maps), fc.boolean(), (m, map, onPlane) => {
        const given = onPlane ? { ...m, planeId: 'side' } : m,
          on = onPlane ? plane : groundStorey('ground'),
          frame = frameOf(on as never);
        const mapped = placesOf(given, onPlane ? plane : undefined)
          .map((text) => text.split(' ').map((v) => Number(v) / 1000) as unknown as ModelPoint)
          .map((p) => {
            const {
              point: [x, y],
              before,
            } = planeFromWorld(frame, p);
            return [map[0] * x + map[2] * y + map[4], map[1] * x + map[3] * y + map[5], before];
          });
        const there = placesOf(movedBy(given, map) as Member, onPlane ? plane : undefined).map((text) => {
          const { point, before } = planeFromWorld(
            frame,
            text.split(' ').map((v) => Number(v) / 1000) as unknown as ModelPoint,
          );
          return [...point, before];
        });
        // Each place of the one is a place of the other, to the rounding of their names.
        for (const p of mapped)
          expect(Math.min(...there.map((q) => Math.hypot(...q.map((v, i) => v - p[i]))))).toBeLessThan(0.01);
        expect(there.length).toBe(mapped.length);
        expect(determinant(map) < 0).toBe((movedBy(given, map) as Member).mirrored !== m.mirrored);
      }),
      { numRuns: 120 },
    );
  });

  it('mirrored twice is itself', () => {
    const map = mirrorIn([0, 500], [3000, 1200])!;
    fc.assert(
      fc.property(anyMember, (m) => {
        expect(placesOf(movedBy(movedBy(m, map), map) as Member)).toEqual(placesOf(m));
      }),
      { numRuns: 60 },
    );
  });
});

describe('a member on its plane', () => {
  const lines = (pieces: ReturnType<typeof memberLook>['visible']) =>
    pieces.flatMap((p) =>
      p.kind === 'segment' ? [[...p.from, ...p.to].map((v) => Math.round(v * 100) / 100 + 0)] : [],
    );
  it('shows its flanges from the side and its web hidden from above', () => {
    const above = memberLook(member({ back: [100, 0] }));
    // The outer edges of the flange and its ends; the web, 5.6 thick, lies under it.
    expect(
      lines(above.visible)
        .map((l) => l[1])
        .sort(),
    ).toEqual(expect.arrayContaining([-50, 50]));
    expect(lines(above.visible)).toHaveLength(4);
    expect(lines(above.hidden).every((l) => Math.abs(Math.abs(l[1]) - 2.8) < 13)).toBe(true);
    const side = memberLook(member({ turn: Math.PI / 2 }));
    expect(new Set(lines(side.visible).map((l) => Math.abs(l[1])))).toEqual(new Set([100, 91.5]));
    expect(side.hidden).toEqual([]);
  });
  it('of a section that no table has is its line, and has no mass', () => {
    const m = member({ section: { form: 'table', name: 'IPE 205' } });
    expect(memberLook(m).visible).toHaveLength(1);
    expect(memberMass(m)).toBeNull();
    expect(bodiesOf(modelOf([groundStorey('ground'), m]))).toEqual([]);
  });
  it('is refused without a length, with more cut back than it has, and with a section that is none', () => {
    expect(parseEntity(member())).toEqual(member());
    for (const bad of [
      { to: [0, 0] },
      { back: [2000, 2000] },
      { back: [-1, 0] },
      { point: 10 },
      { section: { form: 'sizes', shape: 'I', h: 100, b: 100, tw: 120, tf: 9, r: 0 } },
      {
        section: {
          form: 'outline',
          name: 'x',
          points: [
            [0, 0],
            [1, 0],
          ],
          bulges: [0, 0],
        },
      },
      { density: 0 },
    ])
      expect(() => parseEntity({ ...member(), ...bad }), JSON.stringify(bad)).toThrow();
    expect(withGrip(member(), 1, [0, 0])).toBeNull();
    expect(gripsOf(member())).toEqual([
      [0, 0],
      [4000, 0],
    ]);
    expect(memberAxis(member()).endOn).toBe(0);
  });
});

describe('a section by typed sizes', () => {
  it('is read as it is called, by other words for its shape, and in inches', () => {
    expect(sectionTyped('60x200')).toMatchObject({ shape: 'rectangle', b: 60, h: 200 });
    expect(sectionTyped(' i 300 x 150x8 × 12 ')).toMatchObject({ shape: 'I', h: 300, b: 150, tw: 8, tf: 12 });
    expect(sectionTyped('RHS 100x60x5')).toMatchObject({ shape: 'rectangular hollow', h: 100, b: 60, tw: 5 });
    expect(sectionTyped('chs 60,3x4')).toMatchObject({ shape: 'round hollow', h: 60.3, tw: 4 });
    expect(sectionTyped('4x6', 25.4)).toMatchObject({ b: 101.6, h: 6 * 25.4 });
    for (const none of ['IPE 200', '60', '60x', 'I 300x150', 'Box', 'x', 'tube 60x4x2', ''])
      expect(sectionTyped(none), none).toBeNull();
    expect(sectionTyped('box 100x60x40')).toContain('thicker than the half of it');
    expect(sectionTyped('I 100x50x60x8')).toContain('wide');
    expect(sectionTyped('20000x3')).toContain('larger than any section');
  });
  it('what is called so is read as the same again, and can be kept', () => {
    const mm = fc.integer({ min: 60, max: 900 }),
      thin = fc.integer({ min: 2, max: 12 });
    fc.assert(
      fc.property(
        fc.constantFrom('I', 'Channel', 'Tee', 'L', 'Box', 'Tube', 'Round', ''),
        mm,
        mm,
        thin,
        thin,
        (word, h, b, tw, tf) => {
          const sizes = { L: [h, b, tw], Box: [h, b, tw], Tube: [h, tw], Round: [h], '': [b, h] }[
              word as 'L'
            ] ?? [h, b, tw, tf],
            typed = sectionTyped(`${word} ${sizes.join('x')}`) as GivenSection & { form: 'sizes' };
          expect(typed, word).toMatchObject({ form: 'sizes' });
          expect(sectionTyped(nameOfSizes(typed))).toEqual(typed);
          expect(parseEntity(member({ section: typed }))).toBeDefined();
          expect(knownSection(typed)!.figures.area).toBeGreaterThan(0);
        },
      ),
    );
  });
});
