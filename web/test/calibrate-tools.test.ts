import { beforeEach, describe, expect, it } from 'vitest';
import type { Check, Underlay, Wall } from '@calque/core/model';
import { scaleWords } from '../src/project/views.ts';
import { takeCalibrateTool, takeCheckTool, takeLevelTool, takeOriginTool, takeUsualSizeTool, turnCurrent } from '../src/stages/calibrate/tools.ts';
import { useCalibrateState } from '../src/stages/calibrate/state.ts';
import { pick, tableWith, underlay, wall } from './given-table.ts';

beforeEach(() => useCalibrateState.setState({ carry: false }));
const traced = (id: string, thickness: 'typed' | 'measured') => wall(id, [0, 0], [50, 0], { thickness: 4, source: { underlayId: 'u', ends: 'snapped', thickness } });
const given = (more: Partial<Underlay> = {}) => {
  const t = tableWith(underlay('u', more), traced('a', 'typed'), traced('b', 'measured'), wall('other', [0, 0], [50, 0]));
  t.table.state.setState({ underlayId: 'u' });
  return t;
};

describe('calibrating by a known dimension', () => {
  const calibrate = (t: ReturnType<typeof given>, typed: string) => {
    takeCalibrateTool(t.table);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(60, 10));
    return t.tool().submit!({ true: typed });
  };

  it('scales the sheet alone about the first pick and follows it with the view', () => {
    const t = given();
    expect(calibrate(t, '5 m')).toBeNull();
    const u = t.get<Underlay>('u');
    expect(u.placement).toEqual([100, 0, 0, 100, -990, -990]);
    expect(u).toMatchObject({ scaleState: 'calibrated', calibration: { from: [10, 10], to: [60, 10], trueLength: 5000, oldLength: 50, factor: 100, typed: '5 m' } });
    expect(t.get<Wall>('a').to).toEqual([50, 0]);
    expect(t.shown).toHaveLength(1);
    expect(scaleWords(u, false)).toMatch(/^to scale, 1:283/);
  });

  it('says before what becomes of the elements traced on it', () => {
    const t = given();
    takeCalibrateTool(t.table);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(60, 10));
    expect(t.tool().field!()?.hint).toContain('the 2 elements traced on it stay where they are');
    useCalibrateState.setState({ carry: true });
    expect(t.tool().field!()?.hint).toContain('go along');
  });

  it('carries traced elements along when asked, with thicknesses measured on it; typed ones were right', () => {
    const t = given();
    useCalibrateState.setState({ carry: true });
    calibrate(t, '100');
    expect(t.get<Wall>('a')).toMatchObject({ from: [-10, -10], to: [90, -10], thickness: 4 });
    expect(t.get<Wall>('b').thickness).toBe(8);
    expect(t.get<Wall>('other').to).toEqual([50, 0]);
    expect(t.labels()).toEqual(['Calibrate Sheet u']);
    t.table.session.undo();
    expect(t.get<Wall>('b')).toMatchObject({ to: [50, 0], thickness: 4 });
    expect(t.get<Underlay>('u')).toMatchObject({ placement: [1, 0, 0, 1, 0, 0], scaleState: 'paper', calibration: null });
  });

  it('refuses words, nothing and less than nothing, and keeps the picks', () => {
    const t = given();
    expect(calibrate(t, 'five')).toMatch(/"five" is not a length/);
    expect(t.tool().submit!({ true: '' })).toMatch(/Type the true length/);
    expect(t.tool().submit!({ true: '0' })).toMatch(/more than nothing/);
    expect(t.tool().submit!({ true: '500' })).toBeNull();
    expect(t.get<Underlay>('u').placement[0]).toBe(10);
  });

  it('two picks on one another are refused', () => {
    const t = given();
    takeCalibrateTool(t.table);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(10, 10));
    expect(t.tool().submit!({ true: '500' })).toMatch(/lie on one another/);
    expect(t.get<Underlay>('u').scaleState).toBe('paper');
  });

  it('a locked sheet, or none, is told and not changed', () => {
    const t = given({ locked: true });
    takeCalibrateTool(t.table);
    expect(t.tool()).toBeNull();
    expect(t.told[0]).toMatch(/Sheet u is locked/);
    t.table.state.setState({ underlayId: null });
    turnCurrent(t.table, 1);
    expect(t.told[1]).toMatch(/Choose a sheet/);
  });
});

