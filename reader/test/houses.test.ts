import { describe, expect, it } from 'vitest';
import { proposalsOn } from '@calque/core/proposals';
import { byLibrary } from './hands/draw/producers.ts';
import { lineworkOf, scoreOf } from './houses/run.ts';
import { scoreOfScan } from './houses/scans.ts';
import type { Hit } from './houses/score.ts';
import { APART, houseSheet, STRANGE, TUNED } from './houses/sheets.ts';

const shares = ({ there, found, proposed, right }: Hit) => [
  there === 0 ? 1 : found / there,
  proposed === 0 ? 1 : right / proposed,
];

/** Scans at 200 dpi, turned by 1.3 degrees, with grain, through a JPEG: plain double lines, axes along the walls, feet and inches. */
describe('walls of scans, by their ink', () => {
  it.each([TUNED[0], TUNED[8], APART[1]])('$name', async (sheet) => {
    const { score } = await scoreOfScan(sheet),
      [found, right] = shares(score.walls);
    expect(found).toBeGreaterThanOrEqual(0.85);
    expect(right).toBeGreaterThanOrEqual(0.9);
  });
});

describe('what houses drawn in many offices\u2019 hands are seen to show', () => {
  it.each([...TUNED, ...APART, ...STRANGE])('$name', async (sheet) => {
    const { score } = await scoreOf(sheet);
    for (const [what, least] of [
      ['walls', 0.95],
      ['openings', 0.88],
      ['rooms', 0.8],
      ['columns', 0.95],
      ['grid', 0.95],
    ] as const)
      for (const share of shares(score[what]))
        expect(share, `${what} ${JSON.stringify(score[what])}`).toBeGreaterThanOrEqual(least);
    const { swings, names } = score;
    expect(swings.right).toBeGreaterThanOrEqual(0.9 * swings.doors);
    expect(names.right).toBeGreaterThanOrEqual(0.9 * names.rooms);
  });

  it('names, numbers and printed areas are those that stand in the rooms', async () => {
    const { proposed } = await scoreOf(TUNED[0]);
    for (const room of proposed.rooms) {
      expect(room.name).not.toBe('');
      expect(room.number).toMatch(/^1\d\d$/);
      expect(room.printed).not.toBeNull();
      expect(Math.abs(room.printed! - room.area)).toBeLessThan(0.11);
    }
  });

  it('a pen that is told to draw no walls draws none, and a thickness that is refused is gone', async () => {
    const { house, hand } = houseSheet(TUNED[0]),
      linework = await lineworkOf(await byLibrary()([hand])),
      all = proposalsOn(linework, 100),
      [pen] = all.pens;
    expect(pen.width).toBeCloseTo(0.9, 2);
    // What is left are panes of windows, as far apart as the faces.
    const without = proposalsOn(linework, 100, { told: { notThick: [], pens: { [pen.name]: false } } }),
      length = (of: typeof all) =>
        of.walls.reduce((sum, w) => sum + Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]), 0);
    expect(without.pens.some((p) => p.name === pen.name)).toBe(false);
    expect(without.walls.filter((w) => Math.abs(w.thickness - 100) < 5)).toEqual([]);
    expect(length(without)).toBeLessThan(0.6 * length(all));
    const thin = proposalsOn(linework, 100, { told: { notThick: [100], pens: {} } });
    expect(thin.walls.some((w) => Math.abs(w.thickness - 100) < 5)).toBe(false);
    expect(thin.walls.filter((w) => Math.abs(w.thickness - 300) < 5)).toHaveLength(
      house.walls.filter((w) => w.outer).length,
    );
  });
});
