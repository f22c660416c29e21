import { describe, expect, it } from 'vitest';
import { pageSortOf, type PageSummary } from '@calque/core/linework';

const page = (title: string, segments: number, texts: number, more: Partial<PageSummary> = {}) => ({
  title: { number: '', title },
  counts: { segments, arcs: 0, circles: 0, curves: 0, fills: 0, texts, images: 0 },
  dimensions: 0,
  scaleNotes: [],
  ...more,
});

describe('what a page is good for', () => {
  it('is said by its title, in several languages, where something is drawn', () => {
    for (const [title, sort] of [
      ['Ground floor plan', 'plan'],
      ['Grundriss Erdgeschoss', 'plan'],
      ['North elevation', 'elevation'],
      ['Ansicht Süd', 'elevation'],
      ['Section A-A', 'section'],
      ['Schnitt B', 'section'],
      ['Door schedule', 'table'],
      ['Eaves detail', 'detail'],
    ] as const)
      expect(pageSortOf(page(title, 900, 60)), title).toBe(sort);
  });
  it('is told by what is drawn where the title says nothing', () => {
    expect(pageSortOf(page('', 900, 60))).toBe('drawing');
    expect(pageSortOf(page('', 30, 6, { dimensions: 8 }))).toBe('drawing');
    expect(pageSortOf(page('', 60, 240))).toBe('table');
    expect(pageSortOf(page('Boathouse', 6, 9))).toBe('cover');
    // A cover that names the set is no plan.
    expect(pageSortOf(page('Plans for approval', 6, 9))).toBe('cover');
    expect(pageSortOf({ ...page('', 900, 3), title: null })).toBe('drawing');
  });
});
