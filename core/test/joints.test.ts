import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  boltLength,
  boltOf,
  joinedFrame,
  markingChanges,
  onPlate,
  marksOf,
  shapeParts,
  shapeVolume,
  type Shape,
} from '@calque/core/framing';
import {
  applyOrThrow,
  copiesOf,
  cutAt,
  endsSwapped,
  flatSection,
  get,
  group,
  groundStorey,
  jointAt,
  JOINT_FORMS,
  JOINT_SIZES,
  knownSection,
  modelOf,
  movedBy,
  parseEntity,
  removeElements,
  setFields,
  withJoint,
  type Entity,
  type Joint,
  type Member,
  type Model,
} from '@calque/core/model';
import { mirrorIn, rotationAbout } from '@calque/core/geometry';
import { drawingOfModel, plateDrawings, writeDxf, writeIfc, writeNc, writeStep } from '@calque/core/exchange';
import { bodiesOf, enclosedBy, meshOfMember } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import * as WebIfc from 'web-ifc';
import { globalId } from '../src/exchange/ifc/guid.ts';
import { boxOf, ifcBodies } from './ifc-bodies.ts';
import { instances, wrongIn } from './ifc-schema.ts';
import { member } from './given-members.ts';

const table = (name: string) => ({ form: 'table' as const, name });
const model = (...members: Entity[]): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 1 },
    groundStorey('ground'),
    ...members,
  ]);
const joint = (end: Joint['end'], form: Joint['form'], to: string | null, sizes?: Joint['sizes']): Joint => ({
  end,
  form,
  to,
  ...(sizes && { sizes }),
});
/** A column of HEB 200 on the origin; its flanges look along x, or along y where it is given a quarter turn. */
const column = (more: Partial<Member> = {}): Member =>
  member({
    id: 'column',
    from: [0, 0],
    to: [0, 0],
    rise: [0, 4000],
    section: table('HEB 200'),
    role: 'column',
    ...more,
  });
/** A beam of IPE 200 along x that ends at the column's middle, 2 m above the floor. */
const beam = (more: Partial<Member> = {}): Member =>
  member({ id: 'beam', from: [-4000, 0], to: [0, 0], rise: [2000, 2000], ...more });
const rowOf = (m: Model, id = 'beam') => takeoff(m).members.find((r) => r.id === id)!;
const shapeOf = (m: Model, id = 'beam') => joinedFrame(m).shapes.get(id)!;
const words = (m: Model) => joinedFrame(m).doubts.map((d) => d.words);

