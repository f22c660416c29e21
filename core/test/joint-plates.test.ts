import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  boltLength,
  boltOf,
  joinedFrame,
  jointPieces,
  markingChanges,
  onPlate,
  marksOf,
} from '@calque/core/framing';
import {
  applyOrThrow,
  copiesOf,
  endsSwapped,
  group,
  jointAt,
  movedBy,
  parseEntity,
  withJoint,
  type Joint,
  type Member,
} from '@calque/core/model';
import { mirrorIn, rotationAbout } from '@calque/core/geometry';

import { takeoff } from '@calque/core/takeoff';

import { boxOf } from './ifc-bodies.ts';

import { member } from './given-members.ts';

import { table, model, joint, column, beam, rowOf, words } from './given-joints.ts';

describe('plates and bolts', () => {
  it('a base plate lies level under its column, which ends on it, with its anchors within', () => {
    const m = model(column({ joints: [joint('start', 'basePlate', null)] })),
      { plates, bolts } = joinedFrame(m),
      row = rowOf(m, 'column');
    expect(plates).toHaveLength(1);
    const [plate] = plates;
    expect(plate.thickness).toBe(23);
    expect(row.length).toBeCloseTo(4000 - 23, 9);
    expect(bolts[0]).toMatchObject({
      anchor: true,
      name: 'M20 anchor, 400 mm in',
      axis: [0, 0, -1].map((v) => expect.closeTo(v, 9)),
    });
    expect(bolts[0].at).toHaveLength(4);
    const counted = takeoff(m);
    expect(counted.plates[0]).toMatchObject({
      mark: 'p1',
      name: 'base plate',
      thickness: 23,
      length: 320,
      width: 320,
      holes: 4,
      count: 1,
    });
    expect(counted.plates[0].mass).toBeCloseTo(
      (0.32 * 0.32 - 4 * (Math.PI / 4) * 0.022 ** 2) * 0.023 * 7850,
      9,
    );
    expect(counted.assemblies).toEqual([
      expect.objectContaining({ mark: 'A1', section: 'HEB 200', parts: '1 p1', count: 1 }),
    ]);
    expect(counted.assemblies[0].mass).toBeCloseTo(row.mass! + counted.plates[0].mass, 9);
  });

  it('picks find its anchors by their circles where they are seen end on, and the outline of the plate', () => {
    const m = model(column({ joints: [joint('start', 'basePlate', null)] }), beam()),
      pieces = jointPieces(m, 'column'),
      circles = pieces.flatMap((p) =>
        p.kind === 'arc' ? [[p.arc.cx, p.arc.cy, p.arc.r].map(Math.round)] : [],
      );
    expect(circles.sort()).toEqual(
      [
        [-120, -120, 10],
        [-120, 120, 10],
        [120, -120, 10],
        [120, 120, 10],
      ].sort(),
    );
    expect(pieces.filter((p) => p.kind === 'segment')).toHaveLength(4);
    expect(jointPieces(m, 'beam')).toEqual([]);
    expect(jointPieces(m, 'gone')).toEqual([]);
  });

  it('an end plate is bolted to the flange: bolts as long as plate, flange, washers and nut ask for, holes in both', () => {
    const m = model(column(), beam({ joints: [joint('end', 'endPlate', 'column')] })),
      { plates, bolts, doubts, shapes } = joinedFrame(m);
    expect(doubts).toEqual([]);
    expect(plates[0]).toMatchObject({ name: 'end plate', thickness: 16, weldedTo: 'beam' });
    expect(rowOf(m).length).toBeCloseTo(3900 - 16, 9);
    // 16 + 15 of grip, 2 x 3 of washers, 18 of nut, two threads of 2.5: 60.
    expect(bolts[0]).toMatchObject({ name: 'M20 x 60', grip: 31, length: 60, grade: '8.8' });
    expect(bolts[0].at.every(([x]) => Math.abs(x + 116) < 1e-9)).toBe(true);
    const holes = shapes.get('column')!.holes;
    expect(holes).toHaveLength(bolts[0].at.length);
    expect(holes.every((h) => h.through === 'bottom' && h.depth === 15 && h.d === 22)).toBe(true);
    expect(rowOf(m, 'column').holes).toBe(4);
    expect(takeoff(m).bolts).toEqual([
      expect.objectContaining({
        name: 'M20 x 60',
        count: 4,
        standard: 'ISO 4014, nut ISO 4032, washers ISO 7089',
      }),
    ]);
  });

  it('stiffeners stand between the flanges of the column in line with those of the beam, at both sides of its web', () => {
    const m = model(column(), beam({ joints: [joint('end', 'endPlate', 'column', { stiffener: 12 })] })),
      { plates, doubts } = joinedFrame(m),
      stiffeners = plates.filter((p) => p.name.includes('stiffener'));
    expect(doubts).toEqual([]);
    expect(stiffeners).toHaveLength(4);
    expect(stiffeners.every((p) => p.weldedTo === 'column' && p.thickness === 12)).toBe(true);
    const spans = stiffeners.map((p) => {
      const place = onPlate(p),
        all = p.outline.flatMap((c) => [place(c), place(c, p.thickness)]);
      return boxOf(all.flat());
    });
    // The beam's flanges are 8.5 thick, 95.75 above and below 2,000; between the column's, 170 apart, and 95.5 out of its web.
    for (const [x0, x1, y0, y1, z0, z1] of spans) {
      expect([x0, x1]).toEqual([-85, 85].map((v) => expect.closeTo(v, 6)));
      expect(Math.min(Math.abs(y0), Math.abs(y1))).toBeCloseTo(4.5, 6);
      expect(Math.max(Math.abs(y0), Math.abs(y1))).toBeCloseTo(100, 6);
      expect(Math.abs((z0 + z1) / 2 - 2000)).toBeCloseTo(95.75, 6);
      expect(z1 - z0).toBeCloseTo(12, 6);
    }
    expect(takeoff(m).plates.find((p) => p.name.includes('stiffener'))!.count).toBe(4);
    expect(
      words(
        model(
          column({ section: table('SHS 100x100x5 hot') }),
          beam({ joints: [joint('end', 'endPlate', 'column', { stiffener: 12 })] }),
        ),
      ).some((w) => w.startsWith('stiffeners are put')),
    ).toBe(true);
  });

  it('a fin plate stands on the web, the beam bolted to it, coped where it must be', () => {
    const girder = member({
        id: 'girder',
        from: [0, -2000],
        to: [0, 2000],
        rise: [2000, 2000],
        section: table('IPE 300'),
        point: 8,
      }),
      m = model(girder, beam({ point: 8, joints: [joint('end', 'finPlate', 'girder')] })),
      { plates, bolts, shapes } = joinedFrame(m);
    expect(plates[0]).toMatchObject({ name: 'fin plate', weldedTo: 'girder' });
    expect(shapes.get('beam')!.notches).toHaveLength(1);
    expect(shapes.get('beam')!.holes.map((h) => [h.through, h.depth])).toEqual([
      ['web', 5.6],
      ['web', 5.6],
    ]);
    // Beside the web, its bolts across it.
    expect(bolts[0].grip).toBeCloseTo(plates[0].thickness + 5.6, 9);
    expect(bolts[0].axis.map(Math.abs)).toEqual([0, 1, 0].map((v) => expect.closeTo(v, 9)));
    expect(takeoff(m).assemblies.map((a) => a.section)).toEqual(['IPE 300']);
  });

  it('a splice has plates at both sides of the web and over the flanges, a gusset reaches from the face to the brace', () => {
    const a = member({ id: 'a', to: [3000, 0], joints: [joint('end', 'splice', 'b')] }),
      b = member({ id: 'b', from: [3000, 0], to: [6000, 0] }),
      spliced = joinedFrame(model(a, b));
    expect(spliced.doubts).toEqual([]);
    expect(spliced.plates.map((p) => p.name)).toEqual([
      'web plate',
      'web plate behind',
      'upper cover',
      'lower cover',
    ]);
    expect(rowOf(model(a, b), 'a').length).toBeCloseTo(2995, 9);
    expect(rowOf(model(a, b), 'b').length).toBeCloseTo(2995, 9);
    expect(spliced.shapes.get('a')!.holes.length).toBe(spliced.shapes.get('b')!.holes.length);
    const brace = member({
        id: 'brace',
        from: [-2000, 0],
        to: [0, 0],
        rise: [0, 2000],
        section: table('L 80x80x8'),
        joints: [joint('end', 'gusset', 'column')],
      }),
      braced = joinedFrame(model(column(), brace));
    expect(braced.doubts).toEqual([]);
    expect(braced.plates[0]).toMatchObject({ name: 'gusset', weldedTo: 'column' });
    // One side of it lies on the flange.
    const { origin, x, y, outline } = braced.plates[0],
      xs = outline.map(([u, v]) => origin[0] + u * x[0] + v * y[0]);
    expect(xs.filter((v) => Math.abs(v + 100) < 1e-6)).toHaveLength(2);
    expect(Math.max(...xs)).toBeCloseTo(-100, 6);
    expect(words(model(column(), { ...brace, turn: Math.PI / 2 }))[0]).toContain('quarter turn');
  });

  it('typed sizes win; bolts outside their plate, too near an edge or one another are told', () => {
    const made = (sizes: Joint['sizes']) =>
      model(column(), beam({ joints: [joint('end', 'endPlate', 'column', sizes)] }));
    expect(joinedFrame(made({ thickness: 25, bolt: 24 })).plates[0].thickness).toBe(25);
    expect(joinedFrame(made({ bolt: 19.05 })).bolts[0]).toMatchObject({ grade: 'A325' });
    expect(words(made({ gauge: 300, width: 120 }))).toContain('a bolt lies outside its end plate');
    expect(words(made({ gauge: 60, width: 100 }))).toContain('bolts lie too near an edge of its end plate');
    expect(words(made({ pitch: 10 }))).toContain('bolts lie too near one another in its end plate');
    expect(words(made({ thickness: 600 }))[0]).toContain('no bolt is as long');
  });

  it('bolts have the sizes and lengths of their standards', () => {
    expect(['M12', 'M16', 'M20', 'M24', 'M30'].map((_, i) => boltOf([12, 16, 20, 24, 30][i]))).toMatchObject([
      { head: 7.5, nut: 10.8, flats: 18, hole: 13 },
      { head: 10, nut: 14.8, flats: 24, hole: 18 },
      { head: 12.5, nut: 18, flats: 30, hole: 22 },
      { head: 15, nut: 21.5, flats: 36, hole: 26 },
      { head: 18.7, nut: 25.6, flats: 46, hole: 33 },
    ]);
    fc.assert(
      fc.property(
        fc.constantFrom(10, 12, 16, 20, 24, 30, 12.7, 19.05, 25.4),
        fc.double({ min: 5, max: 200, noNaN: true }),
        (d, grip) => {
          const s = boltOf(d),
            length = boltLength(s, grip)!,
            over = length - (grip + 2 * s.washer + s.nut + 2 * s.pitch);
          expect(over).toBeGreaterThan(-1e-6);
          expect(over).toBeLessThan(20);
        },
      ),
    );
    expect(boltLength(boltOf(20), 1000)).toBeNull();
  });
});

