import { describe, expect, it } from 'vitest';
import type { Line, TracedPath, Wall } from '@calque/core/model';
import { nextWay } from '../src/drawing/next-way.ts';
import { canEdit, takeEditTool } from '../src/stages/trace/edit-tools.ts';
import { joinChosen } from '../src/stages/trace/join.ts';
import { key, line, pick, tableWith, wall } from './given-table.ts';

const selected = (...entities: Parameters<typeof tableWith>) => {
  const t = tableWith(...entities);
  t.table.setSelection(entities.map((e) => e.id));
  return t;
};
const near = (a: readonly number[], b: readonly number[]) =>
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i], 6));

describe('changing what is selected', () => {
  it('moves by two picks, by typed figures, and by one figure along its axis; one step each', () => {
    const t = selected(line('a', [0, 0], [1000, 0]), wall('w', [0, 500], [0, 900]));
    takeEditTool(t.table, 'move');
    t.tool().press(pick(0, 0));
    t.tool().press(pick(200, 300));
    expect(t.get<Line>('a')).toMatchObject({ from: [200, 300], to: [1200, 300] });
    expect(t.get<Wall>('w')).toMatchObject({ from: [200, 800], to: [200, 1200] });
    expect(t.labels()).toEqual(['Move 2 elements']);
    expect(t.selected()).toEqual(['a', 'w']);
    takeEditTool(t.table, 'move');
    t.tool().press(pick(0, 0));
    t.tool().move!(pick(17, 23));
    expect(t.tool().field!()!.fields.map((f) => f.live)).toEqual(['17', '23']);
    expect(t.tool().submit!({ right: '3*100', up: '' })).toBeNull();
    expect(t.get<Line>('a').from).toEqual([500, 300]);
    t.table.session.undo();
    expect(t.get<Line>('a').from).toEqual([200, 300]);
  });
  it('copies, as often as is typed, in equal steps; + turns a move into a copy', () => {
    const t = selected(line('a', [0, 0], [1000, 0]));
    takeEditTool(t.table, 'copy');
    expect(t.tool().words()).toContain('Move a copy');
    t.tool().press(pick(0, 0));
    t.tool().move!(pick(0, 10));
    expect(t.tool().field!()!.fields.map((f) => f.id)).toEqual(['right', 'up', 'copies']);
    expect(t.tool().submit!({ up: '600', copies: '2.5' })).toContain('no number of copies');
    expect(t.tool().submit!({ up: '600', copies: '3' })).toBeNull();
    const rows = (t.all() as Line[]).map((l) => l.from[1]);
    expect(rows).toEqual([0, 600, 1200, 1800]);
    expect(t.selected()).toHaveLength(3);
    t.table.session.undo();
    expect(t.all()).toHaveLength(1);
    t.table.setSelection(['a']);
    takeEditTool(t.table, 'move');
    expect(t.tool().key!(key('+'))).toBe(true);
    t.tool().press(pick(0, 0));
    t.tool().press(pick(5, 5));
    expect(t.all()).toHaveLength(2);
  });
  it('turns about a point by picks or a typed angle, around it several times', () => {
    const t = selected(line('a', [1000, 0], [2000, 0]));
    takeEditTool(t.table, 'turn');
    for (const [x, y] of [
      [0, 0],
      [100, 0],
      [0, 50],
    ] as const)
      t.tool().press(pick(x, y));
    near(t.get<Line>('a').to, [0, 2000]);
    takeEditTool(t.table, 'turn');
    t.tool().key!(key('+'));
    t.tool().press(pick(0, 0));
    t.tool().press(pick(0, 100));
    t.tool().move!(pick(1, 1));
    expect(t.tool().submit!({ angle: 'steep' })).toContain('not an angle');
    expect(t.tool().submit!({ angle: '90', copies: '3' })).toBeNull();
    expect(t.all()).toHaveLength(4);
    near((t.all().at(-1) as Line).to, [2000, 0]);
  });
  it('mirrors walls so that their faces lie where the mirror puts them', () => {
    const t = selected(wall('w', [0, 0], [1000, 0], { alignment: 'left' }));
    takeEditTool(t.table, 'mirror');
    t.tool().press(pick(0, 500));
    t.tool().press(pick(10, 500));
    expect(t.get<Wall>('w')).toMatchObject({
      from: [0, 1000],
      to: [1000, 1000],
      alignment: 'right',
      thickness: 100,
    });
  });
  it('aligned and scaled to the true length that is typed, or of a line that is picked', () => {
    const t = selected(line('a', [0, 0], [500, 0]));
    takeEditTool(t.table, 'align', true);
    for (const p of [pick(0, 0), pick(1000, 1000), pick(500, 0)]) t.tool().press(p);
    t.tool().move!(pick(1000, 1700));
    expect(t.tool().field!()!.fields.map((f) => f.label)).toEqual(['true length']);
    expect(t.tool().submit!({ length: 'long' })).toContain('not a length');
    expect(t.tool().submit!({ length: '0' })).toContain('above 0');
    expect(t.tool().submit!({ length: '2 m' })).toBeNull();
    near(t.get<Line>('a').from, [1000, 1000]);
    near(t.get<Line>('a').to, [1000, 3000]);
    takeEditTool(t.table, 'align', true);
    for (const p of [pick(1000, 1000), pick(0, 0), pick(1000, 3000), pick(4000, 3000)]) t.tool().press(p);
    near(t.get<Line>('a').to, [4000, 3000]);
  });
  it('aligns two points onto two others, by F scaled as well', () => {
    const t = selected(line('a', [0, 0], [1000, 0]));
    takeEditTool(t.table, 'align');
    for (const [x, y] of [
      [0, 0],
      [500, 500],
      [1000, 0],
      [500, 900],
    ] as const)
      t.tool().press(pick(x, y));
    near(t.get<Line>('a').from, [500, 500]);
    near(t.get<Line>('a').to, [500, 1500]);
    takeEditTool(t.table, 'align');
    expect(nextWay(t.table)).toBe(true);
    expect(t.tool().words()).toContain('Align and scale');
    for (const [x, y] of [
      [500, 500],
      [0, 0],
      [500, 1500],
      [300, 0],
    ] as const)
      t.tool().press(pick(x, y));
    near(t.get<Line>('a').to, [300, 0]);
  });
  it('joins what meets end on end, lines in line as one, and says where nothing meets', () => {
    const t = selected(
      line('a', [0, 0], [1000, 0]),
      line('b', [2000, 0], [1000, 0]),
      line('c', [2000, 0], [2000, 500]),
      line('d', [9000, 0], [9000, 500]),
    );
    joinChosen(t.table);
    expect(t.all().map((e) => e.type)).toEqual(['path', 'line']);
    expect((t.all()[0] as TracedPath).points.map((p) => [...p]).sort()).toEqual([
      [0, 0],
      [2000, 0],
      [2000, 500],
    ]);
    expect(t.labels()).toEqual(['Join 4 elements']);
    joinChosen(t.table);
    expect(t.told[0]).toContain('None of these meet');
  });
  it('scales by a factor or to a length, and refuses what is none', () => {
    const t = selected(line('a', [0, 0], [1000, 0]));
    takeEditTool(t.table, 'scale');
    t.tool().press(pick(0, 0));
    t.tool().press(pick(1000, 0));
    t.tool().move!(pick(1100, 0));
    expect(t.tool().submit!({ factor: '-2' })).toContain('not a factor');
    expect(t.tool().submit!({ factor: '', length: '0' })).toContain('above 0');
    expect(t.tool().submit!({ factor: '', length: '2.5 m' })).toBeNull();
    near(t.get<Line>('a').to, [2500, 0]);
  });
  it('shows nothing of a move before there is one, takes a pick back, and asks for a selection first', () => {
    const t = selected(line('a', [0, 0], [1000, 0]));
    takeEditTool(t.table, 'move');
    t.tool().press(pick(3, 3));
    expect(t.tool().anchor!()).toEqual([3, 3]);
    t.tool().key!(key('Backspace'));
    expect(t.tool().anchor!()).toBeNull();
    expect(t.tool().cancel()).toBe(false);
    const none = tableWith(line('a', [0, 0], [1000, 0]));
    expect(canEdit(none.table)).toBe(false);
    takeEditTool(none.table, 'turn');
    expect(none.told[0]).toContain('Select what is to be changed first');
  });
});
