import { describe, expect, it, vi } from 'vitest';
import type { Command, Declared, Hands } from '../src/commands/command.ts';
import { chordOf, KeyDispatcher } from '../src/commands/keys.ts';
import { whyNoKey } from '../src/commands/own-keys.ts';
import { clash, makeRegistry } from '../src/commands/registry.ts';
import { allCommands } from '../src/shell/commands.ts';
import { AROUND } from './given-around.ts';
import { line, tableWith } from './given-table.ts';

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
    const clashes = list.flatMap((a, i) =>
      list.slice(i + 1).flatMap((b) => (clash(a, b) ? [`${a.id} and ${b.id}: ${a.key}`] : [])),
    );
    expect(clashes).toEqual([]);
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

  it('on the ledge have a drawing and a short word', () => {
    for (const c of registryOf().list.filter((c) => c.on)) {
      expect(c.picture, c.id).toBeDefined();
      expect(c.short?.length, c.id).toBeLessThan(15);
    }
  });

  it('have the key of the part that is open first, then that of everywhere, then that of the one other part', () => {
    const registry = registryOf();
    expect(registry.byKey('r', 'building')?.id).toBe('wall-rectangle');
    expect(registry.byKey('r', 'calibrate')?.id).toBe('straighten');
    // Two other parts mean something by it: neither is meant.
    expect(registry.byKey('r', 'check')).toBeUndefined();
    for (const part of ['building', 'drawing', 'calibrate', undefined] as const) {
      expect(registry.byKey('w', part)?.id).toBe('wall');
      expect(registry.byKey('v', part)?.id).toBe('move-chosen');
    }
    expect(registry.byKey(',', 'drawing')).toBeUndefined();
    expect(registry.startingWith(',', 'drawing').map((c) => c.key)).toEqual(
      expect.arrayContaining([', n', ', l', ', s']),
    );
    // Its own, and those of everywhere.
    expect(registry.startingWith(',', 'drawing').every((c) => c.on?.includes('drawing') ?? true)).toBe(true);
    expect(registry.startingWith('w', 'drawing')).toEqual([]);
  });

  it('take keys that a person gives; whoever had such a key has none then', () => {
    const t = tableWith(),
      plain = makeRegistry(allCommands(AROUND), handsOf(t)),
      own = makeRegistry(allCommands(AROUND), handsOf(t), { wall: 'i', 'move-chosen': 'z', gone: 'q' });
    expect(own.byKey('i', 'building')?.id).toBe('wall');
    expect(own.byKey('w', 'building')).toBeUndefined();
    expect(own.byKey('z', 'building')?.id).toBe('move-chosen');
    expect(own.get('trim').key).toBeUndefined();
    // In another part it is nobody's: the line keeps it there.
    expect(own.byKey('i', 'drawing')?.id).toBe('line');
    expect(own.byKey('q', 'building')?.id).toBe(plain.byKey('q', 'building')?.id);
    // A second key stays; keys that words on the drawing name are nobody's to change.
    const more = makeRegistry(allCommands(AROUND), handsOf(t), { all: 'F6', flip: 'F7', 'move-chosen': 'g' });
    expect([more.byKey('Home')?.id, more.byKey('F6')?.id]).toEqual(['all', 'all']);
    expect([more.get('flip').key, more.get('ink').key]).toEqual(['f', 'g']);
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

  it('that a person may give are none that the drawing takes itself', () => {
    for (const key of ['w', 'Shift+w', 'Ctrl+Shift+e', 'F6', ';', ', n', 'Delete'])
      expect(whyNoKey(key), key).toBeNull();
    for (const key of ['Enter', ' ', 'n', '5', ',', 'Shift', 'ArrowUp', 'a b', ', 1', ', n n'])
      expect(whyNoKey(key), key).not.toBeNull();
  });

  it('are named as commands name them, whatever the caps lock says', () => {
    expect(chordOf(event('A', { shiftKey: true }))).toBe('Shift+a');
    expect(chordOf(event('A'))).toBe('a');
    expect(chordOf(event('z', { ctrlKey: true, shiftKey: true }))).toBe('Ctrl+Shift+z');
    expect(chordOf(event('?', { shiftKey: true }))).toBe('?');
    expect(chordOf(event('Delete'))).toBe('Delete');
  });
});
