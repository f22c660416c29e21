import { describe, expect, it } from 'vitest';
import { joinStackedFractions, kindCode, type PageText } from '@calque/core/linework';

const text = (content: string, x: number, y: number, height = 8, radians = 0): PageText => ({
  text: content,
  object: 0,
  kind: kindCode('text'),
  x,
  y,
  height,
  radians,
  layer: -1,
  width: content.length * height * 0.5,
});
const texts = (list: readonly PageText[]) => joinStackedFractions(list).map((t) => t.text);

describe('fractions that are set one over the other', () => {
  it('are joined to the feet and inches before them, with the closing mark', () => {
    expect(
      texts([text("11'-4", 100, 50), text('1', 121, 55, 4.5), text('2', 121, 50, 4.5), text('"', 125, 50)]),
    ).toEqual([`11'-4 1/2"`]);
    expect(texts([text("3'-6", 100, 50), text('3', 117, 55, 4.5), text('16', 116.5, 49.5, 4.5)])).toEqual([
      `3'-6 3/16"`,
    ]);
    const [joined] = joinStackedFractions([
      text("11'-4", 100, 50),
      text('1', 121, 55, 4.5),
      text('2', 121, 50, 4.5),
      text('"', 125, 50),
    ]);
    expect(joined.width).toBeCloseTo(29, 1);
  });
  it('are found in upright figures as well', () => {
    expect(
      texts([
        text("9'-2", 100, 50, 8, Math.PI / 2),
        text('3', 95, 67, 4.5, Math.PI / 2),
        text('4', 100, 67, 4.5, Math.PI / 2),
      ]),
    ).toEqual([`9'-2 3/4"`]);
  });
  it('are not made of figures that stand side by side, of the same size, or far away', () => {
    const apart = [text("11'-4", 100, 50), text('1', 121, 50, 4.5), text('2', 128, 50, 4.5)];
    expect(texts(apart)).toEqual(["11'-4", '1', '2']);
    expect(texts([text('12', 100, 50), text('1', 110, 58), text('2', 110, 50)])).toEqual(['12', '1', '2']);
    expect(texts([text("11'-4", 100, 50), text('1', 160, 55, 4.5), text('2', 160, 50, 4.5)])).toEqual([
      "11'-4",
      '1',
      '2',
    ]);
    expect(texts([text("11'-4", 100, 50), text('3', 121, 55, 4.5), text('2', 121, 50, 4.5)])).toHaveLength(3);
  });
});
