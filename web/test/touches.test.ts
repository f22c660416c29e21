import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Found } from '../src/table/snapping.ts';
import { Touches } from '../src/table/touches.ts';

const found = (x: number, y: number, more: Partial<Found> = {}): Found => ({ kind: 'end', plane: [x, y], underlayId: null, sheet: null, lit: [[[0, 0], [x, y]]], ...more });

describe('what the cursor touches', () => {
  beforeEach(() => { vi.useFakeTimers(); });
  afterEach(() => { vi.useRealTimers(); });
  const given = () => {
    const now: { found: Found | undefined; scale: number } = { found: undefined, scale: 1 };
    const changed = vi.fn(), touches = new Touches(() => now, changed);
    return { now, changed, touches };
  };

  it('is what it rests on for a while, not what it passes', () => {
    const { now, touches, changed } = given();
    now.found = found(100, 0);
    touches.wait();
    vi.advanceTimersByTime(300);
    now.found = undefined;
    touches.wait();
    vi.advanceTimersByTime(2000);
    expect(touches.list).toEqual([]);
    now.found = found(100, 50);
    touches.wait();
    vi.advanceTimersByTime(500);
    expect(touches.list).toEqual([{ at: [100, 50], line: [[0, 0], [100, 50]] }]);
    expect(changed).toHaveBeenCalledOnce();
  });
  it('is remembered three at a time, each place once; a crossing has no one line', () => {
    const { now, touches } = given();
    for (const x of [1, 100, 200, 200.5, 300, 400]) {
      now.found = found(x, 0, { lit: [[[0, 0], [1, 1]], [[5, 5], [9, 9]]] });
      touches.touch();
    }
    expect(touches.list.map((t) => t.at[0])).toEqual([200.5, 300, 400]);
    expect(touches.list.every((t) => t.line === null)).toBe(true);
    touches.clear();
    expect(touches.list).toEqual([]);
  });
  it('is never what a guide or the grid has offered', () => {
    const { now, touches } = given();
    for (const kind of ['inline', 'parallel', 'grid'] as const) {
      now.found = found(10, 10, { kind });
      touches.touch();
    }
    expect(touches.list).toEqual([]);
  });
});