describe('an end cut to another member', () => {
  it('ends at the face of its flange, at its web where it goes between the flanges, less a gap', () => {
    const cut = (given: Partial<Member>, sizes?: Joint['sizes'], more: Partial<Member> = {}) =>
      rowOf(model(column(given), beam({ joints: [joint('end', 'face', 'column', sizes)], ...more })));
    expect(cut({}).length).toBeCloseTo(3900, 9);
    expect(cut({}, { gap: 12 }).length).toBeCloseTo(3888, 9);
    // A web of 9 mm; the beam is 100 wide, and 134 are between the fillets.
    expect(cut({ turn: Math.PI / 2 }).length).toBeCloseTo(4000 - 4.5, 9);
    // What is too wide for that ends before the flanges.
    expect(cut({ turn: Math.PI / 2 }, undefined, { section: table('IPE 360') }).length).toBeCloseTo(3900, 9);
    // Drawn the other way, or from the other side, it comes to the same.
    const swapped = endsSwapped(beam({ joints: [joint('end', 'face', 'column')] }));
    expect(jointAt(swapped, 'start')).toMatchObject({ form: 'face', to: 'column' });
    expect(rowOf(model(column(), swapped)).length).toBeCloseTo(3900, 9);
    expect(cut({}).ends).toEqual(['square', 'square']);
  });

  it('is cut at an angle where it comes at one; volume and mass are those of the slanted solid', () => {
    const rafter = beam({ rise: [0, 2000], joints: [joint('end', 'face', 'column')] }),
      m = model(column(), rafter),
      row = rowOf(m),
      slope = Math.atan2(2000, 4000),
      { area } = knownSection(table('IPE 200'))!.figures;
    // Along its middle it ends where its line meets the face, 100 mm before the axis.
    const middle = 3900 / Math.cos(slope);
    expect(row.mass).toBeCloseTo((area * middle * 7850) / 1e9, 6);
    expect(row.length).toBeCloseTo(middle + 100 * Math.tan(slope), 6);
    expect(row.ends[1]).toBe('26.6° over its depth');
    expect(
      enclosedBy(
        bodiesOf(m)
          .find((b) => b.element.id === 'beam')!
          .mesh(),
      ),
    ).toBeCloseTo(area * middle, -5);
  });

  it('follows when the other moves or has another section, and says so when it is gone', () => {
    const m = model(column(), beam({ joints: [joint('end', 'face', 'column')] })),
      moved = applyOrThrow(m, setFields<Member>(column(), { from: [500, 0], to: [500, 0] })!),
      other = applyOrThrow(m, setFields<Member>(column(), { section: table('HEB 300') })!);
    expect(rowOf(moved).length).toBeCloseTo(4400, 9);
    expect(rowOf(other).length).toBeCloseTo(3850, 9);
    const gone = applyOrThrow(m, removeElements(m, [get(m, 'member', 'column')!])!);
    expect(jointAt(get(gone, 'member', 'beam')!, 'end')).toBeNull();
    expect(rowOf(gone).length).toBe(4000);
    // A package may name what is not there.
    expect(words(model(beam({ joints: [joint('end', 'face', 'nobody')] })))).toEqual([
      'the member that it met is not there any more',
    ]);
  });

  it('two that meet are mitred by one joint: each is the other’s mirror image', () => {
    const a = member({ id: 'a', to: [3000, 0], joints: [joint('end', 'mitre', 'b')] }),
      b = member({ id: 'b', from: [3000, 0], to: [3000, 2000] }),
      m = model(a, b),
      count = takeoff(m).members;
    // At right angles the longest edge runs on by half the width, 50 mm.
    expect(count.map((r) => r.length)).toEqual([3050, 2050].map((v) => expect.closeTo(v, 6)));
    expect(count.map((r) => r.ends)).toEqual([
      ['square', '45.0° across its width'],
      ['45.0° across its width', 'square'],
    ]);
    expect(count.map((r) => r.mass! / (22.36 * (r.id === 'a' ? 3 : 2)))).toEqual([
      expect.closeTo(1, 2),
      expect.closeTo(1, 2),
    ]);
    expect(words(model(a, { ...b, to: [4000, 0] }))).toEqual([]);
    expect(words(model(a, { ...b, from: [2900, 100], to: [-100, 100] }))[0]).toContain('no mitre');
  });

  it('never says that it is cut where nothing comes of it', () => {
    const along = beam({
      from: [0, -100],
      to: [0, -100],
      rise: [0, 3000],
      joints: [joint('end', 'face', 'column')],
    });
    expect(words(model(column(), along))[0]).toContain('meets no face');
    expect(rowOf(model(column(), along)).length).toBe(3000);
    const short = beam({ from: [-90, 0], joints: [joint('end', 'face', 'column')] });
    expect(words(model(column(), short))).toEqual([
      'nothing would be left between its cuts: its ends stay square',
    ]);
    expect(
      words(model(beam({ section: table('IPE 205'), joints: [joint('end', 'basePlate', null)] }))),
    ).toEqual(['its section is in no table: its end cannot be made']);
    expect(words(model(beam({ joints: [joint('end', 'face', 'beam')] })))).toEqual([
      'it cannot be joined to itself',
    ]);
  });
});

