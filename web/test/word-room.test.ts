import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  LEAST_WORDS,
  LINE,
  placesAround,
  WordRoom,
  type ScreenBox,
} from '../src/table/painters/word-room.ts';

const overlap = (a: ScreenBox, b: ScreenBox) => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3];
/** What lines of words take up, as they are placed. */
const boxOf = (at: { x: number; y: number; size: number }, widths: readonly number[]): ScreenBox => [
  at.x,
  at.y - 0.78 * at.size,
  at.x + Math.max(...widths) * at.size,
  at.y + (0.24 + LINE * (widths.length - 1)) * at.size,
];

describe('words on the drawing', () => {
  it('never lie on one another nor on what is printed, wherever they are wanted', () => {
    const x = fc.double({ min: -40, max: 840, noNaN: true }),
      y = fc.double({ min: -40, max: 640, noNaN: true }),
      words = fc.record({
        at: fc.tuple(x, y),
        widths: fc.array(fc.double({ min: 0.5, max: 9, noNaN: true }), { minLength: 1, maxLength: 3 }),
      }),
      printed = fc.tuple(x, y, fc.double({ min: 3, max: 120 }), fc.double({ min: 3, max: 30 }));
    fc.assert(
      fc.property(fc.array(printed, { maxLength: 60 }), fc.array(words, { maxLength: 40 }), (prints, all) => {
        const room = new WordRoom(800, 600);
        const taken = prints.map(([px, py, w, h]): ScreenBox => [px, py, px + w, py + h]);
        taken.forEach((b) => room.take(b));
        const seen = taken.filter((b) => room.isInSight(b));
        for (const { at, widths } of all) {
          const found = room.place(widths, 12, placesAround(at, [30, 12], 3));
          if (!found) continue;
          expect(found.size).toBeGreaterThanOrEqual(LEAST_WORDS);
          const box = boxOf(found, widths);
          if (!room.isInSight(box)) continue;
          for (const other of seen) expect(overlap(box, other)).toBe(false);
          seen.push(box);
        }
      }),
      { numRuns: 200 },
    );
  });
  it('stand where they are wanted while that is free, move to the nearest ground, shrink, and wait', () => {
    const room = new WordRoom(400, 300);
    const first = room.place([5], 12, placesAround([200, 150], [30, 12], 2))!;
    expect(first).toMatchObject({ x: 170, size: 12 });
    const second = room.place([5], 12, placesAround([200, 150], [30, 12], 2))!;
    expect(second.size).toBe(12);
    expect(overlap(boxOf(first, [5]), boxOf(second, [5]))).toBe(false);
    // Within a narrow room only smaller letters do.
    const narrow = (b: ScreenBox) => b[0] >= 20 && b[2] <= 68 && b[1] >= 20 && b[3] <= 60;
    expect(room.place([5], 12, [[44, 40]], narrow)).toMatchObject({ size: 9 });
    expect(room.place([5], 12, [[44, 40]], narrow)).toBeNull();
    // What is printed is asked for once, and only where somebody looks for room.
    let asked = 0;
    const lazy = new WordRoom(400, 300, (r) => {
      asked++;
      r.take([0, 0, 400, 300]);
    });
    lazy.take([0, 0, 1, 1]);
    expect(asked).toBe(0);
    expect([lazy.isFree([5, 5, 9, 9]), lazy.copy().isFree([5, 5, 9, 9]), asked]).toEqual([false, false, 1]);
    // What another frame writes does not come back into this one's.
    const copy = room.copy();
    copy.take([300, 10, 390, 40]);
    expect([room.isFree([300, 10, 390, 40]), copy.isFree([300, 10, 390, 40])]).toEqual([true, false]);
  });
});
