import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { extendTrack, pieceEnd } from '@calque/core/geometry';
import {
  alongPieces,
  piecesOf,
  trackOf,
  type Line,
  type TracedArc,
  type TracedPath,
} from '@calque/core/model';
import {
  takeCornerTool,
  takeOffsetTool,
  takeSplitTool,
  takeTrimTool,
} from '../src/stages/trace/shape/index.ts';
import { tracedAt } from '../src/table/hit.ts';
import { line, pick, source, tableWith, wall } from './given-table.ts';

const lines = (t: ReturnType<typeof tableWith>) => (t.all() as Line[]).map((l) => [...l.from, ...l.to]);

describe('trim and extend', () => {
  it('a click takes the part between two crossings away and leaves the rest as two elements, in one step', () => {
    const t = tableWith(
      line('a', [0, 0], [1000, 0]),
      line('b', [300, -100], [300, 100]),
      line('c', [700, -100], [700, 100]),
    );
    takeTrimTool(t.table);
    t.tool().press(pick(500, 3));
    expect(lines(t)).toEqual([
      [0, 0, 300, 0],
      [300, -100, 300, 100],
      [700, -100, 700, 100],
      [700, 0, 1000, 0],
    ]);
    t.table.session.undo();
    expect(lines(t)[0]).toEqual([0, 0, 1000, 0]);
  });
  it('with Shift the nearer end goes on; where nothing crosses or lies ahead it says so and stays ready', () => {
    const t = tableWith(line('a', [0, 0], [1000, 0]), line('b', [1500, -100], [1500, 100]));
    takeTrimTool(t.table);
    t.tool().press(pick(400, 2));
    expect(t.told[0]).toContain('Nothing crosses this element');
    t.tool().press(pick(100, 2, { shift: true }));
    expect(t.told[1]).toContain('Nothing lies ahead');
    t.tool().press(pick(900, 2, { shift: true }));
    expect(lines(t)[0]).toEqual([0, 0, 1500, 0]);
    t.tool().move!(pick(900, 2, { shift: true }));
    expect(t.tool().words()).toContain('Extend');
  });
  it('goes on to the same place as when all that was traced is looked through, however far that lies', () => {
    const place = fc.tuple(fc.integer({ min: -90000, max: 90000 }), fc.integer({ min: -90000, max: 90000 }));
    const apart = ([p, q]: [[number, number], [number, number]]) => Math.hypot(p[0] - q[0], p[1] - q[1]) > 10;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, place).filter(apart), { minLength: 1, maxLength: 25 }),
        fc.integer({ min: 0, max: 359 }),
        fc.boolean(),
        (others, degrees, round) => {
          const a = (degrees * Math.PI) / 180;
          const own: Line | TracedArc = round
            ? {
                type: 'arc',
                id: 'own',
                planeId: 'ground',
                source,
                centre: [0, 0],
                radius: 30000,
                start: a,
                sweep: 0.01,
              }
            : line('own', [0, 0], [100 * Math.cos(a), 100 * Math.sin(a)]);
          const all = others.map(([p, q], i) => line(`o${i}`, p, q)),
            t = tableWith(own, ...all);
          const end = round ? pieceEnd(piecesOf(own)[0]) : (own as Line).to,
            near: [number, number] = [end[0] + 0.1, end[1]];
          const expected = extendTrack(trackOf(own), near, all.flatMap(piecesOf));
          takeTrimTool(t.table);
          if (tracedAt(t.table, near)?.id !== 'own') return;
          t.tool().press(pick(near[0], near[1], { shift: true }));
          const now = t.get<Line | TracedArc>('own');
          if (expected.ok) expect(now).toEqual(alongPieces(own, expected.pieces));
          else expect(now).toEqual(own);
        },
      ),
      { numRuns: 150 },
    );
  });
  it('plain lines are cut by the faces of walls, walls by drawn lines', () => {
    const t = tableWith(line('a', [0, 0], [1000, 0]), wall('w', [500, -300], [500, 300], { thickness: 200 }));
    takeTrimTool(t.table);
    t.tool().press(pick(200, 2));
    expect(lines(t)[0]).toEqual([400, 0, 1000, 0]);
  });
  it('a click on nothing does nothing', () => {
    const t = tableWith(line('a', [0, 0], [1000, 0]));
    takeTrimTool(t.table);
    t.tool().press(pick(500, 400));
    expect([t.told, t.labels()]).toEqual([[], []]);
  });
});

