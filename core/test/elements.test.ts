import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxContains, pieceBox, grownBox } from '@calque/core/geometry';
import {
  alongPieces,
  boxOf,
  drawnLength,
  edgesOf,
  endsOf,
  gripsOf,
  isRun,
  jointGrips,
  movedBy,
  parseEntity,
  piecesOf,
  trackOf,
  withEdge,
  withGrip,
  withinRing,
  type Pair,
  type Traced,
  type TracedPath,
} from '@calque/core/model';
import { base, place, element, similarity, near } from './given-elements.ts';

describe('every element', () => {
  it('is sound, lies within its box, and so is what a move, turn, mirror or scale makes of it', () => {
    fc.assert(
      fc.property(element('e'), similarity, (e, map) => {
        for (const one of [e, movedBy(e, map)]) {
          expect(() => parseEntity(JSON.parse(JSON.stringify(one)))).not.toThrow();
          const box = grownBox(boxOf(one), 1e-3);
          for (const piece of piecesOf(one)) expect(boxContains(box, pieceBox(piece))).toBe(true);
        }
        const k = Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]));
        if (e.type !== 'dimension') expect(drawnLength(movedBy(e, map))).toBeCloseTo(k * drawnLength(e), 4);
        gripsOf(e).forEach((g, i) => {
          // A circle's quarters and a mirrored arc's ends are told anew; corners go where the map takes them.
          if (e.type !== 'arc' && e.type !== 'text')
            expect(
              near(
                gripsOf(movedBy(e, map))[i],
                [map[0] * g[0] + map[2] * g[1] + map[4], map[1] * g[0] + map[3] * g[1] + map[5]],
                1e-5,
              ),
            ).toBe(true);
        });
      }),
      { numRuns: 400 },
    );
  });
  it('a grip goes where it is put, and the rest of a path stays', () => {
    fc.assert(
      fc.property(element('e'), fc.nat(20), place, (e, n, to) => {
        const grips = gripsOf(e),
          grip = n % grips.length,
          moved = withGrip(e, grip, to);
        if (!moved) return;
        expect(() => parseEntity(JSON.parse(JSON.stringify(moved)))).not.toThrow();
        const now = gripsOf(moved);
        if (e.type === 'arc' && grip < grips.length - 1) {
          // The point lies on the arc or circle now.
          expect(
            moved.type === 'arc' &&
              Math.abs(Math.hypot(to[0] - moved.centre[0], to[1] - moved.centre[1]) - moved.radius) <
                1e-4 * Math.max(1, moved.radius),
          ).toBe(true);
          return;
        }
        expect(near(now[grip], to, 1e-9)).toBe(true);
        if (e.type === 'path')
          now.forEach((p, i) => {
            if (i !== grip) expect(p).toEqual(grips[i]);
          });
      }),
      { numRuns: 300 },
    );
  });
  it('a stretch moves with both its corners', () => {
    const path: TracedPath = {
      type: 'path',
      ...base('p'),
      points: [
        [0, 0],
        [100, 0],
        [100, 50],
        [0, 50],
      ],
      bulges: [0, 0, 0, 0],
      closed: true,
    };
    expect(edgesOf(path).map((e) => e.middle)).toEqual([
      [50, 0],
      [100, 25],
      [50, 50],
      [0, 25],
    ]);
    expect(withEdge(path, 2, [0, 30])).toMatchObject({
      points: [
        [0, 0],
        [100, 0],
        [100, 80],
        [0, 80],
      ],
    });
  });
  it('runs along its pieces again', () => {
    fc.assert(
      fc.property(element('e'), (e) => {
        if (!isRun(e)) return;
        const { pieces, closed } = trackOf(e),
          again = alongPieces(e, pieces, closed)!;
        expect(drawnLength(again)).toBeCloseTo(drawnLength(e), 5);
        expect(endsOf(again) === null).toBe(endsOf(e) === null);
        expect(jointGrips(e).length).toBeLessThanOrEqual(gripsOf(e).length);
      }),
    );
  });
});

describe('within an outline', () => {
  it('is what lies wholly in it; what only reaches in is touched', () => {
    const { holds, touches } = withinRing([
      [0, 0],
      [1000, 0],
      [1000, 1000],
      [500, 200],
      [0, 1000],
    ]);
    const at = (from: Pair, to: Pair): Traced => ({ type: 'line', ...base('l'), from, to });
    expect([holds(at([100, 50], [900, 50])), touches(at([100, 50], [900, 50]))]).toEqual([true, true]);
    // Both ends are in, but the notch lies between.
    expect([holds(at([50, 800], [950, 800])), touches(at([50, 800], [950, 800]))]).toEqual([false, true]);
    expect([holds(at([100, 50], [100, -50])), touches(at([100, 50], [100, -50]))]).toEqual([false, true]);
    expect([holds(at([480, 900], [520, 900])), touches(at([480, 900], [520, 900]))]).toEqual([false, false]);
    expect(touches(at([-100, 100], [1100, 100]))).toBe(true);
    const text: Traced = {
      type: 'text',
      ...base('t'),
      at: [-500, -500],
      angle: 0,
      height: 3000,
      text: 'All round it',
    };
    expect([holds(text), touches(text)]).toEqual([false, true]);
  });
});
