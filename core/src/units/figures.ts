import { parsePlainLength, parseNumber } from './length.ts';

/** What a bare number on a sheet may be in. */
export const BARE_UNITS = ['mm', 'cm', 'm', 'in', 'ft'] as const;
export type BareUnit = (typeof BARE_UNITS)[number];
export const MM_PER_BARE: Record<BareUnit, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 };

/** A printed figure as read: a length whose unit is said, a bare number, or a measure that is no length between two points. */
export interface Figure {
  text: string;
  kind: 'length' | 'radius' | 'diameter' | 'angle' | 'arc';
  /** Where the unit is said. */
  millimetres: number | null;
  /** Where it is not. */
  bare: number | null;
  form: 'said' | 'whole' | 'decimal';
  /** Half of the last place that is printed, in the figure's own unit; in millimetres where that is said. */
  half: number;
  /** An angle's size. */
  degrees?: number;
  /** What stands behind a stroke, as 90/210 at a door: its height. */
  second?: Figure;
  /** How it is written tells of its unit: a raised half is of centimetres, a point without a zero before it of inches. */
  manner?: 'raised' | 'no-zero';
}

const LONGEST = 28;
/** Signs around a figure that do not change it: brackets of a reference, an approximate sign, a tolerance, the same in another unit. */
const AROUND = [
  /\s*\[[^\]]*\]\s*$/,
  /\s*[±]\s*[\d.,]+\s*(?:mm)?$/,
  /\s+\+\s*[\d.,]+\s*\/?\s*[-−]\s*[\d.,]+$/,
  /^(?:ca?\.|≈|~|=)\s*/i,
  /^\d+\s*[xX×-]\s*(?=[Øø⌀R])/,
  /\s+(?:thru|through|typ\.?|ref\.?|nom\.?|clr\.?|clear|crs\.?|c\/c|o\.?c\.?)$/i,
  /^\d+\s*[x×@]\s*[\d.,'’′"”″ /-]+\s*=\s*(?=\S)/,
];
/** The fit of a hole or a shaft. */
const FIT = /(?<=\d)\s*[A-Za-z]{1,2}\d{1,2}(?:\/[a-z]{1,2}\d{1,2})?$/;
const ROUND =
  /^(?:(?<a>[⌒◠]|arc\b\.?|b\s*=)|(?<r>S?R|r|rad\.?)\s*=?|(?<d>S?[Øø⌀Æ]|dia\.?|d\s*=))\s*(?=[\d.])/i;
