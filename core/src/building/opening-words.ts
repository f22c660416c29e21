import type { Point } from '../geometry/index.ts';
import type { OpeningKind, OpeningMeasure, WallOpening } from '../model/index.ts';
import { MM_PER, parseLength } from '../units/index.ts';
import { pointAt, type WallBand } from './wall-geometry.ts';

/** A text of a sheet by its middle, plane millimetres. */
export interface TextAt {
  text: string;
  at: Point;
}

/** What a sheet writes beside an opening; millimetres, null for what it does not say. */
export interface OpeningPrinted {
  tag: string | null;
  width: number | null;
  height: number | null;
  sill: number | null;
}

/** Words belong to an opening that stand before it, this far beside its edges and this far from the faces of its wall, millimetres. */
const BESIDE = 300,
  BEFORE = 1500;
/** A printed width is that of a gap within this share: leaf, frame and opening are not as wide as one another. */
const LIKE = 0.15;
/** Openings are between so high, millimetres. */
export const LOWEST = 300,
  HIGHEST = 6000;

const FIGURE = String.raw`\d+(?:[.,]\d+)?(?:\s*(?:mm|cm|m))?|\d+'(?:\s*-?\s*\d+(?:\s+\d+/\d+)?"?)?|\d+(?:\s+\d+/\d+)?"`;
/** "900 x 2100", "90/210", "3'-0\" x 6'-8\"". */
export const SIZE = new RegExp(
  `^(?:W\\s*)?(${FIGURE})\\s*(?:[x×/]|by)\\s*(?:H\\s*)?(${FIGURE})\\s*(?:h|high|HT)?$`,
  'i',
);
const SILL = new RegExp(`^(?:sill|cill|SH|BRH)\\s*[:=]?\\s*\\+?(${FIGURE})$`, 'i');
const HIGH = new RegExp(
  `^(?:(?:head|HH|H|height)\\s*[:=]?\\s*\\+?(${FIGURE})|(${FIGURE})\\s*(?:h|high))$`,
  'i',
);
/** Doors and windows by the letters with which schedules name them. */
const TAG: Readonly<Record<OpeningKind, RegExp>> = {
  door: /^(?:D|DR|ED|ID|WD|FD|T|P)[-. ]?\d{1,4}[a-z]?$/i,
  window: /^(?:W|WN|EW|WIN|F|V)[-. ]?\d{1,4}[a-z]?$/i,
  // Where no leaf is drawn it may be any.
  gap: /^(?:O|OP|D|DR|ED|ID|FD|W|WN|WD)[-. ]?\d{1,4}[a-z]?$/i,
  niche: /^(?:N|NI|O|OP)[-. ]?\d{1,4}[a-z]?$/i,
};

/** Units in which a bare figure may be written, in millimetres. */
export const BARE = [1, MM_PER.cm, MM_PER.m, MM_PER.in];

/** A figure that says its unit itself; null for a bare one. */
export function signed(figure: string): number | null {
  if (!/['"a-z]/i.test(figure)) return null;
  const read = parseLength(figure.replace(',', '.'), 'mm');
  return read.ok ? read.mm : null;
}
export const bare = (figure: string) => Number(figure.replace(',', '.'));

/** A height above the floor: of a bare figure its size tells the unit. */
function heightOf(figure: string): number | null {
  const known = signed(figure);
  if (known !== null) return known;
  const n = bare(figure);
  if (!Number.isFinite(n)) return null;
  if (n < 10) return n * MM_PER.m;
  return n < 300 ? n * MM_PER.cm : n;
}

/** Width and height, in the unit in which the width is the gap's; null where it is that in none. */
function sizeLike(width: string, height: string, gap: number): { width: number; height: number } | null {
  const fits = (w: number, h: number) =>
    Math.abs(w / gap - 1) <= LIKE && h >= LOWEST && h <= HIGHEST ? { width: w, height: h } : null;
  const [w, h] = [signed(width), signed(height)];
  if (w !== null || h !== null) return w !== null && h !== null ? fits(w, h) : null;
  for (const unit of BARE) {
    const size = fits(bare(width) * unit, bare(height) * unit);
    if (size) return size;
  }
  return null;
}

/** The outline within which words may belong to an opening. */
export const wordsOutline = (band: WallBand, from: number, to: number): Point[] => [
  pointAt(band, from - BESIDE, -band.right - BEFORE),
  pointAt(band, to + BESIDE, -band.right - BEFORE),
  pointAt(band, to + BESIDE, band.left + BEFORE),
  pointAt(band, from - BESIDE, band.left + BEFORE),
];

/** What of the texts of a sheet is written beside an opening of a wall, between two distances along it: of several the nearest counts. */
export function openingWords(
  texts: readonly TextAt[],
  kind: OpeningKind,
  band: WallBand,
  from: number,
  to: number,
): OpeningPrinted {
  const printed: OpeningPrinted = { tag: null, width: null, height: null, sill: null },
    middle = pointAt(band, (from + to) / 2, (band.left - band.right) / 2);
  const far = ({ at: [x, y] }: TextAt) => Math.hypot(x - middle[0], y - middle[1]);
  for (const { text } of texts.filter((t) => isBefore(t.at, band, from, to)).sort((a, b) => far(a) - far(b)))
    for (const line of text.split('\n')) addWords(printed, line.trim().replace(/\s+/g, ' '), kind, to - from);
  return printed;
}

function isBefore([x, y]: Point, b: WallBand, from: number, to: number): boolean {
  const along = (x - b.from[0]) * b.ux + (y - b.from[1]) * b.uy,
    off = (y - b.from[1]) * b.ux - (x - b.from[0]) * b.uy;
  return along >= from - BESIDE && along <= to + BESIDE && off <= b.left + BEFORE && off >= -b.right - BEFORE;
}

/** What is longer is a note. */
const LONGEST = 40;

function addWords(printed: OpeningPrinted, line: string, kind: OpeningKind, gap: number): void {
  if (line.length > LONGEST) return;
  const size = SIZE.exec(line),
    sill = SILL.exec(line),
    high = HIGH.exec(line);
  if (size) {
    const read = printed.width === null ? sizeLike(size[1], size[2], gap) : null;
    if (read) {
      printed.width = read.width;
      printed.height ??= read.height;
    }
  } else if (sill) printed.sill ??= heightOf(sill[1]);
  else if (high) {
    const height = heightOf(high[1] ?? high[2]);
    if (height !== null && height >= LOWEST && height <= HIGHEST) printed.height ??= height;
  } else if (TAG[kind].test(line)) printed.tag ??= line;
}

/**
 * An opening with the tag and the heights that the sheet prints, where they fit its wall; its width stays the plan's. A window whose sill
 * nobody says has its height above the usual one, and both are still assumed.
 */
export function asPrinted(o: WallOpening, printed: OpeningPrinted, wallTop: number): WallOpening {
  const sill = printed.sill ?? o.sill,
    head = printed.height === null ? o.head : sill + printed.height,
    named = printed.tag === null ? o : { ...o, tag: printed.tag };
  if (head > wallTop || sill >= head) return named;
  const isSillKnown = printed.sill !== null || (o.kind !== 'window' && printed.height !== null);
  const known: OpeningMeasure[] = [
    ...(isSillKnown ? (['sill'] as const) : []),
    ...(isSillKnown && printed.height !== null ? (['head'] as const) : []),
  ];
  return { ...named, sill, head, assumed: o.assumed.filter((m) => !known.includes(m)) };
}
