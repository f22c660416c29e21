import { beforeAll, describe, expect, it } from 'vitest';
import { writeStep } from '@calque/core/exchange';
import { joinedFrame, shapeVolume } from '@calque/core/framing';
import { flatSection, groundStorey, modelOf, type Joint, type Member } from '@calque/core/model';
import { enclosedBy, meshOfMember } from '@calque/core/solids';
import { boxOf } from './ifc-bodies.ts';
import { readStep, solidOf, type StepNode, type StepRead } from './step-reader.ts';
import { member } from './given-members.ts';

const table = (name: string) => ({ form: 'table' as const, name });
const meets = (end: Joint['end'], form: Joint['form'], to: string | null): Joint => ({ end, form, to });
const GIVEN: Member[] = [
  member({
    id: 'column',
    from: [0, 0],
    to: [0, 0],
    rise: [0, 4000],
    section: table('HEB 200'),
    role: 'column',
    mark: 'C1',
    joints: [meets('start', 'basePlate', null)],
  }),
  member({
    id: 'beam',
    from: [-4000, 0],
    to: [0, 0],
    rise: [2000, 2000],
    mark: 'Träger 1',
    // As wide apart as the column's flange is flat.
    joints: [{ ...meets('end', 'endPlate', 'column'), sizes: { gauge: 110, width: 190 } }],
  }),
  member({
    id: 'rafter',
    from: [3000, 0],
    to: [0, 0],
    rise: [1000, 3000],
    section: table('UPE 200'),
    mirrored: true,
    mark: 'R1',
    joints: [meets('end', 'face', 'column')],
  }),
  member({ id: 'tube', from: [0, 3000], to: [2000, 3000], section: table('SHS 100x100x5 hot'), mark: 'T1' }),
  member({
    id: 'coped',
    from: [-3000, 7000],
    to: [0, 7000],
    mark: 'B2',
    point: 8,
    joints: [meets('end', 'finPlate', 'girder')],
  }),
  member({ id: 'girder', from: [0, 6000], to: [0, 9000], section: table('IPE 300'), point: 8, mark: 'G1' }),
];
const model = modelOf([
  { type: 'settings', id: 'settings', name: "Rower's house · Łódź", units: 'mm', precision: 1 },
  groundStorey('ground'),
  ...GIVEN.filter((m) => m.section.form !== 'table' || m.id !== 'none'),
]);

describe('a frame as STEP', () => {
  const text = writeStep(model, { at: '2026-11-30T12:00:00' })!;
  let read: StepRead;
  beforeAll(async () => {
    read = await readStep(text);
  });
  const nodes = (n: StepNode): StepNode[] => [n, ...n.children.flatMap(nodes)];
  /** Of all solids of a product. */
  const product = (name: string) => {
    // The reader puts parts of one solid among those of their assembly, under their own names.
    const list = nodes(read.root)
      .flatMap((n) => n.meshes.filter((i) => n.name === name || read.meshes[i].name === name))
      .map((i) => solidOf(read.meshes[i]));
    return {
      volume: list.reduce((sum, s) => sum + s.volume, 0),
      box: boxOf(list.flatMap((s) => s.triangles)),
    };
  };

  it('is read by an independent reader: closed solids with their volumes, where they stand', () => {
    expect(read.success).toBe(true);
    const { members, shapes } = joinedFrame(model);
    for (const { member: e, section } of members) {
      const name = `${e.mark} ${e.section.form === 'table' ? e.section.name : ''}`,
        there = product(name),
        shape = shapes.get(e.id),
        mesh = meshOfMember(model, e.id);
      const drilled = (shape?.holes ?? []).reduce(
        (sum, { d, depth }) => sum + (Math.PI / 4) * d * d * depth,
        0,
      );
      // Round holes are drawn by chords by the reader.
      expect((enclosedBy(mesh) - there.volume) / (drilled || 1), name).toBeCloseTo(drilled > 0 ? 1 : 0, 2);
      expect(there.volume / (enclosedBy(mesh) - drilled), name).toBeCloseTo(1, 5);
      // Fillets are flat.
      const exact = shape
        ? shapeVolume(section!, shape)
        : section!.figures.area * Math.hypot(...e.to.map((v, i) => v - e.from[i]), e.rise[1] - e.rise[0]);
      expect(there.volume / exact, name).toBeCloseTo(1, 2);
      boxOf([...mesh.triangles]).forEach((v, i) => expect(there.box[i], `${name} ${i}`).toBeCloseTo(v, 3));
      expect(flatSection(section!.rings).length).toBeGreaterThan(0);
    }
  });

  it('plates are drilled round, bolts stand in them, and what is welded together is an assembly', () => {
    const plate = product('base plate');
    expect(plate.volume / (23 * (320 * 320 - 4 * (Math.PI / 4) * 22 ** 2))).toBeCloseTo(1, 5);
    expect(plate.box.slice(4)).toEqual([0, 23].map((v) => expect.closeTo(v, 6)));
    const bolts = product('M20 x 60');
    expect(bolts.box.slice(0, 2)).toEqual([-116 - 12.5, -85 + 18].map((v) => expect.closeTo(v, 6)));
    const assemblies = nodes(read.root).filter((n) => n.name.endsWith('assembly'));
    expect(assemblies.map((a) => a.meshes.map((i) => read.meshes[i].name).sort())).toEqual([
      ['C1 HEB 200', 'base plate'],
      ['Träger 1 IPE 200', 'end plate'],
      ['G1 IPE 300', 'fin plate'],
    ]);
  });

  it('is the same when it is written again, and none where there is no member', () => {
    expect(writeStep(model, { at: '2026-11-30T12:00:00' })).toBe(text);
    expect(writeStep(modelOf([groundStorey('ground')]), { at: 'x' })).toBeNull();
    expect(
      writeStep(modelOf([groundStorey('ground'), member({ section: table('none') })]), { at: 'x' }),
    ).toBeNull();
    for (const found of text.matchAll(/#(\d+)/g)) expect(text).toContain(`#${found[1]}=`);
  });
});
