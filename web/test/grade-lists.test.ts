import { describe, expect, it } from 'vitest';
import type { TraceGrade } from '@calque/core/grade';
import { fineStyle, listsOf } from '@/stages/check/grade/lists';

type Near = readonly [number, number] | null;
const line = (element: string, x: number, parts: readonly [number, number, Near][]) => ({
  element,
  line: [x, 0, x, 1000] as const,
  stretches: parts.map(([from, to, near]) => ({ from, to, near })),
});

describe('what is to be looked at of a grade', () => {
  const grade: TraceGrade = {
    traced: [
      line('near', 0, [[0, 1000, [0, 1]]]),
      line('askew', 100, [[0, 1000, [0, 12]]]),
      line('off', 200, [[0, 1000, [30, 30]]]),
      line('half', 300, [
        [0, 500, [1, 1]],
        [500, 1000, null],
      ]),
      line('jamb', 400, [
        [0, 900, [1, 1]],
        [900, 1000, null],
      ]),
    ],
    faces: [],
    untraced: [
      { from: [0, 0], to: [4000, 3000], thickness: 100, free: 9000, drawn: 9000, isSure: true },
      { from: [0, 0], to: [400, 0], thickness: 100, free: 700, drawn: 800, isSure: false },
    ],
    reach: 50,
  };
  it('is the worst first, with where it is: what strays by more than two and a half tolerances, what is missing, what lies on no ink', () => {
    const { strays, untraced, undrawn } = listsOf(grade, 2);
    expect(strays.map((s) => [s.id, s.figure])).toEqual([
      ['off', 30],
      ['askew', 12],
    ]);
    // Where it is worst: at its far end.
    expect(strays[1].box).toEqual([100, 1000, 100, 1000]);
    expect(untraced.map((u) => [u.figure, u.isSure])).toEqual([
      [5000, true],
      [400, false],
    ]);
    // The end of a jamb is not told.
    expect(undrawn.map((u) => [u.id, u.figure])).toEqual([['half', 500]]);
    expect(undrawn[0].box).toEqual([300, 500, 300, 1000]);
    expect(listsOf(grade, 5).strays.map((s) => s.id)).toEqual(['off']);
  });

  it('is told finer than a project tells its lengths', () => {
    expect(fineStyle({ units: 'mm', precision: 0 })).toEqual({ units: 'mm', precision: 1 });
    expect(fineStyle({ units: 'm', precision: 3 })).toEqual({ units: 'm', precision: 4 });
    expect(fineStyle({ units: 'ft-in', precision: 16 })).toEqual({ units: 'in', precision: 3 });
    expect(fineStyle({ units: 'mm', precision: 3 })).toEqual({ units: 'mm', precision: 3 });
  });
});
