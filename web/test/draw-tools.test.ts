import { beforeEach, describe, expect, it } from 'vitest';
import { TAU } from '@calque/core/geometry';
import {
  measuredBy,
  newLayer,
  parseEntity,
  rested,
  type Area,
  type Dimension,
  type Spline,
  type TracedArc,
  type TracedPath,
} from '@calque/core/model';
import { nextWay } from '../src/drawing/next-way.ts';
import { KIND_COMMANDS } from '../src/kinds/index.ts';
import { useTraceState } from '../src/drawing/state.ts';
import { takeMatchTool } from '../src/stages/trace/match-tool.ts';
import { key, line, pick, tableWith, wall } from './given-table.ts';

beforeEach(() => useTraceState.setState({ layerId: null, textHeight: 125 }));
const take = (id: string, ...entities: Parameters<typeof tableWith>) => {
  const t = tableWith(...entities);
  const hands = { table: t.table, session: t.table.session, goTo: () => {} };
  KIND_COMMANDS.flatMap((declared) => declared(hands))
    .find((c) => c.id === id)!
    .run();
  return {
    ...t,
    last: <T>() => t.all().at(-1) as T,
    click: (...points: [number, number][]) => {
      for (const [x, y] of points) t.tool().press(pick(x, y));
    },
    at: (x: number, y: number) => t.tool().move!(pick(x, y)),
  };
};

describe('a first point', () => {
  it('can be typed by coordinates, or from what was touched', () => {
    const t = take('circle');
    t.at(50, 60);
    expect(t.tool().field!()!.others).toEqual([]);
    t.tool().move!(pick(50, 60, { touched: [1000, 2000] }));
    expect(t.tool().field!()!.others![0].map((f) => f.label)).toEqual(['right of the ring', 'up from it']);
    expect(t.tool().submit!({ right: '600', up: '-250' })).toBeNull();
    t.tool().submit!({ radius: '75' });
    expect(t.last<TracedArc>()).toMatchObject({ centre: [1600, 1750], radius: 75 });
    // One figure alone means along that axis; none means where the cursor is.
    t.tool().move!(pick(50, 60, { touched: [1000, 2000] }));
    t.tool().submit!({ up: '100' });
    t.tool().submit!({ radius: '10' });
    expect(t.last<TracedArc>().centre).toEqual([1000, 2100]);
    t.tool().submit!({});
    t.tool().submit!({ radius: '10' });
    expect(t.last<TracedArc>().centre).toEqual([50, 60]);
  });
});

describe('rectangles, slots and regular shapes', () => {
  it('come from two corners, or typed, on the side of the pointer, as one sound element', () => {
    const t = take('rectangle');
    t.click([0, 0], [3000, -2000]);
    expect(t.last<TracedPath>()).toMatchObject({
      type: 'path',
      closed: true,
      points: [
        [0, 0],
        [3000, 0],
        [3000, -2000],
        [0, -2000],
      ],
    });
    expect(() => parseEntity(t.last())).not.toThrow();
    t.click([0, 0]);
    t.at(-50, 60);
    expect(t.tool().field!()!.fields.map((f) => f.label)).toEqual(['width', 'height']);
    expect(t.tool().submit!({ width: 'wide' })).toContain('not a length');
    expect(t.tool().submit!({ width: '2*600', height: '-3' })).toContain('above 0');
    expect(t.tool().submit!({ width: '2*600', height: '800' })).toBeNull();
    expect(t.last<TracedPath>().points[2]).toEqual([-1200, 800]);
    expect(t.labels()).toEqual(['Draw a rectangle', 'Draw a rectangle']);
  });
  it('a turned one stands on its side; one without depth is refused and the tool stays ready', () => {
    const t = take('rectangle');
    expect(nextWay(t.table)).toBe(true);
    expect(t.tool().words()).toContain('turned');
    t.click([0, 0], [300, 400], [600, 800]);
    expect(t.told[0]).toContain('needs a depth');
    t.click([-80, 60]);
    const { points } = t.last<TracedPath>();
    expect([points[2], points[3]].map((p) => p.map((v) => Math.round(v * 1e6) / 1e6))).toEqual([
      [220, 460],
      [-80, 60],
    ]);
  });
  it('a slot has round ends, a regular shape the sides that were typed', () => {
    const s = take('slot');
    s.click([0, 0], [1000, 0]);
    s.at(500, 40);
    s.tool().submit!({ width: '120' });
    expect(s.last<TracedPath>()).toMatchObject({
      points: [
        [0, -60],
        [1000, -60],
        [1000, 60],
        [0, 60],
      ],
      bulges: [0, 1, 0, 1],
    });
    const r = take('regular');
    r.click([0, 0]);
    r.at(100, 0);
    expect(r.tool().submit!({ sides: '2' })).toContain('no number of sides');
    expect(r.tool().submit!({ sides: '5', radius: '200' })).toBeNull();
    expect(r.last<TracedPath>().points).toHaveLength(5);
    expect(r.last<TracedPath>().points[0]).toEqual([200, 0]);
  });
});

