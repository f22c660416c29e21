import { describe, expect, it } from 'vitest';
import {
  emptyLinework,
  kindCode,
  layerKeys,
  layerStates,
  NO_SWITCHES,
  switchLayer,
  textShows,
  titleOf,
  visibility,
  type Linework,
  type PageText,
  type SheetLayer,
} from '@calque/core/linework';
import { buildSheetIndex, sheetSnapper } from '@calque/core/snapping';

const layer = (name: string, on = true, more: Partial<SheetLayer> = {}): SheetLayer => ({
  name,
  on,
  segments: 0,
  ...more,
});

describe('layers', () => {
  const layers = [
    layer('Walls'),
    layer('Notes'),
    layer('Notes', false),
    layer('Option A', true, { oneOf: 0 }),
    layer('Option B', false, { oneOf: 0 }),
  ];
  it('of one name are told apart', () =>
    expect(layerKeys(layers)).toEqual(['Walls', 'Notes', 'Notes (2)', 'Option A', 'Option B']));
  it('are as the file has them until they are switched, and name only what differs', () => {
    expect(layerStates(layers, NO_SWITCHES)).toEqual([true, true, false, true, false]);
    const off = switchLayer(layers, NO_SWITCHES, 0, false);
    expect(off.layers).toEqual({ Walls: false });
    expect(switchLayer(layers, off, 0, true).layers).toEqual({});
    expect(layerStates(layers, switchLayer(layers, NO_SWITCHES, 2, true))).toEqual([
      true,
      true,
      true,
      true,
      false,
    ]);
  });
  it('of an exclusive group only one is on', () => {
    const b = switchLayer(layers, NO_SWITCHES, 4, true);
    expect(layerStates(layers, b).slice(3)).toEqual([false, true]);
    expect(layerStates(layers, switchLayer(layers, b, 4, false)).slice(3)).toEqual([false, false]);
  });
  it('a name that the sheet does not have means nothing on it', () =>
    expect(layerStates([layer('x')], { layers: { y: false } })).toEqual([true]));
});

/** Three lines: a thick wall, a thin line on a layer that is off, a mark-up; and a hatch stroke. */
function sheet(): Linework {
  return {
    ...emptyLinework(100, 100),
    layers: [layer('On'), layer('Off', false)],
    pens: [
      { width: 1.4, colour: 0, dash: [] },
      { width: 0.25, colour: 0, dash: [] },
    ],
    segments: Float64Array.of(0, 10, 50, 10, 0, 20, 50, 20, 0, 40, 50, 40, 0, 30, 50, 30),
    segmentStyle: Int32Array.of(0, 0, 1, 1, 0, 1, -1, 1),
    segmentObject: Int32Array.of(0, 1, 2, -1),
    segmentKind: Uint8Array.of(kindCode('line'), kindCode('line'), kindCode('hatch'), kindCode('markup')),
    objects: Int32Array.of(
      0,
      0,
      kindCode('line'),
      1,
      1,
      kindCode('line'),
      0,
      1,
      kindCode('hatch'),
      -1,
      -1,
      -2,
      -1,
      -1,
      -1,
    ),
    markups: [{ kind: 'Line', author: 'Cox', comment: '', date: '', box: [0, 30, 50, 30], index: 4 }],
  };
}
const off = (l: Linework, more: Partial<typeof NO_SWITCHES>) => {
  const v = visibility(l, { ...NO_SWITCHES, ...more });
  return { items: v.items ? [...v.items] : null, objects: [...v.objects], annotations: v.annotations };
};

