import { describe, expect, it } from 'vitest';
import { readPrinted } from '@calque/core/calibration';
import { readFigure } from '@calque/core/units';
import { unitNoted } from '../src/calibration/printed/unit-notes.ts';
import { joinRaised } from '../src/calibration/printed/raised.ts';
import { Drafting, drawPlan, type PlanStyle } from './given-plan.ts';

const STYLE: PlanStyle = {
  marks: 'tick',
  figures: 'above',
  write: String,
  scale: { x: 100, y: 100 },
  joined: false,
  clutter: false,
  textHeight: 6,
};
const noted = (...texts: string[]) => unitNoted(texts.map((text) => ({ text })));

describe('figures as other offices write them', () => {
  it.each<[string, object | null]>([
    ['36⁵', { millimetres: 365, manner: 'raised', half: 2.5 }],
    ['1,51⁵', { millimetres: 1515 }],
    ['12.99⁵', { millimetres: 12995 }],
    ['.375', { bare: 0.375, form: 'decimal', manner: 'no-zero' }],
    ['20.000', { bare: 20, form: 'decimal', half: 0.0005 }],
    ['3/8', { millimetres: expect.closeTo(9.525, 9) }],
    ['15/16', { millimetres: expect.closeTo(23.8125, 9) }],
    ['2/8', null],
    ['9/8', null],
    ['4.000±.005', { bare: 4 }],
    ['38 ±0.05', { bare: 38 }],
    ['12.5 +0.1/-0.2', { bare: 12.5 }],
    ['Ø32 H7', { kind: 'diameter', bare: 32 }],
    ['2X Ø.500', { kind: 'diameter', bare: 0.5 }],
    ['SR 12', { kind: 'radius', bare: 12 }],
    ['⌒ 698', { kind: 'arc', bare: 698 }],
    ['45°', { kind: 'angle', degrees: 45 }],
    [`24°30'`, { kind: 'angle', degrees: 24.5 }],
    ['90/210', { bare: 90, second: { bare: 210 } }],
    ['88⁵/2.01', { millimetres: 885, second: { bare: 2.01 } }],
    ['3600 TYP.', { bare: 3600 }],
    [`3'-1 1/2" CLR`, { millimetres: expect.closeTo(952.5, 9) }],
    ['3 x 1200 = 3600', { bare: 3600 }],
  ])('%s', (text, expected) => {
    if (expected === null) expect(readFigure(text)).toBeNull();
    else expect(readFigure(text)).toMatchObject(expected);
  });

  it('a small raised figure belongs to the one before it, and to no other', () => {
    const at = (text: string, x: number, y: number, height = 6) => ({
      text,
      object: 0,
      kind: 0,
      x,
      y,
      height,
      radians: 0,
      layer: -1,
      width: text.length * height * 0.5,
    });
    expect(joinRaised([at('36', 100, 50), at('5', 106.2, 52.2, 3.6)]).map((t) => t?.text ?? null)).toEqual([
      '36⁵',
      null,
    ]);
    // On the base line, as large, far off, or before it, it is another figure.
    for (const other of [
      at('5', 106.2, 50, 3.6),
      at('5', 106.2, 52.2),
      at('5', 112, 52.2, 3.6),
      at('5', 90, 52.2, 3.6),
    ])
      expect(joinRaised([at('36', 100, 50), other]).map((t) => t?.text)).toEqual(['36', '5']);
    expect(joinRaised([at('Store', 100, 50), at('5', 115.2, 52.2, 3.6)])[0]!.text).toBe('Store');
  });
});

describe('notes on the unit', () => {
  it.each<[string, ReturnType<typeof unitNoted>]>([
    ['ALL DIMENSIONS ARE IN INCHES', 'in'],
    ['Dimensions in millimetres unless noted otherwise', 'mm'],
    ['Maße in cm', 'cm'],
    ['Alle Maße in cm und m', 'cm'],
    ['Cotes en cm', 'cm'],
    ['UNITS: MM', 'mm'],
    ['Units: feet', 'ft'],
    ['Tutte le misure in metri', 'm'],
    ['Maten in mm', 'mm'],
    ['Dimensions and levels to be checked on site', null],
    ['Do not scale', null],
    ['2.5 m in all', null],
  ])('%s', (text, unit) => expect(noted(text)).toBe(unit));
  it('may run over two lines; two that differ say nothing', () => {
    expect(noted('ALL DIMENSIONS ARE', 'IN INCHES')).toBe('in');
    expect(noted('Dimensions in mm', 'Dimensions in inches')).toBeNull();
  });
});

