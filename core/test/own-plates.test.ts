import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  drawingOfModel,
  plateArchive,
  plateDrawings,
  writeIfc,
  writeNc,
  writeStep,
} from '@calque/core/exchange';
import { frameDoubts, joinedFrame, plateAreas } from '@calque/core/framing';
import { mirrorIn, rotationAbout } from '@calque/core/geometry';
import {
  applyOrThrow,
  circleRing,
  copiesOf,
  get,
  makeAssembly,
  movedBy,
  ofType,
  parseEntity,
  removeElements,
  slotRing,
  type Bolts,
  type Plate,
} from '@calque/core/model';
import { enclosedBy, bodiesOf } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { unzipSync } from 'fflate';
import * as WebIfc from 'web-ifc';
import { globalId } from '../src/exchange/ifc/guid.ts';
import { joint, column, beam, model, rowOf, table, words } from './given-joints.ts';
import { member } from './given-members.ts';
import { bolts, plate, ringOf } from './given-plates.ts';
import { ifcBodies } from './ifc-bodies.ts';
import { readStep, solidOf } from './step-reader.ts';

const disc = (d: number) => (Math.PI / 4) * d * d;

describe('plates by themselves', () => {
  it('are counted by their outline without holes and slots, in their own material', () => {
    const hole = circleRing([1040, 0], 30),
      slot = slotRing([1120, 0], 60, 22, 0.4),
      m = model(plate({ rings: [...plate().rings, hole, slot], density: 2700, material: 'EN AW-6082' })),
      [row] = takeoff(m).plates,
      net = 200 * 100 - disc(30) - disc(22) - 38 * 22;
    expect(words(m)).toEqual([]);
    expect(row).toMatchObject({
      mark: 'p1',
      name: 'plate',
      length: 200,
      width: 100,
      holes: 2,
      material: 'EN AW-6082',
    });
    expect(row.area).toBeCloseTo(net / 1e6, 12);
    expect(row.mass).toBeCloseTo((net * 10 * 2700) / 1e9, 9);
    const [body] = bodiesOf(m);
    expect(enclosedBy(body.mesh()) / (net * 10)).toBeCloseTo(1, 2);
  });

  it('round ones are exact, and equal wherever they begin', () => {
    const turned = {
        points: [
          [500, 100],
          [500, -100],
        ] as [number, number][],
        bulges: [1, 1],
      },
      rings = [circleRing([0, 0], 200), circleRing([60, 0], 22), circleRing([-60, 0], 22)],
      m = model(
        plate({ id: 'a', rings }),
        plate({ id: 'b', rings: [turned, circleRing([500, 60], 22), circleRing([500, -60], 22)] }),
        // Its holes stand at a right angle.
        plate({ id: 'c', rings: [turned, circleRing([500, 60], 22), circleRing([560, 0], 22)] }),
      ),
      rows = takeoff(m).plates;
    expect(rows.map((r) => [r.members, r.count])).toEqual(
      expect.arrayContaining([
        [['a', 'b'], 2],
        [['c'], 1],
      ]),
    );
    expect(rows[0].area).toBeCloseTo((disc(200) - 2 * disc(22)) / 1e6, 12);
  });

  it('are alike however they are turned, turned over or lie; another bend or slot makes another', () => {
    const bent = {
        points: [
          [0, 0],
          [200, 0],
          [160, 100],
          [0, 100],
        ] as [number, number][],
        bulges: [0, 0.2, 0, 0],
      },
      rings = [bent, slotRing([80, 50], 50, 18, 0.5)];
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.boolean(),
        fc.nat(3),
        (angle, mirrored, first) => {
          const begun = {
              points: [...bent.points.slice(first), ...bent.points.slice(0, first)],
              bulges: [...bent.bulges.slice(first), ...bent.bulges.slice(0, first)],
            },
            turned = movedBy(plate({ id: 'b', rings: [begun, rings[1]] }), rotationAbout(angle, [900, 40])),
            other = mirrored ? movedBy(turned, mirrorIn([0, 0], [1, 0.3])!) : turned;
          expect(takeoff(model(plate({ id: 'a', rings }), other)).plates.map((r) => r.count)).toEqual([2]);
        },
      ),
      { numRuns: 60 },
    );
    const inwards = { ...bent, bulges: [0, -0.2, 0, 0] },
      m = model(
        plate({ id: 'a', rings }),
        plate({ id: 'b', rings: [inwards, rings[1]] }),
        plate({ id: 'c', rings: [bent, slotRing([80, 50], 50, 18, 0.6)] }),
      );
    expect(takeoff(m).plates).toHaveLength(3);
  });

  it('that are none are said at the place, and the rest is still derived', () => {
    const m = model(
      plate({ id: 'crossed', rings: [ringOf([0, 0], [100, 100], [100, 0], [0, 100])] }),
      plate({ id: 'holed', rings: [...plate().rings, circleRing([1195, 0], 30)] }),
      plate({ id: 'loose', weldedTo: 'gone' }),
    );
    expect(frameDoubts(m).joints).toEqual([
      { id: 'crossed', end: null, words: 'its outline crosses itself: no plate is made of it' },
      { id: 'holed', end: null, words: 'a hole does not lie within its outline and is not cut' },
      { id: 'loose', end: null, words: 'the member to which it is welded is not there any more' },
    ]);
    expect(takeoff(m).plates).toMatchObject([{ count: 2, holes: 0 }]);
  });

  it('holes that run into one another are cut once, and that is said', () => {
    const hole = circleRing([1100, 0], 30),
      m = model(
        plate({ rings: [...plate().rings, hole, circleRing([1110, 0], 30), hole, circleRing([1100, 0], 5)] }),
      );
    expect([...new Set(words(m))]).toEqual(['a hole runs into another of it and is not cut']);
    expect(plateAreas(joinedFrame(m).plates[0]).net).toBeCloseTo(200 * 100 - disc(30), 6);
  });

  it('welded to a member they are of its assembly', () => {
    const on = member({ id: 'beam' }),
      m = model(on, plate({ weldedTo: 'beam' }));
    expect(takeoff(m).assemblies).toMatchObject([{ section: 'IPE 200', parts: '1 p1', count: 1 }]);
    expect(takeoff(m).assemblies[0].mass).toBeCloseTo(rowOf(m).mass! + (200 * 100 * 10 * 7850) / 1e9, 9);
  });
});

