import { MM_PER } from '../units/index.ts';

/** What a sheet writes in a room. */
export interface RoomWords {
  name: string;
  number: string;
  /** Square millimetres; null where no area is printed. */
  printed: number | null;
}

const AREA = /^(?:area:?\s*)?(\d{1,6}(?:[.,]\d{1,3})?)\s*(m2|m²|sq\.?\s?m|sq\.?\s?ft\.?|sf|ft2|ft²)$/i;
const IMPERIAL = /f/i;
/** A number of a room: "12", "G.04", "R-103", "2b". */
const NUMBER = /^[A-Z]{0,2}[-. ]?\d{1,3}(?:[.-]\d{1,3})?[a-z]?$/;
/** A name has at least two letters next to one another. */
const NAME = /\p{L}{2}/u;

/** Name, number and area among the words that lie in a room: the tallest that is none of the others is its name. Texts in any order, heights in one unit. */
export function roomWords(texts: readonly { text: string; height: number }[]): RoomWords {
  const words: RoomWords = { name: '', number: '', printed: null };
  for (const { text } of [...texts].sort((a, b) => b.height - a.height)) {
    const line = text.trim().replace(/\s+/g, ' '),
      area = AREA.exec(line);
    if (area) {
      const figure = Number(area[1].replace(',', '.'));
      words.printed ??= figure * (IMPERIAL.test(area[2]) ? MM_PER.ft ** 2 : 1e6);
    } else if (NUMBER.test(line)) words.number ||= line;
    else if (NAME.test(line) && line.length <= LONGEST_NAME) words.name ||= line;
  }
  return words;
}
/** What is longer is a note. */
const LONGEST_NAME = 40;
