import { beforeEach, describe, expect, it, vi } from 'vitest';
import {
  apply,
  modelOf,
  type Assembly,
  type Change,
  type Line,
  type Placed,
  type Traced,
} from '@calque/core/model';
import { copySelection, takePasteTool } from '../src/stages/trace/clipboard.ts';
import { editGroup, takeApart, takeGroupTool, takePlaceTool } from '../src/stages/trace/groups/groups.ts';
import type { PlaceTool } from '../src/kinds/placed/place-tool.ts';
import { takeLineTool } from '../src/kinds/line/line-tool.ts';
import { tracedAt } from '../src/table/hit.ts';
import { key, line, pick, tableWith, wall } from './given-table.ts';

const placed = (t: ReturnType<typeof tableWith>) => t.all().filter((e): e is Placed => e.type === 'placed');
const group = (t: ReturnType<typeof tableWith>) => t.all().find((e): e is Assembly => e.type === 'assembly')!;

function withGroup() {
  const t = tableWith(line('a', [0, 0], [1000, 0]), wall('w', [0, 0], [0, 2000]));
  t.table.setSelection(['a', 'w']);
  takeGroupTool(t.table);
  t.tool().move?.(pick(0, 0));
  t.tool().press(pick(0, 0));
  expect(t.tool().submit!({ name: ' ' })).toContain('name');
  expect(t.tool().submit!({ name: 'Rack' })).toBeNull();
  return t;
}

describe('groups', () => {
  beforeEach(() => {
    const kept = new Map<string, string>();
    vi.stubGlobal('localStorage', {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => void kept.set(k, v),
    });
  });
  it('are made of what is selected, in one step, and are picked as one', () => {
    const t = withGroup();
    expect(t.labels()).toEqual(['Make the group Rack']);
    expect(
      t
        .all()
        .map((e) => e.type)
        .sort(),
    ).toEqual(['assembly', 'placed']);
    expect(t.selected()).toEqual([placed(t)[0].id]);
    // By its line, and by the inside of its wall.
    expect(tracedAt(t.table, [500, 2])?.id).toBe(placed(t)[0].id);
    expect(tracedAt(t.table, [30, 1500])?.id).toBe(placed(t)[0].id);
    t.table.setSelection(placed(t).map((p) => p.id));
    takeGroupTool(t.table);
    t.tool().press(pick(5, 5));
    expect(t.tool().submit!({ name: 'rack' })).toContain('already');
  });
  it('are made also of what the server has given back as other objects meanwhile, and say so where it is gone', () => {
    const t = tableWith(line('a', [0, 0], [1000, 0]), line('b', [0, 500], [1000, 500]));
    t.table.setSelection(['a', 'b']);
    takeGroupTool(t.table);
    t.tool().press(pick(0, 0));
    for (const id of ['a', 'b']) {
      const e = t.get<Line>(id);
      t.table.session.do(
        {
          type: 'group',
          changes: [
            { type: 'remove', entity: e },
            { type: 'add', entity: { ...e } },
          ],
        },
        'Come back',
      );
    }
    expect(t.tool().submit!({ name: 'Pair' })).toBeNull();
    expect(group(t).elements).toHaveLength(2);
    t.table.setSelection(placed(t).map((p) => p.id));
    takeGroupTool(t.table);
    t.tool().press(pick(0, 0));
    t.table.session.do({ type: 'remove', entity: placed(t)[0] }, 'Delete');
    t.tool().submit!({ name: 'Gone' });
    expect(t.told.at(-1)).toContain('there no more');
    expect(t.all().filter((e) => e.type === 'assembly')).toHaveLength(1);
  });
  it('are placed click after click, turned and mirrored; Backspace takes one back', () => {
    const t = withGroup();
    takePlaceTool(t.table);
    const tool = t.tool() as PlaceTool;
    tool.move(pick(5000, 0));
    expect(tool.submit({ turn: 'x' })).toContain('not an angle');
    expect(tool.submit({ factor: '0' })).toContain('not a size');
    expect(tool.submit({ turn: '90', factor: '2' })).toBeNull();
    tool.press(pick(5000, 0));
    tool.nextVariant();
    tool.press(pick(9000, 0));
    expect(tool.words()).toContain('turned by 90.0°, mirrored, 2.000 times as large');
    expect(placed(t).map((p) => p.placement.map((v) => Math.round(v) + 0))).toEqual([
      [1, 0, 0, 1, 0, 0],
      [0, 2, -2, 0, 5000, 0],
      [0, -2, -2, 0, 9000, 0],
    ]);
    tool.key(key('Backspace'));
    expect(placed(t)).toHaveLength(2);
    // The line of the turned one stands upright now.
    expect(tracedAt(t.table, [5001, 1500])?.id).toBe(placed(t)[1].id);
  });
  it('are edited in one place and change in all; what is drawn meanwhile belongs to them', () => {
    const t = withGroup();
    takePlaceTool(t.table);
    t.tool().press(pick(5000, 0));
    t.table.setSelection([placed(t)[0].id]);
    editGroup(t.table);
    expect(placed(t)).toHaveLength(1);
    takeLineTool(t.table);
    for (const [x, y] of [
      [0, 500],
      [800, 500],
    ] as const) {
      t.tool().move?.(pick(x, y));
      t.tool().press(pick(x, y));
    }
    t.table.layDown();
    editGroup(t.table);
    expect(group(t).elements).toHaveLength(3);
    expect(tracedAt(t.table, [5400, 501])?.id).toBe(placed(t)[0].id);
    expect(t.labels().slice(-3)).toEqual(['Edit the group Rack', 'Draw a line', 'Change the group Rack']);
    for (let i = 0; i < 3; i++) t.table.session.undo();
    expect([group(t).elements.length, placed(t).length]).toEqual([2, 2]);
  });
  it('take in what is pasted while they are being edited', () => {
    const t = withGroup();
    editGroup(t.table);
    t.table.setSelection([t.all().find((e) => e.type === 'line')!.id]);
    copySelection(t.table);
    takePasteTool(t.table);
    t.tool().press(pick(0, 700));
    editGroup(t.table);
    expect(
      group(t)
        .elements.map((e) => e.type)
        .sort(),
    ).toEqual(['line', 'line', 'wall']);
  });
  it('are taken apart, and say so where none is selected', () => {
    const t = withGroup();
    takeApart(t.table);
    expect(
      t
        .all()
        .map((e) => e.type)
        .sort(),
    ).toEqual(['assembly', 'line', 'wall']);
    expect(t.selected()).toHaveLength(2);
    takeApart(t.table);
    editGroup(t.table);
    expect(t.told.slice(-2).every((words) => words.startsWith('Select'))).toBe(true);
  });
  it('come along to another project with what they consist of, once', () => {
    const t = withGroup();
    copySelection(t.table);
    const other = tableWith();
    for (let i = 0; i < 2; i++) {
      takePasteTool(other.table);
      other.tool().press(pick(100 + 7000 * i, 100));
    }
    expect(other.all().map((e) => e.type)).toEqual(['assembly', 'placed', 'placed']);
    // Its lower left corner, a face of the wall, lies where it was clicked.
    expect(tracedAt(other.table, [600, 101])?.type).toBe('placed');
    const again = apply(modelOf(other.all()), { type: 'add', entity: other.all()[0] as Traced } as Change);
    expect(again.ok).toBe(false);
    expect(other.get<Line>('a') as Line | undefined).toBeUndefined();
  });
});
