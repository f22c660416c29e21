import { describe, expect, it } from 'vitest';
import { applyOrThrow, modelOf, ofType, type Change } from '@calque/core/model';
import { commonEdges, offeredFigures, planeState, settled, waysToMove } from '@calque/core/part';
import { plane, PartDraft, PLANES } from './part-model.ts';
import { laid, TO_PLANE, dimension, reading } from './part-sheet-model.ts';

function sketch(): PartDraft {
  const d = new PartDraft();
  d.line('top', [0, 0], [99.6, 0]);
  d.line('top', [99.6, 0], [99.6, 60]);
  d.line('top', [99.6, 60], [0, 60]);
  d.line('top', [0, 60], [0, 0]);
  d.arc('top', [20, 20], 5);
  return d;
}
const ruled = () => {
  const draft = sketch(),
    model = modelOf(draft.entities);
  let n = 0;
  // Drawn on a plane of a part they find their rules.
  const bare = modelOf(draft.entities.filter((e) => e.type !== 'line' && e.type !== 'arc')),
    adds = [...model.values()]
      .filter((e) => e.type === 'line' || e.type === 'arc')
      .map((entity): Change => ({ type: 'add', entity }));
  return applyOrThrow(
    bare,
    settled(bare, { type: 'group', changes: adds }, () => `r${++n}`),
  );
};

describe('figures that could drive', () => {
  it('are offered for what is drawn where they point, each once, and drive it when they are taken', () => {
    const model = ruled(),
      sheets = [
        {
          underlay: laid(TO_PLANE),
          reading: reading([
            dimension('100', [0, -14], [99.6, -14]),
            dimension('60', [-14, 0], [-14, 60]),
            dimension('20', [0, -20], [20, -20]),
            dimension('80', [20, -20], [99.6, -20]),
            dimension('Ø10', [15, 20], [25, 20], { kind: 'diameter', millimetres: 10 }),
            dimension('45', [0, 200], [45, 200]),
          ]),
        },
      ];
    const offers = offeredFigures(model, 'top', sheets, 'mm');
    // The fourth follows from the first and the third: it would say nothing of its own.
    expect(offers.map((o) => [o.printed.text, o.kind, Number(o.drawn.toFixed(6))])).toEqual([
      ['100', 'across', 99.6],
      ['60', 'up', 60],
      ['20', 'across', 20],
      ['Ø10', 'diameter', 10],
    ]);
    const taken = applyOrThrow(
      model,
      settled(model, {
        type: 'group',
        changes: offers.map((o, i): Change => ({
          type: 'add',
          entity: {
            type: 'rule',
            id: `d${i}`,
            planeId: 'top',
            kind: o.kind,
            of: o.of,
            value: o.value,
            tolerance: o.tolerance,
            printed: o.printed,
          },
        })),
      }),
    );
    const lines = ofType(taken, 'line');
    expect(
      Math.max(...lines.flatMap((l) => [l.from[0], l.to[0]])) -
        Math.min(...lines.flatMap((l) => [l.from[0], l.to[0]])),
    ).toBeCloseTo(100, 9);
    expect(planeState(taken, 'top').contradictory).toEqual([]);
    expect(offeredFigures(taken, 'top', sheets, 'mm')).toEqual([]);
  });
});

describe('views of a part', () => {
  it('have the places of what is drawn on the others along the axes that both have', () => {
    const d = sketch();
    d.entities.push(plane('away', { ...PLANES.front, origin: [10, 0, 5] } as never));
    const model = modelOf(d.entities),
      front = commonEdges(model, 'front'),
      side = commonEdges(model, 'side'),
      at = (list: typeof front, axis: 'x' | 'y') =>
        list.filter((e) => e.axis === axis).map((e) => Number(e.at.toFixed(6)));
    // Of the top the front has x, the side y along its own x; neither knows its heights.
    expect(at(front, 'x')).toEqual([0, 15, 20, 25, 99.6]);
    expect(at(front, 'y')).toEqual([]);
    expect(at(side, 'x')).toEqual([0, 15, 20, 25, 60]);
    // A plane whose zero lies elsewhere counts from there.
    expect(at(commonEdges(model, 'away'), 'x')).toEqual([-10, 5, 10, 15, 89.6]);
    expect(commonEdges(model, 'nowhere')).toEqual([]);
  });
});

describe('what is not fixed', () => {
  it('is shown as it can move, one way after the other, with all rules kept', () => {
    const model = ruled(),
      { freedom } = planeState(model, 'top'),
      ways = waysToMove(model, 'top');
    // The circle, which no rule names, moves in three ways of its own.
    expect(ways).toHaveLength(freedom - 3);
    for (const moved of ways) {
      expect(moved.length).toBeGreaterThan(0);
      for (const e of moved)
        if (e.type === 'line') {
          const [dx, dy] = [e.to[0] - e.from[0], e.to[1] - e.from[1]];
          // Level and upright they stay.
          expect(Math.min(Math.abs(dx), Math.abs(dy))).toBeLessThan(1e-6);
        }
    }
    const fixed = modelOf([]);
    expect(waysToMove(fixed, 'top')).toEqual([]);
  });
});
