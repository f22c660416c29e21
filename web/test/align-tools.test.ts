import { beforeEach, describe, expect, it } from 'vitest';
import type { Check, CalibrationRecord, Underlay, Wall } from '@calque/core/model';
import type { PrintedReading } from '@calque/core/calibration';
import { partViews, viewsWithin } from '../src/stages/calibrate/part-views.ts';
import { goBackTo, placedBy, refit } from '../src/stages/calibrate/fit.ts';
import { useNudge } from '../src/table/nudge.ts';
import { takeAdjustTool } from '../src/stages/calibrate/adjust-tool.ts';
import { takeAlignTool } from '../src/stages/calibrate/align-tool.ts';
import { useCalibrateState } from '../src/stages/calibrate/state.ts';
import { key, pick, tableWith, underlay, wall } from './given-table.ts';

beforeEach(() => useCalibrateState.setState({ carry: false, alignScaled: false, aligning: null }));
const check = (
  id: string,
  from: [number, number],
  to: [number, number],
  printed: number,
  use: 'fit' | 'check' = 'fit',
): Check => ({
  type: 'check',
  id,
  underlayId: 'u',
  from,
  to,
  printed,
  typed: String(printed),
  use,
  sigma: [0.02, 0.02],
  origin: 'picked',
});
const given = (...more: Check[]) => {
  const t = tableWith(
    underlay('u', { placement: [10, 0, 0, 10, 0, 0] }),
    wall('a', [0, 0], [500, 0], { source: { underlayId: 'u', ends: 'snapped', thickness: 'typed' } }),
    ...more,
  );
  t.table.state.setState({ underlayId: 'u' });
  return t;
};
const at = (t: ReturnType<typeof given>, p: [number, number]) => {
  const [a, b, c, d, e, f] = t.get<Underlay>('u').placement;
  return [a * p[0] + c * p[1] + e, b * p[0] + d * p[1] + f];
};

describe('aligning by common points', () => {
  const pair = (t: ReturnType<typeof given>, from: [number, number], to: [number, number]) => {
    t.tool().press(pick(...from));
    t.tool().press(pick(...to));
  };

  it('asks for the sheet first, then for anything else, and is laid by Enter', () => {
    const t = given();
    takeAlignTool(t.table);
    expect(t.tool()).toMatchObject({ onlyUnderlay: 'u', notUnderlay: undefined });
    t.tool().press(pick(100, 0));
    expect(t.tool()).toMatchObject({ onlyUnderlay: undefined, notUnderlay: 'u' });
    t.tool().press(pick(300, 50));
    expect(useCalibrateState.getState().aligning).toMatchObject({ pairs: 1, alignment: { scale: 1 } });
    expect(t.tool().key!(key('Enter'))).toBe(true);
    expect(t.get<Underlay>('u').placement).toEqual([10, 0, 0, 10, 200, 50]);
    expect(t.get<Wall>('a').from).toEqual([0, 0]);
    expect(t.tool()).toBeNull();
  });

  it('turns by two pairs and keeps the scale, unless it may scale', () => {
    const t = given();
    takeAlignTool(t.table);
    pair(t, [0, 0], [0, 0]);
    pair(t, [1000, 0], [0, 1200]);
    t.tool().key!(key('Enter'));
    expect(at(t, [0, 0]).map(Math.round)).toEqual([0, 100]);
    expect(at(t, [100, 0]).map(Math.round)).toEqual([0, 1100]);
    t.table.session.undo();
    useCalibrateState.setState({ alignScaled: true });
    takeAlignTool(t.table);
    pair(t, [0, 0], [0, 0]);
    pair(t, [1000, 0], [0, 1200]);
    t.tool().key!(key('Enter'));
    expect(at(t, [100, 0]).map(Math.round)).toEqual([0, 1200]);
  });

  it('takes a typed place, and goes back one point', () => {
    const t = given();
    takeAlignTool(t.table);
    t.tool().press(pick(100, 0));
    expect(t.tool().submit!({ x: '', y: '5' })).toMatch(/both x and y/);
    expect(t.tool().submit!({ x: '0', y: '1 m' })).toBeNull();
    expect(useCalibrateState.getState().aligning?.pairs).toBe(1);
    t.tool().press(pick(1, 1));
    t.tool().key!(key('Backspace'));
    t.tool().key!(key('Backspace'));
    expect(useCalibrateState.getState().aligning?.pairs).toBe(0);
    expect(t.tool().key!(key('Enter'))).toBe(false);
  });

  it('points on one another are refused with what to do', () => {
    const t = given();
    takeAlignTool(t.table);
    pair(t, [50, 50], [0, 0]);
    pair(t, [50, 50], [90, 0]);
    t.tool().key!(key('Enter'));
    expect(t.told[0]).toMatch(/lie on one another/);
    expect(t.get<Underlay>('u').placement).toEqual([10, 0, 0, 10, 0, 0]);
  });
});

