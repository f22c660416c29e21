import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { shapeParts, shapeVolume, type Shape } from '@calque/core/framing';
import {
  applyOrThrow,
  cutAt,
  endsSwapped,
  flatSection,
  get,
  jointAt,
  knownSection,
  removeElements,
  setFields,
  type Joint,
  type Member,
} from '@calque/core/model';

import { bodiesOf, enclosedBy } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';

import { member } from './given-members.ts';

import { table, model, joint, column, beam, rowOf, shapeOf, words } from './given-joints.ts';

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