describe('bolts by themselves', () => {
  it('go through all that lies on one another: grip, length and holes follow, and follow again', () => {
    const m = model(member({ id: 'beam' }), plate(), bolts()),
      { bolts: sets, shapes, plates } = joinedFrame(m);
    expect(words(m)).toEqual([]);
    // 10 of the plate and 8.5 of the flange; two washers of 2.5, a nut of 10.8, two threads of 1.75: 37.8.
    expect(sets).toMatchObject([{ name: 'M12 x 40', grip: 18.5, length: 40 }]);
    expect(sets[0].at.map((p) => p[2])).toEqual([110, 110, 110, 110]);
    expect(sets[0].axis).toEqual([0, 0, -1].map((v) => expect.closeTo(v, 12)));
    expect(plates[0].holes).toHaveLength(4);
    expect(shapes.get('beam')!.holes).toEqual(
      [
        [-28, 1040],
        [-28, 1160],
        [28, 1040],
        [28, 1160],
      ].map(([y, z]) =>
        expect.objectContaining({
          through: 'top',
          d: 13,
          depth: 8.5,
          x: expect.closeTo(-y, 9),
          y: expect.closeTo(95.75, 9),
          z: expect.closeTo(z, 9),
        }),
      ),
    );
    expect(rowOf(m).holes).toBe(4);
    expect(takeoff(m).bolts).toMatchObject([{ name: 'M12 x 40', count: 4, members: ['bolts'] }]);
    const thicker = model(member({ id: 'beam' }), plate({ thickness: 30 }), bolts({ reversed: true }));
    expect(joinedFrame(thicker).bolts).toMatchObject([{ grip: 38.5, name: 'M12 x 60' }]);
    expect(joinedFrame(thicker).bolts[0].at[0][2]).toBeCloseTo(91.5, 9);
    // Where it lies on the flange no more they hold the plate alone.
    const lifted = model(member({ id: 'beam' }), plate({ rise: 120 }), bolts());
    expect(joinedFrame(lifted).bolts).toMatchObject([{ grip: 10 }]);
    expect(joinedFrame(lifted).shapes.has('beam')).toBe(false);
  });

  it('through timber the whole depth is drilled, its volume less by that', () => {
    const post = member({
        id: 'post',
        section: { form: 'sizes', shape: 'rectangle', h: 200, b: 100, tw: 0, tf: 0, r: 0 },
        density: 420,
      }),
      m = model(
        post,
        bolts({ of: 'post', d: 20, at: [2000, 0], pattern: { form: 'circle', count: 1, diameter: 10 } }),
      );
    expect(joinedFrame(m).bolts).toMatchObject([{ grip: 200 }]);
    expect(rowOf(m, 'post').mass).toBeCloseTo(((4000 * 200 * 100 - disc(22) * 200) * 420) / 1e9, 6);
  });

  it('of a grade that is said, in thousands at most in a pattern', () => {
    const m = model(member({ id: 'beam' }), plate(), bolts({ grade: '10.9' }));
    expect(takeoff(m).bolts).toMatchObject([{ grade: '10.9' }]);
    const pattern = { form: 'rows' as const, rows: 100, columns: 100, pitch: 60, gauge: 60 };
    expect(() => parseEntity(bolts({ pattern }))).toThrow(/pattern/);
    expect(() => parseEntity({ ...bolts(), grade: '99' })).toThrow();
  });

  it('of outlines with too many corners no plate is made, in no time', () => {
    const ring = ringOf(
      ...Array.from({ length: 20000 }, (_, i): [number, number] => [
        1000 * Math.cos((2 * Math.PI * i) / 20000),
        1000 * Math.sin((2 * Math.PI * i) / 20000),
      ]),
    );
    expect(words(model(plate({ rings: [ring] })))).toEqual([
      expect.stringContaining('more than 3000 corners'),
    ]);
  });

  it('that stand on others, or on a hole too small for them, are told, and drill nothing twice', () => {
    const m = model(member({ id: 'beam' }), plate(), bolts(), bolts({ id: 'again' }));
    expect(words(m)).toEqual(['they stand where other bolts do already']);
    expect(joinedFrame(m).plates[0].holes).toHaveLength(4);
    expect(joinedFrame(m).shapes.get('beam')!.holes).toHaveLength(4);
    const small = model(
      plate({ rings: [...plate().rings, circleRing([1100, 0], 8)] }),
      bolts({ pattern: { form: 'rows', rows: 1, columns: 1, pitch: 0, gauge: 0 } }),
    );
    expect(words(small)).toEqual(['bolts run into a hole of a plate that is too small for them']);
  });

  it('of two walls they take the nearer to where they were put', () => {
    const on = (rise: number) =>
      joinedFrame(model(member({ id: 'beam' }), bolts({ of: 'beam', rise }))).shapes.get('beam')!.holes[0];
    expect(on(100).through).toBe('top');
    expect(on(-90).through).toBe('bottom');
  });

  it('outside of what they hold, too near an edge or an end, or with nothing to hold, is said in words', () => {
    const said = (...e: Parameters<typeof model>) => words(model(member({ id: 'beam' }), ...e));
    expect(said(plate(), bolts({ at: [1190, 0] }))).toEqual(
      ['a bolt lies outside of what they hold', 'bolts lie too near an edge of a plate'].filter(
        (w) => !w.includes('edge'),
      ),
    );
    expect(
      said(plate(), bolts({ pattern: { form: 'rows', rows: 2, columns: 2, pitch: 56, gauge: 180 } })),
    ).toEqual(['bolts lie too near an edge of a plate']);
    expect(
      said(
        bolts({
          of: 'beam',
          at: [10, 0],
          pattern: { form: 'rows', rows: 2, columns: 1, pitch: 56, gauge: 0 },
        }),
      ),
    ).toEqual(['bolts lie too near an end of a member']);
    expect(said(bolts({ of: 'gone' }))).toEqual(['a bolt lies outside of what they hold']);
    expect(said(bolts({ of: 'gone', at: [0, 9000] }))).toEqual([
      'they hold nothing: no plate or member lies square to them there',
    ]);
    expect(
      said(plate({ rise: 200 }), bolts({ pattern: { form: 'circle', count: 8, diameter: 40 } })),
    ).toEqual(['they stand too near one another']);
  });

  it('keep to a slot that is there, and to the copy of what they hold', () => {
    const slotted = plate({ rings: [...plate().rings, slotRing([1100, 0], 60, 13, 0)] }),
      one = bolts({ pattern: { form: 'circle', count: 1, diameter: 10 }, at: [1105, 0] }),
      m = model(member({ id: 'beam' }), slotted, {
        ...one,
        at: [1100, 0],
        pattern: { form: 'rows', rows: 1, columns: 1, pitch: 0, gauge: 0 },
      });
    expect(joinedFrame(m).plates[0].holes).toEqual([]);
    let n = 0;
    const copies = copiesOf([plate(), bolts()], () => `copy${++n}`, model(plate(), bolts()));
    expect(copies[1]).toMatchObject({ id: 'copy2', of: 'copy1' });
    const cleared = applyOrThrow(m, removeElements(m, [slotted])!);
    expect(get(cleared, 'bolts', 'bolts')!.of).toBeNull();
    expect(words(cleared)).toContain('the plate or member that they hold is not there any more');
  });

  it('within a group go on holding what they held', () => {
    const m = model(member({ id: 'beam' }), plate(), bolts()),
      grouped = applyOrThrow(
        m,
        makeAssembly(m, [...ofType(m, 'plate'), ...ofType(m, 'bolts')], {
          id: 'g',
          placedId: 'p',
          name: 'Seat',
          base: [1000, 0],
        })!,
      );
    expect(words(grouped)).toEqual([]);
    expect(joinedFrame(grouped).bolts).toMatchObject([{ grip: 18.5 }]);
    expect(joinedFrame(grouped).shapes.get('beam')!.holes).toHaveLength(4);
    // And held from outside they go on being held by name.
    const outside = applyOrThrow(
      m,
      makeAssembly(m, ofType(m, 'plate'), { id: 'g', placedId: 'p', name: 'Seat', base: [1000, 0] })!,
    );
    expect(words(outside)).toEqual([]);
    expect(joinedFrame(outside).bolts).toMatchObject([{ grip: 18.5 }]);
  });
});

