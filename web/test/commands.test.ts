import { describe, expect, it, vi } from 'vitest';
import type { Command, Declared, Hands } from '../src/commands/command.ts';
import { chordOf, KeyDispatcher } from '../src/commands/keys.ts';
import { makeRegistry } from '../src/commands/registry.ts';
import { allCommands } from '../src/shell/commands.ts';
import { line, tableWith } from './given-table.ts';

const AROUND = {
  foldStack: () => {},
  foldCard: () => {},
  help: () => {},
  openList: () => {},
  openSpace: () => {},
};
const handsOf = (t: ReturnType<typeof tableWith>): Hands => ({
  table: t.table,
  session: t.table.session,
  goTo: () => {},
});
const registryOf = (t = tableWith()) => makeRegistry(allCommands(AROUND), handsOf(t));

describe('all commands', () => {
  it('have ids, words and keys of their own; a key that two share is told apart by when they apply', () => {
    const { list } = registryOf();
    expect(new Set(list.map((c) => c.id)).size).toBe(list.length);
    expect(new Set(list.map((c) => c.words)).size).toBe(list.length);
    const keys = list.flatMap((c) => [c.key, c.otherKey].filter((k) => k !== undefined));
    expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
    expect(list.length).toBeGreaterThan(70);
  });

  it('that work on what is selected say so where nothing is, and do not where something is', () => {
    const t = tableWith(line('a', [0, 0], [900, 0])),
      registry = registryOf(t);
    const asking = registry.list.filter((c) => /on what is selected/.test(c.why?.() ?? ''));
    expect(asking.map((c) => c.id)).toEqual(
      expect.arrayContaining(['move-chosen', 'join', 'group', 'apart', 'cut', 'done']),
    );
    t.table.setSelection(['a']);
    for (const c of asking) expect(c.why!(), c.id).toBeNull();
  });

  it('that are not there, or twice, are a fault at once', () => {
    expect(() => registryOf().get('none')).toThrow('no command none');
    const twice: Declared = () => [{ id: 'x', words: 'X', group: 'View', run: () => {} }];
    expect(() => makeRegistry([twice, twice], handsOf(tableWith()))).toThrow('called x');
  });

  it('can be repeated: the tool or edit used last, and nothing that only looks', () => {
    const ran: string[] = [];
    const made = (id: string, group: Command['group'], more: Partial<Command> = {}): Command => ({
      id,
      words: id,
      group,
      run: () => ran.push(id),
      ...more,
    });
    const declared: Declared = () => [
      made('tool', 'Tools'),
      made('look', 'View'),
      made('once', 'Edit', { repeats: false }),
      made('asks', 'Edit', { why: () => 'not now' }),
    ];
    const registry = makeRegistry([declared], handsOf(tableWith())),
      repeat = registry.get('repeat');
    expect(repeat.why!()).toMatch(/Nothing has been used/);
    for (const id of ['tool', 'look', 'once']) registry.get(id).run();
    repeat.run();
    expect(ran).toEqual(['tool', 'look', 'once', 'tool']);
    registry.get('asks').run();
    expect(repeat.why!()).toBe('not now');
  });
});

describe('keys', () => {
  const event = (key: string, more: Partial<KeyboardEvent> = {}) =>
    ({ key, preventDefault: vi.fn(), defaultPrevented: false, ...more }) as unknown as KeyboardEvent;

  it('are asked for in one order: the drawing, the field at the cursor, then commands', () => {
    const keys = new KeyDispatcher(null),
      asked: string[] = [];
    let taker = '';
    // They register in any order, again and again.
    for (const place of ['commands', 'cursor field', 'drawing'] as const)
      keys.on(place, () => {
        asked.push(place);
        return place === taker;
      });
    for (const [who, heard] of [
      ['', ['drawing', 'cursor field', 'commands']],
      ['cursor field', ['drawing', 'cursor field']],
      ['drawing', ['drawing']],
    ] as const) {
      taker = who;
      asked.length = 0;
      const e = event('a');
      keys.dispatch(e);
      expect(asked).toEqual(heard);
      expect(e.preventDefault).toHaveBeenCalledTimes(who === '' ? 0 : 1);
    }
    asked.length = 0;
    keys.dispatch(event('a', { defaultPrevented: true }));
    expect(asked).toEqual([]);
  });

  it('let one that ends go alone: who has registered since stays', () => {
    const keys = new KeyDispatcher(null);
    const first = keys.on('commands', () => false),
      heard = vi.fn(() => true);
    keys.on('commands', heard);
    first();
    keys.dispatch(event('a'));
    expect(heard).toHaveBeenCalledOnce();
  });

  it('are named as commands name them, whatever the caps lock says', () => {
    expect(chordOf(event('A', { shiftKey: true }))).toBe('Shift+a');
    expect(chordOf(event('A'))).toBe('a');
    expect(chordOf(event('z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+z');
    expect(chordOf(event('?', { shiftKey: true }))).toBe('?');
    expect(chordOf(event('Delete'))).toBe('Delete');
  });
});
