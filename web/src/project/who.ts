/** Who works here, as they named themselves; kept in this browser, written into calibrations. */
const KEY = 'calque-who';
const LONGEST = 80;

export function whoIsIt(): string {
  try {
    return (globalThis.localStorage?.getItem(KEY) ?? '').slice(0, LONGEST);
  } catch {
    return '';
  }
}

export function nameMyself(name: string): void {
  try {
    globalThis.localStorage?.setItem(KEY, name.trim().slice(0, LONGEST));
  } catch {
    // A browser that keeps nothing: the name is asked for again next time.
  }
}
