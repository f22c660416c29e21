import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readPrinted, type PrintedReading } from '@calque/core/calibration';
import { DEFAULT_MEMORY_MB } from '../src/index.ts';
import { readFile } from '../src/read-file.ts';
import { lineworkOf, randomSheet } from './hands/draw/random.ts';
import { handsFolder, score, truthOf, type Score } from './hands/score.ts';

async function readingOf(
  set: 'tuned' | 'apart',
  name: string,
  page: number,
): Promise<{ reading: PrintedReading; milliseconds: number }> {
  let out: { reading: PrintedReading; milliseconds: number } | null = null;
  await readFile(
    new Uint8Array(readFileSync(new URL(`${name}.pdf`, handsFolder(set)))),
    { maxMegabytes: DEFAULT_MEMORY_MB, page },
    () => {},
    ({ linework }) => {
      const began = performance.now(),
        reading = readPrinted(linework);
      out = { reading, milliseconds: performance.now() - began };
    },
  );
  return out!;
}

/** What was promised of sheets by other hands: 97 of 100 found, 1 of 100 wrong, no wrong scale. */
function expectGood(scores: readonly Score[]): void {
  const sum = (of: (s: Score) => number) => scores.reduce((a, s) => a + of(s), 0),
    printed = sum((s) => s.printed);
  expect(sum((s) => s.found) / printed, scores.flatMap((s) => s.missed).join('; ')).toBeGreaterThanOrEqual(
    0.97,
  );
  expect(sum((s) => s.wrong.length) / printed, scores.flatMap((s) => s.wrong).join('; ')).toBeLessThanOrEqual(
    0.01,
  );
  expect(scores.flatMap((s) => s.wrongScales)).toEqual([]);
}

describe('sheets by other hands', () => {
  for (const set of ['tuned', 'apart'] as const) {
    it(`${set === 'tuned' ? 'nineteen that reading was tuned on' : 'eight that it was not'}: their dimensions with kind, ends and value, their scales within 0.02 %, heights of openings kept`, async () => {
      const scores: Score[] = [];
      for (const [name, pages] of Object.entries(truthOf(set)))
        for (let page = 1; page <= pages.length; page++)
          scores.push(score((await readingOf(set, name, page)).reading, pages[page - 1]));
      expectGood(scores);
      for (const s of scores) {
        expect(s.scales[0]).toBe(s.scales[1]);
        expect(s.heights[0]).toBe(s.heights[1]);
      }
    });
  }

  it('drawn and written at random, as no office does', () => {
    const scores: Score[] = [];
    for (let seed = 5001; seed <= 5080; seed++) {
      const { hand, grid } = randomSheet(seed);
      scores.push(score(readPrinted(lineworkOf(hand, grid)), hand.truth));
    }
    expectGood(scores);
    // Now and then two units are as likely: then it is asked.
    expect(scores.filter((s) => s.scales[0] < s.scales[1]).length).toBeLessThanOrEqual(2);
  });

  const reading = async (name: string, page = 1) => (await readingOf('tuned', name, page)).reading;
  it('the unit is told of each view: by raised halves, by a note, by how inches are written', async () => {
    const units = await Promise.all(
      [
        'boat-store-cm',
        'club-rooms-cm',
        'bracket-inches',
        'trestle-fractions',
        'duct-plan-feet',
        'boathouse-details',
      ].map(async (name) => (await reading(name)).views[0].unit),
    );
    expect(units).toEqual(['cm', 'cm', 'in', 'in', 'ft', 'mm']);
  });

  it('a drawing without a dimension is as its graphic scale says, and the stated one is named as contradicted', async () => {
    const { views, notes, dimensions } = await reading('riverside-bar');
    expect(dimensions).toEqual([]);
    expect(views).toMatchObject([{ from: 'bar', unit: 'm', factor: expect.closeTo(500 / 0.81, 1) }]);
    expect(notes.find((n) => !n.bar)).toMatchObject({ factor: 500, view: 0 });
    const span = notes.find((n) => n.bar)!.span!;
    expect(span.millimetres).toBe(40000);
    expect(Math.hypot(span.to[0] - span.from[0], span.to[1] - span.from[1])).toBeCloseTo(
      ((40000 / (500 / 0.81)) * 72) / 25.4,
      1,
    );
  });

  it('a figure that is underlined is no witness, and no slip', async () => {
    const { dimensions } = await reading('boathouse-details');
    expect(
      dimensions
        .filter((d) => d.free)
        .map((d) => d.text)
        .sort(),
    ).toEqual(['3000', '4000']);
    expect(dimensions.filter((d) => !d.agrees && !d.free).map((d) => d.text)).toEqual(['2900']);
  });

  it('a detail with two dimensions is found from these alone, at its own scale', async () => {
    expect(
      (await reading('boathouse-details')).views.map((v) => Math.round(v.factor)).sort((a, b) => a - b),
    ).toEqual([5, 10, 50]);
  });

  it('all kinds are told: across, by leader, from the centre, angles, arcs, places from a datum, edges', async () => {
    const kinds = new Set<string>();
    for (const name of ['gate-rounds', 'plate-ordinates', 'parcel-boundaries'])
      for (const d of (await reading(name)).dimensions) kinds.add(d.kind);
    expect([...kinds].sort()).toEqual([
      'angle',
      'arc',
      'boundary',
      'diameter',
      'linear',
      'ordinate',
      'radius',
    ]);
  });

  it('a cover and a schedule have nothing, and say so', async () => {
    for (const page of [1, 2]) {
      const { views, dimensions, why } = await reading('cover-and-schedule', page);
      expect([views, dimensions]).toEqual([[], []]);
      expect(why).toContain('none stands at a dimension line');
    }
  });
});