describe('what is off', () => {
  it('is what the file has off, for items, objects and annotations alike', () => {
    expect(off(sheet(), {})).toEqual({ items: [0, 1, 0, 0], objects: [0, 1, 0, 1, 0], annotations: [] });
    expect(off(sheet(), { layers: { Off: true } })).toEqual({
      items: null,
      objects: [0, 0, 0, 1, 0],
      annotations: [],
    });
  });
  it('goes by kind, pen, author and kind of mark-up', () => {
    const on = { layers: { Off: true } };
    expect(off(sheet(), { ...on, kinds: ['hatch'] }).items).toEqual([0, 0, 1, 0]);
    expect(off(sheet(), { ...on, pens: ['1.4|000000'] })).toMatchObject({
      items: [1, 0, 0, 0],
      objects: [1, 0, 0, 1, 0],
    });
    for (const more of [{ kinds: ['markup' as const] }, { authors: ['Cox'] }, { markupKinds: ['Line'] }])
      expect(off(sheet(), { ...on, ...more }), JSON.stringify(more)).toMatchObject({
        items: [0, 0, 0, 1],
        annotations: [4],
      });
  });
  it('is never snapped to', () => {
    const l = sheet();
    const snapper = sheetSnapper(l, buildSheetIndex(l));
    const at = (y: number, more: Partial<typeof NO_SWITCHES> = {}) =>
      snapper.query(20, y, 2, { off: visibility(l, { ...NO_SWITCHES, ...more }).items }).length;
    expect(at(10)).toBeGreaterThan(0);
    expect(at(10, { pens: ['1.4|000000'] })).toBe(0);
    expect(at(20)).toBe(0);
    expect(at(20, { layers: { Off: true } })).toBeGreaterThan(0);
    expect(at(40, { kinds: ['hatch'] })).toBe(0);
    expect(snapper.query(20, 10, 2, { within: (x) => x < 10 })).toEqual([]);
  });
  it('texts go with their layer and kind', () => {
    const l = sheet();
    const text = (more: Partial<PageText>): PageText => ({
      text: '5250',
      object: 0,
      kind: kindCode('dimension'),
      x: 0,
      y: 0,
      height: 5,
      radians: 0,
      layer: -1,
      width: 9,
      ...more,
    });
    expect(textShows(l, NO_SWITCHES, text({}))).toBe(true);
    expect(textShows(l, { ...NO_SWITCHES, kinds: ['dimension'] }, text({}))).toBe(false);
    expect(textShows(l, NO_SWITCHES, text({ layer: 1 }))).toBe(false);
  });
});

describe('title blocks', () => {
  const text = (words: string, x: number, y: number, height = 8): PageText => ({
    text: words,
    object: 0,
    kind: kindCode('text'),
    x,
    y,
    height,
    radians: 0,
    layer: -1,
    width: 0.5 * height * words.length,
  });
  const read = (...texts: PageText[]) => titleOf({ width: 1190, height: 842, texts });
  it('give number and title from the lower right corner', () => {
    expect(
      read(
        text('Boathouse, ground floor', 900, 90, 11),
        text('Scale 1:100 @ A3', 900, 50),
        text('BH-101', 1080, 50, 9),
        text('Rev B', 900, 30),
        text('GREAT HALL', 500, 500, 20),
      ),
    ).toEqual({ number: 'BH-101', title: 'Boathouse, ground floor' });
  });
  it('labels are not the title; a number may follow its label', () => {
    expect(
      read(
        text('Drawing', 900, 120, 12),
        text('Title:', 900, 110, 12),
        text('River elevation', 900, 95, 10),
        text('Dwg no. A-20.3', 1050, 40, 8),
      ),
    ).toEqual({ number: 'A-20.3', title: 'River elevation' });
  });
  it('a line that names a drawing is the title, though the project stands larger above it', () => {
    expect(
      read(
        text('Riverside Rowing Club', 900, 120, 14),
        text('River elevation', 900, 90, 9),
        text('B-103', 1080, 40),
      ).title,
    ).toBe('River elevation');
  });
  it('a bare number serves where nothing better stands there', () => {
    expect(read(text('Kiln works', 950, 90, 10), text('02', 1100, 40, 8)).number).toBe('02');
    expect(read(text('02', 1100, 60, 8), text('K-7', 1100, 40, 8)).number).toBe('K-7');
  });
  it('without a title block nothing is read', () => {
    expect(read(text('Pantry', 400, 400), text('1400', 500, 300))).toEqual({ number: '', title: '' });
    expect(read()).toEqual({ number: '', title: '' });
  });
});
