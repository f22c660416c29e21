import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { calque, photo, sheet } from './calque.ts';

describe('calque scale', () => {
  interface Page {
    page: number;
    why?: string;
    views: Record<string, unknown>[];
    dimensions: {
      text: string;
      kind: string;
      millimetres: number;
      from: number[];
      to: number[];
      points: number;
      factor: number;
      view: number;
      agrees: boolean;
    }[];
    notes: { text: string; factor: number; view: number | null }[];
  }
  it('prints the views, the dimensions and the notes of a page, as JSON of the agreed shape', () => {
    const { status, out } = calque(
      'scale',
      sheet('04_chromium_fit973_wrong_dim.pdf'),
      '--page',
      '1',
      '--json',
    );
    expect(status).toBe(0);
    const page = JSON.parse(out) as Page;
    expect(page.page).toBe(1);
    expect(page.views).toHaveLength(1);
    const [view] = page.views;
    expect(Object.keys(view).sort()).toEqual([
      'agreeing',
      'confidence',
      'factor',
      'from',
      'outliers',
      'region',
      'stretched',
      'uncertainty',
      'unit',
      'x',
      'y',
    ]);
    expect(view).toMatchObject({
      agreeing: 19,
      outliers: 1,
      stretched: false,
      unit: 'mm',
      from: 'dimensions',
    });
    expect(page.dimensions.every((d) => d.kind === 'linear')).toBe(true);
    expect(view.factor).toBeCloseTo(102.7749, 3);
    const wrong = page.dimensions.filter((d) => !d.agrees);
    expect(wrong.map((d) => d.text)).toEqual(['4560']);
    for (const d of page.dimensions) {
      expect(Math.hypot(d.to[0] - d.from[0], d.to[1] - d.from[1])).toBeCloseTo(d.points, 6);
      expect(d.factor).toBeCloseTo((d.millimetres / d.points) * (72 / 25.4), 6);
    }
    expect(page.notes).toEqual([{ text: 'Scale 1:100 @ A3', factor: 100, view: 0 }]);
  });
  it('recognises figures drawn as outlines and those of a scan: none wrong, at least 95 of 100 with their ends, the scale within 0.05 %', () => {
    type Truth = [string, number, number, number, number, number];
    const truth = JSON.parse(readFileSync(sheet('recognised.json'), 'utf8')) as Record<string, Truth[]>;
    for (const [file, dimensions] of Object.entries(truth)) {
      const page = JSON.parse(calque('scale', sheet(file), '--page', '1', '--json').out) as Omit<
        Page,
        'dimensions'
      > & { dimensions: (Page['dimensions'][number] & { recognised?: boolean })[] };
      // A scan's ends are good to a pixel or two.
      const near = (p: number[], x: number, y: number) => Math.hypot(p[0] - x, p[1] - y) < 1;
      const right = page.dimensions.filter((d) =>
        dimensions.some(
          ([text, mm, x0, y0, x1, y1]) =>
            d.text === text &&
            d.millimetres === mm &&
            d.agrees &&
            d.recognised &&
            ((near(d.from, x0, y0) && near(d.to, x1, y1)) || (near(d.from, x1, y1) && near(d.to, x0, y0))),
        ),
      );
      expect(page.dimensions.length).toBe(right.length);
      expect(right.length).toBeGreaterThanOrEqual(Math.floor(0.97 * dimensions.length));
      expect(Math.abs((page.views[0].factor as number) / 100 - 1)).toBeLessThan(5e-4);
    }
    const plain = JSON.parse(
      calque('scale', sheet('08a_scan_200dpi.pdf'), '--page', '1', '--no-recognise', '--json').out,
    ) as Page;
    expect([plain.views, plain.dimensions]).toEqual([[], []]);
  }, 240000);
  it('straightens a photo by itself, on a table or close by, and tells where its dimensions lie on it', () => {
    const truth = JSON.parse(readFileSync(photo('truth.json'), 'utf8')) as Record<
      string,
      { dimensions: { value: number; from: number[]; to: number[] }[] }
    >;
    for (const [name, least, wrong] of [
      ['boat-store-on-a-table', 15, 2],
      ['plan-close-by', 31, 0],
    ] as const) {
      const page = JSON.parse(calque('scale', photo(`${name}.jpg`), '--page', '1', '--json').out) as Page & {
        photo: { millimetresFromPage: number[] };
      };
      const { dimensions } = truth[name],
        near = (a: number[], b: number[]) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 4;
      const right = page.dimensions.filter(
        (d) =>
          d.agrees &&
          dimensions.some(
            (t) =>
              Math.abs(t.value - d.millimetres) <= 1e-3 * t.value &&
              ((near(t.from, d.from) && near(t.to, d.to)) || (near(t.from, d.to) && near(t.to, d.from))),
          ),
      );
      expect(right.length, name).toBeGreaterThanOrEqual(least);
      expect(page.dimensions.length - right.length, name).toBeLessThanOrEqual(wrong);
      // The map from the page to millimetres holds for every dimension that is printed, found or not.
      const h = page.photo.millimetresFromPage,
        mm = ([x, y]: number[]) => {
          const w = h[6] * x + h[7] * y + h[8];
          return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
        };
      const off = dimensions.map((t) => {
        const [a, b] = [mm(t.from), mm(t.to)];
        return Math.abs(Math.hypot(b[0] - a[0], b[1] - a[1]) - t.value);
      });
      expect(Math.max(...off), name).toBeLessThan(name === 'plan-close-by' ? 12 : 8);
    }
    expect(calque('scale', photo('boat-store-on-a-table.jpg')).out).toContain('a photo at a slant');
  }, 240000);
  it('goes through all pages, says why where there is nothing to tell, and takes the unit of bare figures', () => {
    const { pages } = JSON.parse(calque('scale', sheet('09_tikz_set_3_pages.pdf'), '--json').out) as {
      pages: Page[];
    };
    expect(pages.map((p) => p.views.map((v) => Math.round(v.factor as number)))).toEqual([
      [],
      [100],
      [50, 5],
    ]);
    expect(pages[0].why).toContain('No text of the page is a figure');
    const centimetres = JSON.parse(
      calque('scale', sheet('01_cairo_plan_100.pdf'), '--units', 'cm', '--page', '1', '--json').out,
    ) as Page;
    expect(centimetres.views[0].factor).toBeCloseTo(1000, 2);
    expect(calque('scale', sheet('01_cairo_plan_100.pdf'), '--units', 'miles').status).toBe(2);
  });
  it('speaks plainly without --json', () => {
    const { out } = calque('scale', sheet('08b_stretched_y1012.pdf'));
    expect(out).toContain('39 of 39 dimensions agree');
    expect(out).toContain('stretched: 100.0001 along the width, 98.8145 along the height');
    expect(calque('scale', sheet('04_chromium_fit973_wrong_dim.pdf')).out).toMatch(
      /prints 4560, measures 5460 mm[\s\S]*not what its dimensions say/,
    );
  });
});
