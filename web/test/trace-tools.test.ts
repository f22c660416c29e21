import { beforeEach, describe, expect, it } from 'vitest';
import type { Line, Wall } from '@calque/core/model';
import { flipAlignment, takeThicknessTool, takeWallTool } from '../src/kinds/wall/wall-tool.ts';
import { takeLineTool } from '../src/kinds/line/line-tool.ts';
import { useTraceState } from '../src/drawing/state.ts';
import { key, line, pick, tableWith, wall } from './given-table.ts';

beforeEach(() => useTraceState.setState({ thickness: 100, thicknessFrom: 'typed', alignment: 'centre' }));
const brush = () => {
  const context = new Proxy({}, { get: () => () => {}, set: () => true });
  return { context, view: { scale: 1, x: 0, y: 0 }, ink: {}, at: (p: [number, number]) => p } as never;
};

describe('drawing a chain', () => {
  it('puts one wall for each click after the first and remembers how its ends were found', () => {
    const t = tableWith();
    takeWallTool(t.table);
    const tool = t.tool();
    expect(tool.words()).toContain('click where it starts');
    tool.press(pick(0, 0, { snapped: 'end' }));
    tool.press(pick(4000, 0, { snapped: 'crossing' }));
    tool.press(pick(4000, 3000));
    expect(t.all()).toMatchObject([
      {
        type: 'wall',
        from: [0, 0],
        to: [4000, 0],
        thickness: 100,
        height: 2700,
        heightAssumed: true,
        source: { ends: 'snapped' },
      },
      { from: [4000, 0], to: [4000, 3000], source: { ends: 'mixed' } },
    ]);
    expect(tool.anchor!()).toEqual([4000, 3000]);
  });

  it('a click on the first point closes the chain, and the next click starts anew', () => {
    const t = tableWith();
    takeWallTool(t.table);
    const tool = t.tool();
    tool.paint!(brush());
    for (const [x, y] of [
      [0, 0],
      [4000, 0],
      [4000, 3000],
      [3, 4],
    ] as const)
      tool.press(pick(x, y));
    expect(t.all()).toHaveLength(3);
    expect((t.all()[2] as Wall).to).toEqual([0, 0]);
    expect(tool.anchor!()).toBeNull();
    tool.press(pick(9, 9));
    expect(t.all()).toHaveLength(3);
  });

  it('a double click makes no wall of no length', () => {
    const t = tableWith();
    takeLineTool(t.table);
    t.tool().press(pick(5, 5));
    t.tool().press(pick(5, 5));
    expect(t.all()).toEqual([]);
  });

  it('takes a typed length along the cursor, a typed angle, or both, in any unit', () => {
    const t = tableWith();
    takeLineTool(t.table);
    const tool = t.tool();
    tool.press(pick(0, 0));
    tool.move!(pick(3, 4));
    expect(tool.field!()?.fields.map((f) => f.live)).toEqual(['5', '53.1°']);
    expect(tool.submit!({ length: '1 m', angle: '' })).toBeNull();
    expect((t.all()[0] as Line).to[0]).toBeCloseTo(600);
    expect((t.all()[0] as Line).to[1]).toBeCloseTo(800);
    tool.move!(pick(600, 2000));
    expect(tool.submit!({ length: `1'`, angle: '180' })).toBeNull();
    expect(t.all()[1] as Line).toMatchObject({ source: { ends: 'typed' } });
    expect((t.all()[1] as Line).to[0]).toBeCloseTo(600 - 304.8);
    expect((t.all()[1] as Line).to[1]).toBeCloseTo(800);
  });

  it('refuses what is not a length or an angle, with an example', () => {
    const t = tableWith();
    takeLineTool(t.table);
    t.tool().press(pick(0, 0));
    t.tool().move!(pick(10, 0));
    expect(t.tool().submit!({ length: 'long', angle: '' })).toMatch(
      /"long" is not a length\. Type it as 5250/,
    );
    expect(t.tool().submit!({ length: '-5', angle: '' })).toMatch(/not a length/);
    expect(t.tool().submit!({ length: '', angle: 'steep' })).toMatch(/"steep" is not an angle/);
    expect(t.all()).toEqual([]);
  });

  it('Backspace takes one point and its wall back, Enter and Esc end', () => {
    const t = tableWith();
    takeWallTool(t.table);
    const tool = t.tool();
    for (const x of [0, 1000, 2000]) tool.press(pick(x, 0));
    expect(tool.key!(key('Backspace'))).toBe(true);
    expect(t.all()).toHaveLength(1);
    expect(tool.anchor!()).toEqual([1000, 0]);
    tool.key!(key('Enter'));
    expect(tool.anchor!()).toBeNull();
    tool.press(pick(0, 50));
    expect(tool.cancel()).toBe(true);
    expect(tool.cancel()).toBe(false);
    expect(t.all()).toHaveLength(1);
  });
});

describe('alignment and thickness', () => {
  it('flips that of the next wall, or of the walls selected as one step', () => {
    const t = tableWith(wall('a', [0, 0], [1, 0]), wall('b', [0, 5], [1, 5], { alignment: 'right' }));
    takeWallTool(t.table);
    flipAlignment(t.table);
    expect(useTraceState.getState().alignment).toBe('left');
    expect(t.labels()).toEqual([]);
  });

  it('a thickness is square across, whatever the picks snapped to', () => {
    const measured = (...picks: Parameters<typeof pick>[]) => {
      const t = tableWith();
      takeThicknessTool(t.table);
      for (const p of picks) t.tool().press(pick(...p));
      return useTraceState.getState().thickness;
    };
    const faces: [number, number][][] = [
        [
          [0, 0],
          [4000, 0],
        ],
        [
          [0, 240],
          [4000, 240],
        ],
      ],
      jamb: [number, number][] = [
        [500, 0],
        [500, 240],
      ];
    // An end of one face and a place 22 mm along on the other; a corner on both a jamb and a face; only one on a line.
    expect(
      measured([0, 0, { snapped: 'end', lit: [faces[0]] }], [22, 240, { snapped: 'along', lit: [faces[1]] }]),
    ).toBeCloseTo(240, 9);
    expect(
      measured(
        [500, 0, { snapped: 'crossing', lit: [faces[0], jamb] }],
        [0, 240, { snapped: 'end', lit: [faces[1]] }],
      ),
    ).toBeCloseTo(240, 9);
    expect(measured([100, 0, { snapped: 'along', lit: [faces[0]] }], [180, 240])).toBeCloseTo(240, 9);
    expect(measured([100, 0], [180, 240])).toBeCloseTo(Math.hypot(80, 240), 9);
  });
  it('two picks on the plan give the thickness of the next wall', () => {
    const t = tableWith();
    takeThicknessTool(t.table);
    t.tool().press(pick(0, 0));
    t.tool().press(pick(0, 215));
    expect(useTraceState.getState()).toMatchObject({ thickness: 215, thicknessFrom: 'measured' });
    expect(t.tool().id).toBe('wall');
  });

  it('and of the walls selected, which stay selected', () => {
    const t = tableWith(wall('a', [0, 0], [1000, 0]), line('l', [0, 9], [9, 9]));
    t.table.setSelection(['a', 'l']);
    takeThicknessTool(t.table);
    t.tool().press(pick(0, 0));
    t.tool().press(pick(140, 0));
    expect(t.get<Wall>('a')).toMatchObject({ thickness: 140, source: { thickness: 'measured' } });
    expect(t.selected()).toEqual(['a', 'l']);
  });
});
