import { create } from 'zustand';

/** Keys that this person has given to commands, by the command's id; kept by the browser, for all projects. */
interface OwnKeys {
  keys: Readonly<Record<string, string>>;
  set(id: string, key: string | null): void;
  clear(): void;
}

/** Keys that the drawing and its fields take themselves. */
const TAKEN = new Set([
  ...['Enter', 'Escape', 'Tab', 'Backspace', ' ', 'Home', 'PageUp', 'PageDown', 'n', 'h', 'x', '='],
  ...['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Ctrl+k', '-', '.', ','],
  ...'0123456789',
]);
const MODIFIERS = new Set(['Shift', 'Control', 'Alt', 'Meta', 'CapsLock', 'Dead', 'AltGraph']);

const isKey = (key: string) => key.length > 0 && key.length < 30 && !/[\u0000-\u001f\u007f]/.test(key);

const KEPT = 'calque-keys';

function kept(): Record<string, string> {
  try {
    const value: unknown = JSON.parse(globalThis.localStorage?.getItem(KEPT) ?? '{}');
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return {};
    return Object.fromEntries(
      Object.entries(value).filter((e): e is [string, string] => typeof e[1] === 'string' && isKey(e[1])),
    );
  } catch {
    return {};
  }
}

function keep(keys: Readonly<Record<string, string>>): void {
  try {
    globalThis.localStorage?.setItem(KEPT, JSON.stringify(keys));
  } catch {
    // A browser that keeps nothing forgets this too.
  }
}

export const useOwnKeys = create<OwnKeys>((set, get) => ({
  keys: kept(),
  set: (id, key) => {
    const { [id]: _, ...others } = get().keys,
      keys = key === null ? others : { ...others, [id]: key };
    keep(keys);
    set({ keys });
  },
  clear: () => {
    keep({});
    set({ keys: {} });
  },
}));

/** Why a key cannot be given to a command; null where it can. The comma begins two strokes and is none by itself. */
export function whyNoKey(key: string): string | null {
  const [first, second, ...more] = key === ' ' ? [' '] : key.split(' ');
  if (MODIFIERS.has(first)) return 'Press a letter or a sign with it.';
  if (second === undefined ? TAKEN.has(first) : first !== ',' || more.length > 0 || !/^[a-z]$/.test(second))
    return second === undefined
      ? 'The drawing takes this key itself: press another.'
      : 'Two strokes begin with a comma, and a letter follows.';
  return null;
}
