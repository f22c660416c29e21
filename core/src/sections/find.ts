import { figuresOfForm, type TableSection } from './section.ts';
import { allSections } from './tables.ts';

/** Density of what sections are made of, kg/m3: steel EN 1991-1-1 (7850), softwood of class C24 EN 338 (mean 420). */
export const DENSITY = { steel: 7850, timber: 420 } as const;

/** Mass by the length, kg/m, from the outline. */
export const massOf = (s: TableSection): number => (figuresOfForm(s).area / 1e6) * DENSITY[s.material];

/** What is asked of a section beside its name: "180 high", "under 30 kg/m", "over 5 m2" and so on. */
interface Wish {
  words: string[];
  high: number | null;
  wide: number | null;
  lighter: number | null;
  heavier: number | null;
}

const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`;
const figure = (text: string) => Number(text.replace(',', '.'));

/** Takes the wishes for height, width and mass out of what is typed; what is left are words of names. */
export function wishOf(text: string): Wish {
  const wish: Wish = { words: [], high: null, wide: null, lighter: null, heavier: null };
  const take = (pattern: string, put: (v: number) => void) => {
    rest = rest.replace(new RegExp(pattern, 'gi'), (_all, v: string) => {
      put(figure(v));
      return ' ';
    });
  };
  let rest = text.slice(0, LONGEST);
  take(`(?:under|below|lighter than|at most|<=?)\\s*${NUMBER}\\s*(?:kg(?:/m)?)?`, (v) => (wish.lighter = v));
  take(`(?:over|above|heavier than|at least|>=?)\\s*${NUMBER}\\s*(?:kg(?:/m)?)?`, (v) => (wish.heavier = v));
  take(`${NUMBER}\\s*(?:mm\\s*)?(?:high|deep|tall)`, (v) => (wish.high = v));
  take(`${NUMBER}\\s*(?:mm\\s*)?wide`, (v) => (wish.wide = v));
  wish.words = rest
    .toLowerCase()
    .replace(/\b(?:nearest to|nearest|near|about|to|and)\b/g, ' ')
    .replace(/[×*]/g, 'x')
    // HE 200 A is HEA 200.
    .replace(/\bhe\s*(\d+)\s*([abm])\b/g, 'he$2 $1')
    .split(/[\s,;]+/)
    .filter((w) => w !== '');
  return wish;
}
/** More is not read. */
const LONGEST = 200;

const plain = (text: string) => text.toLowerCase().replace(/\s+/g, '');

/** Does a section's name hold all the words, in their order where they run together ("ipe200"), or each for itself? */
function isNamed(s: TableSection, words: readonly string[]): boolean {
  const name = plain(s.name),
    all = `${name} ${s.family.toLowerCase()} ${s.shape} ${s.standard.toLowerCase()} ${s.material}`;
  return name.includes(words.join('')) || words.every((w) => all.includes(w));
}

/**
 * Sections that answer what is typed: a name or part of one, a standard, a shape, and wishes for size and mass. Where a height or width is
 * wished for, the nearest come first; else names that begin with the words, then as in the tables.
 */
export function findSections(text: string, most = Infinity): TableSection[] {
  const { words, high, wide, lighter, heavier } = wishOf(text),
    found = allSections().filter((s) => {
      if (!isNamed(s, words)) return false;
      const mass = lighter !== null || heavier !== null ? massOf(s) : 0;
      return (lighter === null || mass <= lighter) && (heavier === null || mass >= heavier);
    });
  const far = (s: TableSection) =>
      (high === null ? 0 : Math.abs(s.h - high)) + (wide === null ? 0 : Math.abs(s.b - wide)),
    start = words.join('');
  const ranked =
    high !== null || wide !== null
      ? [...found].sort((a, b) => far(a) - far(b) || massOf(a) - massOf(b))
      : start === ''
        ? found
        : [...found].sort((a, b) => rank(a, start) - rank(b, start));
  return ranked.slice(0, most);
}

function rank(s: TableSection, start: string): number {
  const name = plain(s.name);
  return name === start ? 0 : name.startsWith(start) ? 1 : name.includes(start) ? 2 : 3;
}
