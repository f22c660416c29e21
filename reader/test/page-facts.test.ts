import { describe, expect, it } from 'vitest';
import { emptyLinework, kindCode, type PageText } from '@calque/core/linework';
import { pageFacts, storable } from '../src/service/page-facts.ts';

const text = (words: string, x: number, y: number, kind: 'text' | 'dimension' = 'text'): PageText => ({ text: words, object: 0, kind: kindCode(kind), x, y, height: 8, radians: 0, layer: -1, width: 4 * words.length });

describe('what is kept of a page', () => {
  it('is its title, its words and how many dimensions and mark-ups it has', () => {
    const linework = { ...emptyLinework(1190, 842), texts: [text('5250', 300, 400, 'dimension'), text('Ground floor plan', 900, 90), text('BH-101', 1080, 50)], hatches: 3 };
    expect(pageFacts({ page: 2, linework, milliseconds: 7, picture: null, unknown: {} })).toMatchObject({
      page: 2, width: 1190, hatches: 3, dimensions: 1, markups: 0, title: { number: 'BH-101', title: 'Ground floor plan' }, words: '5250 Ground floor plan BH-101', unknown: null, reference: null, pixels: null,
    });
  });
  it('can be stored, whatever names and texts a file holds', () => {
    const linework = { ...emptyLinework(100, 100), layers: [{ name: 'Wa\0lls\ud800', on: true, segments: 1 }], texts: [text('a\0b', 1, 1)] };
    const facts = pageFacts({ page: 1, linework, milliseconds: 1, picture: null, unknown: { 'RA\0Y': 2 } });
    expect(facts.layers[0].name).toBe('Walls\ufffd');
    expect(facts.words).toBe('ab');
    expect(facts.unknown).toEqual({ RAY: 2 });
    expect(storable(['\ud83d\ude00', '\udc00', 5, null])).toEqual(['\ud83d\ude00', '\ufffd', 5, null]);
  });
});
