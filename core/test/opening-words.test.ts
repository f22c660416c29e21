import { describe, expect, it } from 'vitest';
import { asPrinted, bandOf, openingWords, type TextAt } from '@calque/core/building';
import { usualOpening, type OpeningKind } from '@calque/core/model';
import { wall } from './given-walls.ts';

const band = bandOf(wall('w', [0, 0], [6000, 0]));
const near = (text: string, x = 2450, y = 500): TextAt => ({ text, at: [x, y] });
/** Of an opening of 900 from 2000 on. */
const read = (kind: OpeningKind, width: number, ...texts: (string | TextAt)[]) =>
  openingWords(
    texts.map((t) => (typeof t === 'string' ? near(t) : t)),
    kind,
    band,
    2000,
    2000 + width,
  );

describe('what a sheet writes beside an opening', () => {
  it.each([
    ['900 x 2100', 900, 900, 2100],
    ['910×2110', 900, 910, 2110],
    ['90/210', 900, 900, 2100],
    ['0,90 x 2,10', 900, 900, 2100],
    ['W 900 x H 2100', 900, 900, 2100],
    ['36 x 80', 914.4, 914.4, 2032],
    [`3'-0" x 6'-8"`, 914.4, 914.4, 2032],
    ['36" x 80"', 914.4, 914.4, 2032],
    ['90 cm x 2.10 m', 900, 900, 2100],
  ])('"%s" is a size where the gap is as wide', (text, gap, width, height) => {
    const printed = read('door', gap, text);
    expect(printed.width).toBeCloseTo(width, 9);
    expect(printed.height).toBeCloseTo(height, 9);
  });

  it.each(['1200 x 2100', '1:100', '3400 x 4200', '12 / 24', 'x 2100', '900', 'A4 210 x 297', '900 x 21000'])(
    '"%s" is none beside a gap of 900',
    (text) => expect(read('door', 900, text)).toEqual({ tag: null, width: null, height: null, sill: null }),
  );

  it('tags are those of its kind, sills and heads are told by their words, and the nearest counts', () => {
    expect(read('door', 900, 'D04', 'W12').tag).toBe('D04');
    expect(read('window', 900, 'D04', 'W-12a').tag).toBe('W-12a');
    expect(read('door', 900, 'Bay 4', 'G.04', 'B-101').tag).toBeNull();
    expect(read('gap', 900, 'D04').tag).toBe('D04');
    expect(read('window', 900, 'BRH 90', '1250 high')).toMatchObject({ sill: 900, height: 1250 });
    expect(read('window', 900, 'sill: 0.85', 'H=1.2')).toMatchObject({ sill: 850, height: 1200 });
    expect(read('door', 900, near('D05', 2450, 1200), near('D04', 2450, 300)).tag).toBe('D04');
    expect(read('door', 900, 'D04\n900 x 2100')).toMatchObject({ tag: 'D04', height: 2100 });
  });

  it('what stands beside another opening, or far from the wall, is not its own', () => {
    expect(
      read('door', 900, near('D04', 3300), near('D05', 2450, 2000), near('D06', 2450, -2000)).tag,
    ).toBeNull();
    expect(read('door', 900, near('D06', 2450, -1500)).tag).toBe('D06');
  });

  it('is taken into the opening where it fits its wall; what nobody says stays assumed', () => {
    const door = usualOpening('o', 'door', [2000, 0], [2900, 0]),
      window = usualOpening('o', 'window', [2000, 0], [2900, 0]);
    expect(asPrinted(door, read('door', 900, 'D04', '900 x 2000'), 2700)).toMatchObject({
      tag: 'D04',
      sill: 0,
      head: 2000,
      assumed: ['swing'],
    });
    expect(asPrinted(window, read('window', 900, '900 x 1200'), 2700)).toMatchObject({
      sill: 900,
      head: 2100,
      assumed: ['sill', 'head'],
    });
    expect(asPrinted(window, read('window', 900, '900 x 1200', 'sill 1000'), 2700)).toMatchObject({
      sill: 1000,
      head: 2200,
      assumed: [],
    });
    // A head above the wall is not taken; the tag is.
    expect(asPrinted(door, read('door', 900, 'D04', '900 x 2800'), 2700)).toMatchObject({
      tag: 'D04',
      head: 2100,
      assumed: ['sill', 'head', 'swing'],
    });
    expect(asPrinted(door, read('door', 900), 2700)).toEqual(door);
  });
});
