import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Found } from '../src/table/snapping.ts';
import { Touches } from '../src/table/touches.ts';

const found = (x: number, y: number, more: Partial<Found> = {}): Found => ({
  kind: 'end',
  plane: [x, y],
  underlayId: null,
  sheet: null,
  lit: [
    [
      [0, 0],
      [x, y],
    ],
  ],
  ...more,
});

describe('what the cursor touches', () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
  });
  const given = () => {
    const now: { found: Found | undefined; others: Found[]; scale: number } = {
      found: undefined,
      others: [],
      scale: 1,
    };
    const changed = vi.fn(),
      touches = new Touches(() => now, changed);
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
    expect(touches.list).toEqual([
      {
        at: [100, 50],
        lines: [
          [
            [0, 0],
            [100, 50],
          ],
        ],
      },
    ]);
    expect(changed).toHaveBeenCalledOnce();
  });
  it('is remembered three at a time, each place once', () => {
    const { now, touches } = given();
    for (const x of [1, 100, 200, 200.5, 300, 400]) {
      now.found = found(x, 0, {
        lit: [
          [
            [0, 0],
            [1, 1],
          ],
          [
            [5, 5],
            [9, 9],
          ],
        ],
      });
      touches.touch();
    }
    expect(touches.list.map((t) => t.at[0])).toEqual([200.5, 300, 400]);
    touches.clear();
    expect(touches.list).toEqual([]);
  });
  it('brings along all lines through its place, each direction once: a hatch may end on the face that is meant', () => {
    const { now, touches } = given();
    const hatch = found(100, 0, {
        lit: [
          [
            [100, 0],
            [110, 10],
          ],
        ],
      }),
      face = found(101, 0, {
        kind: 'along',
        lit: [
          [
            [0, 0],
            [900, 0],
          ],
        ],
      }),
      again = found(100, 0, {
        lit: [
          [
            [100, 0],
            [40, 0],
          ],
        ],
      });
    now.found = hatch;
    now.others = [
      hatch,
      face,
      again,
      found(140, 0, {
        lit: [
          [
            [140, 0],
            [140, 99],
          ],
        ],
      }),
      found(100, 0, {
        kind: 'inline',
        lit: [
          [
            [100, -500],
            [100, 0],
          ],
        ],
      }),
      found(100, 0, {
        lit: [
          [
            [0, 0],
            [1, 1],
            [2, 0],
          ],
        ],
      }),
    ];
    touches.touch();
    expect(touches.list[0].lines).toEqual([
      [
        [0, 0],
        [900, 0],
      ],
      [
        [100, 0],
        [110, 10],
      ],
    ]);
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
