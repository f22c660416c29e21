import { beforeEach, describe, expect, it } from 'vitest';
import type { PrintedDimension, PrintedReading } from '@calque/core/calibration';
import type { Check, Underlay, Wall } from '@calque/core/model';
import { doubtOf } from '../src/project/doubts.ts';
import { scaleWords } from '../src/project/views.ts';
import {
  takeCalibrateTool,
  takeCheckTool,
  takeLevelTool,
  takeOriginTool,
  takeUsualSizeTool,
  turnCurrent,
} from '../src/stages/calibrate/tools.ts';
import { usePrinted } from '../src/drawing/printed.ts';
import { useCalibrateState } from '../src/stages/calibrate/state.ts';
import { pick, tableWith, underlay, wall } from './given-table.ts';

beforeEach(() => {
  useCalibrateState.setState({ carry: false });
  usePrinted.setState({ sheets: {}, units: {}, pictures: {} });
});
const traced = (id: string, thickness: 'typed' | 'measured') =>
  wall(id, [0, 0], [50, 0], { thickness: 4, source: { underlayId: 'u', ends: 'snapped', thickness } });
const given = (more: Partial<Underlay> = {}) => {
  const t = tableWith(
    underlay('u', more),
    traced('a', 'typed'),
    traced('b', 'measured'),
    wall('other', [0, 0], [50, 0]),
  );
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
    expect(u).toMatchObject({
      scaleState: 'calibrated',
      calibration: {
        from: [10, 10],
        to: [60, 10],
        trueLength: 5000,
        oldLength: 50,
        factor: 100,
        typed: '5 m',
      },
    });
    expect(t.get<Wall>('a').to).toEqual([50, 0]);
    expect(t.shown).toHaveLength(1);
    expect(scaleWords(u, false, null)).toMatch(/^to scale by one dimension alone, 1:283/);
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
    expect(t.get<Underlay>('u')).toMatchObject({
      placement: [1, 0, 0, 1, 0, 0],
      scaleState: 'paper',
      calibration: null,
    });
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
    // At once, not after typing; the first pick stays, and another second one does.
    expect(t.told).toEqual([expect.stringContaining('where the first pick lies')]);
    expect(t.tool().field!()).toBeNull();
    t.tool().press(pick(60, 10));
    expect(t.tool().field!()).toMatchObject({ required: true });
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
    expect(t.all().at(-1)).toMatchObject({
      type: 'check',
      underlayId: 'u',
      from: [0, 0],
      to: [0, 50],
      printed: 505,
      typed: '0.505 m',
    } satisfies Partial<Check>);
  });

  it('levels by an edge that was clicked on, at once', () => {
    const t = given();
    takeLevelTool(t.table);
    t.tool().press(
      pick(30, 3, {
        snapped: 'along',
        lit: [
          [
            [0, 0],
            [100, 10],
          ],
        ],
      }),
    );
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
    expect([a * 50 + c * 50 + e, b * 50 + d * 50 + f].map((v) => Math.round(v * 1e9) / 1e9)).toEqual([
      50, 50,
    ]);
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
    expect(scaleWords(u, false, null)).toMatch(/assumed from usual sizes, within/);
  });

  it('beside a known dimension are only a check', () => {
    const t = given();
    takeCalibrateTool(t.table);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(60, 10));
    t.tool().submit!({ true: '50' });
    assume(t);
    expect(known(t).map((c) => [c.origin, c.use])).toEqual([
      ['picked', 'fit'],
      ['assumed', 'check'],
    ]);
    expect(t.get<Underlay>('u').scaleState).toBe('calibrated');
  });

  it('refuse picks on one another', () => {
    const t = given();
    takeUsualSizeTool(t.table, door);
    t.tool().press(pick(10, 10));
    t.tool().press(pick(10, 10));
    expect(t.told[0]).toMatch(/where the first pick lies/);
    expect(known(t)).toEqual([]);
  });
});

