import type { Table } from '@/table/table';
import type { Command, Declared, Hands } from './command';

/** All commands of a project that is open: keys, search, buttons and the sheet of keys are made from it. */
export interface Registry {
  list: readonly Command[];
  get(id: string): Command;
  /** What a key means now. */
  byKey(chord: string): Command | undefined;
}

/** Tools and edits can be taken up again, unless they say no. */
const repeats = ({ group, repeats: own }: Command): boolean => own ?? (group === 'Tools' || group === 'Edit');

/** Commands as given, and one that runs again the one that was run last. */
function withRepeat(commands: readonly Command[], table: Table): Command[] {
  let last: Command | null = null;
  const remembered = commands.map((c): Command =>
    repeats(c)
      ? {
          ...c,
          run: () => {
            last = c;
            c.run();
          },
        }
      : c,
  );
  return [
    ...remembered,
    {
      id: 'repeat',
      words: 'Repeat: take up again the tool or edit used last',
      group: 'Tools',
      key: '.',
      applies: () => table.currentTool.id === 'select',
      why: () =>
        last === null ? 'Nothing has been used yet that could be repeated.' : (last.why?.() ?? null),
      run: () => last?.run(),
    },
  ];
}

export function makeRegistry(declared: readonly Declared[], hands: Hands): Registry {
  const list = withRepeat(
    declared.flatMap((d) => d(hands)),
    hands.table,
  );
  const byId = new Map<string, Command>();
  for (const c of list) {
    if (byId.has(c.id)) throw new Error(`Two commands are called ${c.id}.`);
    byId.set(c.id, c);
  }
  return {
    list,
    get: (id) => {
      const command = byId.get(id);
      if (!command) throw new Error(`There is no command ${id}.`);
      return command;
    },
    byKey: (chord) => list.find((c) => (c.key === chord || c.otherKey === chord) && (c.applies?.() ?? true)),
  };
}
