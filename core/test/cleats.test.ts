import { describe, expect, it } from 'vitest';
import { plateDrawings, writeIfc, writeStep } from '@calque/core/exchange';
import { joinedFrame, plateVolume } from '@calque/core/framing';
import { endsSwapped, parseEntity, type Member } from '@calque/core/model';
import { takeoff } from '@calque/core/takeoff';
import { boxOf } from './ifc-bodies.ts';
import { readStep, solidOf } from './step-reader.ts';
import { instances, wrongIn } from './ifc-schema.ts';
import { beam, column, joint, model, rowOf, table, words } from './given-joints.ts';
import { member } from './given-members.ts';

const disc = (d: number) => (Math.PI / 4) * d * d;

describe('angle cleats', () => {
  const held = (sizes = {}) => model(column(), beam({ joints: [joint('end', 'cleat', 'column', sizes)] }));

  it('a beam ends before the face, between two angles that are bolted to its web and to the face', () => {
    const m = held(),
      { plates, bolts, shapes } = joinedFrame(m);
    expect(words(m)).toEqual([]);
    // The column's face at -100, a gap of 10.
    expect(rowOf(m).length).toBeCloseTo(3890, 9);
    expect(plates.map((p) => [p.name, p.angle?.section])).toEqual([
      ['cleat', 'L 100x100x10'],
      ['cleat', 'L 100x100x10'],
    ]);
    // 2 x 10 and a web of 5.6 in the middle; 10 and a flange of 15 at either side.
    expect(bolts.map((b) => b.grip).sort((a, b) => a - b)).toEqual(
      [25, 25, 25.6].map((v) => expect.closeTo(v, 9)),
    );
    const rows = bolts.find((b) => Math.abs(b.grip - 25.6) < 1e-6)!.at.length;
    expect(shapes.get('beam')!.holes).toHaveLength(rows);
    expect(shapes.get('column')!.holes).toHaveLength(2 * rows);
    // The column's face is at x -100, the beam's web at y +-2.8.
    const corners = plates.map(({ origin }) => origin.slice(0, 2));
    expect(corners.map(([x]) => x)).toEqual([-100, -100].map((v) => expect.closeTo(v, 9)));
    expect(corners.map(([, y]) => y).sort((a, b) => a - b)).toEqual(
      [-2.8, 2.8].map((v) => expect.closeTo(v, 9)),
    );
    const [plate] = plates;
    expect(plateVolume(plate)).toBeCloseTo(
      (100 * 10 + 90 * 10) * plate.thickness - 2 * rows * disc(22) * 10,
      6,
    );
  });

  it('are counted as angles by their length, both alike, and are in no file for plates', () => {
    const [row] = takeoff(held()).plates;
    expect(takeoff(held()).plates).toHaveLength(1);
    expect(row).toMatchObject({ name: 'cleat L 100x100x10', thickness: 10, width: 200, count: 2 });
    expect(row.mass).toBeCloseTo((plateVolume(joinedFrame(held()).plates[0]) * 7850) / 1e9, 12);
    expect(plateDrawings(held())).toEqual([]);
  });

  it('stand where an independent reader finds them, drilled', async () => {
    const m = held(),
      read = await readStep(writeStep(m, { at: '2026-11-30T12:00:00' })!),
      { plates } = joinedFrame(m);
    const found = read.meshes.filter((x) => x.name === 'cleat');
    expect(found).toHaveLength(2);
    for (const [i, mesh] of found.entries()) {
      const { volume, triangles } = solidOf(mesh);
      expect(volume / plateVolume(plates[i])).toBeCloseTo(1, 4);
      expect(boxOf(triangles).slice(0, 2)).toEqual([-200, -100].map((v) => expect.closeTo(v, 6)));
    }
    const text = writeIfc(m, { view: 'editable', at: '2026-11-30T12:00:00' });
    expect(wrongIn(instances(text))).toEqual([]);
    expect(text.match(/=IFCDISCRETEACCESSORY\(/g)).toHaveLength(2);
  });

  it('of a channel there is one, at its flat side; what comes in askew is told', () => {
    const channel = model(
      column(),
      beam({ section: table('UPE 200'), joints: [joint('end', 'cleat', 'column')] }),
    );
    expect(joinedFrame(channel).plates).toHaveLength(1);
    const skew = model(column(), beam({ from: [-4000, 2000], joints: [joint('end', 'cleat', 'column')] }));
    expect(words(skew)).toEqual([
      'it does not come square to the face: angle cleats do not fit, take a fin plate',
    ]);
    expect(words(held({ width: 5 }))).toContain(
      'its cleats have no legs: type a width above their thickness',
    );
  });
});

describe('purlin cleats', () => {
  const rafter = member({
      id: 'rafter',
      from: [2000, -3000],
      to: [2000, 3000],
      section: table('IPE 300'),
      role: 'rafter',
    }),
    /** A channel on it: the middle 150 + 100 above. */
    purlin = (more: Partial<Member> = {}) =>
      member({
        id: 'purlin',
        rise: [250, 250],
        section: table('UPE 200'),
        role: 'purlin',
        cleats: [{ to: 'rafter' }],
        ...more,
      });

  it('stand on the member below, welded to it, bolted to the web of the one that runs over', () => {
    const m = model(rafter, purlin()),
      { plates, bolts, shapes } = joinedFrame(m),
      [plate] = plates;
    expect(words(m)).toEqual([]);
    expect(plate).toMatchObject({ name: 'purlin cleat', form: 'purlinCleat', weldedTo: 'rafter' });
    // From the flange at 150, over the middle of the purlin at 250.
    expect(plate.origin[2]).toBeCloseTo(150, 9);
    expect(plate.origin[0]).toBeCloseTo(2000, 9);
    expect(bolts[0].at.every(([x]) => Math.abs(x - 2000) < 60)).toBe(true);
    expect(shapes.get('purlin')!.holes).toHaveLength(bolts[0].at.length);
    expect(rowOf(m, 'purlin').length).toBeCloseTo(4000, 9);
    expect(takeoff(m).assemblies).toMatchObject([{ section: 'IPE 300', parts: '1 p1' }]);
    // It goes with the member below, and with another section.
    const lower = joinedFrame(model({ ...rafter, section: table('IPE 200') }, purlin()));
    expect(lower.plates[0].origin[2]).toBeCloseTo(100, 9);
  });

  it('are the same whichever way the purlin is drawn, and stay while the door lets them through', () => {
    const at = (m: Member) => joinedFrame(model(rafter, m)).plates[0],
      swapped = at(endsSwapped(purlin()));
    expect(swapped.origin).toEqual(at(purlin()).origin.map((v) => expect.closeTo(v, 6)));
    expect(parseEntity(JSON.parse(JSON.stringify(purlin())))).toMatchObject({ cleats: [{ to: 'rafter' }] });
    expect(() => parseEntity({ ...purlin(), cleats: [{ to: 'rafter' }, { to: 'rafter' }] })).toThrow(/twice/);
    expect(() => parseEntity({ ...purlin(), cleats: [{ to: 'rafter', sizes: { rows: 1e6 } }] })).toThrow();
  });

  it('what cannot be is told: nothing crossed, through it, on its side, gone', () => {
    expect(words(model(rafter, purlin({ from: [0, 9000], to: [4000, 9000] })))).toEqual([
      'it does not run across the member on which its cleat is to stand',
    ]);
    expect(words(model(rafter, purlin({ rise: [100, 100] })))).toEqual([
      'it runs through the member on which its cleat is to stand',
    ]);
    expect(words(model(rafter, purlin({ turn: Math.PI / 2 })))).toEqual([
      'its web does not stand on the member below: turn it, or take another joint',
    ]);
    expect(words(model(purlin()))).toEqual(['the member that it met is not there any more']);
  });
});
