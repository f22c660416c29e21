import type { Table } from '@/table/table';
import type { Command, Declared, Hands, LedgePart } from './command';
import { useLately } from './lately';

/** All commands of a project that is open: keys, search, buttons and the sheet of keys are made from it. */
export interface Registry {
  list: readonly Command[];
  get(id: string): Command;
  /** What a key means now: in the part of the ledge that is open its own come first, then those of everywhere. */
  byKey(chord: string, part?: LedgePart): Command | undefined;
  /** What could follow a first stroke. */
  startingWith(stroke: string, part?: LedgePart): readonly Command[];
}

/** Tools and edits can be taken up again, unless they say no. */
const repeats = ({ group, repeats: own }: Command): boolean => own ?? (group === 'Tools' || group === 'Edit');

/** Commands as given, and one that runs again the one that was run last. */
function withRepeat(commands: readonly Command[], table: Table): Command[] {
  let last: Command | null = null;
  const remembered = commands.map((c): Command =>
    repeats(c) || c.on
      ? {
          ...c,
          run: () => {
            if (repeats(c)) last = c;
            if (c.on) useLately.getState().used(c.id);
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

/** Keys of these belong to their part alone; what changes what is there has the same keys everywhere. */
const ownPart = (c: Command): readonly LedgePart[] | null => (c.on && !c.on.includes('change') ? c.on : null);

/** Have two commands one key where both would hear it? */
export function clash(a: Command, b: Command): boolean {
  const keys = (c: Command) => [c.key, c.otherKey].filter((k) => k !== undefined);
  if (!keys(a).some((k) => keys(b).includes(k))) return false;
  const [pa, pb] = [ownPart(a), ownPart(b)];
  // A part's own key may be one that means something else outside it.
  if ((pa === null) !== (pb === null)) return false;
  return pa === null || pa.some((p) => pb!.includes(p));
}

/** `ownKeys`: keys that the person has given, by the command's id; whoever had such a key before has none. */
export function makeRegistry(
  declared: readonly Declared[],
  hands: Hands,
  ownKeys: Readonly<Record<string, string>> = {},
): Registry {
  const given = withRepeat(
    declared.flatMap((d) => d(hands)),
    hands.table,
  );
  const list = given.map((c): Command =>
    Object.hasOwn(ownKeys, c.id) && !c.fixedKey
      ? { ...c, key: ownKeys[c.id] }
      : !c.fixedKey &&
          given.some((o) => Object.hasOwn(ownKeys, o.id) && clash({ ...o, key: ownKeys[o.id] }, c))
        ? { ...c, key: undefined, otherKey: undefined }
        : c,
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
    byKey: (chord, part) => {
      const found = list.filter((c) => (c.key === chord || c.otherKey === chord) && (c.applies?.() ?? true));
      const own = found.find((c) => part && ownPart(c)?.includes(part)),
        everywhere = found.find((c) => ownPart(c) === null);
      // Of two other parts none is meant more than the other.
      return own ?? everywhere ?? (found.length === 1 ? found[0] : undefined);
    },
    startingWith: (stroke, part) => {
      const all = list.filter((c) => c.key?.startsWith(`${stroke} `) && (c.applies?.() ?? true)),
        here = all.filter((c) => ownPart(c) === null || (part && ownPart(c)!.includes(part)));
      return here.length > 0 ? here : all;
    },
  };
}