describe('delivered', () => {
  const rings = [...plate().rings, slotRing([1100, 0], 40, 18, 0)],
    given = model(member({ id: 'beam' }), plate({ rings }), bolts()),
    net = (200 * 100 - 4 * disc(13) - disc(18) - 22 * 18) * 10;

  it('as STEP: the plate as an independent reader measures it', async () => {
    expect(plateAreas(joinedFrame(given).plates[0]).net * 10).toBeCloseTo(net, 6);
    const { meshes } = await readStep(writeStep(given, { at: '2026-11-30T12:00:00' })!);
    expect(solidOf(meshes.find((x) => x.name === 'plate')!).volume / net).toBeCloseTo(1, 3);
    expect(writeStep(model(plate()), { at: '2026-11-30T12:00:00' })).toContain('MANIFOLD_SOLID_BREP');
  });

  it('as IFC: plate and bolts in the storey, the beam drilled', async () => {
    const api = new WebIfc.IfcAPI();
    await api.Init();
    const volumeOf = (m: typeof given, id: string) => {
      const text = writeIfc(m, { view: 'editable', at: '2026-11-30T12:00:00', projectKey: 'a1' }),
        open = api.OpenModel(new TextEncoder().encode(text), { CIRCLE_SEGMENTS: 64 }),
        volume = ifcBodies(api, open).get(globalId(`a1/${id}`))?.volume;
      api.CloseModel(open);
      return volume;
    };
    expect(volumeOf(given, 'plate')! / net).toBeCloseTo(1, 3);
    expect(volumeOf(given, 'bolts')).toBeGreaterThan(0);
    const whole = volumeOf(model(member({ id: 'beam' })), 'beam')!;
    // Of a size that the reader's own figures, which are rough, can tell.
    const drilled = volumeOf(model(member({ id: 'beam' }), bolts({ of: 'beam', d: 20 })), 'beam')!;
    expect((whole - drilled) / (4 * disc(22) * 8.5)).toBeCloseTo(1, 1);
  });

  it('as NC: a file of code B with its edge, its slot as an inner contour, and its holes', () => {
    const file = writeNc(given)
      .find((f) => f.name === 'p1.nc1')!
      .text.split('\r\n');
    expect(file[8]).toBe('  B');
    expect(file.slice(9, 15).map(Number)).toEqual([200, 100, 0, 0, 10, 0]);
    expect(file.filter((l) => l === 'AK' || l === 'IK' || l === 'BO')).toEqual(['AK', 'IK', 'BO']);
    const holes = file
      .slice(file.indexOf('BO') + 1, file.indexOf('EN'))
      .map((l) => l.match(/[\d.]+/g)!.map(Number));
    expect(holes.map(([x, y, d]) => [x, y, d]).sort()).toEqual(
      [
        [40, 22, 13],
        [160, 22, 13],
        [40, 78, 13],
        [160, 78, 13],
      ].sort(),
    );
    // Its mass for each metre.
    expect(Number(file[15])).toBeCloseTo((net * 7850) / 1e9 / 0.2, 2);
    expect(writeNc(model(plate({ density: 2700 })))).toEqual([]);
  });

  it('on a plan with those of joints they lie on one layer', () => {
    const m = model(column({ joints: [joint('start', 'basePlate', null)] }), plate(), bolts()),
      names = drawingOfModel(m, 'ground').layers.map((l) => l.name);
    expect(names.filter((n) => n === 'Plates' || n === 'Bolts').sort()).toEqual(['Bolts', 'Plates']);
  });

  it('as DXF: bends and slots as they are drawn', () => {
    const round = model(plate({ rings: [circleRing([0, 0], 200), slotRing([0, 0], 40, 18, 0)] })),
      [{ drawing }] = plateDrawings(round);
    expect(
      drawing.shapes.filter((s) => s.kind === 'polyline').map((s) => s.kind === 'polyline' && s.bulges),
    ).toEqual([
      [1, 1],
      [0, 1, 0, 1],
    ]);
    expect(Object.keys(unzipSync(plateArchive(round)!))).toEqual(['p1.dxf']);
  });
});

