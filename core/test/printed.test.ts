import { describe, expect, it } from 'vitest';
import { readPrinted, type PrintedReading } from '@calque/core/calibration';
import { readFigure } from '@calque/core/units';
import { Drafting, drawPlan, drawTable, type PlanDimension, type PlanStyle } from './given-plan.ts';

const STYLE: PlanStyle = {
  marks: 'tick',
  figures: 'above',
  write: String,
  scale: { x: 100, y: 100 },
  joined: false,
  clutter: false,
  textHeight: 6,
};
const feet = (mm: number) => {
  const quarters = Math.round((mm / 25.4) * 4),
    inches = Math.floor(quarters / 4) % 12,
    rest = ['', ' 1/4', ' 1/2', ' 3/4'][quarters % 4];
  return `${Math.floor(quarters / 48)}'-${inches}${rest}"`;
};
const WRITE: Record<string, (mm: number) => string> = {
  mm: String,
  metres: (mm) => (mm / 1000).toFixed(3),
  commas: (mm) => (mm / 1000).toFixed(3).replace('.', ','),
  grouped: (mm) => String(mm).replace(/(\d)(\d{3})$/, '$1 $2'),
  feet,
  said: (mm) => `${mm} mm`,
};

function scored(reading: PrintedReading, truth: readonly PlanDimension[]): { found: number; wrong: number } {
  const near = (a: readonly number[], b: readonly number[]) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 0.6;
  const left = new Set(truth);
  let found = 0;
  for (const d of reading.dimensions) {
    const match = [...left].find(
      (t) =>
        t.text === d.text &&
        ((near(d.from, t.from) && near(d.to, t.to)) || (near(d.from, t.to) && near(d.to, t.from))),
    );
    if (match && left.delete(match)) found++;
  }
  return { found, wrong: reading.dimensions.length - found };
}

describe('figures', () => {
  const mm = (text: string) => readFigure(text)?.millimetres ?? null;
  it('with a unit are lengths', () => {
    expect(mm('3650 mm')).toBe(3650);
    expect(mm('3,65 m')).toBeCloseTo(3650, 9);
    expect(mm(`11'-4"`)).toBeCloseTo(3454.4, 9);
    expect(mm(`11' 4 1/2"`)).toBeCloseTo(3467.1, 9);
    expect(mm('11′-4½″')).toBeCloseTo(3467.1, 9);
    expect(mm(`3'-6"`)).toBeCloseTo(1066.8, 9);
    expect(mm('24 1/2')).toBeCloseTo(622.3, 9);
    expect(mm(`0'-9"`)).toBeCloseTo(228.6, 9);
    expect(mm('9"')).toBeCloseTo(228.6, 9);
  });
  it('without one keep their number, however it is grouped', () => {
    expect(readFigure('3650')).toMatchObject({ kind: 'length', bare: 3650, form: 'whole', half: 0.5 });
    expect(readFigure('3 650')).toMatchObject({ bare: 3650, form: 'whole' });
    expect(readFigure("3'650")).toMatchObject({ bare: 3650, form: 'whole' });
    expect(readFigure('3,65')).toMatchObject({ bare: 3.65, form: 'decimal', half: 0.005 });
    expect(readFigure('12.5')).toMatchObject({ bare: 12.5, form: 'decimal', half: 0.05 });
    expect(readFigure('(3650)')).toMatchObject({ bare: 3650 });
    expect(readFigure(`3650 [11'-11 3/4"]`)).toMatchObject({ bare: 3650 });
  });
  it('tell diameters, radii and angles from lengths', () => {
    expect(readFigure('Ø120')).toMatchObject({ kind: 'diameter', bare: 120 });
    expect(readFigure('R 45')).toMatchObject({ kind: 'radius', bare: 45 });
    expect(readFigure('24.5°')).toMatchObject({ kind: 'angle' });
    expect(readFigure(`24°30'`)).toMatchObject({ kind: 'angle' });
  });
  it('are not words, numbers of doors, scales, levels or areas', () => {
    for (const text of [
      'Boat bay',
      'D-12',
      '1:50',
      '+2.70',
      '24.5 m²',
      '007',
      '12/05/2026',
      'A',
      '',
      '½ x',
      '3650 x 2100',
    ])
      expect(readFigure(text), text).toBeNull();
  });
});

