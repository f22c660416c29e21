import type { LengthStyle } from '../units/index.ts';
import { kindOf, type Traced } from '../kinds/index.ts';

/** What an element is, in a word. */
export const kindWord = (e: Traced): string => kindOf(e).word(e);

/** Length of what is drawn of an element along its line; of an area round it; of a placed group, as it shows, of all in it. 0 for what has none. */
export const drawnLength = (e: Traced): number => kindOf(e).length(e);

/** An element in a few words: "Wall 4 000 mm". */
export function elementWords(e: Traced, style: LengthStyle): string {
  const word = kindWord(e);
  return `${word[0].toUpperCase()}${word.slice(1)} ${kindOf(e).summary(e, style)}`;
}
