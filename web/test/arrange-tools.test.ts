import { describe, expect, it } from 'vitest';
import type { GridLine, Line, Settings, TracedPath } from '@calque/core/model';
import { flipDone } from '../src/stages/trace/done.ts';
import { GRID_LINE } from '../src/kinds/grid-line/plan.ts';
import { ShapeTool } from '../src/drawing/shape-tool.ts';
import { takeEditTool } from '../src/stages/trace/edit-tools.ts';
import { flipGrid, setGrid, takeGridTool } from '../src/stages/trace/grid.ts';
import { takeOutlineSelect } from '../src/stages/trace/outline-select.ts';
import { takeStretchTool } from '../src/stages/trace/shape/index.ts';
import type { EditTool } from '../src/table/tools/edit-tool.ts';
import { key, line, pick, source, tableWith } from './given-table.ts';

const box: TracedPath = {
  type: 'path',
  id: 'box',
  planeId: 'ground',
  source,
  points: [
    [0, 0],
    [1000, 0],
    [1000, 500],
    [0, 500],
  ],
  bulges: [0, 0, 0, 0],
  closed: true,
};
const press = (t: ReturnType<typeof tableWith>, ...points: [number, number][]) => {
  for (const [x, y] of points) {
    t.tool().move?.(pick(x, y));
    t.tool().press(pick(x, y));
  }
};

describe('stretching by a box', () => {
  it('moves the points in it by picks, in one step, and again by typed figures', () => {
    const t = tableWith(box, line('l', [2000, 0], [3000, 0]));
    takeStretchTool(t.table);
    press(t, [900, -100], [2100, 600], [1000, 0], [1250, 0]);
    expect(t.get<TracedPath>('box').points).toEqual([
      [0, 0],
      [1250, 0],
      [1250, 500],
      [0, 500],
    ]);
    expect(t.get<Line>('l').from).toEqual([2250, 0]);
    expect(t.labels()).toEqual(['Stretch 2 elements']);
    press(t, [1200, -100], [1300, 600], [0, 0]);
    t.tool().move?.(pick(10, 10));
    expect(t.tool().submit!({ right: '-250' })).toBeNull();
    expect(t.get<TracedPath>('box').points[1]).toEqual([1000, 0]);
  });
  it('with a selection moves nothing else, and says so where nothing lies in the box or nothing would be left', () => {
    const t = tableWith(box, line('l', [900, 0], [950, 0]));
    t.table.setSelection(['box']);
    takeStretchTool(t.table);
    press(t, [800, -100], [1100, 600], [0, 0], [100, 0]);
    expect(t.get<Line>('l').from).toEqual([900, 0]);
    expect(t.get<TracedPath>('box').points[1]).toEqual([1100, 0]);
    press(t, [5000, 5000], [6000, 6000]);
    expect(t.told.at(-1)).toContain('No point');
    press(t, [1050, -100], [1200, 600], [0, 0], [-1100, 0]);
    expect(t.told.at(-1)).toContain('no length');
    expect(t.labels()).toHaveLength(1);
  });
});

describe('selecting by an outline', () => {
  it('takes what it touches, by F only what lies within, and keeps what was selected', () => {
    const t = tableWith(box, line('in', [100, 100], [300, 300]), line('out', [5000, 0], [6000, 0]));
    t.table.setSelection(['out']);
    takeOutlineSelect(t.table);
    press(t, [50, 50], [800, 50], [800, 400], [50, 400]);
    t.tool().key!(key('Enter'));
    expect(t.selected()).toEqual(['out', 'in']);
    t.table.setSelection([]);
    takeOutlineSelect(t.table);
    press(t, [50, -50], [800, -50], [800, 400], [50, 400], [51, -49]);
    expect(t.selected().sort()).toEqual(['box', 'in']);
    t.table.setSelection([]);
    takeOutlineSelect(t.table);
    (t.tool() as unknown as { nextVariant(): void }).nextVariant();
    expect(t.tool().words()).toContain('lies within');
    press(t, [50, -50], [800, -50], [800, 400], [50, 400]);
    t.tool().key!(key('Enter'));
    expect(t.selected()).toEqual(['in']);
  });
});