describe('a scale that the sheet itself contradicts', () => {
  // The sheet says 1:100 by eight dimensions along its foot; a point is 25.4 / 72 mm of paper.
  const mm = 100 * (25.4 / 72);
  const dimension = (i: number): PrintedDimension => ({
    index: i,
    kind: 'linear',
    figure: { x: 5 + 4 * (i + 1) - 1, y: 5.2 + i, width: 2, height: 0.5, radians: 0 },
    text: String(Math.round(8 * (i + 1) * mm)),
    millimetres: 8 * (i + 1) * mm,
    half: 0.5,
    from: [5, 5 + i],
    to: [5 + 8 * (i + 1), 5 + i],
    points: 8 * (i + 1),
    factor: 100,
    view: 0,
    agrees: true,
    measured: 8 * (i + 1) * mm,
    recognised: false,
  });
  const reading: PrintedReading = {
    endsFromInk: false,
    notes: [],
    chains: [],
    unknown: [],
    photo: null,
    why: null,
    dimensions: Array.from({ length: 8 }, (_, i) => dimension(i)),
    views: [
      {
        region: [0, 0, 100, 100],
        from: 'dimensions',
        unit: 'mm',
        rivals: [],
        factor: 100,
        x: 100,
        y: 100,
        stretched: false,
        uncertainty: 1e-5,
        noise: 0.02,
        agreeing: 8,
        outliers: 0,
        confidence: 1,
      },
    ],
  };
  beforeEach(() =>
    usePrinted.setState({
      sheets: { 'f:1:': { state: 'read', reading, offer: false } },
      units: {},
      pictures: {},
    }),
  );
  const found = { kind: 'end', lit: [] } as never;
  const calibrate = (t: ReturnType<typeof given>, typed: string) => {
    takeCalibrateTool(t.table);
    t.tool().press({ ...pick(10, 10), found });
    t.tool().press({ ...pick(60, 10), found });
    return t.tool().submit!({ true: typed });
  };
  const question = (t: ReturnType<typeof given>) => t.tool().field!()?.question;

  it('asks in place, with both values and a press for each; nothing is changed meanwhile', () => {
    const t = given();
    // 50 points are 1764 mm: a slip of a figure makes it 1674.
    expect(calibrate(t, '1674')).toBe('');
    expect(question(t)!.words).toBe('These two picks make it 1:94.9. 8 printed dimensions say 1:100.');
    expect(question(t)!.answers.map((a) => a.label)).toEqual([
      'Take 1:100',
      'Take mine all the same',
      'Pick again',
    ]);
    expect([t.tool().submit!({ true: '1674' }), t.labels(), t.get<Underlay>('u').scaleState]).toEqual([
      '',
      [],
      'paper',
    ]);
    // Another figure is another entry.
    t.tool().field!()!.onTyping!();
    expect(question(t)).toBeUndefined();
  });

  it('what the sheet says is taken: fitted to its dimensions, and sure', () => {
    const t = given();
    calibrate(t, '1674');
    question(t)!.answers[0].act();
    const u = t.get<Underlay>('u');
    expect(u.placement[0]).toBeCloseTo(mm, 6);
    expect([u.scaleState, u.calibration!.fit!.fitted, u.calibration!.against]).toEqual([
      'calibrated',
      8,
      undefined,
    ]);
    expect(scaleWords(u, false, doubtOf(u))).toMatch(/^to scale, 1:100, within \d mm$/);
  });

  it('mine is taken all the same, and is never shown as if it were sure, also after it was undone and done again', () => {
    const t = given();
    calibrate(t, '1674');
    question(t)!.answers[1].act();
    const u = t.get<Underlay>('u');
    expect(u.calibration!.against).toEqual({ kind: 'dimensions', count: 8, factor: 100 });
    expect(scaleWords(u, false, doubtOf(u))).toBe('≠ lies at 1:94.9, but 8 printed dimensions say 1:100');
    expect(t.labels()).toEqual(['Calibrate Sheet u']);
    // A further dimension that agrees with the sheet puts it right.
    calibrate(t, '1764');
    expect(question(t)?.words ?? '').toMatch(/^With this dimension the sheet lies at/);
  });

  // The figure of the longest: 64 points, from (5, 12) to (69, 12).
  const onFigure = () => pick(37, 12.4);
  it('a figure is clicked: the dimension is asked about whole, wherever the pointer goes meanwhile', () => {
    const t = given();
    takeCalibrateTool(t.table);
    t.tool().press(onFigure());
    t.tool().move!(pick(90, 90));
    t.tool().move!(pick(9, 5.3));
    expect(t.tool().field!()!.hint).toContain(`${dimension(7).text} is printed there`);
    expect(t.tool().submit!({})).toBeNull();
    expect(t.get<Underlay>('u').calibration).toMatchObject({
      from: [5, 12],
      to: [69, 12],
      trueLength: dimension(7).millimetres,
    });
  });

  it('a figure whose unit must be asked is no length: it is not offered, and must be typed', () => {
    const asked: PrintedReading = {
      ...reading,
      views: [
        {
          ...reading.views[0],
          unit: null,
          rivals: [
            { unit: 'm', factor: 100 },
            { unit: 'in', factor: 2.54 },
          ],
        },
      ],
    };
    usePrinted.setState({ sheets: { 'f:1:': { state: 'read', reading: asked, offer: false } } });
    const t = given();
    takeCalibrateTool(t.table);
    t.tool().press(onFigure());
    const field = t.tool().field!()!;
    expect([field.fields[0].live, field.hint]).toEqual(['', expect.stringContaining('not in what unit')]);
    expect(t.tool().submit!({})).toMatch(/Type the true length/);
    expect(t.get<Underlay>('u').scaleState).toBe('paper');
  });

  it('a doubt ends where the sheet lies otherwise since, and is none of a sheet that is not to scale', () => {
    const doubt = { kind: 'dimensions', count: 8, factor: 100 } as const,
      at = (k: number, more: Partial<Underlay> = {}) =>
        underlay('u', { placement: [k * mm, 0, 0, k * mm, 0, 0], scaleState: 'calibrated', ...more });
    expect([
      doubtOf(at(0.95), { u: doubt }),
      doubtOf(at(1), { u: doubt }),
      doubtOf(at(0.95, { scaleState: 'paper' }), { u: doubt }),
      doubtOf(at(0.95), {}),
    ]).toEqual([doubt, null, null, null]);
  });

  it('what agrees is taken without a word, and picks can be made again', () => {
    const t = given();
    expect(calibrate(t, '1764')).toBeNull();
    expect(t.get<Underlay>('u')).toMatchObject({ scaleState: 'calibrated' });
    const other = given();
    calibrate(other, '1674');
    question(other)!.answers[2].act();
    expect(other.tool().words()).toMatch(/pick one end of a dimension/);
    expect(other.labels()).toEqual([]);
  });

  it('a bar or a note of a sheet without dimensions is a witness too', () => {
    usePrinted.setState({
      sheets: {
        'f:1:': {
          state: 'read',
          reading: {
            ...reading,
            dimensions: [],
            views: [],
            notes: [{ text: '1:50', factor: 50, view: null, bar: false }],
          },
          offer: false,
        },
      },
    });
    const t = given();
    calibrate(t, '1764');
    expect(question(t)!.words).toBe('These two picks make it 1:100. It states 1:50.');
    question(t)!.answers[0].act();
    const u = t.get<Underlay>('u');
    expect([u.scaleState, u.placement[0]]).toEqual(['stated', expect.closeTo(mm / 2, 6)]);
    expect(scaleWords(u, false, doubtOf(u))).toBe('1:50 as stated, not checked');
  });
});