const ANGLE = /^[-−+]?\d+(?:[.,]\d+)?\s*(?:°|º|deg\.?)(?:\s*\d+\s*['′](?:\s*\d+\s*["″])?)?$/i;
const BARE = /^(?:\d[\d\s.,\u2009\u202f\u00a0'’]*|[.,]\d+)$/;
const SAID =
  /^(?:[\d\s.,/⁄½¼¾⅛⅜⅝⅞\u2009\u202f\u00a0-]+(?:mm|cm|m|in|ft|inch|inches|feet)\.?|[\d\s.,/⁄½¼¾⅛⅜⅝⅞'’‘′`´"“”″ʺft.in-]+)$/i;
/** Whole inches with a fraction, as shop drawings print them without a mark. */
const INCHES_BY_FRACTION = /^\d+(?:[\s-]+\d+\s*[/⁄]\s*(?:2|4|8|16|32)|[½¼¾⅛⅜⅝⅞])$/;
/** Inches as a fraction alone; the top is odd, as nobody prints 2/8. */
const FRACTION = /^(\d+)\s*[/⁄]\s*(2|4|8|16|32|64)$/;
const RAISED = /^(\d+(?:[.,]\d{2})?)([⁰¹²³⁴⁵⁶⁷⁸⁹])$/;
const RAISED_DIGITS = '⁰¹²³⁴⁵⁶⁷⁸⁹';
/** Width and height of an opening in one text. */
const PAIR = /^([\d.,⁰¹²³⁴⁵⁶⁷⁸⁹]{2,})\s*\/\s*([\d.,⁰¹²³⁴⁵⁶⁷⁸⁹]{2,})$/;
const HAS_UNIT = /mm|cm|m\b|in|ft|feet|['’‘′`´"“”″ʺ]/i;

/** Reads a text of a sheet as a dimension's figure; null where it cannot be one. */
export function readFigure(input: string): Figure | null {
  let text = input.replace(/[\u2009\u202f\u00a0]/g, ' ').trim();
  if (text === '' || text.length > LONGEST || !/\d|[½¼¾⅛⅜⅝⅞]/.test(text)) return null;
  const bracketed = /^[([](.*)[)\]]$/.exec(text);
  if (bracketed) text = bracketed[1].trim();
  for (const sign of AROUND) text = text.replace(sign, '').trim();
  if (ANGLE.test(text))
    return {
      text: input,
      kind: 'angle',
      millimetres: null,
      bare: null,
      form: 'said',
      half: 0,
      degrees: degreesIn(text),
    };
  const round = ROUND.exec(text);
  const roundKind = round?.groups!.a ? 'arc' : round?.groups!.r ? 'radius' : 'diameter',
    kind = round ? roundKind : 'length';
  const rest = round ? text.slice(round[0].length).replace(FIT, '') : text;
  const fraction = FRACTION.exec(rest),
    pair = fraction ? null : PAIR.exec(rest);
  if (pair) {
    const width = readFigure(pair[1]),
      second = readFigure(pair[2]);
    return width && second ? { ...width, text: input, second } : null;
  }
  const raised = RAISED.exec(rest);
  if (raised)
    return {
      text: input,
      kind,
      millimetres: raisedMillimetres(raised[1], RAISED_DIGITS.indexOf(raised[2])),
      bare: null,
      form: 'said',
      half: raised[2] === '⁵' ? 2.5 : 0.5,
      manner: 'raised',
    };
  const number = bareNumber(rest);
  if (number) return { text: input, kind, millimetres: null, ...number };
  const said = saidLength(rest);
  return said && { text: input, kind, bare: null, form: 'said', ...said };
}

/** Centimetres below a metre, metres above, and millimetres raised behind: 36⁵ is 365, 1,51⁵ is 1515. */
const raisedMillimetres = (text: string, digit: number): number =>
  (/[.,]/.test(text) ? Math.round(Number(text.replace(',', '.')) * 1000) : Number(text) * 10) + digit;

function degreesIn(text: string): number {
  const [degrees, minutes = 0, seconds = 0] = (text.match(/\d+(?:[.,]\d+)?/g) ?? []).map((n) =>
    Number(n.replace(',', '.')),
  );
  return degrees + minutes / 60 + seconds / 3600;
}

function bareNumber(text: string): Pick<Figure, 'bare' | 'form' | 'half' | 'manner'> | null {
  if (!BARE.test(text) || /['’]/.test(text.replace(/(\d)['’](?=\d{3}\b)/g, '$1'))) return null;
  const plain = text.replace(/(\d)['’](?=\d{3}\b)/g, '$1');
  const value = parseNumber(plain);
  // A figure with a zero in front is a number of a list or a door.
  if (value === null || value <= 0 || /^0\d/.test(plain)) return null;
  // A comma with just three digits behind it groups thousands; a point is always one of decimals (20.000 is 20).
  const places = /^\d{1,3}(?:[ ,]\d{3})+$/.test(plain) ? 0 : (/[.,](\d+)$/.exec(plain)?.[1].length ?? 0);
  return {
    bare: value,
    form: places === 0 ? 'whole' : 'decimal',
    half: 0.5 * 10 ** -places,
    ...(/^[.,]/.test(plain) && { manner: 'no-zero' as const }),
  };
}

function saidLength(text: string): { millimetres: number; half: number } | null {
  const alone = FRACTION.exec(text);
  if (alone && (Number(alone[1]) % 2 === 0 || Number(alone[1]) >= Number(alone[2]))) return null;
  const fraction = alone !== null || INCHES_BY_FRACTION.test(text);
  if (!fraction && (!SAID.test(text) || !HAS_UNIT.test(text))) return null;
  const parsed = parsePlainLength(text, fraction ? 'in' : 'mm');
  if (!parsed.ok || parsed.mm <= 0) return null;
  const metric = /(mm|cm|m)\.?$/i.exec(text);
  if (metric && !/['"’″′]/.test(text)) {
    const places = /[.,](\d+)\s*[a-z]+\.?$/i.exec(text)?.[1].length ?? 0;
    return {
      millimetres: parsed.mm,
      half: 0.5 * 10 ** -places * MM_PER_BARE[metric[1].toLowerCase() as BareUnit],
    };
  }
  const bottom = Number(
    /[/⁄]\s*(\d+)/.exec(text)?.[1] ??
      ({ '½': 2, '¼': 4, '¾': 4 } as Record<string, number>)[/[½¼¾⅛⅜⅝⅞]/.exec(text)?.[0] ?? ''] ??
      (/[⅛⅜⅝⅞]/.test(text) ? 8 : 1),
  );
  return { millimetres: parsed.mm, half: (0.5 * 25.4) / bottom };
}

/** The figure's length in millimetres, if bare numbers of its form are in these units. */
export const lengthIn = (f: Figure, whole: BareUnit, decimal: BareUnit): number =>
  f.millimetres ?? f.bare! * MM_PER_BARE[f.form === 'whole' ? whole : decimal];

/** How far off a length may be by its rounding, millimetres. */
export const roundingIn = (f: Figure, whole: BareUnit, decimal: BareUnit): number =>
  f.millimetres !== null ? f.half : f.half * MM_PER_BARE[f.form === 'whole' ? whole : decimal];
