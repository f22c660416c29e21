import { describe, expect, it } from 'vitest';
import { ofType, type Area, type Line, type TracedArc, type TracedPath, type Wall } from '@calque/core/model';
import { takeApart } from '../src/stages/trace/groups/groups.ts';
import { useTraceState } from '../src/drawing/state.ts';
import { makeWalls, takeWallRectangle, wallsToLines } from '../src/kinds/wall/walls-of.ts';
import { line, pick, source, tableWith, wall } from './given-table.ts';

const box: TracedPath = {
  type: 'path',
  id: 'box',
  planeId: 'ground',
  source,
  points: [
    [0, 0],
    [4000, 0],
    [4000, 3000],
    [0, 3000],
  ],
  bulges: [0, 0, 0, 0],
  closed: true,
};
const arc: TracedArc = {
  type: 'arc',
  id: 'arc',
  planeId: 'ground',
  source,
  centre: [0, 0],
  radius: 5000,
  start: 0,
  sweep: Math.PI / 2,
};
const walls = (t: ReturnType<typeof tableWith>) => t.all().filter((e): e is Wall => e.type === 'wall');
const given = (...entities: Parameters<typeof tableWith>) => {
  const t = tableWith(...entities);
  useTraceState.setState({ layerId: null, thickness: 200, thicknessFrom: 'typed', alignment: 'centre' });
  t.table.setSelection(entities.map((e) => e.id));
  return t;
};

describe('walls of what is drawn', () => {
  it('every stretch of lines, paths and outlines becomes one, in one step, and back to lines', () => {
    const t = given(box, line('l', [4000, 1000], [6000, 1000]));
    makeWalls(t.table);
    expect(t.labels()).toEqual(['Make 5 walls']);
    expect(walls(t).map((w) => [...w.from, ...w.to])).toEqual([
      [0, 0, 4000, 0],
      [4000, 0, 4000, 3000],
      [4000, 3000, 0, 3000],
      [0, 3000, 0, 0],
      [4000, 1000, 6000, 1000],
    ]);
    expect(walls(t).every((w) => w.thickness === 200 && w.heightAssumed)).toBe(true);
    expect(t.get('box')).toBeUndefined();
    expect(t.selected()).toEqual(walls(t).map((w) => w.id));
    wallsToLines(t.table);
    expect(walls(t)).toEqual([]);
    expect(t.all().map((e) => e.type)).toEqual(['line', 'line', 'line', 'line', 'line']);
    t.table.session.undo();
    t.table.session.undo();
    expect(
      t
        .all()
        .map((e) => e.id)
        .sort(),
    ).toEqual(['box', 'l']);
  });
  it('an arc becomes one bent wall along it, and that the arc again; one of more than half a turn becomes two', () => {
    const t = given(arc);
    makeWalls(t.table);
    const [wall] = walls(t);
    expect(walls(t)).toHaveLength(1);
    expect([...wall.from, ...wall.to].map((v) => Math.round(v))).toEqual([5000, 0, 0, 5000]);
    // A quarter of a turn, against the clock.
    expect(wall.curve).toBeCloseTo(Math.tan(Math.PI / 8), 12);
    t.table.setSelection([wall.id]);
    wallsToLines(t.table);
    const [back] = ofType(t.table.session.state.model, 'arc');
    expect(back).toMatchObject({
      radius: expect.closeTo(5000, 6) as number,
      sweep: expect.closeTo(Math.PI / 2, 9) as number,
    });
    const long = given({ ...arc, sweep: 4 });
    makeWalls(long.table);
    expect(walls(long).map((w) => w.curve)).toEqual([
      expect.closeTo(Math.tan(0.5), 9),
      expect.closeTo(Math.tan(0.5), 9),
    ]);
    // One that is closer than a wall is thick stays as many straight ones as ever.
    const small = given({ ...arc, radius: 40 });
    makeWalls(small.table);
    expect(walls(small).every((w) => !w.curve)).toBe(true);
  });
  it('says what to select where nothing can become one, and where stretches are too short for walls', () => {
    const t = given(wall('w', [0, 0], [3000, 0]));
    makeWalls(t.table);
    expect(t.told[0]).toContain('Select lines');
    const small = given(line('s', [0, 0], [3, 0]));
    makeWalls(small.table);
    expect(small.told[0]).toContain('much shorter');
    expect(small.labels()).toEqual([]);
    wallsToLines(small.table);
    expect(small.told[1]).toContain('Select walls');
  });
});