describe('corners', () => {
  it('two clicks join two elements, a typed size cuts the corner back', () => {
    const t = tableWith(line('a', [0, 0], [800, 0]), line('b', [1000, 200], [1000, 900]));
    takeCornerTool(t.table);
    t.tool().move!(pick(100, 0));
    expect(t.tool().submit!({ size: 'round' })).toContain('no size');
    expect(t.tool().submit!({ size: '100' })).toBeNull();
    expect(t.tool().words()).toContain('cut back by 100');
    t.tool().press(pick(100, 0));
    t.tool().press(pick(1000, 500));
    expect(lines(t)).toEqual([
      [0, 0, 900, 0],
      [1000, 100, 1000, 900],
      [900, 0, 1000, 100],
    ]);
    expect(t.labels()).toEqual(['Cut a corner back']);
  });
  it('rounds lines into an arc, two walls too, and two stretches of a path within it', () => {
    const t = tableWith(line('a', [0, 0], [1000, 0]), line('b', [1000, 0], [1000, 900]), {
      type: 'path',
      id: 'p',
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      points: [
        [0, 2000],
        [1000, 2000],
        [1000, 3000],
      ],
      bulges: [0, 0],
      closed: false,
    } as TracedPath);
    takeCornerTool(t.table);
    t.tool().move!(pick(100, 0));
    expect(t.tool().submit!({ size: '50', radius: '200' })).toContain('not both');
    expect(t.tool().submit!({ size: '0', radius: '200' })).toBeNull();
    expect(t.tool().words()).toContain('rounded by 200');
    t.tool().press(pick(100, 0));
    t.tool().press(pick(1000, 500));
    expect(t.get<Line>('a').to).toEqual([800, 0]);
    expect(t.all().at(-1)).toMatchObject({ type: 'arc', radius: 200 });
    t.tool().press(pick(1000, 2600));
    t.tool().press(pick(400, 2000));
    const path = t.get<TracedPath>('p');
    expect(path.points).toEqual([
      [0, 2000],
      [800, 2000],
      [1000, 2200],
      [1000, 3000],
    ]);
    expect(path.bulges[1]).toBeCloseTo(Math.tan(Math.PI / 8), 9);
    expect(t.labels()).toEqual(['Round a corner', 'Round a corner']);
  });
  it('says why there is none, and keeps the first', () => {
    const t = tableWith(
      line('a', [0, 0], [800, 0]),
      line('b', [0, 50], [800, 50]),
      line('c', [900, 10], [900, 60]),
    );
    takeCornerTool(t.table);
    t.tool().press(pick(100, 0));
    t.tool().press(pick(100, 50));
    expect(t.told[0]).toContain('run the same way');
    t.tool().submit!({ size: '200' });
    t.tool().press(pick(900, 50));
    expect(t.told[1]).toContain('too short');
    expect(t.tool().cancel()).toBe(true);
    expect(t.tool().cancel()).toBe(false);
  });
});

describe('offset and split', () => {
  it('an element runs beside another, at the cursor or at a typed distance, walls with their thickness', () => {
    const t = tableWith(wall('w', [0, 0], [1000, 0], { thickness: 240 }));
    takeOffsetTool(t.table);
    t.tool().press(pick(500, 0));
    t.tool().press(pick(400, 700));
    expect(t.all()[1]).toMatchObject({ type: 'wall', from: [0, 700], to: [1000, 700], thickness: 240 });
    t.tool().move!(pick(400, -50));
    expect(t.tool().submit!({ distance: '-3' })).toContain('no distance');
    expect(t.tool().submit!({ distance: '2*150' })).toBeNull();
    t.tool().press(pick(400, -5));
    expect(t.all()[2]).toMatchObject({ from: [0, -300], to: [1000, -300] });
  });
  it('circles and rectangles get one within or without, on the side that is clicked', () => {
    const t = tableWith({
      type: 'arc',
      id: 'c',
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      centre: [0, 0],
      radius: 400,
      start: 0,
      sweep: 2 * Math.PI,
    } as TracedArc);
    takeOffsetTool(t.table);
    t.tool().press(pick(400, 0));
    t.tool().press(pick(100, 0));
    expect(t.all()[1]).toMatchObject({ type: 'arc', radius: 100 });
    t.tool().press(pick(0, 650));
    expect(t.all()[2]).toMatchObject({ type: 'arc', radius: 650 });
  });
  it('a split parts an element where it is clicked, not at its end', () => {
    const t = tableWith(line('a', [0, 0], [1000, 0]));
    takeSplitTool(t.table);
    t.tool().press(pick(0, 0));
    expect(t.told[0]).toContain('its end already');
    t.tool().press(pick(250, 0));
    expect(lines(t)).toEqual([
      [0, 0, 250, 0],
      [250, 0, 1000, 0],
    ]);
  });
});
