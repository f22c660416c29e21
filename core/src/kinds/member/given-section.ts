import { boxOfPoints, flattenPiece, type Point } from '../../geometry/index.ts';
import {
  figuresOf,
  reversed,
  outlineOfForm,
  piecesOfRing,
  sectionNamed,
  whyNoSection,
  type SectionFigures,
  type SectionForm,
  type SectionMaterial,
  type SectionRing,
} from '../../sections/index.ts';
import type { Pair } from '../drawn.ts';

/** What section a member has: one of a published table by its name, one by typed sizes, or a traced outline about the middle of its box. */
export type GivenSection =
  | { form: 'table'; name: string }
  | ({ form: 'sizes' } & SectionForm)
  | { form: 'outline'; name: string; points: Pair[]; bulges: number[] };

/** A section as it is drawn and counted: rings about the middle of its box, millimetres, x to the right and y up. */
export interface KnownSection {
  name: string;
  rings: SectionRing[];
  figures: SectionFigures;
  b: number;
  h: number;
  material: SectionMaterial;
  /** Its sizes, where it is of a shape that has any. */
  sizes: SectionForm | null;
  /** The table that it is of. */
  standard: string | null;
}

/** Arcs of a section stray from their chords by no more, millimetres. */
const CHORDS = 0.2;

/** The corners of rings, arcs by chords that stray so far from them, millimetres. */
export const flatSection = (rings: readonly SectionRing[], chords = CHORDS): Point[][] =>
  rings.map((ring) => piecesOfRing(ring).flatMap((p) => flattenPiece(p, chords).slice(0, -1)));

const SHAPE_WORDS: Readonly<Record<SectionForm['shape'], string>> = {
  I: 'I',
  channel: 'Channel',
  tee: 'Tee',
  angle: 'Angle',
  'rectangular hollow': 'Box',
  'round hollow': 'Tube',
  rectangle: '',
  round: 'Round',
};

const figure = (v: number) => String(Math.round(v * 100) / 100);

/** What sizes are called: "I 200x100x6x9", "60x200", "Tube 60x4". */
export function nameOfSizes(s: SectionForm): string {
  const word = SHAPE_WORDS[s.shape],
    sizes =
      s.shape === 'rectangle'
        ? [s.b, s.h]
        : s.shape === 'round'
          ? [s.h]
          : s.shape === 'round hollow'
            ? [s.h, s.tw]
            : s.shape === 'rectangular hollow' || s.shape === 'angle'
              ? [s.h, s.b, s.tw]
              : [s.h, s.b, s.tw, s.tf];
  return [word, sizes.map(figure).join('x')].filter((w) => w !== '').join(' ');
}

/** Words by which people say what shape they mean, beside those of SHAPE_WORDS. */
const ALSO: Readonly<Record<string, SectionForm['shape']>> = {
  h: 'I',
  u: 'channel',
  c: 'channel',
  t: 'tee',
  l: 'angle',
  angle: 'angle',
  rhs: 'rectangular hollow',
  shs: 'rectangular hollow',
  pipe: 'round hollow',
  chs: 'round hollow',
  rod: 'round',
  bar: 'round',
};
const SHAPES: ReadonlyMap<string, SectionForm['shape']> = new Map([
  ...Object.entries(SHAPE_WORDS).map(
    ([shape, word]) => [word.toLowerCase(), shape as SectionForm['shape']] as const,
  ),
  ...Object.entries(ALSO),
]);
/** How many sizes a shape is told by, in their order. */
const SIZES: Readonly<Record<SectionForm['shape'], readonly (keyof SectionForm)[]>> = {
  I: ['h', 'b', 'tw', 'tf'],
  channel: ['h', 'b', 'tw', 'tf'],
  tee: ['h', 'b', 'tw', 'tf'],
  angle: ['h', 'b', 'tw'],
  'rectangular hollow': ['h', 'b', 'tw'],
  'round hollow': ['h', 'tw'],
  rectangle: ['b', 'h'],
  round: ['h'],
};
/** Beyond this, millimetres, is no section. */
const LARGEST = 1e4;

/**
 * A section by typed sizes, as they are called: "I 300x150x8x12", "Box 100x60x5", "Tube 60x4", "L 80x60x6", "60x200"; `unit` is what a figure is
 * in, millimetres. Null for what is none, words for sizes that make none.
 */
export function sectionTyped(text: string, unit = 1): GivenSection | string | null {
  const found = /^\s*([a-z]*)\s*((?:\d+(?:[.,]\d+)?)(?:\s*[x×*]\s*\d+(?:[.,]\d+)?)*)\s*$/i.exec(text),
    shape = found && SHAPES.get(found[1].toLowerCase());
  if (!found || !shape) return null;
  const figures = found[2].split(/[x×*]/).map((f) => Number(f.trim().replace(',', '.')) * unit),
    names = SIZES[shape];
  if (figures.length !== names.length) return null;
  const form: SectionForm = { shape, h: 0, b: 0, tw: 0, tf: 0, r: 0 };
  names.forEach((name, i) => ((form as unknown as Record<string, number>)[name] = figures[i]));
  if (shape === 'round' || shape === 'round hollow') form.b = form.h;
  const why = figures.some((v) => v > LARGEST) ? 'It is larger than any section.' : whyNoSection(form);
  return why ?? { form: 'sizes', ...form };
}

const known = new WeakMap<GivenSection, KnownSection | { none: true }>();

/** The section that is given; null for a name that no table has. */
export function knownSection(given: GivenSection): KnownSection | null {
  const made = known.get(given) ?? tabled(given) ?? make(given) ?? { none: true };
  known.set(given, made);
  return 'none' in made ? null : made;
}

const ofTables = new Map<string, KnownSection>();
/** Sections of tables are made once for all members that have them. */
function tabled(given: GivenSection): KnownSection | null {
  if (given.form !== 'table') return null;
  const there = ofTables.get(given.name) ?? make(given);
  if (there) ofTables.set(given.name, there);
  return there;
}

function make(given: GivenSection): KnownSection | null {
  if (given.form === 'outline') {
    const ring = { points: given.points, bulges: given.bulges },
      rings = [figuresOf([ring]).area < 0 ? reversed(ring) : ring],
      [x0, y0, x1, y1] = boxOfPoints(flatSection(rings)[0]);
    return {
      name: given.name,
      rings,
      figures: figuresOf(rings),
      b: x1 - x0,
      h: y1 - y0,
      material: 'steel',
      sizes: null,
      standard: null,
    };
  }
  const table = given.form === 'table' ? sectionNamed(given.name) : undefined,
    sizes = given.form === 'table' ? table : given;
  if (!sizes) return null;
  const rings = outlineOfForm(sizes),
    isRound = sizes.shape === 'round' || sizes.shape === 'round hollow';
  return {
    name: table?.name ?? nameOfSizes(sizes),
    rings,
    figures: figuresOf(rings),
    b: isRound ? sizes.h : sizes.b,
    h: sizes.h,
    material: table?.material ?? (sizes.shape === 'rectangle' ? 'timber' : 'steel'),
    sizes,
    standard: table?.standard ?? null,
  };
}