describe('what bare figures are in', () => {
  const write = (factor: number, places: number) => (mm: number) => (mm / factor).toFixed(places);
  const plan = (style: Partial<PlanStyle>, note?: string) => {
    const { page } = drawPlan({ ...STYLE, ...style }, 5);
    if (note) page.text(note, 600, 40, 8);
    return readPrinted(page.linework());
  };
  it('a note decides where the figures fit several units', () => {
    // Three decimals at 1:78.74: metres, or inches at 1:2.
    const scale = { x: 2000 / 25.4, y: 2000 / 25.4 };
    expect(plan({ write: write(1000, 3), scale }, 'DIMENSIONS ARE IN INCHES').views[0]).toMatchObject({
      unit: 'in',
      factor: expect.closeTo(2, 4),
    });
    expect(plan({ write: write(1000, 3), scale }, 'Maße in m').views[0]).toMatchObject({
      unit: 'm',
      factor: expect.closeTo(78.74, 2),
    });
  });
  it('without one none is chosen that only just wins: it is asked, and the scale is not said with confidence', () => {
    const [view] = plan({ write: write(1000, 3), scale: { x: 2000 / 25.4, y: 2000 / 25.4 } }).views;
    expect(view.unit).toBeNull();
    expect(view.rivals.map((r) => [r.unit, Math.round(r.factor)])).toEqual(
      expect.arrayContaining([
        ['in', 2],
        ['m', 79],
      ]),
    );
    expect(view.confidence).toBeLessThan(0.5);
  });
  it('whole millimetres and metres with decimals are what they usually are', () => {
    expect(plan({}).views[0]).toMatchObject({ unit: 'mm', rivals: [], factor: expect.closeTo(100, 4) });
    expect(plan({ write: write(1000, 2) }).views[0]).toMatchObject({ unit: 'm', rivals: [] });
  });
});

describe('graphic scales', () => {
  const bar = (values: number[], points: number, word: (page: Drafting, x: number) => void, each = '') => {
    const page = new Drafting(800, 600);
    for (const v of values) {
      page.text(`${v}${each}`, 100 + v * points, 60, 6);
      page.line(100 + v * points, 48, 100 + v * points, 55);
    }
    page.line(100, 48, 100 + values[values.length - 1] * points, 48);
    word(page, 100 + values[values.length - 1] * points);
    return readPrinted(page.linework());
  };
  const nothing = () => {};
  it.each<[string, Parameters<typeof bar>]>([
    ['the unit behind the last', [[0, 5, 10, 20], 4, (p, x) => p.text('m', x + 12, 60, 6)]],
    ['with each', [[0, 5, 10, 20], 4, nothing, ' m']],
    ['in a title', [[0, 5, 10, 20], 4, (p) => p.text('Scale in metres', 130, 38, 6)]],
    ['and a title above', [[0, 10, 20], 4, (p) => p.text('METRES', 140, 75, 6)]],
  ])('%s', (_, given) => {
    expect(bar(...given).views).toMatchObject([
      { from: 'bar', unit: 'm', factor: expect.closeTo(1000 / ((4 * 25.4) / 72), 3) },
    ]);
  });
  it('without a unit say nothing, and figures that are not as far apart as they say are no scale', () => {
    expect(bar([0, 5, 10, 20], 4, nothing).views).toEqual([]);
    const page = new Drafting(800, 600);
    for (const [v, x] of [
      [0, 100],
      [5, 130],
      [10, 140],
      [20, 200],
    ] as const) {
      page.text(`${v} m`, x, 60, 6);
      page.line(x, 48, x, 55);
    }
    expect(readPrinted(page.linework()).views).toEqual([]);
  });
  it('figures without ticks tell a scale only nearly: it is a note, and no view', () => {
    const page = new Drafting(800, 600);
    for (const v of [0, 5, 10, 20]) page.text(`${v} m`, 100 + 4 * v, 60, 6);
    const { views, notes } = readPrinted(page.linework());
    expect(views).toEqual([]);
    expect(notes).toMatchObject([{ bar: true, span: null }]);
  });
  it('beside dimensions are a note that is held against them', () => {
    const { page } = drawPlan(STYLE, 6, new Drafting(1500, 842));
    for (const v of [0, 1, 2, 5]) {
      page.text(`${v} m`, 1100 + v * 28.346, 60, 6);
      page.line(1100 + v * 28.346, 48, 1100 + v * 28.346, 55);
    }
    const { views, notes, dimensions } = readPrinted(page.linework());
    expect(views).toMatchObject([{ from: 'dimensions' }]);
    expect(notes).toMatchObject([{ bar: true, view: 0, factor: expect.closeTo(100, 1) }]);
    expect(dimensions.some((d) => d.text.endsWith(' m'))).toBe(false);
  });
});

it('a scale that chance would make agree on a page full of numbers is none', () => {
  const page = new Drafting(1191, 842);
  let state = 7;
  const chance = () => (state = (state * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 90; i++) {
    const x = 60 + 1000 * chance(),
      y = 60 + 700 * chance(),
      length = 20 + 150 * chance();
    page.dimension([x, y], [x + length, y], String(Math.round(100 + 9000 * chance())), {
      marks: 'tick',
      figures: 'above',
      textHeight: 6,
    });
  }
  expect(readPrinted(page.linework()).views.filter((v) => v.confidence > 0.5)).toEqual([]);
});