describe('walls in a rectangle', () => {
  const press = (t: ReturnType<typeof tableWith>, ...points: [number, number][]) => {
    for (const [x, y] of points) {
      t.tool().move!(pick(x, y));
      t.tool().press(pick(x, y));
    }
  };
  it('by two corners, whichever come first, and typed; its right face is the outer one', () => {
    for (const [a, b] of [
      [
        [0, 0],
        [5000, 4000],
      ],
      [
        [5000, 0],
        [0, 4000],
      ],
    ] as [[number, number], [number, number]][]) {
      const t = given();
      takeWallRectangle(t.table);
      press(t, a, b);
      expect(t.labels()).toEqual(['Draw four walls']);
      const ring = walls(t).map((w) => w.from),
        area = ring.reduce((s, p, i) => s + p[0] * ring[(i + 1) % 4][1] - ring[(i + 1) % 4][0] * p[1], 0) / 2;
      expect(area).toBe(20e6);
    }
    const t = given();
    takeWallRectangle(t.table);
    press(t, [100, 100]);
    t.tool().move!(pick(900, 700));
    expect(t.tool().submit!({ width: '3000', height: '2000' })).toBeNull();
    expect(walls(t).map((w) => Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]))).toEqual([
      3000, 2000, 3000, 2000,
    ]);
  });
  it('by three points it is turned as its side is; a rectangle without width is none', () => {
    const t = given();
    takeWallRectangle(t.table);
    press(t, [0, 0]);
    press(t, [3000, 0]);
    expect(t.told[0]).toContain('a width and a height');
    t.tool().cancel();
    (t.tool() as unknown as { nextVariant(): boolean }).nextVariant();
    press(t, [0, 0], [3000, 4000], [-800, 600]);
    expect(walls(t)).toHaveLength(4);
    expect(walls(t).map((w) => Math.round(Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1])))).toEqual([
      5000, 1000, 5000, 1000,
    ]);
  });
});

describe('taking apart', () => {
  it('a path, an outline with holes and a curve of several pieces become single ones, in one step', () => {
    const area: Area = {
      type: 'area',
      id: 'a',
      planeId: 'ground',
      source,
      rings: [
        {
          points: [
            [0, 0],
            [900, 0],
            [0, 900],
          ],
          bulges: [0, 0.5, 0],
        },
        {
          points: [
            [100, 100],
            [200, 100],
            [100, 200],
          ],
          bulges: [0, 0, 0],
        },
      ],
      fill: { kind: 'none' },
      name: '',
      figure: false,
    };
    const t = given({ ...box, layerId: null, dash: [100, 50] }, area, line('l', [0, 0], [1, 1]));
    takeApart(t.table);
    expect(t.labels()).toEqual(['Take 2 paths apart']);
    expect(
      t
        .all()
        .map((e) => e.type)
        .sort(),
    ).toEqual(['arc', ...Array<string>(10).fill('line')]);
    expect((t.all().find((e) => e.type === 'line' && e.id !== 'l') as Line).dash).toEqual([100, 50]);
    expect(t.selected()).toHaveLength(10);
  });
  it('says where nothing that is selected has pieces', () => {
    const t = given(line('l', [0, 0], [1, 1]));
    takeApart(t.table);
    expect(t.told[0]).toContain('consists of several pieces');
  });
});
