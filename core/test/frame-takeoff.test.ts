import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import * as WebIfc from 'web-ifc';
import { writeIfc } from '@calque/core/exchange';
import { groundStorey, knownSection, modelOf, type GivenSection, type Member } from '@calque/core/model';
import { uprightPlane } from '@calque/core/planes';
import { allSections } from '@calque/core/sections';
import { bodiesOf } from '@calque/core/solids';
import { countFrame, firstFit, nest, tablesOf, takeoff } from '@calque/core/takeoff';
import { globalId } from '../src/exchange/ifc/guid.ts';
import { member as given } from './given-members.ts';
import { boxOf, ifcBodies } from './ifc-bodies.ts';
import { instances, wrongIn } from './ifc-schema.ts';

const member = (id: string, name: string, length: number, more: Partial<Member> = {}): Member =>
  given({ id, to: [length, 0], section: { form: 'table', name }, ...more });
const model = (...members: Member[]) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    { ...groundStorey('ground'), elevation: 500 },
    uprightPlane('side', { from: [0, 0], to: [6000, 0], height: 9000, name: 'A', role: 'elevation' })!,
    ...members,
  ]);

describe('members, counted', () => {
  it('have the length that they are cut to, the mass of the tables, and are listed by section and length', () => {
    const counted = takeoff(
      model(
        member('a', 'IPE 200', 4000),
        member('b', 'IPE 200', 4100, { back: [50, 50] }),
        member('c', 'HEA 200', 3000, { planeId: 'side', from: [0, 0], to: [0, 3000], role: 'column' }),
        member('d', 'IPE 205', 1000),
      ),
    );
    expect(counted.members.map((m) => [m.id, m.on, m.length])).toEqual([
      ['a', 'Ground floor', 4000],
      ['b', 'Ground floor', 4000],
      ['d', 'Ground floor', 1000],
      ['c', 'A', 3000],
    ]);
    // 22.4 and 42.3 kg/m are printed.
    expect(counted.members[0].mass! / (4 * 22.4)).toBeCloseTo(1, 2);
    expect(counted.members[3].mass! / (3 * 42.3)).toBeCloseTo(1, 2);
    expect(counted.members[2].mass).toBeNull();
    expect(counted.cuts.map((c) => [c.section, c.count, c.length])).toEqual([
      ['HEA 200', 1, 3000],
      ['IPE 200', 2, 4000],
      ['IPE 205', 1, 1000],
    ]);
    const total = (of: readonly { mass: number | null }[]) => of.reduce((sum, r) => sum + (r.mass ?? 0), 0);
    expect(total(counted.cuts)).toBeCloseTo(total(counted.members), 9);
    const tables = tablesOf(model(member('a', 'IPE 200', 4000)));
    expect(tables.find((t) => t.id === 'cuts')?.rows[0].cells.slice(0, 6)).toEqual([
      'IPE 200',
      'S355',
      4000,
      'square',
      0,
      1,
    ]);
  });

  it('stock: two of 4,000 out of bars of 12,000, what is longer than any bar is told', () => {
    const { stock } = countFrame(
      model(
        ...Array.from({ length: 4 }, (_, i) => member(`m${i}`, 'IPE 200', 2990)),
        member('long', 'IPE 200', 13000),
      ),
    );
    expect(stock).toMatchObject([
      { section: 'IPE 200', bought: 12000, used: 4 * 2990 + 13000, tooLong: [13000] },
    ]);
    expect(stock[0].waste).toBeCloseTo(1 - (4 * 2990) / 12000, 9);
  });
});

describe('nesting', () => {
  const SAW = 5;
  const needs = (pieces: readonly number[]) => pieces.reduce((s, l) => s + l, 0) + SAW * (pieces.length - 1);
  it('loses no piece, fills no bar beyond its length, and is never worse than first fit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 200, max: 7000 }), { minLength: 1, maxLength: 40 }),
        fc.constantFrom([6000], [6000, 12000], [12000]),
        (pieces, stock) => {
          const { bars, tooLong } = nest(pieces, stock, SAW);
          expect([...bars.flatMap((b) => b.pieces), ...tooLong].sort()).toEqual([...pieces].sort());
          for (const b of bars) {
            expect(stock).toContain(b.stock);
            expect(needs(b.pieces)).toBeLessThanOrEqual(b.stock + 1e-6);
            expect(b.rest).toBeCloseTo(b.stock - needs(b.pieces), 6);
          }
          const fitting = pieces.filter((l) => l <= Math.max(...stock)).sort((a, b) => b - a);
          for (const length of stock)
            if (fitting.every((l) => l <= length))
              expect(bars.reduce((s, b) => s + b.stock, 0)).toBeLessThanOrEqual(
                firstFit(fitting, length, SAW).length * length,
              );
        },
      ),
      { numRuns: 300 },
    );
  });
  it('finds for a small set what first fit does not', () => {
    // 5 and 4, then 4, 3 and 2, then 2; where 5, 3, 2 and 4, 4, 2 fill two.
    const pieces = [5, 4, 4, 3, 2, 2].map((l) => l * 1000);
    expect(firstFit(pieces, 10000, 0)).toHaveLength(3);
    expect(nest(pieces, [10000], 0)).toMatchObject({ bars: [{ rest: 0 }, { rest: 0 }], tooLong: [] });
  });
  it('of nothing is nothing', () => {
    expect(nest([], [6000], 5)).toEqual({ bars: [], tooLong: [] });
  });
});

