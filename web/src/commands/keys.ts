/** Who hears a key first. What one has taken the others are not asked about. */
export const KEY_ORDER = ['second stroke', 'drawing', 'cursor field', 'commands'] as const;
export type KeyPlace = (typeof KEY_ORDER)[number];

/** Says whether the key was for it. */
export type KeyHandler = (event: KeyboardEvent) => boolean;

/** The one listener for keys of a page, which asks one after the other. */
export class KeyDispatcher {
  private readonly handlers = new Map<KeyPlace, KeyHandler>();
  private readonly listen = (event: KeyboardEvent) => this.dispatch(event);

  constructor(private readonly target: Window | null = globalThis.window ?? null) {
    this.target?.addEventListener('keydown', this.listen);
  }

  /** Gives what ends it. */
  on(place: KeyPlace, handler: KeyHandler): () => void {
    this.handlers.set(place, handler);
    return () => {
      if (this.handlers.get(place) === handler) this.handlers.delete(place);
    };
  }

  dispatch(event: KeyboardEvent): void {
    // A field, a menu or a dialog has taken it.
    if (event.defaultPrevented) return;
    for (const place of KEY_ORDER)
      if (this.handlers.get(place)?.(event)) {
        event.preventDefault();
        return;
      }
  }

  close(): void {
    this.target?.removeEventListener('keydown', this.listen);
    this.handlers.clear();
  }
}

/** A key as commands name it: with Ctrl and Shift, letters by themselves whatever the caps lock says. */
export function chordOf(event: KeyboardEvent): string {
  const letter = /^[a-z]$/i.test(event.key),
    control = event.ctrlKey || event.metaKey;
  return `${control ? 'Ctrl+' : ''}${event.shiftKey && (control || letter) ? 'Shift+' : ''}${letter ? event.key.toLowerCase() : event.key}`;
}
