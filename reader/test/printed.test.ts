import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readPrinted, type PrintedDimension, type PrintedReading } from '@calque/core/calibration';
import { DEFAULT_MEMORY_MB } from '../src/index.ts';
import { readFile } from '../src/read-file.ts';

type Truth = [text: string, mm: number, x0: number, y0: number, x1: number, y1: number, wrong: 0 | 1];
const sheet = (name: string) => new URL(`./sheets/${name}`, import.meta.url);
const TRUTH = JSON.parse(readFileSync(sheet('dimensions.json'), 'utf8')) as Record<
  string,
  Record<string, { scales: [number, number][]; dimensions: Truth[] }>
>;

async function printedOf(name: string, page: number): Promise<PrintedReading> {
  let reading: PrintedReading | null = null;
  await readFile(
    new Uint8Array(readFileSync(sheet(name))),
    { maxMegabytes: DEFAULT_MEMORY_MB, page },
    () => {},
    ({ linework }) => {
      reading = readPrinted(linework);
    },
  );
  return reading!;
}

/** Ends may miss the true ones by this, sheet points. */
const NEAR = 0.6;
const matches = (d: PrintedDimension, [text, , x0, y0, x1, y1]: Truth) => {
  const near = (p: readonly number[], x: number, y: number) => Math.hypot(p[0] - x, p[1] - y) < NEAR;
  return (
    d.text === text &&
    ((near(d.from, x0, y0) && near(d.to, x1, y1)) || (near(d.from, x1, y1) && near(d.to, x0, y0)))
  );
};

describe('printed dimensions of sheets from several producers', () => {
  for (const [name, pages] of Object.entries(TRUTH)) {
    for (const [page, { scales, dimensions }] of Object.entries(pages)) {
      it(`${name}, page ${page}: all ${dimensions.length} found with their ends, none invented, the scale within 0.05 %`, async () => {
        const { views, dimensions: read } = await printedOf(name, Number(page));
        const missed = dimensions.filter((t) => !read.some((d) => matches(d, t)));
        expect(missed).toEqual([]);
        expect(read.length).toBe(dimensions.length);
        for (const t of dimensions) {
          const d = read.find((r) => matches(r, t))!;
          // Millimetres: a figure of the manifest is rounded as it is printed.
          expect(Math.abs(d.millimetres - t[1])).toBeLessThanOrEqual(Math.max(d.half * 1.01, 0.01));
          expect(d.agrees).toBe(t[6] === 0);
        }
        expect(views.length).toBe(scales.length);
        for (const [x, y] of scales) {
          const view = views.reduce((a, b) => (Math.abs(b.x / x - 1) < Math.abs(a.x / x - 1) ? b : a));
          expect(Math.abs(view.x / x - 1)).toBeLessThan(5e-4);
          expect(Math.abs(view.y / y - 1)).toBeLessThan(5e-4);
          expect(view.stretched).toBe(x !== y);
        }
      });
    }
  }

  it('nothing is invented on a title page, on a scan, or where texts are outlines', async () => {
    for (const [name, page] of [
      ['09_tikz_set_3_pages.pdf', 1],
      ['08a_scan_200dpi.pdf', 1],
      ['14_cairo_text_as_outlines.pdf', 1],
    ] as const) {
      const { views, dimensions, why } = await printedOf(name, page);
      expect([views, dimensions]).toEqual([[], []]);
      expect(why).toMatch(/^(The page has no texts|No text)/);
    }
  });
});