describe('a cope', () => {
  // A girder of IPE 300 across the beam's end; both lie with their tops in one plane.
  const girder = (more: Partial<Member> = {}) =>
    member({
      id: 'girder',
      from: [0, -2000],
      to: [0, 2000],
      rise: [2000, 2000],
      section: table('IPE 300'),
      point: 8,
      ...more,
    });
  const coped = (sizes?: Joint['sizes'], more: Partial<Member> = {}) =>
    beam({ point: 8, joints: [joint('end', 'cope', 'girder', sizes)], ...more });

  it('goes round the flange: as deep as that with its fillet and the clearance, and as far as it stands out', () => {
    const { notches, end } = shapeOf(model(girder(), coped()));
    // tf 10.7, r 15, clearance 10; half the flange less the web: 71.45, its end 10 from the web.
    expect(notches).toEqual([
      { end: 'end', side: 'top', depth: expect.closeTo(35.7, 9), length: expect.closeTo(71.45, 9) },
    ]);
    expect(end.z).toBeCloseTo(4000 - 3.55 - 10, 9);
    expect(rowOf(model(girder(), coped())).ends[1]).toBe('square, coped above 36 x 71');
    // As deep as the girder it is coped below as well; standing on its head its bottom is above.
    expect(
      shapeOf(model(girder(), coped({}, { section: table('IPE 300') }))).notches.map((n) => n.side),
    ).toEqual(['top', 'bottom']);
    expect(
      shapeOf(model(girder(), coped({}, { turn: Math.PI, point: 2 }))).notches.map((n) => n.side),
    ).toEqual(['bottom']);
  });

  it('takes the volume of the strip by the closed formula, and cannot be deeper than the section', () => {
    const m = model(girder(), coped()),
      section = knownSection(table('IPE 200'))!,
      shape = shapeOf(m),
      plain = { ...shape, notches: [] };
    // The flange of 100 by 8.5, two fillets of 12, and the web of 5.6 between.
    const strip = 100 * 8.5 + 5.6 * (35.7 - 8.5) + 2 * 12 * 12 * (1 - Math.PI / 4);
    expect((shapeVolume(section, plain) - shapeVolume(section, shape)) / (strip * 71.45)).toBeCloseTo(1, 4);
    expect(words(model(girder({ section: table('HEB 1000') }), coped({ clearance: 180 })))[0]).toContain(
      'deeper than its section',
    );
  });
});

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
      [{ end: 'middle', form: 'face', to: 'a' }],
      'face',
    ])
      expect(() => parseEntity({ ...beam(), joints: wrong })).toThrow();
    expect(withJoint(beam({ joints: [joint('end', 'face', 'a')] }), 'end', null)).toEqual({ joints: null });
  });
});