describe('a row of copies', () => {
  it('so many up to its end, or as many as fit at a spacing', () => {
    const t = tableWith(line('a', [0, 0], [0, 100]));
    t.table.setSelection(['a']);
    takeEditTool(t.table, 'row');
    press(t, [0, 0]);
    t.tool().move?.(pick(900, 0));
    expect(t.tool().submit!({ 'row-copies': '0' })).toContain('whole number');
    expect(t.tool().submit!({ 'row-copies': '4' })).toBeNull();
    press(t, [1000, 0]);
    expect((t.all() as Line[]).map((l) => l.from[0])).toEqual([0, 250, 500, 750, 1000]);
    t.table.setSelection(['a']);
    takeEditTool(t.table, 'row');
    (t.tool() as EditTool).nextVariant();
    press(t, [0, 0]);
    t.tool().move?.(pick(0, 900));
    expect(t.tool().submit!({ spacing: '300' })).toBeNull();
    press(t, [0, 1000]);
    expect((t.all() as Line[]).slice(5).map((l) => l.from[1])).toEqual(
      [300, 600, 900].map((y) => expect.closeTo(y, 9)),
    );
    // Nearer than one spacing there is nothing to place.
    t.table.setSelection(['a']);
    takeEditTool(t.table, 'row');
    (t.tool() as EditTool).nextVariant();
    press(t, [0, 0], [0, 200]);
    expect(t.all()).toHaveLength(8);
  });
});

describe('grid and grid lines', () => {
  it('the grid is shown, spaced and placed by undoable steps', () => {
    const t = tableWith();
    flipGrid(t.table);
    setGrid(t.table, { across: 625, up: 400 }, 'Change the spacing of the grid');
    takeGridTool(t.table);
    press(t, [100, 200], [100, 900]);
    expect(t.get<Settings>('settings').grid).toEqual({
      origin: [100, 200],
      angle: Math.PI / 2,
      across: 625,
      up: 400,
      shown: true,
    });
    t.table.session.undo();
    t.table.session.undo();
    expect(t.get<Settings>('settings').grid).toMatchObject({ across: 500, shown: true });
  });
  it('grid lines count their names on, take a typed one, and copies take the next', () => {
    const t = tableWith();
    const tool = new ShapeTool(t.table, GRID_LINE);
    t.table.hold(tool);
    press(t, [0, 0], [0, 9000], [5000, 0], [5000, 9000], [0, 0]);
    tool.move(pick(9000, 10));
    expect(tool.submit({ length: '9000', angle: '0', name: 'K' })).toBeNull();
    tool.field();
    expect((t.all() as GridLine[]).map((l) => [l.name, ...l.to])).toEqual([
      ['1', 0, 9000],
      ['2', 5000, 9000],
      ['K', 9000, 0],
    ]);
    t.table.setSelection([t.all()[1].id]);
    takeEditTool(t.table, 'copy');
    press(t, [0, 0]);
    t.tool().move?.(pick(10, 0));
    t.tool().submit!({ right: '5000', up: '0', copies: '2' });
    expect((t.all() as GridLine[]).slice(3).map((l) => [l.name, l.from[0]])).toEqual([
      ['3', 10000],
      ['4', 15000],
    ]);
  });
});

describe('what is done', () => {
  it('is marked and unmarked by undoable steps, and out of the trace until it is to show', () => {
    const t = tableWith(line('a', [0, 0], [0, 100]), line('b', [9, 0], [9, 100]));
    flipDone(t.table);
    expect(t.told.at(-1)).toContain('Select');
    t.table.setSelection(['a']);
    flipDone(t.table);
    expect(t.get<Line>('a').done).toBe(true);
    const seen = () => [...t.table.traces.of(t.table.session.state.model, 'ground').elements.keys()];
    expect(seen()).toEqual(['b']);
    t.table.traces.showDone(true);
    expect(seen()).toEqual(['a', 'b']);
    flipDone(t.table);
    expect(t.get<Line>('a').done).toBe(false);
  });
});
