import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { writeTableCsv, writeXlsx } from '@calque/core/exchange';
import { groundStorey, modelOf, type Space } from '@calque/core/model';
import { tablesOf, takeoff } from '@calque/core/takeoff';
import { HOUSE, houseModel } from './given-house.ts';
import { wall } from './given-walls.ts';

const model = houseModel();
const tables = tablesOf(model);
const table = (id: string) => tables.find((t) => t.id === id)!;
const column = (id: string, head: string) => {
  const { columns, rows } = table(id),
    at = columns.findIndex((c) => c.head === head);
  return rows.map((r) => r.cells[at]);
};

describe('tables of the takeoff', () => {
  it('hold all that is counted, with the elements that each row counts', () => {
    const counted = takeoff(model);
    expect(tables.map((t) => [t.id, t.rows.length])).toEqual([
      ['storeys', 2],
      ['rooms', 2],
      ['sides', counted.spaces.flatMap((s) => s.boundaries).length],
      ['walls', 7],
      ['wall-sums', 4],
      ['layers', 4],
      ['openings', 6],
      ['slabs', 1],
      ['roofs', 2],
      ['columns', 1],
      ['stairs', 1],
      ['members', 0],
      ['plates', 0],
      ['bolts', 0],
      ['assemblies', 0],
      ['cuts', 0],
      ['stock', 0],
    ]);
    expect(table('openings').rows.map((r) => r.ids[0])).toEqual([
      'south',
      'south',
      'north',
      'middle',
      'middle',
      'loft-west',
    ]);
    expect(table('rooms').rows.map((r) => r.ids)).toContainEqual(['bay']);
    expect(column('wall-sums', 'walls')).toEqual([2, 2, 1, 2]);
  });
  it('rooms and walls of a storey in plan are all that lies within its outside faces', () => {
    const [net] = column('storeys', 'floor area, net') as number[],
      [walls] = column('storeys', 'walls in plan') as number[];
    expect(net + walls).toBeCloseTo(9 * 6, 9);
  });
  it('go into CSV in the unit of the project, with words that a spreadsheet does not run', () => {
    const text = writeTableCsv(table('rooms'), 'mm');
    expect(text.split('\r\n')[0]).toBe(
      'number,room,storey,area (m2),printed area (m2),perimeter (mm),height (mm),volume (m3),"outside walls, net (m2)",glazing (m2),assumed',
    );
    expect(text).toContain('G.01,Boat bay · Łódź,Ground floor,');
    expect(writeTableCsv(table('slabs'), 'ft-in')).toMatch(/area \(sq ft\).*volume \(cu ft\)/);
    const evil = { ...table('rooms'), rows: [{ cells: ['=cmd()', '+1', null], ids: [], storey: '' }] };
    expect(writeTableCsv(evil, 'mm').split('\r\n')[1]).toBe("'=cmd(),'+1,");
  });
});

