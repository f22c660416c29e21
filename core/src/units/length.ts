import { evaluate, type Value } from './expression.ts';

/** Millimetres per unit; all exact by definition (international inch 25.4 mm, 1959). */
export const MM_PER = { mm: 1, cm: 10, m: 1000, km: 1e6, in: 25.4, ft: 304.8, yd: 914.4 } as const;

/** How a project shows lengths. 'ft' is decimal feet, 'ft-in' feet and inches with fractions. */
export type UnitSystem = 'mm' | 'cm' | 'm' | 'ft' | 'ft-in' | 'in';
export const UNIT_SYSTEMS: readonly UnitSystem[] = ['mm', 'cm', 'm', 'ft', 'ft-in', 'in'];

export type ParsedLength =
  { ok: true; mm: number } | { ok: false; reason: 'empty' | 'unreadable' | 'too-large' };

const FRACTIONS: Record<string, string> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
  '⅓': '1/3',
  '⅔': '2/3',
};
/** A thousand kilometres: what is longer is a slip of the keyboard. */
const LONGEST_MM = 1e9;

/** What a bare number means in each system: feet-and-inches people type feet. */
const BARE_UNIT: Record<UnitSystem, keyof typeof MM_PER> = {
  mm: 'mm',
  cm: 'cm',
  m: 'm',
  ft: 'ft',
  'ft-in': 'ft',
  in: 'in',
};

function tidy(text: string): string {
  return text
    .replace(/[½¼¾⅛⅜⅝⅞⅓⅔]/g, (c) => ` ${FRACTIONS[c]}`)
    .replace(/[′’‘ʹ´`]/g, "'")
    .replace(/[″”“ʺ]/g, '"')
    .replace(/''/g, '"')
    .replace(/[\u2009\u202f\u00a0]/g, ' ')
    .replace(/[−–—‐‑]/g, '-')
    .replace(/⁄/g, '/')
    .replace(/\s+/g, ' ')
    .trim();
}

/**
 * A number as people type it: 5250, 5.25, 5,25, 5 250, 5,250.5 or 1.250,5. A single comma with exactly three digits
 * behind it groups thousands ("5,250"), any other single comma is a decimal comma ("5,25").
 */
export function parseNumber(text: string): number | null {
  let t = text.trim();
  const sign = t.startsWith('-') ? -1 : 1;
  t = t.replace(/^[+-]\s*/, '');
  if (/^\d{1,3}( \d{3})+([.,]\d+)?$/.test(t)) t = t.replace(/ /g, '').replace(',', '.');
  else if (/^\d{1,3}(,\d{3})+(\.\d+)?$/.test(t)) t = t.replace(/,/g, '');
  else if (/^\d{1,3}(\.\d{3})+,\d+$/.test(t)) t = t.replace(/\./g, '').replace(',', '.');
  else if (/^\d*,\d+$/.test(t)) t = t.replace(',', '.');
  if (!/^(\d+\.?\d*|\.\d+)$/.test(t)) return null;
  return sign * Number(t);
}

/** 3, 3.5, 1/2, 3 1/2 or 3-1/2; null when it is none of these. */
export function parseMixedNumber(text: string): number | null {
  const mixed = /^(?:(\d+)(?: ?- ?| ))?(\d+) ?\/ ?(\d+)$/.exec(text.trim());
  if (!mixed) return parseNumber(text);
  const [, whole, top, bottom] = mixed;
  return Number(bottom) === 0 ? null : Number(whole ?? 0) + Number(top) / Number(bottom);
}

const METRIC_OR_WORD = /^(.+?) ?(mm|cm|m|km|in|inch|inches|ft|foot|feet|yd|yard|yards)\.?$/i;
const FEET_INCHES = /^([^'"]+?) ?(?:'|ft\.?|feet|foot) ?-? ?(?:([^'"]+?) ?(?:"|in\.?|inch|inches)?)?$/i;
const INCHES = /^([^'"]+?) ?"$/;
const UNIT_WORDS: Record<string, keyof typeof MM_PER> = {
  mm: 'mm',
  cm: 'cm',
  m: 'm',
  km: 'km',
  in: 'in',
  inch: 'in',
  inches: 'in',
  ft: 'ft',
  foot: 'ft',
  feet: 'ft',
  yd: 'yd',
  yard: 'yd',
  yards: 'yd',
};

/** Reads one length as it is written, in any unit, into millimetres; a bare number is in the given unit. */
export const parsePlainLength = (input: string, bare: UnitSystem): ParsedLength =>
  read(input, bare, () => null);

/** Reads a typed length in any unit, or simple arithmetic with lengths, into millimetres; a bare number is in the project's unit. */
export const parseLength = (input: string, bare: UnitSystem): ParsedLength => read(input, bare, calculated);

function read(input: string, bare: UnitSystem, otherwise: typeof calculated): ParsedLength {
  const text = tidy(input);
  if (text === '') return { ok: false, reason: 'empty' };
  const negative = text.startsWith('-');
  // What reads as one length is one: 3-1/2 and 11'-4" are no sums.
  const one = magnitude(negative ? text.slice(1).trim() : text, bare);
  const mm = one ?? otherwise(negative ? text.slice(1).trim() : text, bare, negative);
  if (mm === null || !Number.isFinite(mm)) return { ok: false, reason: 'unreadable' };
  if (Math.abs(mm) > LONGEST_MM) return { ok: false, reason: 'too-large' };
  return { ok: true, mm: negative ? -mm : mm };
}

function calculated(text: string, bare: UnitSystem, negative: boolean): number | null {
  const inUnit = (n: number) => n * MM_PER[BARE_UNIT[bare]];
  const atom = (t: string): Value | null => {
    const number = parseMixedNumber(t);
    if (number !== null) return { kind: 'bare', number };
    const mm = magnitude(t, bare);
    return mm === null ? null : { kind: 'length', mm };
  };
  const value = evaluate(negative ? `-${text}` : text, atom, inUnit);
  if (value === null) return null;
  const mm = value.kind === 'length' ? value.mm : inUnit(value.number);
  // The sign is put back by the caller.
  return negative ? -mm : mm;
}

function magnitude(text: string, bare: UnitSystem): number | null {
  const inches = INCHES.exec(text);
  if (inches) return times(parseMixedNumber(inches[1]), MM_PER.in);
  const compound = FEET_INCHES.exec(text);
  if (compound) {
    const feet = parseMixedNumber(compound[1]);
    const rest = compound[2] === undefined ? 0 : parseMixedNumber(compound[2]);
    return feet === null || rest === null ? null : feet * MM_PER.ft + rest * MM_PER.in;
  }
  const worded = METRIC_OR_WORD.exec(text);
  if (worded) return times(parseMixedNumber(worded[1]), MM_PER[UNIT_WORDS[worded[2].toLowerCase()]]);
  return times(parseMixedNumber(text), MM_PER[BARE_UNIT[bare]]);
}

const times = (n: number | null, factor: number) => (n === null ? null : n * factor);
