import { describe, expect, it } from 'vitest';
import { decodeLinework, encodeLinework } from '@calque/core/linework';
import { byLibrary } from './hands/draw/producers.ts';
import { Hand, type Point } from './hands/draw/hand.ts';
import { lineworkOf } from './houses/run.ts';

const box = (x: number, y: number, w: number, h: number): Point[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

/** A sheet with a line across it, and what is painted over that. */
async function sheet(paint: (hand: Hand) => void) {
  const hand = new Hand(400, 300);
  hand.line([20, 100], [380, 100]);
  paint(hand);
  hand.ink = '#000000';
  hand.line([20, 200], [380, 200]);
  return lineworkOf(await byLibrary()([hand]));
}
const fill =
  (ink: string, ...points: Point[]) =>
  (hand: Hand) => {
    hand.ink = ink;
    hand.fill(...points);
  };

describe('white patches over a drawing', () => {
  it('are told with their rings and what they lie over; the line beneath stays whole, for snaps and measures', async () => {
    const l = await sheet(fill('#ffffff', ...box(100, 90, 40, 20))),
      [patch, ...more] = l.patches!;
    expect(more).toEqual([]);
    const corners = (of: readonly (readonly [number, number])[]) =>
      [...new Set(of.map((p) => p.map(Math.round).join(' ')))].sort();
    expect(corners(patch.ring)).toEqual(corners(box(100, 90, 40, 20)));
    const whole = [...l.segmentObject].map((object, i) => ({ object, y: Math.round(l.segments[4 * i + 1]) })),
      below = whole.find((s) => s.y === 100)!,
      above = whole.find((s) => s.y === 200)!;
    expect(below.object).toBeLessThan(patch.object);
    expect(above.object).toBeGreaterThan(patch.object);
    expect(l.segments.length / 4).toBe(2);
    // They are stored with the page.
    const { linework } = decodeLinework(encodeLinework(l, new ArrayBuffer(0)).buffer);
    expect(linework.patches).toEqual(l.patches);
  });

  it('are none that are coloured, hold words, are a ground of the page, or a picture of many corners', async () => {
    const none = [
      fill('#dddddd', ...box(100, 90, 40, 20)),
      (hand: Hand) => {
        fill('#ffffff', ...box(100, 90, 40, 20))(hand);
        hand.ink = '#000000';
        hand.text('2400', [120, 97], 7);
      },
      fill('#ffffff', ...box(10, 10, 380, 280)),
      fill(
        '#ffffff',
        ...Array.from({ length: 40 }, (_, i): Point => {
          const angle = (i * Math.PI) / 20,
            r = i % 2 === 0 ? 12 : 20;
          return [120 + r * Math.cos(angle), 100 + r * Math.sin(angle)];
        }),
      ),
    ];
    for (const paint of none) expect((await sheet(paint)).patches).toBeUndefined();
  });
});