it('random plates and bolts never throw, nor give a figure that is none', () => {
  const figure = fc.oneof(
      fc.integer({ min: -300, max: 300 }),
      fc.double({ min: 0.001, max: 500, noNaN: true }),
    ),
    pair = fc.tuple(figure, figure),
    some = fc.record({
      ring: fc.array(pair, { minLength: 3, maxLength: 6 }),
      hole: fc.tuple(pair, fc.double({ min: 0.1, max: 80, noNaN: true })),
      at: pair,
      turn: fc.double({ min: -4, max: 4, noNaN: true }),
      d: fc.constantFrom(1, 12, 19.05, 100),
      of: fc.constantFrom('plate', 'column', 'beam', 'x', null),
      rise: figure,
      rows: fc.integer({ min: 1, max: 6 }),
      section: fc.constantFrom('IPE 200', 'CHS 114.3x5 hot', 'L 100x100x10', 'none', 'UPN 200'),
    });
  fc.assert(
    fc.property(some, ({ ring, hole, at, turn, d, of, rise, rows, section }) => {
      const m = model(
        column({ joints: [joint('start', 'basePlate', null)] }),
        beam({ section: table(section), joints: [joint('end', 'endPlate', 'column')] }),
        plate({ rings: [ringOf(...ring), circleRing(...hole)], rise } as Partial<Plate>),
        bolts({
          at,
          turn,
          d,
          of,
          rise,
          pattern: { form: 'rows', rows, columns: 2, pitch: 40, gauge: 30 },
        } as Partial<Bolts>),
      );
      const { plates, bolts: b, assemblies } = takeoff(m);
      expect(JSON.stringify([plates, b, assemblies])).not.toMatch(/null,"mass"|NaN|Infinity/);
      for (const row of plates) expect(row.mass).toBeGreaterThan(0);
      for (const body of bodiesOf(m)) expect([...body.mesh().triangles].every(Number.isFinite)).toBe(true);
      expect(writeStep(m, { at: 'x' })).not.toMatch(/NaN|Infinity/);
    }),
    { numRuns: 150 },
  );
});
