import { describe, expect, it } from 'vitest';
import { printedSchedule, withSchedule, type ScheduleText } from '@calque/core/building';
import {
  applyOrThrow,
  modelOf,
  groundStorey,
  ofType,
  type Model,
  type WallOpening,
} from '@calque/core/model';
import { door, window } from './given-house.ts';
import { wall } from './given-walls.ts';

/** A table as a page has it: columns at places, rows from the top down. */
function table(
  columns: readonly number[],
  rows: readonly (readonly string[])[],
  { top = 700, pitch = 14, height = 8, from = 0 } = {},
): ScheduleText[] {
  return rows.flatMap((row, i) =>
    row.flatMap((text, k) =>
      text === ''
        ? []
        : [
            {
              text,
              x: from + columns[k],
              y: top - i * pitch,
              height,
              width: 0.5 * height * text.length,
              radians: 0,
            },
          ],
    ),
  );
}
const modelWith = (...openings: WallOpening[]): Model =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
    groundStorey('ground'),
    wall('w', [0, 0], [20000, 0], { height: 2700, thickness: 200, openings }),
  ]);

describe('a schedule of openings on a page', () => {
  it('is read by its headings, in millimetres, with what stands in other columns left alone', () => {
    const rows = printedSchedule([
      ...table([0], [['WINDOW SCHEDULE']], { top: 730, height: 12 }),
      ...table(
        [40, 90, 150, 210, 280, 360],
        [
          ['Tag', 'Type', 'Width', 'Height', 'Sill height', 'Glazing'],
          ['W01', 'fixed', '1200', '1500', '600', '6/16/4 laminated'],
          ['W-02', 'casement', '900', '1050', '1050', '4/16/4'],
          ['W03', 'casement', '2400', '2100', '0', '1200 wide panes'],
        ],
      ),
      ...table([40], [['All dimensions to structural opening, see A-201']], { top: 200 }),
    ]);
    expect(rows).toEqual([
      { tag: 'W01', width: 1200, height: 1500, sill: 600, head: null, type: 'fixed', material: null },
      { tag: 'W-02', width: 900, height: 1050, sill: 1050, head: null, type: 'casement', material: null },
      { tag: 'W03', width: 2400, height: 2100, sill: 0, head: null, type: 'casement', material: null },
    ]);
  });

  it('tells types and materials in its own words, of headings that say so alone', () => {
    const rows = printedSchedule(
      table(
        [0, 60, 120, 180, 320, 420],
        [
          ['Mark', 'Width', 'Height', 'Door type', 'Frame material', 'Type of glass'],
          ['D1', '900', '2100', 'flush,  half-hour', 'oak', 'none'],
          ['D2', '1000', '2100', '-', 'steel, 2 mm', 'wired'],
          ['D3', '800', '2100', 'x'.repeat(81), '', ''],
        ],
      ),
    );
    expect(rows.map((r) => [r.tag, r.type, r.material])).toEqual([
      ['D1', 'flush, half-hour', 'oak'],
      ['D2', null, 'steel, 2 mm'],
      ['D3', null, null],
    ]);
  });

  it('is read in other habits: sizes in one column, centimetres, metres, feet and inches, two lines of headings', () => {
    expect(
      printedSchedule(
        table(
          [0, 60, 140],
          [
            ['No.', 'Size (W x H)', 'Fire'],
            ['D1', '90 x 210', 'EI30'],
            ['D2', '101 x 210', '-'],
          ],
        ),
      ).map((r) => [r.tag, r.width, r.height]),
    ).toEqual([
      ['D1', 900, 2100],
      ['D2', 1010, 2100],
    ]);
    expect(
      printedSchedule(
        table(
          [0, 60, 140, 200],
          [
            ['Mark', 'Width (m)', 'Height (m)', 'Head'],
            ['F4', '1.26', '1.385', '2.25'],
          ],
        ),
      ),
    ).toMatchObject([{ tag: 'F4', width: 1260, height: 1385, sill: null, head: 2250, type: null }]);
    const [imperial] = printedSchedule(
      table(
        [0, 60, 140],
        [
          ['DOOR', 'W', 'H'],
          ['101', '3\'-0"', '6\'-8"'],
        ],
      ),
    );
    expect([imperial.width, imperial.height]).toEqual([expect.closeTo(914.4, 6), expect.closeTo(2032, 6)]);
    expect(
      printedSchedule(
        table(
          [0, 60, 140],
          [
            ['Ref', 'Structural', ''],
            ['', 'Width', 'Height'],
            ['W7', '1810', '1210'],
          ],
        ),
      ).map((r) => [r.tag, r.width, r.height]),
    ).toEqual([['W7', 1810, 1210]]);
  });

  it('of two on one page both are read, of a tag that comes twice the first; what is no schedule gives nothing', () => {
    const two = printedSchedule([
      ...table(
        [0, 60, 120],
        [
          ['Tag', 'Width', 'Height'],
          ['D1', '900', '2100'],
          ['D1', '1000', '2200'],
        ],
      ),
      ...table(
        [0, 60, 120],
        [
          ['Tag', 'Width', 'Height'],
          ['W1', '1200', '1200'],
        ],
        { top: 400 },
      ),
    ]);
    expect(two.map((r) => [r.tag, r.width])).toEqual([
      ['D1', 900],
      ['W1', 1200],
    ]);
    // A table of steel, of rooms, and words.
    expect(
      printedSchedule(
        table(
          [0, 60, 120],
          [
            ['Mark', 'Section', 'Length'],
            ['B1', 'I 200', '6000'],
          ],
        ),
      ),
    ).toEqual([]);
    expect(
      printedSchedule(
        table(
          [0, 60],
          [
            ['Room', 'Area'],
            ['G.01', '24.5'],
          ],
        ),
      ),
    ).toEqual([]);
    expect(printedSchedule([])).toEqual([]);
    // Figures that are no sizes of openings in any unit.
    expect(
      printedSchedule(
        table(
          [0, 60, 120],
          [
            ['Tag', 'Width', 'Height'],
            ['D1', '900', '2'],
            ['D2', '8', '7'],
          ],
        ),
      ),
    ).toEqual([]);
  });

  it('gives openings their heights by their tags, keeps the widths of the plan and tells where they differ', () => {
    const assumed = ['sill', 'head'] as const,
      model = modelWith(
        window('o1', [1000, 0], [2200, 0], { tag: 'W-01', assumed: [...assumed] }),
        door('o2', [3000, 0], [3900, 0], { tag: 'D1', assumed: ['sill', 'head', 'swing'] }),
        door('o3', [5000, 0], [5800, 0], { tag: 'D2', assumed: [...assumed] }),
        window('o4', [7000, 0], [8000, 0], { tag: 'W9', assumed: [...assumed] }),
        window('o5', [9000, 0], [9900, 0], { tag: '', assumed: [...assumed] }),
        window('o6', [11000, 0], [12000, 0], { tag: 'W5', assumed: [...assumed] }),
      ),
      none = { sill: null, head: null, type: null, material: null },
      { change, ...told } = withSchedule(model, [
        { ...none, tag: 'W01', width: 1200, height: 1400, sill: 800, type: 'casement', material: 'pine' },
        { ...none, tag: 'D1', width: 1000, height: 2050 },
        { ...none, tag: 'D2', width: 800, height: 2100 },
        { ...none, tag: 'D7', width: 800, height: 2100 },
        // Higher than its wall.
        { ...none, tag: 'W5', width: 1000, height: 2000, sill: 1000 },
      ]);
    expect(told).toEqual({
      taken: ['W-01', 'D1', 'D2'],
      differs: [{ tag: 'D1', printed: 1000, measured: 900 }],
      unplaced: ['D7'],
      missing: ['W9'],
    });
    const [{ openings }] = ofType(applyOrThrow(model, change!), 'wall');
    expect(openings!.map((o) => [o.sill, o.head, o.assumed])).toEqual([
      [800, 2200, []],
      [0, 2050, ['swing']],
      [0, 2100, []],
      [900, 2100, ['sill', 'head']],
      [900, 2100, ['sill', 'head']],
      [900, 2100, ['sill', 'head']],
    ]);
    expect([openings![0].type, openings![0].material, openings![1].type]).toEqual([
      'casement',
      'pine',
      undefined,
    ]);
    // Once more it has nothing to change; what one has written oneself stays where it says nothing of it.
    const again = applyOrThrow(model, change!),
      size = { ...none, tag: 'W01', width: 1200, height: 1400, sill: 800 };
    expect(withSchedule(again, [size, { ...none, tag: 'D2', width: 800, height: 2100 }]).change).toBeNull();
    expect(withSchedule(again, [{ ...size, type: 'fixed' }]).taken).toEqual(['W-01']);
  });
});
