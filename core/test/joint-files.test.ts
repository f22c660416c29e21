import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { joinedFrame, shapeVolume } from '@calque/core/framing';
import {
  JOINT_FORMS,
  JOINT_SIZES,
  MOST_ROWS,
  knownSection,
  parseEntity,
  type Joint,
  type Member,
} from '@calque/core/model';

import { drawingOfModel, plateDrawings, writeDxf, writeIfc, writeNc, writeStep } from '@calque/core/exchange';
import { meshOfMember } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import * as WebIfc from 'web-ifc';
import { globalId } from '../src/exchange/ifc/guid.ts';
import { boxOf, ifcBodies } from './ifc-bodies.ts';
import { instances, wrongIn } from './ifc-schema.ts';
import { member } from './given-members.ts';

import { table, model, joint, column, beam } from './given-joints.ts';

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
        // Readers draw fillets with corners.
        const volume = shape ? shapeVolume(section!, shape) : section!.figures.area * 3000;
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
      fc.record(Object.fromEntries(JOINT_SIZES.map((k) => [k, k === 'rows' ? fc.nat(MOST_ROWS) : size])), {
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