describe('in IFC', () => {
  const api = new WebIfc.IfcAPI();
  beforeAll(async () => {
    await api.Init();
  });
  const girder = member({
    id: 'girder',
    from: [0, 6000],
    to: [0, 9000],
    rise: [2000, 2000],
    section: table('IPE 300'),
    point: 8,
  });
  const given = [
    column({ joints: [joint('start', 'basePlate', null)] }),
    beam({ joints: [joint('end', 'endPlate', 'column')] }),
    member({
      id: 'rafter',
      from: [3000, 0],
      to: [0, 0],
      rise: [1000, 3000],
      section: table('UPE 200'),
      mirrored: true,
      joints: [joint('end', 'face', 'column')],
    }),
    girder,
    beam({
      id: 'coped',
      from: [-3000, 7000],
      to: [0, 7000],
      point: 8,
      joints: [joint('end', 'finPlate', 'girder')],
    }),
    // Coped at an angle.
    beam({
      id: 'skew',
      from: [-3000, 9000],
      to: [0, 8000],
      point: 8,
      joints: [joint('end', 'cope', 'girder')],
    }),
  ];
  it.each(['editable', 'reference'] as const)(
    '%s: members stand as they are cut, with their plates and bolts',
    (view) => {
      const m = model(...given),
        text = writeIfc(m, { view, at: '2026-11-30T12:00:00', projectKey: 'a1' }),
        id = api.OpenModel(new TextEncoder().encode(text), { CIRCLE_SEGMENTS: 64 }),
        bodies = ifcBodies(api, id),
        { shapes, plates, bolts, members } = joinedFrame(m);
      expect(wrongIn(instances(text))).toEqual([]);
      for (const { member: e, section } of members) {
        const there = bodies.get(globalId(`a1/${e.id}`))!,
          shape = shapes.get(e.id);
        // Holes are counted, not cut; readers draw fillets with corners.
        const volume = shape ? shapeVolume(section!, { ...shape, holes: [] }) : section!.figures.area * 3000;
        expect(there.volume / volume, e.id).toBeGreaterThan(0.94);
        expect(there.volume / volume, e.id).toBeLessThan(1.06);
        const own = boxOf([...meshOfMember(m, e.id).triangles]);
        own.forEach((v, i) => expect(Math.abs(there.box[i] - v), `${e.id} ${i}`).toBeLessThan(1.5));
      }
      for (const p of plates) expect(bodies.has(globalId(`a1/${p.id}`)), p.id).toBe(true);
      const plate = bodies.get(globalId('a1/column.start.base-plate'))!;
      expect(plate.box.slice(4)).toEqual([0, 23].map((v) => expect.closeTo(v, 3)));
      expect(plate.volume / (23 * (320 * 320 - 4 * (Math.PI / 4) * 22 ** 2))).toBeCloseTo(1, 3);
      const bolt = bodies.get(globalId('a1/beam.end.bolts'))!;
      // From under the heads, 12.5, to the nuts, 18, about a grip of 31.
      expect(bolt.box.slice(0, 2)).toEqual([-116 - 12.5, -85 + 18].map((v) => expect.closeTo(v, 3)));
      expect([
        text.match(/=IFCPLATE\(/g)!.length,
        text.match(/=IFCMECHANICALFASTENER\(/g)!.length,
        text.match(/=IFCELEMENTASSEMBLY\(/g)!.length,
      ]).toEqual([plates.length, bolts.length, 3]);
      api.CloseModel(id);
    },
  );
});

describe('for the saw and drill', () => {
  const girder = member({
    id: 'girder',
    from: [0, -2000],
    to: [0, 2000],
    rise: [2000, 2000],
    section: table('IPE 300'),
    point: 8,
  });
  const textOf = (e: Member, other: Member) => {
    const m = model(other, { ...e, mark: 'B1' });
    return writeNc(m)
      .find((f) => f.name === 'B1.nc1')!
      .text.split('\r\n');
  };
  /** The figures that follow a line, up to the next block. */
  const blocks = (lines: string[], code: string) =>
    lines.flatMap((l, i) => {
      if (l !== code) return [];
      const end = lines.findIndex((k, j) => j > i && /^[A-Z]/.test(k));
      return [lines.slice(i + 1, end)];
    });
  const points = (block: string[]) =>
    block.map((l) =>
      l
        .replace(/^ {2}[vou]/, '   ')
        .replace('u', ' ')
        .trim()
        .split(/\s+/)
        .map(Number),
    );
  const areaOf = (p: number[][]) =>
    Math.abs(p.slice(1).reduce((sum, [x, y], i) => sum + p[i][0] * y - x * p[i][1], 0)) / 2;

  it('a coped and drilled beam has its web without the cope, its flange as far as it goes, and its holes', () => {
    const lines = textOf(beam({ point: 8, joints: [joint('end', 'finPlate', 'girder')] }), girder),
      [web, above, below] = blocks(lines, 'AK').map(points),
      length = 4000 - 3.55 - 10;
    expect(Number(lines[9])).toBeCloseTo(length, 2);
    expect(areaOf(web)).toBeCloseTo(200 * length - 35.7 * 71.45, 0);
    expect(areaOf(above)).toBeCloseTo(100 * (length - 71.45), 0);
    expect(areaOf(below)).toBeCloseTo(100 * length, 0);
    const [drilled] = blocks(lines, 'BO').map(points);
    expect(drilled).toHaveLength(2);
    // 10 of gap and 40 of edge from the face of the web: 40 from the end.
    for (const [x, y, d] of drilled) {
      expect(x).toBeCloseTo(length - 40, 2);
      expect(Math.abs(y - 100)).toBeCloseTo(35, 2);
      expect(d).toBe(22);
    }
  });
  it('a mitre is told as the angle of the flanges; a slope as that of the web', () => {
    const a = member({ id: 'a', to: [3000, 0], joints: [joint('end', 'mitre', 'b')] }),
      b = member({ id: 'b', from: [3000, 0], to: [3000, 2000] }),
      mitred = textOf(a, b);
    expect(mitred.slice(17, 21).map((l) => Math.abs(Number(l)))).toEqual([0, 0, 0, 45]);
    const [web, above] = blocks(mitred, 'AK').map(points);
    expect(areaOf(web)).toBeCloseTo(200 * 3000, 0);
    expect(areaOf(above)).toBeCloseTo(100 * 3000, 0);
    expect(Math.max(...above.map(([x]) => x))).toBeCloseTo(3050, 2);
    const rafter = textOf(beam({ rise: [0, 2000], joints: [joint('end', 'face', 'column')] }), column());
    expect(rafter.slice(17, 21).map((l) => Math.abs(Number(l)))).toEqual([
      0,
      expect.closeTo(26.565, 3),
      0,
      0,
    ]);
  });
});

describe('whatever is joined to whatever', () => {
  const size = fc.oneof(fc.constantFrom(0, 1, 10, 5000), fc.double({ min: 0, max: 400, noNaN: true }));
  const anyJoint = fc.record({
    form: fc.constantFrom(...JOINT_FORMS),
    to: fc.constantFrom('m0', 'm1', 'm2', 'm3', 'nobody'),
    sizes: fc.option(
      fc.record(Object.fromEntries(JOINT_SIZES.map((k) => [k, k === 'rows' ? fc.nat(12) : size])), {
        requiredKeys: [],
      }),
    ),
  });
  const place = fc.oneof(fc.constantFrom(0, 1000, 3000), fc.double({ min: -4000, max: 4000, noNaN: true }));
  const anyMember = fc.record({
    from: fc.tuple(place, place),
    to: fc.tuple(place, place),
    rise: fc.tuple(place, place),
    section: fc.oneof(
      fc.constantFrom('IPE 200', 'HEB 300', 'UPE 200', 'L 80x80x8', 'SHS 100x100x5 hot', 'none').map(table),
      fc.constant({ form: 'sizes' as const, shape: 'rectangle' as const, h: 200, b: 60, tw: 0, tf: 0, r: 0 }),
    ),
    point: fc.constantFrom(1, 2, 5, 8, 9),
    turn: fc.constantFrom(0, Math.PI / 2, Math.PI, 0.3),
    mirrored: fc.boolean(),
    joints: fc
      .tuple(fc.option(anyJoint), fc.option(anyJoint))
      .map((list) => list.flatMap((j, i) => (j ? [{ ...j, end: i === 0 ? 'start' : 'end' }] : []))),
  });
  it('nothing throws, every figure is one, no piece weighs less than nothing, and all formats are written', () => {
    fc.assert(
      fc.property(fc.array(anyMember, { minLength: 2, maxLength: 4 }), (list) => {
        const members = list
          .map((e, i) =>
            member({
              ...(e as Partial<Member>),
              id: `m${i}`,
              joints: e.joints.map((j) => ({ ...j, to: j.form === 'basePlate' ? null : j.to })) as Joint[],
            }),
          )
          .filter((e) => Math.hypot(e.to[0] - e.from[0], e.to[1] - e.from[1], e.rise[1] - e.rise[0]) > 1);
        for (const e of members) parseEntity(e);
        const m = model(...members),
          { plates, bolts, assemblies, ...counted } = takeoff(m);
        for (const r of counted.members) {
          expect(Number.isFinite(r.length), JSON.stringify(r)).toBe(true);
          expect(r.length).toBeGreaterThan(0);
          if (r.mass !== null) expect(Number.isFinite(r.mass)).toBe(true);
        }
        for (const p of plates) expect(Number.isFinite(p.mass + p.length + p.width)).toBe(true);
        for (const b of bolts) expect(b.mass).toBeGreaterThan(0);
        for (const a of assemblies) expect(Number.isFinite(a.mass)).toBe(true);
        for (const { id } of counted.members)
          if (knownSection(members.find((e) => e.id === id)!.section))
            expect(meshOfMember(m, id).triangles.every(Number.isFinite)).toBe(true);
        expect(writeIfc(m, { view: 'editable', at: '2026-11-30T12:00:00' })).toContain('END-ISO');
        writeNc(m);
        writeStep(m, { at: '2026-11-30T12:00:00' });
        plateDrawings(m).forEach((d) => writeDxf(d.drawing, 'mm'));
        writeDxf(drawingOfModel(m, 'ground'), 'mm');
      }),
      { numRuns: 250 },
    );
  }, 60000);
});

describe('held against an independent library of solids', () => {
  let solids: Awaited<ReturnType<typeof Manifold>>;
  beforeAll(async () => {
    solids = await Manifold();
    solids.setup();
  });
  /** The section drawn out too far both ways, cut by the planes, and the notches taken from it as boxes that follow the end. */
  const volume = (name: string, shape: Shape): number => {
    const section = knownSection(table(name))!,
      rings = flatSection(section.rings).map((ring) => ring.map(([x, y]): [number, number] => [x, y])),
      long = 20000;
    let body = solids.Manifold.extrude(new solids.CrossSection(rings, 'EvenOdd'), long).translate([
      0,
      0,
      -long / 2,
    ]);
    // z - kx x - ky y at most the end's z, at least the start's.
    const trim = (c: Shape['start'], sign: 1 | -1) => {
      const n = Math.hypot(1, c.kx, c.ky);
      body = body.trimByPlane([(-sign * c.kx) / n, (-sign * c.ky) / n, sign / n], (sign * c.z) / n);
    };
    trim(shape.start, 1);
    trim(shape.end, -1);
    const { h, b } = section;
    for (const { end, side, depth, length } of shape.notches) {
      const c = shape[end],
        y0 = side === 'top' ? h / 2 - depth : -h / 2 - 1,
        y1 = side === 'top' ? h / 2 + 1 : depth - h / 2,
        z = (x: number, y: number) => c.z + c.kx * x + c.ky * y,
        corners = [-b, b].flatMap((x) =>
          [y0, y1].flatMap((y) =>
            (end === 'end' ? [z(x, y) - length, z(x, y) + 1] : [z(x, y) - 1, z(x, y) + length]).map(
              (v): [number, number, number] => [x, y, v],
            ),
          ),
        );
      body = body.subtract(solids.Manifold.hull(corners));
    }
    return body.volume();
  };
  it('cut, mitred and coped volumes are the same', () => {
    const slope = fc.double({ min: -0.8, max: 0.8, noNaN: true });
    fc.assert(
      fc.property(
        fc
          .constantFrom(
            'IPE 300',
            'HEB 200',
            'UPE 200',
            'L 100x100x10',
            'SHS 100x100x5 hot',
            'CHS 114.3x5 hot',
            'UPN 200',
          )
          .filter((n) => knownSection(table(n)) !== null),
        fc.tuple(slope, slope, slope, slope),
        fc.array(
          fc.record({
            end: fc.constantFrom<Joint['end'][]>('start', 'end'),
            side: fc.constantFrom<('top' | 'bottom')[]>('top', 'bottom'),
            depth: fc.double({ min: 5, max: 40, noNaN: true }),
            length: fc.double({ min: 10, max: 200, noNaN: true }),
          }),
          { maxLength: 3 },
        ),
        (name, [a, b, c, d], notches) => {
          const shape: Shape = {
              start: { z: 50, kx: a, ky: b },
              end: { z: 2500, kx: c, ky: d },
              notches,
              holes: [],
            },
            section = knownSection(table(name))!,
            // Corners are flat there and here; the exact area is that of arcs.
            flat = shapeParts(section, { ...shape, notches: [] }).reduce(
              (sum, p) => sum + p.outline.length,
              0,
            );
          expect(flat).toBeGreaterThan(0);
          expect(volume(name, shape) / shapeVolume(section, shape)).toBeCloseTo(1, 2);
          expect(cutAt(shape.end, [0, 0])).toBe(2500);
        },
      ),
      { numRuns: 60 },
    );
  });
});