describe('circles, arcs and curves', () => {
  it('a circle by radius, diameter and three points; three in line are told', () => {
    const t = take('circle');
    t.click([0, 0]);
    t.at(77, 33);
    t.tool().submit!({ radius: '900' });
    expect(t.last<TracedArc>()).toMatchObject({ centre: [0, 0], radius: 900, sweep: TAU });
    nextWay(t.table);
    t.click([0, 0], [200, 0]);
    expect(t.last<TracedArc>()).toMatchObject({ centre: [100, 0], radius: 100 });
    nextWay(t.table);
    t.click([0, 0], [100, 0], [200, 0]);
    expect(t.told[0]).toContain('one line');
    t.click([100, 100]);
    expect(t.last<TracedArc>().radius).toBeCloseTo(Math.hypot(50, 50), 9);
  });
  it('an arc through three points, by its radius, about a centre', () => {
    const t = take('arc');
    t.click([0, 0], [100, 100], [200, 0]);
    expect(t.last<TracedArc>()).toMatchObject({ radius: 100 });
    expect(t.last<TracedArc>().sweep).toBeCloseTo(Math.PI, 9);
    nextWay(t.table);
    t.click([0, 0], [600, 0]);
    t.at(300, 20);
    expect(t.tool().submit!({ radius: '100' })).toContain('less than half');
    expect(t.tool().submit!({ radius: '500' })).toBeNull();
    expect(t.last<TracedArc>()).toMatchObject({
      radius: expect.closeTo(500, 6),
      centre: [expect.closeTo(300, 6), expect.closeTo(-400, 6)],
    });
    nextWay(t.table);
    t.click([0, 0], [100, 0], [0, 55]);
    expect(t.last<TracedArc>()).toMatchObject({
      radius: 100,
      start: 0,
      sweep: expect.closeTo(Math.PI / 2, 9),
    });
    t.click([0, 0], [100, 0]);
    t.tool().press(pick(0, 55, { alt: true }));
    expect(t.last<TracedArc>()).toMatchObject({
      start: expect.closeTo(Math.PI / 2, 9),
      sweep: expect.closeTo(1.5 * Math.PI, 9),
    });
  });
  it('a curve goes through its points, on smoothly from what it meets, and closes', () => {
    const t = take('curve', line('l', [-500, 0], [0, 0]));
    t.click([0, 0], [400, 300], [800, 0]);
    t.tool().key!(key('Enter'));
    const { controls } = t.last<Spline>();
    expect([controls[0], controls[3], controls[6]]).toEqual([
      [0, 0],
      [400, 300],
      [800, 0],
    ]);
    expect(controls[1][1]).toBeCloseTo(0, 9);
    expect(controls[1][0]).toBeGreaterThan(0);
    t.click([0, 1000], [500, 1400], [900, 1000], [0, 1000]);
    expect(t.last<Spline>().controls.at(-1)).toEqual([0, 1000]);
  });
});

describe('paths and areas', () => {
  it('a path bends on smoothly, takes a point back, and is one element', () => {
    const t = take('path');
    t.click([0, 0], [1000, 0]);
    nextWay(t.table);
    t.click([1500, 500]);
    nextWay(t.table);
    t.click([1500, 900], [9999, 9999]);
    t.tool().key!(key('Backspace'));
    t.tool().key!(key('Enter'));
    expect(t.last<TracedPath>()).toMatchObject({
      closed: false,
      points: [
        [0, 0],
        [1000, 0],
        [1500, 500],
        [1500, 900],
      ],
    });
    expect(t.last<TracedPath>().bulges[1]).toBeCloseTo(Math.tan(Math.PI / 8), 9);
    expect(t.all()).toHaveLength(1);
  });
  it('an arc of a path by radius and sweep', () => {
    const t = take('path');
    t.click([0, 0], [1000, 0]);
    nextWay(t.table);
    t.at(1200, 100);
    expect(t.tool().submit!({ radius: '300', sweep: '400' })).toContain('no sweep');
    expect(t.tool().submit!({ radius: '300', sweep: '90' })).toBeNull();
    t.tool().key!(key('Enter'));
    const [x, y] = t.last<TracedPath>().points[2];
    expect([x, y]).toEqual([expect.closeTo(1300, 6), expect.closeTo(300, 6)]);
  });
  it('an area closes itself and needs three corners', () => {
    const t = take('area');
    t.click([0, 0], [4000, 0]);
    t.tool().key!(key('Enter'));
    expect(t.told[0]).toContain('three corners');
    t.click([4000, 3000], [0, 3000]);
    t.tool().key!(key('Enter'));
    expect(t.last<Area>()).toMatchObject({ type: 'area', figure: true, rings: [{ bulges: [0, 0, 0, 0] }] });
    expect(() => parseEntity(t.last())).not.toThrow();
  });
});

