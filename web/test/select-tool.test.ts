import { describe, expect, it } from 'vitest';
import type { Dimension, Line, Wall } from '@calque/core/model';
import { SelectTool } from '../src/table/tools/select-tool.ts';
import { useNudge } from '../src/table/nudge.ts';
import { key, line, pick, tableWith, wall } from './given-table.ts';

const given = (...entities: Parameters<typeof tableWith>) => {
  const t = tableWith(...entities);
  return { ...t, tool: new SelectTool(t.table, () => ({ units: 'mm', precision: 0 })) };
};
const room = () =>
  given(
    wall('south', [0, 0], [4000, 0]),
    wall('east', [4000, 0], [4000, 3000]),
    line('l', [0, 5000], [4000, 5000]),
  );
type Given = ReturnType<typeof room>;
const click = (t: Given, x: number, y: number, shift = false) => {
  t.tool.press(pick(x, y, { shift }));
  t.tool.release(pick(x, y, { shift }));
};
const drag = (
  t: Given,
  from: [number, number],
  to: [number, number],
  more: { shift?: boolean; alt?: boolean } = {},
) => {
  t.tool.press(pick(...from, more));
  t.tool.drag(pick(...to, more));
  t.tool.release(pick(...to, more));
};

describe('selecting', () => {
  it('takes what is clicked on, its axis or anywhere in its body; with Shift adds and takes away', () => {
    const t = room();
    click(t, 2000, 40);
    expect(t.selected()).toEqual(['south']);
    click(t, 2000, 5003, true);
    expect(t.selected()).toEqual(['south', 'l']);
    click(t, 2000, 0, true);
    expect(t.selected()).toEqual(['l']);
    click(t, 900, 2000, true);
    expect(t.selected()).toEqual(['l']);
    click(t, 900, 2000);
    expect(t.selected()).toEqual([]);
  });

  it('with Alt a box takes only what lies wholly within, and says so', () => {
    const t = room();
    drag(t, [3900, -500], [4500, 3500], { alt: true });
    expect(t.selected()).toEqual(['east']);
    t.tool.press(pick(1000, -500));
    t.tool.drag(pick(2000, 500, { alt: true }));
    expect(t.tool.words()).toContain('only what lies wholly within');
    t.tool.drag(pick(2000, 500));
    expect(t.tool.words()).toContain('all that the box touches');
  });

  it('a box takes all that it touches, also what only passes through', () => {
    const t = room();
    drag(t, [1000, -500], [2000, 5500]);
    expect(t.selected().sort()).toEqual(['l', 'south']);
    drag(t, [3500, 1000], [4500, 2000], { shift: true });
    expect(t.selected().sort()).toEqual(['east', 'l', 'south']);
    drag(t, [-900, -900], [-800, -800]);
    expect(t.selected()).toEqual([]);
  });

  it('says what it does', () => {
    const t = room();
    expect(t.tool.words()).toContain('Click anything drawn');
    click(t, 2000, 0);
    expect(t.tool.words()).toContain('1 selected');
  });
});

