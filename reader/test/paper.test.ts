import { describe, expect, it } from 'vitest';
import type { Drawing, View } from '@calque/core/exchange';
import { MM_PER_POINT } from '@calque/core/geometry';
import type { Linework } from '@calque/core/linework';
import { layOut, writePdf, type PdfOptions } from '@calque/core/paper';
import { DEFAULT_MEMORY_MB, readFile } from '../src/index.ts';

const TITLE = { project: 'Boathouse', date: '2026-11-29' };
const viewOf = (shapes: Drawing['shapes'], name = 'Ground floor'): View => ({
  name,
  drawing: drawing(shapes),
});
const drawing = (shapes: Drawing['shapes']): Drawing => ({
  layers: [{ name: 'Walls', colour: 0x17273a, index: 7, weight: 0.35 }],
  shapes,
});
const line = (x0: number, y0: number, x1: number, y1: number): Drawing['shapes'][number] => ({
  kind: 'line',
  layer: 'Walls',
  from: [x0, y0],
  to: [x1, y1],
});
/** A drawing written and read back by another engine. */
async function readBack(shapes: Drawing['shapes'], options: Partial<PdfOptions> = {}): Promise<Linework> {
  const { bytes } = await writePdf([viewOf(shapes)], { scale: 100, paper: null, title: TITLE, ...options });
  let out: Linework | null = null;
  await readFile(
    bytes,
    { maxMegabytes: DEFAULT_MEMORY_MB },
    () => {},
    (p) => void (out = p.linework),
  );
  return out!;
}
/** Lengths of all segments that are no part of the title, millimetres of paper. */
const lengths = (l: Linework): number[] => {
  const { segments: s } = l,
    out: number[] = [];
  for (let i = 0; i < s.length; i += 4)
    out.push(Math.hypot(s[i + 2] - s[i], s[i + 3] - s[i + 1]) * MM_PER_POINT);
  return out;
};

describe('a drawing on paper', () => {
  it('is true: a wall of 10 m is 100.0 mm at 1:100, and 200 mm at 1:50', async () => {
    expect(
      Math.max(...lengths(await readBack([line(5e5, 100, 5.1e5, 100)])).filter((l) => l < 150)),
    ).toBeCloseTo(100, 2);
    const half = lengths(await readBack([line(0, 0, 6000, 8000)], { scale: 50 }));
    expect(half.some((l) => Math.abs(l - 200) < 0.01)).toBe(true);
  });
  it('has its circles, arcs and bends where they are, and a length to measure it by', async () => {
    const l = await readBack([
      { kind: 'circle', layer: 'Walls', cx: 0, cy: 0, r: 2000 },
      { kind: 'arc', layer: 'Walls', cx: 8000, cy: 0, r: 1500, start: 0.3, end: 2.5 },
      {
        kind: 'polyline',
        layer: 'Walls',
        points: [
          [12000, 0],
          [14000, 0],
        ],
        bulges: [1, 0],
        closed: true,
      },
    ]);
    const radii = [
      ...Array.from({ length: l.arcs.length / 5 }, (_, i) => l.arcs[5 * i + 2] * MM_PER_POINT),
      ...Array.from({ length: l.circles.length / 3 }, (_, i) => l.circles[3 * i + 2] * MM_PER_POINT),
    ];
    for (const r of [20, 15, 10]) expect(radii.some((found) => Math.abs(found - r) < 0.02)).toBe(true);
    expect(lengths(l).some((length) => Math.abs(length - 50) < 0.01)).toBe(true);
  });
  it('says what it is; letters that its font has not are written as their nearest, and counted', async () => {
    const texts = (await readBack([line(0, 0, 5000, 0)])).texts.map((t) => t.text).join(' ');
    expect(texts).toMatch(/Boathouse/);
    expect(texts).toMatch(/Ground floor 1:100 on A4 2026-11-29/);
    const { changedLetters } = await writePdf([viewOf([line(0, 0, 5000, 0)])], {
      scale: 100,
      paper: null,
      title: { ...TITLE, project: 'Łódź 船庫' },
    });
    expect(changedLetters).toBe(4);
  });
  it('lies on the smallest paper on which it fits, standing where it is high; else it says what to do', () => {
    const on = (w: number, h: number, paper: PdfOptions['paper'] = null) =>
      layOut(viewOf([line(0, 0, w * 100, h * 100)]), { scale: 100, paper }).laid;
    expect(on(200, 100)).toMatchObject({ name: 'A4', width: 297 });
    expect(on(100, 200)).toMatchObject({ name: 'A4', width: 210 });
    expect(on(300, 200)).toMatchObject({ name: 'A3' });
    expect(on(250, 150, 'letter')).toMatchObject({ name: 'letter' });
    expect(() => on(300, 200, 'A4')).toThrow(/300 x 200 mm and does not fit A4.*larger paper/);
    expect(() => on(3000, 200)).toThrow(/does not fit the largest paper/);
    expect(() => layOut(viewOf([]), { scale: 100, paper: null })).toThrow('nothing to draw of Ground floor');
  });
  it('has a page for each view, on a paper of its own, under its name', async () => {
    const { bytes, papers } = await writePdf(
      [viewOf([line(0, 0, 5000, 0)]), viewOf([line(0, 0, 30000, 8000)], 'River side')],
      { scale: 100, paper: null, title: TITLE },
    );
    expect(papers.map((p) => p.name)).toEqual(['A4', 'A3']);
    const pages: string[] = [];
    await readFile(
      bytes,
      { maxMegabytes: DEFAULT_MEMORY_MB },
      () => {},
      (p) => void pages.push(p.linework.texts.map((t) => t.text).join(' ')),
    );
    expect(pages).toHaveLength(2);
    expect(pages[0]).toMatch(/Ground floor 1:100 on A4/);
    expect(pages[1]).toMatch(/River side 1:100 on A3/);
    await expect(writePdf([], { scale: 100, paper: null, title: TITLE })).rejects.toThrow('nothing to draw');
  });
});