describe('members in IFC', () => {
  const api = new WebIfc.IfcAPI();
  beforeAll(async () => {
    await api.Init();
  });
  const SECTIONS = [
    'IPE 200',
    'HEB 300',
    'UPE 200',
    'UPN 200',
    'L 100x50x8',
    'SHS 100x100x5 hot',
    'RHS 100x50x5 cold',
    'CHS 114.3x5',
    'Round 20',
    'Glulam 100x240',
    'W8x31',
    'C10x15.3',
  ];
  const FILLETED: ReadonlySet<string> = new Set(['I', 'channel', 'angle']);
  it.each(SECTIONS)('%s stands where it stands here, with its volume, whichever way it is placed', (name) => {
    const given: Member[] = [
        member('flat', name, 4000, { point: 7, back: [100, 30] }),
        member('turned', name, 3000, {
          from: [0, 2000],
          to: [2000, 4000],
          turn: 0.5,
          rise: [200, 900],
          point: 3,
        }),
        member('mirrored', name, 3000, { from: [0, 5000], to: [3000, 5000], mirrored: true, point: 1 }),
        member('post', name, 0, { from: [500, 500], to: [500, 500], rise: [0, 2800], role: 'column' }),
        member('upright', name, 0, {
          planeId: 'side',
          from: [1000, 0],
          to: [3000, 2500],
          role: 'brace',
          turn: 1.2,
        }),
      ],
      m = model(...given),
      text = writeIfc(m, { view: 'editable', at: '2026-11-30T12:00:00', projectKey: 'a1' }),
      id = api.OpenModel(new TextEncoder().encode(text), { CIRCLE_SEGMENTS: 64 }),
      found = ifcBodies(api, id);
    for (const { element, mesh } of bodiesOf(m)) {
      const there = found.get(globalId(`a1/${element.id}`))!,
        known = knownSection((element as Member).section)!,
        row = takeoff(m).members.find((r) => r.id === element.id)!;
      // The reader draws fillets as straight cuts, and circles with chords of its own.
      expect(Math.abs(there.volume / (known.figures.area * row.length) - 1), element.id).toBeLessThan(
        FILLETED.has(known.sizes?.shape ?? '') ? 0.06 : 0.01,
      );
      const own = boxOf([...mesh().triangles]);
      own.forEach((v, i) => expect(Math.abs(there.box[i] - v), `${element.id} ${i}`).toBeLessThan(1.5));
    }
    expect(found.size).toBe(5);
    api.CloseModel(id);
  });

  it('has its class, its profile by sizes, its material with the point on its line, and its mass', () => {
    const text = writeIfc(
      model(
        member('a', 'IPE 200', 4000, { point: 8, mark: 'B1' }),
        member('b', 'IPE 200', 4000, { role: 'column' }),
        member('c', 'UPE 200', 4000, { role: 'purlin' }),
      ),
      { view: 'reference', at: '2026-11-30T12:00:00' },
    );
    expect(wrongIn(instances(text))).toEqual([]);
    expect(text).toMatch(/IFCBEAM\('[^']+',\$,'B1'/);
    expect(text).toContain('.PURLIN.');
    expect(text.match(/IFCISHAPEPROFILEDEF/g)).toHaveLength(1);
    expect(text).toMatch(/IFCISHAPEPROFILEDEF\(\.AREA\.,'IPE 200',#\d+,100\.,200\.,5\.6,8\.5,12\.,\$,\$\)/);
    expect(text).toMatch(/IFCUSHAPEPROFILEDEF\(\.AREA\.,'UPE 200',#\d+,200\.,80\.,6\.,11\.,13\./);
    expect(text).toMatch(/IFCMATERIALPROFILESETUSAGE\(#\d+,8,\$\)/);
    expect(text).toMatch(/IFCQUANTITYWEIGHT\('NetWeight',\$,\$,89\.\d+/);
    expect(text).toContain('IFCSIUNIT(*,.MASSUNIT.,.KILO.,.GRAM.)');
  });

  it('every section of every table can be given to a member', () => {
    for (const s of allSections())
      expect(knownSection({ form: 'table', name: s.name } as GivenSection), s.name).not.toBeNull();
  });
});
