import { describe, expect, it } from 'vitest';
import { arcPiece, segmentPiece, type Piece } from '@calque/core/geometry';
import { MeasureTool, type Measured } from '../src/stages/check/measure-tool.ts';
import { key, pick } from './given-table.ts';

function given(way = 0) {
  const results: Measured[] = [],
    told: string[] = [];
  const tool = new MeasureTool(
    {
      style: () => ({ units: 'mm', precision: 0 }),
      tell: (words) => told.push(words),
      measured: (m) => results.push(m),
    },
    way,
  );
  return {
    tool,
    results,
    told,
    on: (x: number, y: number, piece: Piece) => {
      const p = pick(x, y, { snapped: 'along' });
      return { ...p, found: { ...p.found!, piece: () => piece } };
    },
  };
}

describe('measuring', () => {
  it('distance after distance, F going on to the other ways', () => {
    const { tool, results } = given();
    for (const [x, y] of [
      [0, 0],
      [300, 400],
      [0, 0],
      [10, 0],
    ])
      tool.press(pick(x, y));
    expect(results).toEqual([
      { kind: 'distance', from: [0, 0], to: [300, 400] },
      { kind: 'distance', from: [0, 0], to: [10, 0] },
    ]);
    expect(
      ['angle', 'radius', 'area', 'thickness', 'distance'].every((kind) => {
        tool.nextVariant();
        return tool.kind === kind;
      }),
    ).toBe(true);
  });
  it('an angle by its corner and legs', () => {
    const { tool, results } = given(1);
    for (const [x, y] of [
      [100, 100],
      [300, 100],
      [100, 900],
    ])
      tool.press(pick(x, y));
    expect(results).toMatchObject([{ kind: 'angle', angle: Math.PI / 2 }]);
  });
  it('a radius by one click on an arc, or by three points', () => {
    const { tool, results, told, on } = given(2);
    tool.press(on(510, 0, arcPiece({ cx: 10, cy: 0, r: 500, start: 0, end: 1 })));
    for (const [x, y] of [
      [100, 0],
      [0, 100],
      [-100, 0],
    ])
      tool.press(pick(x, y));
    expect(results).toMatchObject([{ kind: 'radius', centre: [10, 0], radius: 500 }, { kind: 'radius' }]);
    expect((results[1] as { radius: number }).radius).toBeCloseTo(100, 9);
    for (const x of [0, 100, 200]) tool.press(pick(x, 0));
    expect(told.at(-1)).toContain('one line');
    // The first two points are kept: another third one does.
    tool.press(pick(100, 100));
    expect(results).toHaveLength(3);
  });
  it('an area with what lies round it; one that crosses itself is refused, and a corner can be taken back', () => {
    const { tool, results, told } = given(3);
    for (const [x, y] of [
      [0, 0],
      [4000, 3000],
      [4000, 0],
      [0, 3000],
    ])
      tool.press(pick(x, y));
    expect(tool.key(key('Enter'))).toBe(true);
    expect(told.at(-1)).toContain('crosses itself');
    tool.key(key('Backspace'));
    tool.key(key('Enter'));
    expect(results).toMatchObject([{ kind: 'area', area: 6e6, perimeter: 12000 }]);
    for (const [x, y] of [
      [0, 0],
      [2000, 0],
      [2000, 1000],
      [0, 1000],
      [1, 1],
    ])
      tool.press(pick(x, y));
    expect(results.at(-1)).toMatchObject({ area: 2e6, perimeter: 6000 });
  });
  it('the thickness between two parallel lines, and says so where they are not', () => {
    const { tool, results, told, on } = given(4);
    tool.press(pick(0, 0));
    expect(told.at(-1)).toContain('straight line');
    tool.press(on(500, 0, segmentPiece([0, 0], [1000, 0])));
    tool.press(on(510, 300, segmentPiece([0, 0], [1000, 900])));
    expect(told.at(-1)).toContain('not parallel');
    tool.press(on(700, 240, segmentPiece([1000, 240], [0, 240])));
    expect(results).toEqual([{ kind: 'thickness', from: [500, 0], to: [500, 240], thickness: 240 }]);
    expect(tool.cancel()).toBe(true);
    expect(tool.cancel()).toBe(false);
  });
});