describe('printed dimensions', () => {
  it('are found and paired with their ends, however they are drawn and written', () => {
    for (const marks of ['tick', 'arrow', 'open-arrow', 'dot'] as const) {
      for (const figures of ['above', 'gap', 'level'] as const) {
        for (const [name, write] of Object.entries(WRITE)) {
          const scale = { mm: 100, metres: 50, commas: 73.3, grouped: 100, feet: 48, said: 20 }[name]!;
          const { page, dimensions } = drawPlan(
            {
              ...STYLE,
              marks,
              figures,
              write,
              scale: { x: scale, y: scale },
              joined: name.length % 2 === 0,
              clutter: true,
            },
            31 * name.length,
          );
          const reading = readPrinted(page.linework());
          expect(scored(reading, dimensions), `${marks} ${figures} ${name}`).toEqual({
            found: dimensions.length,
            wrong: 0,
          });
          expect(reading.views).toHaveLength(1);
          // Feet are rounded to a quarter of an inch here.
          expect(Math.abs(reading.views[0].factor / scale - 1), `${marks} ${figures} ${name}`).toBeLessThan(
            name === 'feet' ? 5e-4 : 1e-6,
          );
        }
      }
    }
  });

  it('a wrong figure is named and does not spoil the scale', () => {
    const { page, dimensions } = drawPlan({ ...STYLE, clutter: true }, 9);
    const wrong = page.texts.find((t) => t.text === dimensions[2].text)!;
    wrong.text = String(dimensions[2].mm + 900);
    const {
      views: [view],
      dimensions: read,
      chains,
    } = readPrinted(page.linework());
    expect(view).toMatchObject({ outliers: 1, stretched: false });
    expect(view.factor).toBeCloseTo(100, 4);
    const outlier = read.find((d) => !d.agrees)!;
    expect(outlier).toMatchObject({ text: wrong.text, millimetres: dimensions[2].mm + 900 });
    expect(outlier.measured).toBeCloseTo(dimensions[2].mm, 3);
    expect(chains.some((c) => !c.agrees && c.parts.some((i) => read[i] === outlier))).toBe(true);
  });

  it('chains are held against their totals', () => {
    const { page } = drawPlan(STYLE, 4);
    const { chains, dimensions } = readPrinted(page.linework());
    expect(chains.length).toBeGreaterThanOrEqual(2);
    for (const c of chains) {
      expect(c.agrees).toBe(true);
      expect(c.sum).toBe(dimensions[c.total].millimetres);
    }
  });

  it('paper that is stretched by a hundredth or more has a scale for each direction', () => {
    for (const y of [98.8, 99, 101, 103]) {
      const {
        views: [view],
      } = readPrinted(drawPlan({ ...STYLE, scale: { x: 100, y } }, 12).page.linework());
      expect(view.stretched).toBe(true);
      expect(view.x).toBeCloseTo(100, 3);
      expect(view.y).toBeCloseTo(y, 3);
    }
    expect(readPrinted(drawPlan(STYLE, 12).page.linework()).views[0].stretched).toBe(false);
  });

  it('two scales on one page are two views, each with its region and its note', () => {
    const page = new Drafting(1684, 842);
    const plan = drawPlan(STYLE, 3, page);
    const detail = drawPlan(
      { ...STYLE, scale: { x: 20, y: 20 }, marks: 'arrow' },
      8,
      page,
      [1000, 150],
      3,
      3,
    );
    page.text('Plan 1:100', 400, 40, 8);
    page.text('Detail 1:20', 1300, 40, 8);
    const { views, dimensions, notes } = readPrinted(page.linework());
    expect(views.map((v) => Math.round(v.factor)).sort((a, b) => a - b)).toEqual([20, 100]);
    expect(scored({ dimensions } as PrintedReading, [...plan.dimensions, ...detail.dimensions]).wrong).toBe(
      0,
    );
    for (const d of dimensions) {
      const [x0, y0, x1, y1] = views[d.view].region;
      expect(d.from[0] >= x0 && d.from[0] <= x1 && d.from[1] >= y0 && d.from[1] <= y1).toBe(true);
    }
    for (const n of notes) expect(Math.abs(views[n.view!].factor / n.factor - 1)).toBeLessThan(1e-4);
  });

  it('what bare numbers are in is found by the note, or said', () => {
    const { page } = drawPlan({ ...STYLE, write: (mm) => String(mm / 10) }, 5);
    expect(readPrinted(page.linework(), { units: 'cm' }).views[0].factor).toBeCloseTo(100, 4);
    page.text('Scale 1:100', 600, 40, 8);
    expect(readPrinted(page.linework()).views[0].factor).toBeCloseTo(100, 4);
  });

  it('nothing is invented where there is no dimension, and the reason is said', () => {
    const empty = new Drafting(800, 600);
    expect(readPrinted(empty.linework())).toMatchObject({
      views: [],
      dimensions: [],
      why: expect.stringContaining('no texts'),
    });
    const words = new Drafting(800, 600);
    words.text('Rowing club', 300, 300, 12);
    expect(readPrinted(words.linework()).why).toContain('figure of a length');
    const schedule = new Drafting(800, 600);
    drawTable(schedule, 100, 200, [
      ['D1', '900', '2100', '1'],
      ['D2', '800', '2100', '3'],
      ['D3', '1000', '2100', '2'],
      ['D4', '900', '2135', '1'],
      ['W1', '1200', '1400', '6'],
      ['W2', '1800', '600', '2'],
    ]);
    expect(readPrinted(schedule.linework())).toMatchObject({
      views: [],
      dimensions: [],
      why: expect.stringContaining('none stands at a dimension line'),
    });
  });

  it('two that agree are told, and are too few to prove a scale', () => {
    const page = new Drafting(800, 600);
    page.dimension([100, 100], [241.732, 100], '5000', { marks: 'tick', figures: 'above', textHeight: 6 });
    page.dimension([100, 300], [184.039, 300], '2965', { marks: 'tick', figures: 'above', textHeight: 6 });
    const { views, why } = readPrinted(page.linework());
    expect(views).toEqual([]);
    expect(why).toContain('2 figures agree on 1:100, which is too few to prove a scale');
  });

  it('a table beside a plan adds nothing', () => {
    const { page, dimensions } = drawPlan(STYLE, 6, new Drafting(1500, 842));
    drawTable(page, 1000, 300, [
      ['D1', '900', '2100', '1'],
      ['D2', '800', '2100', '3'],
      ['D3', '1000', '2100', '2'],
      ['D4', '900', '2135', '1'],
    ]);
    expect(scored(readPrinted(page.linework()), dimensions)).toEqual({ found: dimensions.length, wrong: 0 });
  });

  it('a graphic scale is read by its figures', () => {
    const page = new Drafting(800, 600);
    // One metre at 1:100 is 28.346 points.
    [0, 1, 2, 5, 10].forEach((m) => page.text(String(m), 100 + m * 28.3464567, 50, 6));
    page.text('m', 100 + 10 * 28.3464567 + 10, 50, 6);
    const [bar] = readPrinted(page.linework()).notes;
    expect(bar).toMatchObject({ bar: true, text: '0 1 2 5 10 m' });
    expect(bar.factor).toBeCloseTo(100, 1);
  });
});
