import { describe, expect, it } from 'vitest';
import { KeyCursor } from '../src/table/key-cursor.ts';

function given() {
  let view = { scale: 1, x: 0, y: 0 },
    screen: [number, number] | null = null;
  const shown: boolean[] = [];
  const surface = {
    get view() {
      return view;
    },
    get lastPick() {
      return screen && { screen };
    },
    state: {
      getState: () => ({
        size: { width: 1000, height: 600 },
        insets: { left: 200, right: 100, top: 0, bottom: 0 },
      }),
    },
    setView(next: typeof view) {
      view = next;
    },
    moveTo(to: [number, number]) {
      screen = to;
    },
    showKeyCursor(on: boolean) {
      shown.push(on);
    },
  };
  const cursor = new KeyCursor(surface);
  const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
    cursor.move({
      key,
      repeat: false,
      ctrlKey: false,
      shiftKey: false,
      altKey: false,
      ...more,
    } as KeyboardEvent);
  return { cursor, press, shown, at: () => screen, view: () => view };
}

describe('the cursor moved by keys', () => {
  it('begins in the middle of the free drawing and goes by steps, with Ctrl by single pixels', () => {
    const t = given();
    expect(t.press('q')).toBe(false);
    t.press('ArrowRight');
    expect(t.at()).toEqual([560, 300]);
    t.press('ArrowUp', { ctrlKey: true });
    expect(t.at()).toEqual([560, 299]);
    t.cursor.rest();
    expect(t.shown).toEqual([true, true, false]);
  });
  it('goes faster while a key is held', () => {
    const t = given();
    t.press('ArrowLeft');
    for (let i = 0; i < 14; i++) t.press('ArrowLeft', { repeat: true });
    expect(t.at()![0]).toBe(550 - 13 * 10 - 2 * 40);
  });
  it('never leaves the free drawing: the drawing moves instead', () => {
    const t = given();
    for (let i = 0; i < 60; i++) t.press('ArrowRight');
    expect(t.at()).toEqual([870, 300]);
    expect(t.view().x).toBe(-(550 + 600 - 870));
  });
  it('lets Enter click once for each place that it was moved to', () => {
    const t = given();
    expect(t.cursor.takeClick()).toBe(false);
    t.press('ArrowDown');
    expect([t.cursor.takeClick(), t.cursor.takeClick()]).toEqual([true, false]);
    t.press('ArrowDown');
    t.cursor.rest();
    expect(t.cursor.takeClick()).toBe(false);
  });
});
