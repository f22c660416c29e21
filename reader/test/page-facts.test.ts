import { describe, expect, it } from 'vitest';
import { emptyLinework, kindCode, type PageText } from '@calque/core/linework';
import { soundPage } from '../src/sound-page.ts';
import { pageFacts } from '../src/service/page-facts.ts';

const text = (words: string, x: number, y: number, kind: 'text' | 'dimension' = 'text'): PageText => ({
  text: words,
  object: 0,
  kind: kindCode(kind),
  x,
  y,
  height: 8,
  radians: 0,
  layer: -1,
  width: 4 * words.length,
});

describe('what is kept of a page', () => {
  it('is its title, its words and how many dimensions and mark-ups it has', () => {
    const linework = {
      ...emptyLinework(1190, 842),
      texts: [
        text('5250', 300, 400, 'dimension'),
        text('Ground floor plan', 900, 90),
        text('BH-101', 1080, 50),
      ],
      hatches: 3,
    };
    expect(
      pageFacts({ page: 2, linework, milliseconds: 7, picture: null, whole: true, unknown: {} }),
    ).toMatchObject({
      page: 2,
      width: 1190,
      hatches: 3,
      dimensions: 1,
      markups: 0,
      title: { number: 'BH-101', title: 'Ground floor plan' },
      words: '5250 Ground floor plan BH-101',
      unknown: null,
      reference: null,
      pixels: null,
    });
  });
  it('can be stored, whatever names and texts a file holds, and the lines name their layers alike', () => {
    const linework = soundPage({
      ...emptyLinework(100, 100),
      layers: [
        { name: 'Wa\0lls\ud800', on: true, segments: 1 },
        { name: 'x'.repeat(900), on: true, segments: 0 },
      ],
      texts: [text('a\0b', 1, 1)],
    });
    const facts = pageFacts({
      page: 1,
      linework,
      milliseconds: 1,
      picture: null,
      whole: true,
      unknown: { 'RA\0Y': 2 },
    });
    expect(linework.layers[0].name).toBe('Wa\ufffdlls\ufffd');
    expect(facts.layers.map((l) => l.name)).toEqual(linework.layers.map((l) => l.name));
    expect(facts.layers[1].name.length).toBeLessThanOrEqual(500);
    expect(facts.words).toBe('a\ufffdb');
    expect(facts.unknown).toEqual({ 'RA\ufffdY': 2 });
  });
  it.each([
    [NaN, 10],
    [10, Infinity],
    [0, 10],
    [1e12, 10],
    [-5, 5],
  ])('a page of %d by %d points is refused', (width, height) => {
    expect(() => soundPage(emptyLinework(width, height))).toThrow(/size/);
  });
});