describe('floors and ceilings', () => {
  const upper = (id: string, from: [number, number], to: [number, number]) =>
    wall(id, from, to, { planeId: 'upper', thickness: 300, alignment: 'right' });
  const two = modelOf([
    { ...groundStorey('ground'), heightAssumed: false },
    { ...groundStorey('upper'), name: 'Upper floor', elevation: 3000, height: 2400 },
    ...HOUSE.filter((e) => 'planeId' in e && e.planeId === 'ground' && e.id !== 'bay'),
    { ...(HOUSE.find((e) => e.id === 'bay') as Space), unheated: true },
    // Above the eastern part of the house alone, its western wall over the Boat bay.
    upper('u-south', [3000, 0], [9000, 0]),
    upper('u-east', [9000, 0], [9000, 6000]),
    upper('u-north', [9000, 6000], [3000, 6000]),
    upper('u-west', [3000, 6000], [3000, 0]),
  ]);
  const { spaces } = takeoff(two),
    level = (name: string, side: string) =>
      spaces
        .find((s) => s.name === name)!
        .boundaries.filter((b) => b.side === side)
        .map((b) => [b.beyond, b.unheated, Math.round(b.gross * 1e4) / 1e4]);
  it('have a row for each room that lies against them; below is the ground, above the outside', () => {
    const bay = spaces.find((s) => s.unheated)!.name;
    expect(bay).toBe('Boat bay · Łódź');
    expect(level(bay, 'floor')).toEqual([['ground', false, 3.65 * 5.4]]);
    // The room above begins 3.3 m from the west, the bay ends at 3.95.
    expect(level(bay, 'ceiling')).toEqual([
      ['Room 1', false, expect.closeTo(0.65 * 5.4, 3) as number],
      [null, false, expect.closeTo(3 * 5.4, 3) as number],
    ]);
    const above = spaces.find((s) => s.storey === 'Upper floor')!;
    expect(above.boundaries.filter((b) => b.side === 'floor').map((b) => [b.beyond, b.unheated])).toEqual([
      ['Boat bay · Łódź', true],
      ['Room 2', false],
      // Over the wall between the two.
      [null, false],
    ]);
    expect(above.boundaries.filter((b) => b.side === 'ceiling')).toMatchObject([{ beyond: 'outside' }]);
  });
  it('a wall to a room that is not heated says so', () => {
    const store = spaces.find((s) => s.name === 'Room 2')!;
    expect(store.boundaries.filter((b) => b.unheated).map((b) => [b.side, b.beyond])).toEqual([
      ['wall', 'Boat bay · Łódź'],
    ]);
  });
  it('are not told of a storey between that nobody has traced', () => {
    const { spaces: rooms } = takeoff(model);
    expect(rooms[0].boundaries.filter((b) => b.side === 'ceiling').map((b) => b.beyond)).toEqual([null]);
  });
});

describe('a workbook', () => {
  const read = (bytes: Uint8Array) => {
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'calque-')), 'tables.xlsx');
    writeFileSync(file, bytes);
    return JSON.parse(
      execFileSync('/usr/bin/python3', [
        '-c',
        `import openpyxl, json, sys
book = openpyxl.load_workbook(sys.argv[1])
print(json.dumps({s.title: [[c.value for c in r] for r in s.iter_rows()] for s in book.worksheets}))`,
        file,
      ]).toString(),
    ) as Record<string, unknown[][]>;
  };
  it('read by another reader has every table that holds something, figures as numbers', async () => {
    const sheets = read((await writeXlsx(tables, 'mm'))!),
      filled = tables.filter((t) => t.rows.length > 0);
    expect(Object.keys(sheets)).toEqual(filled.map((t) => t.name));
    for (const t of filled) {
      const [head, ...rows] = sheets[t.name];
      expect(head[0]).toContain(t.columns[0].head);
      t.rows.forEach((row, i) =>
        row.cells.forEach((value, k) => {
          if (typeof value === 'number') expect(rows[i][k]).toBeCloseTo(value, 5);
          else expect(rows[i][k] ?? '').toBe(value ?? '');
        }),
      );
    }
  });
  it('in feet and inches has decimal feet and square feet', async () => {
    const { Slabs } = read((await writeXlsx(tables, 'ft-in'))!);
    expect(Slabs[0].slice(1, 3)).toEqual(['area (sq ft)', 'thickness (ft)']);
    expect(Slabs[1][1]).toBeCloseTo((54 - 1.5) / 0.3048 ** 2, 5);
  });
  it('of nothing there is none; names may be long, empty or begin as a formula does', async () => {
    expect(await writeXlsx([], 'mm')).toBeNull();
    const odd = tablesOf(
      modelOf([groundStorey('ground'), { ...groundStorey('b'), name: `=1+1 <&>"' ${'x'.repeat(190)}` }]),
    );
    const { Storeys } = read((await writeXlsx(odd, 'mm'))!);
    expect(String(Storeys[2][0])).toBe(`=1+1 <&>"' ${'x'.repeat(190)}`);
  });
});