describe('texts and dimensions', () => {
  it('a text is asked for where it was clicked', () => {
    const t = take('text');
    t.click([50, 60]);
    expect(t.tool().field!()).toMatchObject({ required: true });
    expect(t.tool().submit!({ text: '  ' })).toContain('Type what');
    expect(t.tool().submit!({ text: 'Boat store', turned: 'steep' })).toContain('not an angle');
    expect(t.tool().submit!({ text: 'Boat store', height: '200', turned: '90' })).toBeNull();
    expect(t.last()).toMatchObject({
      type: 'text',
      text: 'Boat store',
      height: 200,
      at: [50, 60],
      angle: Math.PI / 2,
    });
  });
  it('a dimension follows what it rests on, and keeps its points when that is deleted', () => {
    const t = take('dimension', line('l', [0, 0], [1000, 0]));
    t.click([0, 0], [1000, 0], [500, 300]);
    const d = t.last<Dimension>();
    expect(d.on).toEqual([
      { id: 'l', grip: 0 },
      { id: 'l', grip: 1 },
    ]);
    t.table.session.do({ type: 'set', id: 'l', before: { to: [1000, 0] }, after: { to: [2500, 0] } }, 'x');
    expect(measuredBy(rested(d, t.table.session.state.model))).toBe(2500);
  });
  it('level, upright, in a row, of a radius and an angle', () => {
    const t = take('dimension', {
      type: 'arc',
      id: 'c',
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      centre: [0, 0],
      radius: 400,
      start: 0,
      sweep: TAU,
    } satisfies TracedArc);
    nextWay(t.table);
    t.click([0, 1000], [300, 1400], [150, 2000]);
    t.click([0, 1000], [300, 1400], [900, 1200]);
    expect(
      t
        .all()
        .slice(-2)
        .map((d) => [(d as Dimension).measures, measuredBy(d as Dimension)]),
    ).toEqual([
      ['horizontal', 300],
      ['vertical', 400],
    ]);
    nextWay(t.table);
    t.click([0, -900], [0, 0], [1000, 5], [2500, 0]);
    t.tool().key!(key('Enter'));
    expect(
      t
        .all()
        .slice(-2)
        .map((d) => measuredBy(d as Dimension)),
    ).toEqual([1000, 1500]);
    nextWay(t.table);
    t.click([9000, 9000], [1, 1]);
    expect(t.told[0]).toContain('Nothing round');
    t.tool().cancel();
    t.click([400, 0], [600, 200]);
    expect(measuredBy(t.last<Dimension>())).toBeCloseTo(400, 9);
    nextWay(t.table);
    t.click([0, 0], [500, 0], [0, 500], [200, 200]);
    expect(measuredBy(t.last<Dimension>())).toBeCloseTo(Math.PI / 2, 9);
    t.click([0, 0], [500, 0], [0, 500], [-200, -200]);
    expect(measuredBy(t.last<Dimension>())).toBeCloseTo(1.5 * Math.PI, 9);
  });
});

describe('where elements come to lie', () => {
  it('on the current layer while it is there; coordinates by Tab', () => {
    const t = take('circle', newLayer('sanitary', 'Sanitary', 0));
    useTraceState.setState({ layerId: 'sanitary' });
    t.at(5, 5);
    expect(t.tool().field!()).toMatchObject({ onTab: true });
    t.tool().submit!({ x: '1000', y: '-500' });
    t.at(1100, -500);
    t.tool().submit!({ radius: '50' });
    expect(t.last()).toMatchObject({ layerId: 'sanitary', centre: [1000, -500], source: { ends: 'typed' } });
    useTraceState.setState({ layerId: 'gone' });
    t.click([0, 0], [50, 0]);
    expect(t.last()).not.toHaveProperty('layerId');
  });
  it('match hands thickness and layer on, in one step', () => {
    const t = tableWith(
      newLayer('a', 'A', 0),
      wall('w', [0, 0], [1000, 0], { thickness: 300, layerId: 'a' }),
      wall('v', [0, 900], [1000, 900]),
      line('l', [0, 2000], [1000, 2000]),
    );
    t.table.setSelection(['v', 'l']);
    takeMatchTool(t.table);
    t.tool().press(pick(500, 0));
    expect(t.get('v')).toMatchObject({ thickness: 300, layerId: 'a' });
    expect(t.get('l')).toMatchObject({ layerId: 'a' });
    expect(t.labels()).toEqual(['Match 2 elements']);
  });
});
