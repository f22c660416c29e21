import { describe, expect, it } from 'vitest';
import { holeNotes, readHoleTables, zeroOfTable } from '@calque/core/part';
import { text } from './part-sheet-model.ts';

describe('texts of a sheet', () => {
  it('put notes in several lines together, and keep two notes apart', () => {
    const notes = holeNotes(
      [
        text('4x Ø9 THRU', 100, 200),
        text('⌴ Ø15 ↧ 8', 100, 188),
        text('2x M6 ↧ 12', 300, 200),
        text('Ø5 THRU', 300, 188),
        text('120', 40, 40),
        text('⌴ Ø30 ↧ 2', 100, 20),
      ],
      'mm',
    );
    expect(
      notes.map((n) => [n.callout.count, n.callout.diameter, n.callout.head?.diameter ?? null, n.texts]),
    ).toEqual([
      [4, 9, 15, [0, 1]],
      [2, 5, null, [2]],
      [1, 5, null, [3]],
    ]);
  });

  it('read a table of holes with X and Y, in either unit, rows without a size like the one above', () => {
    const row = (y: number, ...cells: [string, number][]) => cells.map(([t, x]) => text(t, x, y));
    const texts = [
      ...row(300, ['HOLE', 100], ['X', 160], ['Y', 210], ['SIZE', 260]),
      ...row(286, ['A1', 100], ['12.5', 155], ['20', 205], ['Ø6.6 THRU', 255]),
      ...row(272, ['A2', 100], ['87.5', 155], ['20', 205]),
      ...row(258, ['B1', 100], ['50', 155], ['-5,5', 205], ['M8 ↧ 16', 255]),
      ...row(244, ['C1', 100], ['?', 155], ['10', 205], ['Ø4', 255]),
      text('GENERAL TOLERANCES', 100, 100),
    ];
    const [table] = readHoleTables(texts, 'mm');
    expect(
      table.holes.map((h) => [h.tag, h.x, h.y, h.callout.diameter, h.callout.thread?.name ?? null]),
    ).toEqual([
      ['A1', 12.5, 20, 6.6, null],
      ['A2', 87.5, 20, 6.6, null],
      ['B1', 50, -5.5, 6.8, 'M8'],
    ]);
    expect(table.unread).toEqual(['C1  ?  10  Ø4']);
    const inches = readHoleTables(
      [
        ...row(300, ['TAG', 100], ['X LOC', 160], ['Y LOC', 210], ['DIA', 270]),
        ...row(288, ['A', 100], ['.500', 160], ['1.250', 210], ['.281 THRU', 270]),
      ],
      'in',
    )[0];
    expect(inches.holes[0]).toMatchObject({ x: 12.7, y: 31.75 });
    expect(inches.holes[0].callout.diameter).toBeCloseTo(0.281 * 25.4, 9);
    const said = readHoleTables(
      [
        ...row(300, ['NO', 100], ['X (in)', 160], ['Y (in)', 210], ['DESCRIPTION', 270]),
        ...row(288, ['1', 100], ['1', 165], ['2', 215], ['Ø5 mm THRU', 270]),
      ],
      'mm',
    )[0];
    expect(said.holes[0]).toMatchObject({ x: 25.4, y: 50.8 });
    expect(said.holes[0].callout.diameter).toBe(5);
    expect(readHoleTables([text('X', 10, 10), text('Y', 40, 10)], 'mm').flatMap((t) => t.holes)).toEqual([]);
  });

  it('find the zero of a table by the rounds that are drawn, though one is missing and others are there', () => {
    const [table] = readHoleTables(
        [
          ...[
            ['X', 160],
            ['Y', 210],
            ['SIZE', 260],
          ].map(([t, x]) => text(t as string, x as number, 300)),
          ...[
            [10, 10],
            [50, 12],
            [90, 45],
          ].flatMap(([x, y], i) => [
            text(String(x), 160, 288 - 12 * i),
            text(String(y), 210, 288 - 12 * i),
            text('Ø8', 260, 288 - 12 * i),
          ]),
        ],
        'mm',
      ),
      at = (x: number, y: number, radius = 4) => ({ centre: [200 + x, -30 + y] as const, radius });
    const zero = zeroOfTable(table, [at(10, 10.2), at(50, 12), at(70, 70, 20), at(1, 1)])!;
    expect(zero.fits).toBe(2);
    expect(zero.at.map((v) => Math.round(v))).toEqual([200, -30]);
    expect(zeroOfTable(table, [at(70, 70, 20)])).toBeNull();
  });
});