describe('adjusting by keys', () => {
  it('shifts by a pixel at the zoom, ten with Shift, and stretches with Alt about the middle', () => {
    const t = given(check('c', [0, 0], [100, 0], 1000, 'check'));
    takeAdjustTool(t.table);
    t.tool().key!(key('ArrowRight'));
    t.tool().key!(key('ArrowDown', { shiftKey: true }));
    expect(t.get<Underlay>('u').placement).toEqual([10, 0, 0, 10, 1, -10]);
    expect(t.tool().words()).toContain('worst of 1: 1000 +0.0 mm');
    t.tool().key!(key('ArrowRight', { altKey: true }));
    const [left] = at(t, [0, 50]),
      [right] = at(t, [100, 50]);
    expect([left, right].map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 1002]);
    expect(t.tool().words()).toContain('+2.0 mm');
    expect(t.tool().submit!({ dx: '12.5', dy: '' })).toBeNull();
    expect(at(t, [0, 50])[0]).toBeCloseTo(12.5, 9);
    expect(t.tool().submit!({ dx: 'much' })).toMatch(/how far/);
    // Arrows go by a typed length from then on, ten of it with Shift.
    expect(t.tool().submit!({ step: '0' })).toMatch(/an arrow/);
    const before = at(t, [0, 50]);
    expect(t.tool().submit!({ step: '25' })).toBeNull();
    t.tool().key!(key('ArrowRight'));
    t.tool().key!(key('ArrowUp', { shiftKey: true }));
    expect(
      [at(t, [0, 50])[0] - before[0], at(t, [0, 50])[1] - before[1]].map((v) => Math.round(v * 1e6) / 1e6),
    ).toEqual([25, 250]);
    useNudge.getState().setStep(null);
  });
});

describe('a page with several views', () => {
  const view = (region: [number, number, number, number], factor: number) => ({
    region,
    factor,
    x: factor,
    y: factor,
    from: 'dimensions' as const,
    unit: 'mm' as const,
    rivals: [],
    stretched: false,
    uncertainty: 1e-5,
    noise: 0,
    agreeing: 5,
    outliers: 0,
    confidence: 1,
  });
  const reading: PrintedReading = {
    endsFromInk: false,
    views: [view([0, 0, 60, 100], 50), view([60, 0, 100, 100], 5), view([200, 0, 300, 100], 20)],
    dimensions: [],
    notes: [],
    chains: [],
    unknown: [],
    photo: null,
    why: null,
  };
  it('is parted in one step, each view a sheet of its own that is still to be brought to scale', () => {
    const t = given();
    const u = t.get<Underlay>('u');
    expect(viewsWithin(u, reading)).toEqual([0, 1]);
    t.table.session.do(partViews(t.table.session.state.model, u, reading, 0, false), 'Part');
    const laid = t.all().filter((e): e is Underlay => e.type === 'underlay');
    expect(laid.map((s) => [s.name, s.crop, s.order])).toEqual([
      ['Sheet u', [0, 0, 60, 100], 1],
      ['Sheet u, 1:5', [60, 0, 100, 100], 2],
    ]);
    expect(laid[1]).toMatchObject({ scaleState: 'paper', calibration: null, placement: u.placement });
    t.table.session.undo();
    expect(t.get<Underlay>('u').crop).toEqual([0, 0, 100, 100]);
  });
});

describe('fitting to known dimensions', () => {
  const known = [
    check('w', [0, 0], [100, 0], 2000),
    check('h', [0, 0], [0, 80], 1600),
    check('d', [0, 10], [60, 90], 2000),
  ];
  it('lays the sheet by all that are fitted, keeps the first pick, and keeps every calibration', () => {
    const t = given();
    expect(refit(t.table, t.get<Underlay>('u'), known, 'Calibrate')).toBe(true);
    expect(t.get<Underlay>('u')).toMatchObject({
      placement: [20, 0, 0, 20, 0, 0],
      scaleState: 'calibrated',
      calibration: { trueLength: 2000, fit: { model: 'uniform', wanted: 'auto', fitted: 3 } },
    });
    expect(
      refit(
        t.table,
        t.get<Underlay>('u'),
        known.map((c) => (c.id === 'h' ? { ...c, printed: 1680, use: 'check' as const } : c)),
        'Held back',
      ),
    ).toBe(true);
    const records = t.all().filter((e): e is CalibrationRecord => e.type === 'calibration');
    expect(records.map((r) => [r.number, r.label, r.known.filter((k) => k.use === 'fit').length])).toEqual([
      [1, 'Calibrate', 3],
      [2, 'Held back', 2],
    ]);
    expect(goBackTo(t.table, t.get<Underlay>('u'), records[0])).toBe(true);
    expect(t.get<Check>('h')).toMatchObject({ printed: 1600, use: 'fit' });
    t.table.session.undo();
    expect(t.get<Check>('h')).toMatchObject({ printed: 1680, use: 'check' });
  });
  it('takes one scale by force, and says why a model cannot be fitted', () => {
    const t = given();
    const level = [check('k1', [0, 0], [100, 0], 2000), check('k2', [0, 10], [90, 10], 1800)];
    expect(placedBy(t.get<Underlay>('u'), level, 'directional')).toBe('one-direction');
    expect(placedBy(t.get<Underlay>('u'), [], 'auto')).toBe('none');
    expect(refit(t.table, t.get<Underlay>('u'), level, 'Both', 'directional')).toBe(true);
    expect(t.told[0]).toMatch(/run the same way/);
    expect(t.get<Check>('k2')).toBeDefined();
    expect(t.get<Underlay>('u').scaleState).toBe('paper');
  });
  it('states no error any more when nothing is fitted', () => {
    const t = given();
    refit(t.table, t.get<Underlay>('u'), known, 'Calibrate');
    const { placement } = t.get<Underlay>('u');
    refit(
      t.table,
      t.get<Underlay>('u'),
      known.map((c) => ({ ...c, use: 'check' as const })),
      'None',
    );
    expect(t.get<Underlay>('u')).toMatchObject({ placement, calibration: { trueLength: 2000, fit: null } });
  });
  it('what was traced goes along where that is wanted', () => {
    const t = given();
    useCalibrateState.setState({ carry: true });
    refit(t.table, t.get<Underlay>('u'), known, 'Calibrate');
    expect(t.get<Wall>('a').to).toEqual([1000, 0]);
  });
});