describe('other ways to place a sheet', () => {
  it('a check is kept with what was printed and how it was typed', () => {
    const t = given({ placement: [10, 0, 0, 10, 0, 0] });
    takeCheckTool(t.table);
    t.tool().press(pick(0, 0));
    t.tool().press(pick(0, 500));
    expect(t.tool().field!()?.hint).toMatch(/It measures 500\smm/);
    expect(t.tool().submit!({ printed: '0.505 m' })).toBeNull();
    expect(t.all().at(-1)).toMatchObject({ type: 'check', underlayId: 'u', from: [0, 0], to: [0, 50], printed: 505, typed: '0.505 m' } satisfies Partial<Check>);
  });

  it('levels by an edge that was clicked on, at once', () => {
    const t = given();
    takeLevelTool(t.table);
    t.tool().press(pick(30, 3, { snapped: 'along', lit: [[[0, 0], [100, 10]]] }));
    const p = t.get<Underlay>('u').placement;
    expect(p[0] * 100 + p[2] * 10).toBeCloseTo(Math.hypot(100, 10));
    expect(p[1] * 100 + p[3] * 10).toBeCloseTo(0);
  });

  it('levels by two points on a scan', () => {
    const t = given();
    takeLevelTool(t.table);
    t.tool().press(pick(0, 0));
    t.tool().press(pick(-5, 100));
    const p = t.get<Underlay>('u').placement;
    expect(p[0] * -5 + p[2] * 100).toBeCloseTo(0);
  });

  it('puts a point of the sheet on the origin', () => {
    const t = given({ placement: [2, 0, 0, 2, 7, 9] });
    takeOriginTool(t.table);
    t.tool().press(pick(47, 29));
    expect(t.get<Underlay>('u').placement).toEqual([2, 0, 0, 2, -40, -20]);
  });

  it('a quarter turn goes about the middle of what is laid', () => {
    const t = given();
    turnCurrent(t.table, Math.PI / 2);
    const [a, b, c, d, e, f] = t.get<Underlay>('u').placement;
    expect([a * 50 + c * 50 + e, b * 50 + d * 50 + f].map((v) => Math.round(v * 1e9) / 1e9)).toEqual([50, 50]);
    expect(b).toBeCloseTo(1);
  });
});

describe('usual sizes', () => {
  const door = { id: 'door', name: 'Door leaf', millimetres: 800, spread: 60 };
  const assume = (t: ReturnType<typeof given>) => {
    takeUsualSizeTool(t.table, door);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(18, 10));
  };
  const known = (t: ReturnType<typeof given>) => t.all().filter((e): e is Check => e.type === 'check');

  it('give a scale that is assumed, with a wide error, and never proof', () => {
    const t = given();
    assume(t);
    const u = t.get<Underlay>('u');
    expect(u).toMatchObject({ scaleState: 'stated', placement: [100, 0, 0, 100, -990, -990] });
    expect(known(t)).toMatchObject([{ origin: 'assumed', use: 'fit', printed: 800, spread: 60 }]);
    // 7.5 % of a diagonal of some 13 m, two-sided 95 %.
    expect(u.calibration!.fit!.across).toBeGreaterThan(1000);
    expect(scaleWords(u, false)).toMatch(/assumed from usual sizes, within/);
  });

  it('beside a known dimension are only a check', () => {
    const t = given();
    takeCalibrateTool(t.table);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(60, 10));
    t.tool().submit!({ true: '50' });
    assume(t);
    expect(known(t).map((c) => [c.origin, c.use])).toEqual([['picked', 'fit'], ['assumed', 'check']]);
    expect(t.get<Underlay>('u').scaleState).toBe('calibrated');
  });

  it('refuse picks on one another', () => {
    const t = given();
    takeUsualSizeTool(t.table, door);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(10, 10));
    expect(t.told[0]).toMatch(/lie on one another/);
    expect(known(t)).toEqual([]);
  });
});
