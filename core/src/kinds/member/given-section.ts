import { boxOfPoints, flattenPiece, type Point } from '../../geometry/index.ts';
import {
  figuresOf,
  reversed,
  outlineOfForm,
  piecesOfRing,
  sectionNamed,
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
