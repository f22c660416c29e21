import type { ComponentType } from 'react';
import type { Traced } from '@calque/core/model';
import type { Declared } from '@/commands/command';

/** What the page knows of a kind of element beside how it is painted (see painters.ts). */
export interface Face<E extends Traced> {
  /** The tools that draw it, and what is done with it alone. */
  readonly commands: Declared;
  /** What can be changed of those selected; null where there is nothing of its own. */
  readonly Fields: ComponentType<{ chosen: readonly E[] }> | null;
}
