import { describe, expect, it } from 'vitest';
import type { Linework } from '@calque/core/linework';
import { scaleNotes } from '@calque/core/linework';
import { bytesOf, read, truth, type TruthPage } from './truth.ts';

/** Producers print two or three decimals and the engine works in 32 bits: a twentieth of a point is agreement. */
const NEAR = 0.05;

class Ends {
  private readonly cells = new Map<string, number[][]>();
  constructor(arrays: Float64Array[]) {
    for (const a of arrays)
      for (let i = 0; i < a.length; i += 4) {
        const line = [...a.subarray(i, i + 4)];
        for (const [x, y] of [
          [line[0], line[1]],
          [line[2], line[3]],
        ]) {
          const key = `${Math.round(x)},${Math.round(y)}`;
          this.cells.set(key, [...(this.cells.get(key) ?? []), line]);
        }
      }
  }

  has([x0, y0, x1, y1]: number[]): boolean {
    const near = (a: number, b: number) => Math.abs(a - b) < NEAR;
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++) {
        for (const l of this.cells.get(`${Math.round(x0) + i},${Math.round(y0) + j}`) ?? []) {
          if (near(l[0], x0) && near(l[1], y0) && near(l[2], x1) && near(l[3], y1)) return true;
          if (near(l[2], x0) && near(l[3], y0) && near(l[0], x1) && near(l[1], y1)) return true;
        }
      }
    return false;
  }
}

function compare(l: Linework, t: TruthPage): void {
  const flip = ([x0, y0, x1, y1]: number[]) => [x0, l.height - y0, x1, l.height - y1];
  expect([l.width, l.height]).toEqual([expect.closeTo(t.size[0], 2), expect.closeTo(t.size[1], 2)]);
  expect(l.counts.segments).toBe(t.visible);
  const ends = new Ends([l.segments, l.fillEdges]);
  expect(t.lines.filter((q) => !ends.has(flip(q)))).toEqual([]);
  expect(t.decoys.filter((q) => ends.has(flip(q)))).toEqual([]);
  const rows = (a: Float64Array, n: number) =>
    Array.from({ length: a.length / n }, (_, i) => [...a.subarray(i * n, i * n + n)]);
  const arcs = rows(l.arcs, 5),
    circles = rows(l.circles, 3);
  const near = (a: number, b: number) => Math.abs(a - b) < NEAR;
  expect(
    t.arcs.filter(
      ([x, y, r, sweep]) =>
        !arcs.some(
          (a) =>
            near(a[0], x) &&
            near(a[1], l.height - y) &&
            near(a[2], r) &&
            Math.abs(((a[4] - a[3]) * 180) / Math.PI - sweep) < 0.5,
        ),
    ),
  ).toEqual([]);
  expect(
    t.circles.filter(
      ([x, y, r]) => !circles.some((c) => near(c[0], x) && near(c[1], l.height - y) && near(c[2], r)),
    ),
  ).toEqual([]);
  if (t.curves !== null) expect(l.counts.curves).toBeLessThanOrEqual(t.curves + 1);
  const missing = t.texts.filter(
    (w) =>
      !l.texts.some(
        (g) =>
          g.text.replace(/\s+/g, ' ') === w.s &&
          Math.abs(g.height - w.size) < 0.1 &&
          Math.abs(Math.sin(g.radians - (w.angle * Math.PI) / 180)) < 0.02 &&
          Math.hypot(g.x - w.at[0], l.height - g.y - w.at[1]) <
            6 + (w.anchor === 'start' ? 0 : w.s.length * w.size * 0.7),
      ),
  );
  expect(missing.map((m) => m.s)).toEqual([]);
}

describe('sheets of several producers, against their known contents', () => {
  for (const [id, c] of Object.entries(truth)) {
    it(`${id}: ${c.file}`, async () => {
      const { pages } = await read(bytesOf(c.file), { password: c.password });
      const expected = c.pages ?? truth[c.as!].pages!;
      expect(pages).toHaveLength(expected.length);
      expected.forEach((t, i) => compare(pages[i].linework, t));
    });
  }
});

describe('layers', () => {
  it("tells the file's own layers, their default state and their lines", async () => {
    const {
      pages: [{ linework: l }],
    } = await read(bytesOf(truth['02'].file));
    const byName = Object.fromEntries(l.layers.map((x) => [x.name, { segments: x.segments, on: x.on }]));
    expect(byName).toEqual(truth['02'].pages![0].layers);
  });
  it('lists what lies on a layer that is off only when asked', async () => {
    const bytes = bytesOf(truth['02'].file);
    const [usual, all] = await Promise.all([read(bytes), read(bytes, { allLayers: true })]);
    const off = usual.pages[0].linework.layers.findIndex((x) => !x.on);
    const on = (l: Linework) => [...l.segmentStyle].filter((layer, i) => i % 2 === 0 && layer === off).length;
    expect([on(usual.pages[0].linework), usual.pages[0].linework.layers[off].segments]).toEqual([0, 0]);
    expect(on(all.pages[0].linework)).toBe(2);
    expect(on(all.pages[0].linework)).toBe(all.pages[0].linework.layers[off].segments);
  });
});

it('counts what was left out and why', async () => {
  const nested = (await read(bytesOf(truth['05'].file))).pages[0].linework.leftOut;
  expect(nested.covered).toBe(1);
  expect(nested.clipped).toBeGreaterThanOrEqual(6);
  const imperial = (await read(bytesOf(truth['02'].file))).pages[0].linework.leftOut;
  expect(imperial).toMatchObject({ zeroLength: 1, paperColoured: 1 });
  expect(imperial.unpainted).toBeGreaterThanOrEqual(1);
});

it('finds the scale that a sheet states', async () => {
  const notes = async (id: string, page = 0) =>
    scaleNotes((await read(bytesOf(truth[id].file))).pages[page].linework.texts).map((n) => n.factor);
  expect(await notes('01')).toEqual([100]);
  expect(await notes('02')).toEqual([48]);
  expect(await notes('09', 2)).toEqual([50, 5]);
});

it('tells a scan from a drawing', async () => {
  const {
    pages: [{ linework }],
  } = await read(bytesOf('08a_scan_200dpi.pdf'));
  expect(linework.content).toBe('scan');
  expect(linework.counts.images).toBe(1);
});
