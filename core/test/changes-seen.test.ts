import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyTransform, type Transform } from '@calque/core/geometry';
import { applyOrThrow, groundStorey, modelOf, ofType, type Model, type Wall } from '@calque/core/model';
import {
  changeMade,
  changesMade,
  changesSeen,
  changesWords,
  proposalsOn,
  wallTaken,
  type MadeOf,
  type SeenIssue,
} from '@calque/core/proposals';
import { compareLines, register } from '@calque/core/registration';
import { FURNITURE, K, plan, sheet, type Place, type Plan } from './given-seen.ts';
import { wall as plainWall } from './given-walls.ts';

const MM = 1 / K;
const HOME: Transform = [MM, 0, 0, MM, -200 * MM, -200 * MM];
const STYLE = { units: 'mm', precision: 0 } as const;

/** Both issues as they are seen, laid on one another by their lines, and what only one of them has. */
function issues(older: Partial<Plan>, newer: Partial<Plan>, move: (p: Place) => Place = (p) => p) {
  const page = (p: Partial<Plan>) => [
      { pen: 0, lines: plan(p) },
      { pen: 1, lines: FURNITURE },
    ],
    a = sheet(page(older)),
    b = sheet(page(newer), move),
    fit = register(a.segments, b.segments)!,
    own = compareLines(a.segments, b.segments, fit.transform);
  const back = ([c, d]: readonly number[]): [number, number] => {
    // From the new page to the plane, by the page that lies on it.
    const t = fit.transform,
      det = t[0] * t[3] - t[1] * t[2],
      [x, y] = [c - t[4], d - t[5]];
    return applyTransform(HOME, [(t[3] * x - t[2] * y) / det, (-t[1] * x + t[0] * y) / det]);
  };
  const [o, e, n] = [back([0, 0]), back([1, 0]), back([0, 1])],
    placement: Transform = [e[0] - o[0], e[1] - o[1], n[0] - o[0], n[1] - o[1], o[0], o[1]],
    onPlane = (l: readonly number[]) => [...back([l[0], l[1]]), ...back([l[2], l[3]])];
  const sides: [SeenIssue, SeenIssue] = [
    { seen: proposalsOn(a, 100), placement: HOME },
    { seen: proposalsOn(b, 100), placement },
  ];
  return {
    sides,
    changes: changesSeen(...sides, { added: own.added.map(onPlane), gone: own.gone.map(onPlane) }),
  };
}
const told = (older: Partial<Plan>, newer: Partial<Plan>): string => {
  const { sides, changes } = issues(older, newer);
  return changesWords(changes, ...sides, STYLE).replace(/\s/g, ' ');
};

let made = 0;
const madeOf = ([older, newer]: [SeenIssue, SeenIssue]): MadeOf => ({
  older,
  newer,
  planeId: 'ground',
  standing: { height: 2700, heightAssumed: true },
  newWall: (own) => ({ ...plainWall(`n${made++}`, [0, 0], [1, 0]), ...own }),
});

/** The older issue as it is taken. */
const traced = ({ seen, placement }: SeenIssue): Model =>
  seen.walls.reduce(
    (m, w, i) =>
      applyOrThrow(m, {
        type: 'add',
        entity: {
          ...plainWall(`w${i}`, [0, 0], [1, 0]),
          ...wallTaken(
            w,
            seen.openings.filter((o) => o.wall === i),
            placement,
            { height: 2700, heightAssumed: true },
          ),
        },
      }),
    modelOf([groundStorey('ground')]),
  );

/** Walls as rounded figures, however they run. */
const figures = (m: Model): string[] =>
  ofType(m, 'wall')
    .map((w: Wall) => {
      const ends = [w.from, w.to].map((p) => p.map((v) => Math.round(v / 5) * 5 + 0).join(' ')).sort(),
        doors = (w.openings ?? [])
          .map((o) =>
            [o.from, o.to]
              .map((p) => p.map((v) => Math.round(v / 5) * 5 + 0).join(' '))
              .sort()
              .join('-'),
          )
          .sort();
      return `${ends.join('-')} ${Math.round(w.thickness)} ${doors.join(',')}`;
    })
    .sort();

function takeAll(m: Model, { sides, changes }: ReturnType<typeof issues>): Model {
  const change = changesMade(m, changes, madeOf(sides));
  return change ? applyOrThrow(m, change) : m;
}

