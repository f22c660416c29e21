import { scaleNote } from '../units/index.ts';
import type { PageText } from './types.ts';

export interface ScaleNote {
  text: string;
  factor: number;
}

/** Texts of a page that state a scale, each different one once. */
export function scaleNotes(texts: readonly PageText[]): ScaleNote[] {
  const found = new Map<string, number>();
  for (const { text } of texts) {
    const factor = scaleNote(text);
    if (factor !== null && !found.has(text)) found.set(text, factor);
  }
  return [...found].map(([text, factor]) => ({ text, factor }));
}