describe('joints that go elsewhere', () => {
  const frame = () => [column(), beam({ joints: [joint('end', 'endPlate', 'column', { thickness: 20 })] })];
  it('copies of both are joined to one another; what is copied without its partner is cut square', () => {
    const m = model(...frame());
    let n = 0;
    const [c, b] = copiesOf(frame(), () => `copy${n++}`, m);
    expect(jointAt(b as Member, 'end')).toMatchObject({ to: c.id, sizes: { thickness: 20 } });
    expect((copiesOf([frame()[1]], () => 'alone', m)[0] as Member).joints).toBeNull();
  });

  it('turned or mirrored a frame has the same pieces: lengths, masses, plates and bolts; mirrored twice it is itself', () => {
    const rafter = member({
        id: 'rafter',
        from: [-2500, 0],
        to: [0, 0],
        rise: [500, 2200],
        section: table('UPE 200'),
        point: 4,
        joints: [joint('end', 'face', 'column', { gap: 3 })],
      }),
      given = [
        ...frame(),
        rafter,
        member({
          id: 'post',
          from: [-4000, 0],
          to: [-4000, 0],
          rise: [0, 2000],
          joints: [joint('start', 'basePlate', null)],
        }),
      ],
      count = (list: readonly Member[]) => {
        const { members, plates, bolts, assemblies } = takeoff(model(...list));
        return {
          members: members.map((r) =>
            [r.id, r.length, r.mass].map((v) => (typeof v === 'number' ? v.toFixed(4) : v)),
          ),
          plates: plates.map((p) => [p.mark, p.name, p.count, p.mass.toFixed(6)]),
          bolts: bolts.map((b) => [b.name, b.count]),
          assemblies: assemblies.map((a) => [a.mark, a.parts, a.count, a.mass.toFixed(4)]),
        };
      };
    const before = count(given);
    for (const map of [
      rotationAbout(0.7, [300, -200]),
      mirrorIn([0, 0], [1, 2])!,
      mirrorIn([0, 0], [1, 0])!,
    ]) {
      expect(count(given.map((e) => movedBy(e, map)))).toEqual(before);
    }
    const twice = given.map((e) => movedBy(movedBy(e, mirrorIn([0, 0], [1, 2])!), mirrorIn([0, 0], [1, 2])!));
    expect(count(twice)).toEqual(before);
  });

  it('marks tell pieces apart by their cuts and holes, equal ones however they are held, and mirrored ones where they differ', () => {
    const at =
      (y: number) =>
      (e: Member): Member => ({
        ...e,
        id: `${e.id}${y}`,
        from: [e.from[0], e.from[1] + y],
        to: [e.to[0], e.to[1] + y],
        joints: e.joints?.map((j) => ({ ...j, to: j.to && `${j.to}${y}` })) ?? null,
      });
    const pair = (y: number, form: Joint['form'], more: Partial<Member> = {}) =>
      [column({ turn: 0 }), beam({ joints: [joint('end', form, 'column')], ...more })].map(at(y));
    const swapped = pair(9000, 'endPlate').map((e) => (e.id.startsWith('beam') ? endsSwapped(e) : e));
    const m = model(...pair(0, 'endPlate'), ...pair(3000, 'endPlate'), ...pair(6000, 'face'), ...swapped),
      marks = marksOf(m);
    expect(marks.get('beam0')).toBe(marks.get('beam3000'));
    expect(marks.get('beam0')).toBe(marks.get('beam9000'));
    expect(marks.get('beam6000')).not.toBe(marks.get('beam0'));
    // Drilled columns are other pieces than plain ones.
    expect(marks.get('column0')).toBe(marks.get('column9000'));
    expect(marks.get('column6000')).not.toBe(marks.get('column0'));
    expect(markingChanges(applyOrThrow(m, group(markingChanges(m))!))).toEqual([]);
    // A channel cut at an angle across its width, and its mirror image.
    const skew = (id: string, y: number, mirrored: boolean): Member[] => [
      column({ id: `c${id}`, from: [0, y], to: [0, y] }),
      member({
        id,
        from: [-3000, y - (mirrored ? -1500 : 1500)],
        to: [0, y],
        rise: [1000, 1000],
        section: table('UPE 200'),
        mirrored,
        joints: [joint('end', 'face', `c${id}`)],
      }),
    ];
    const hands = marksOf(model(...skew('l', 0, false), ...skew('r', 5000, true), ...skew('k', 9000, false)));
    expect(hands.get('l')).toBe(hands.get('k'));
    expect(hands.get('l')).toBe(hands.get('r'));
    const other = marksOf(
      model(...skew('l', 0, false), ...skew('r', 5000, true).map((e) => ({ ...e, mirrored: false }))),
    );
    expect(other.get('l')).not.toBe(other.get('r'));
  });

  it('what is no joint is refused at the door', () => {
    expect(parseEntity(beam({ joints: [joint('end', 'endPlate', 'column', { bolt: 20 })] }))).toBeDefined();
    for (const wrong of [
      [joint('end', 'face', null)],
      [joint('end', 'face', 'a'), joint('end', 'mitre', 'a')],
      [{ ...joint('end', 'face', 'a'), sizes: { depth: 3 } }],
      [joint('end', 'face', 'a', { gap: -1 })],
      // More than are ever put would take minutes to hold against one another.
      [joint('end', 'endPlate', 'a', { rows: 5000 })],
      [{ end: 'middle', form: 'face', to: 'a' }],
      'face',
    ])
      expect(() => parseEntity({ ...beam(), joints: wrong })).toThrow();
    expect(withJoint(beam({ joints: [joint('end', 'face', 'a')] }), 'end', null)).toEqual({ joints: null });
  });
});