describe('changing by dragging', () => {
  it('an end takes its neighbour along; with Alt it goes alone', () => {
    const t = room();
    click(t, 2000, 0);
    drag(t, [4000, 3], [5000, 500]);
    expect(t.get<Wall>('south').to).toEqual([5000, 500]);
    expect(t.get<Wall>('east').from).toEqual([5000, 500]);
    drag(t, [5000, 500], [6000, 0], { alt: true });
    expect(t.get<Wall>('south').to).toEqual([6000, 0]);
    expect(t.get<Wall>('east').from).toEqual([5000, 500]);
    expect(t.labels()).toEqual(['Drag an end', 'Drag an end']);
  });

  it('an end dragged onto the other end changes nothing and says why', () => {
    const t = room();
    click(t, 2000, 0);
    drag(t, [4000, 0], [0, 0]);
    expect(t.get<Wall>('south').to).toEqual([4000, 0]);
    expect(t.told[0]).toMatch(/would have no length/);
  });

  it('the whole selection moves as far as the pointer does from where it was grabbed, as one step', () => {
    const t = room();
    t.table.setSelection(['south', 'l']);
    drag(t, [1000, 0], [300, 700]);
    expect(t.get<Wall>('south')).toMatchObject({ from: [-700, 700], to: [3300, 700] });
    expect(t.get<Line>('l').from).toEqual([-700, 5700]);
    expect(t.labels()).toEqual(['Move 2 elements']);
  });

  it('grabbed at a corner it comes with the corner to the place that is snapped to', () => {
    const t = room();
    drag(t, [3, 5000], [250, 4000]);
    expect(t.get<Line>('l')).toMatchObject({ from: [250, 4000], to: [4250, 4000] });
  });

  it('a box begun near a line takes what it touches and drags nothing', () => {
    const t = room();
    drag(t, [1000, 5005], [1300, 4500]);
    expect(t.get<Line>('l').from).toEqual([0, 5000]);
    expect(t.labels()).toEqual([]);
    expect(t.selected()).toEqual(['l']);
    // What is selected is dragged from near by as well.
    drag(t, [1000, 5005], [1300, 4905]);
    expect(t.get<Line>('l').from).toEqual([300, 4900]);
  });

  it('snaps only while something is dragged', () => {
    const t = room();
    expect(t.tool.snaps).toBe(false);
    click(t, 2000, 0);
    t.tool.press(pick(4000, 0));
    t.tool.drag(pick(4100, 0));
    expect(t.tool.snaps).toBe(true);
    expect(t.tool.anchor()).toEqual([4000, 0]);
    expect(t.tool.cancel()).toBe(true);
    expect(t.get<Wall>('south').to).toEqual([4000, 0]);
  });
});

describe('dimensions that rest on what was moved', () => {
  it('are taken hold of where they are now, and keep what the other end rests on', () => {
    const d: Dimension = {
      type: 'dimension',
      id: 'd',
      planeId: 'ground',
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
      measures: 'aligned',
      points: [
        [0, 0],
        [1000, 0],
      ],
      on: [
        { id: 'l', grip: 0 },
        { id: 'l', grip: 1 },
      ],
      at: [500, -400],
      height: 100,
    };
    const t = given(line('l', [0, 0], [1000, 0]), d);
    t.table.session.do({ type: 'set', id: 'l', before: { to: [1000, 0] }, after: { to: [3000, 0] } }, 'x');
    t.table.setSelection(['d']);
    drag(t, [3000, 0], [3000, 700]);
    expect(t.get<Dimension>('d')).toMatchObject({
      points: [
        [0, 0],
        [3000, 700],
      ],
      on: [{ id: 'l', grip: 0 }, null],
    });
    expect(t.get<Line>('l').to).toEqual([3000, 0]);
  });
});

describe('keys', () => {
  it('arrows nudge by a round step of the zoom, with Shift ten', () => {
    const t = room();
    t.table.setSelection(['l']);
    expect(t.tool.key(key('ArrowRight'))).toBe(true);
    expect(t.get<Line>('l').from).toEqual([1, 5000]);
    t.tool.key(key('ArrowUp', { shiftKey: true }));
    expect(t.get<Line>('l').from).toEqual([1, 5010]);
    // By a typed length, as long as one is set.
    useNudge.getState().setStep(37.5);
    t.tool.key(key('ArrowRight'));
    t.tool.key(key('ArrowDown', { shiftKey: true }));
    expect(t.get<Line>('l').from).toEqual([38.5, 4635]);
    useNudge.getState().setStep(null);
    t.table.setSelection([]);
    expect(t.tool.key(key('ArrowLeft'))).toBe(false);
  });

  it('Delete removes what is selected and nothing else', () => {
    const t = room();
    t.tool.key(key('Delete'));
    expect(t.all()).toHaveLength(3);
    t.table.setSelection(['south', 'l']);
    t.tool.key(key('Delete'));
    expect(t.all().map((e) => e.id)).toEqual(['east']);
    expect(t.labels()).toEqual(['Delete 2 elements']);
    expect(t.selected()).toEqual([]);
  });
});