describe('what a newer issue shows otherwise', () => {
  it('is nothing where nothing changed, however the new page lies and its lines are cut', () => {
    expect(told({}, {})).toBe('');
    const turn = ([x, y]: Place): Place => [900 - 0.02 * y + x, 300 + y + 0.02 * x];
    expect(issues({}, {}, turn).changes).toEqual([]);
  });

  it('is told by kind, with by how much', () => {
    expect(told({ across: null }, { x: 5150, across: null })).toBe('one wall moved by 150 mm');
    expect(told({ across: null }, { door: null, across: null })).toBe('one gap gone');
    expect(told({ door: null, across: null }, { across: null })).toBe('one gap new');
    expect(told({}, { across: null })).toBe('one wall gone');
    expect(told({ across: null }, {})).toBe('one wall new');
    expect(told({ across: null }, { thickness: 150, across: null })).toBe(
      'one wall 150 mm thick instead of 100 mm',
    );
    expect(told({ across: null }, { door: [4400, 5300], across: null })).toBe('one gap changed');
  });

  it('when a wall moves those that run into it are longer or shorter', () => {
    const { changes } = issues({}, { x: 5400 });
    expect(changes.map((c) => c.kind).sort()).toEqual(['wall-ends', 'wall-moved']);
  });

  it('made of what was traced gives what taking the newer issue would give, and once only', () => {
    for (const [older, newer] of [
      [{}, { x: 5400 }],
      [{}, { across: 6000 }],
      [{}, { across: null }],
      [{ across: null }, {}],
      [{}, { thickness: 160 }],
      [{}, { door: [2000, 3200] }],
      [{ door: null }, {}],
      [{}, { x: 4700, thickness: 100, door: [1000, 1900], across: 3000 }],
    ] as [Partial<Plan>, Partial<Plan>][]) {
      const both = issues(older, newer),
        now = takeAll(traced(both.sides[0]), both);
      expect(figures(now)).toEqual(figures(traced(both.sides[1])));
      // Nothing is left to be made.
      for (const c of both.changes) expect(changeMade(now, c, madeOf(both.sides))).toBeNull();
    }
  });

  it('leaves what was traced otherwise as it is, and keeps what is not the sheet’s', () => {
    const both = issues({ across: null }, { x: 5150, across: null }),
      model = traced(both.sides[0]),
      inner = ofType(model, 'wall').find((w) => Math.abs(w.thickness - 100) < 5)!;
    // Drawn with its line on a face, higher, named.
    const own: Wall = {
        ...inner,
        from: [inner.from[0] - 50, inner.from[1]],
        to: [inner.to[0] - 50, inner.to[1]],
        alignment: inner.to[1] > inner.from[1] ? 'left' : 'right',
        height: 3100,
      },
      changed = applyOrThrow(applyOrThrow(model, { type: 'remove', entity: inner }), {
        type: 'add',
        entity: own,
      }),
      moved = takeAll(changed, both).get(own.id) as Wall;
    expect(moved.from[0]).toBeCloseTo(own.from[0] + 150, 0);
    expect(moved.height).toBe(3100);
    // One that stands elsewhere is not meant.
    const far: Wall = { ...inner, from: [7000, inner.from[1]], to: [7000, inner.to[1]] },
      elsewhere = applyOrThrow(applyOrThrow(model, { type: 'remove', entity: inner }), {
        type: 'add',
        entity: far,
      });
    expect((takeAll(elsewhere, both).get(far.id) as Wall).from[0]).toBe(7000);
  });

  it('is found for any move, door and thickness, and made as it is drawn', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3500, max: 7500 }),
        fc.constantFrom(100, 115, 140, 175),
        fc.integer({ min: 400, max: 3500 }),
        fc.integer({ min: 700, max: 1100 }),
        (x, thickness, at, width) => {
          const both = issues({ across: null }, { x, thickness, door: [at, at + width], across: null }),
            now = takeAll(traced(both.sides[0]), both),
            inner = ofType(now, 'wall').filter((w) => w.thickness < 200);
          expect(inner).toHaveLength(1);
          // Moves of less than half a point are none.
          expect(Math.abs(inner[0].from[0] - x)).toBeLessThan(18);
          expect(inner[0].openings).toHaveLength(1);
        },
      ),
      { numRuns: 40 },
    );
  });
});
