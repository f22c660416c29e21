import { describe, expect, it } from 'vitest';
import { takeGridPlaneTool, takePlaneTool } from '../src/shell/planes/plane-tools.ts';
import { pick, tableWith } from './given-table.ts';

describe('an upright plane that is being stood up', () => {
  const asked = () => {
    const t = tableWith();
    takePlaneTool(t.table, 'elevation');
    t.tool().press(pick(0, 0));
    t.tool().press(pick(6000, 0));
    return t;
  };
  it('asks for name, level and height once both ends are picked, and offers what is usual', () => {
    const { fields, required } = asked().tool().field!()!;
    expect(required).toBe(true);
    expect(fields.map((f) => [f.id, f.live])).toEqual(
      [
        ['name', 'Elevation 1'],
        ['level', '0'],
        ['height', '2\u202f700'],
      ].map(([id, live]) => [id, expect.stringMatching(live.replace('\u202f', '.?'))]),
    );
  });

  it.each([
    [{ level: 'high up' }, /high up/],
    [{ height: '0' }, /above 0/],
    [{ height: '-5' }, /above 0/],
    [{ name: 'x'.repeat(81) }, /too long/],
  ])('refuses %o in words, and makes nothing', (values, words) => {
    const t = asked();
    expect(t.tool().submit!(values as unknown as Record<string, string>)).toMatch(words);
    expect(t.labels()).toEqual([]);
  });

  it('needs two ends that are apart, and a grid line that is selected', () => {
    const t = tableWith();
    takePlaneTool(t.table, 'section');
    t.tool().press(pick(0, 0));
    t.tool().press(pick(0.2, 0));
    expect(t.told.at(-1)).toContain('one point');
    expect(t.tool().field!()).toBeNull();
    const before = t.tool();
    takeGridPlaneTool(t.table);
    expect(t.tool()).toBe(before);
  });
});
