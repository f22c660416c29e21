import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Fingers, pinched } from '../src/table/fingers.ts';
import { toPlane } from '../src/table/viewport.ts';

const VIEW = { scale: 0.05, x: 400, y: 500 };

describe('fingers', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  const on = () => {
    const held = {
      view: { ...VIEW },
      steps: 0,
      setView: (v: typeof VIEW) => void (held.view = v),
      nextCandidate: () => void held.steps++,
    };
    return { held, fingers: new Fingers(held) };
  };

  it('two move and zoom the view: what lay under each stays under it where they go straight', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 1200 }), fc.integer({ min: 0, max: 800 }));
    fc.assert(
      fc.property(place, place, fc.double({ min: 0.4, max: 2.5, noNaN: true }), place, (a, b, factor, by) => {
        fc.pre(Math.hypot(a[0] - b[0], a[1] - b[1]) > 20);
        const moved = ([x, y]: [number, number]): [number, number] => [
          factor * x + by[0],
          factor * y + by[1],
        ];
        const after = pinched(VIEW, [a, b], [moved(a), moved(b)]);
        for (const p of [a, b]) {
          const before = toPlane(VIEW, p),
            now = toPlane(after, moved(p));
          expect(Math.hypot(now[0] - before[0], now[1] - before[1])).toBeLessThan(1e-6 / VIEW.scale);
        }
      }),
    );
  });

  it('one rests and steps through what lies there, until it moves or is lifted', () => {
    const { held, fingers } = on();
    expect(fingers.press(1, [10, 10])).toBe(false);
    vi.advanceTimersByTime(1200);
    expect(held.steps).toBe(2);
    expect(fingers.stepped).toBe(true);
    fingers.rest();
    vi.advanceTimersByTime(2000);
    expect(held.steps).toBe(2);
    expect(fingers.lift(1)).toBe(false);
    fingers.press(1, [10, 10]);
    expect(fingers.stepped).toBe(false);
  });

  it('the second makes a gesture of both, and neither picks when it is lifted', () => {
    const { held, fingers } = on();
    fingers.press(1, [100, 100]);
    expect(fingers.press(2, [200, 100])).toBe(true);
    expect(fingers.move(2, [300, 100])).toBe(true);
    expect(held.view.scale).toBeCloseTo(0.1, 9);
    vi.advanceTimersByTime(3000);
    expect(held.steps).toBe(0);
    expect(fingers.lift(1)).toBe(true);
    expect(fingers.move(2, [350, 100])).toBe(true);
    expect(fingers.lift(2)).toBe(true);
    expect(fingers.press(3, [5, 5])).toBe(false);
  });
});
