import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Line, Wall } from '@calque/core/model';
import { copySelection, cutSelection, takePasteTool } from '../src/stages/trace/clipboard.ts';
import { key, line, pick, tableWith, underlay, wall } from './given-table.ts';

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
  });
});

describe('the clipboard', () => {
  it('carries elements to another project: placed by a click, with the name of their sheet', () => {
    const from = tableWith(
      underlay('u', { name: 'Plan of the hall' }),
      wall('w', [1000, 2000], [3000, 2000], {
        source: { underlayId: 'u', ends: 'snapped', thickness: 'typed' },
      }),
      line('l', [1500, 1000], [1500, 1900]),
    );
    from.table.setSelection(['w', 'l']);
    expect(copySelection(from.table)).toBe(true);
    expect(from.told[0]).toContain('2 elements copied');
    const to = tableWith();
    takePasteTool(to.table);
    expect(to.tool().words()).toContain('their lower left corner');
    to.tool().press(pick(0, 0));
    expect(to.all()).toMatchObject([
      {
        type: 'wall',
        from: [0, 1000],
        to: [2000, 1000],
        source: { underlayId: null, sheet: 'Plan of the hall' },
      },
      { type: 'line', from: [500, 0], to: [500, 900] },
    ]);
    expect(new Set(to.all().map((e) => e.id)).has('w')).toBe(false);
    expect(to.selected()).toHaveLength(2);
    expect(to.labels()).toEqual(['Paste 2 elements']);
  });
  it('Enter pastes in the old place; cut takes away in one step', () => {
    const t = tableWith(line('l', [10, 20], [30, 40]));
    t.table.setSelection(['l']);
    cutSelection(t.table);
    expect(t.all()).toEqual([]);
    takePasteTool(t.table);
    expect(t.tool().key!(key('Enter'))).toBe(true);
    expect((t.all()[0] as Line).from).toEqual([10, 20]);
    t.table.session.undo();
    t.table.session.undo();
    expect(t.all().map((e) => e.id)).toEqual(['l']);
  });
  it('with nothing selected, nothing copied, or something else there it says so and changes nothing', () => {
    const t = tableWith(line('l', [10, 20], [30, 40]));
    expect(copySelection(t.table)).toBe(false);
    takePasteTool(t.table);
    expect(t.told[0]).toContain('Nothing has been copied yet');
    for (const odd of [
      '{',
      '7',
      '[{"type":"wall"}]',
      JSON.stringify([{ type: 'settings', id: 'settings', name: 'x', units: 'mm', precision: 0 }]),
    ]) {
      localStorage.setItem('calque-elements', odd);
      takePasteTool(t.table);
    }
    expect(t.told).toHaveLength(5);
    expect(t.all()).toHaveLength(1);
    expect((t.all()[0] as unknown as Wall).id).toBe('l');
  });
});
