import { parseLength, parseNumber } from './length.ts';

/** Words that stand before the figure of a level: finished or structural floor, reduced level, top of steel or concrete, and the like. */
const BEFORE =
  /^(?:(?:f\.?f\.?l|s\.?s\.?l|s\.?f\.?l|r\.?l|t\.?o\.?s|t\.?o\.?c|t\.?o\.?w|el|elev|elevation|level|lvl|ok(?:\s+(?:ffb|rfb|rd|rok|fok))?|ofb|niveau|nivel|quota)\b[.:]?\s*)+/i;

/**
 * The height that the figure of a level mark says, millimetres: "+3,450" and "RL 18.450" are metres, for they have two or three
 * decimals; "+2700" is millimetres; "+11'-4 1/2\"" feet and inches. Null for what is no level: a figure without a sign or a word before it
 * may be any dimension.
 */
export function parseLevel(text: string): number | null {
  const plain = text
      .replace(/[\u2009\u202f\u00a0]/g, ' ')
      .replace(/[−–—]/g, '-')
      .trim(),
    worded = BEFORE.exec(plain)?.[0] ?? '',
    rest = plain.slice(worded.length).replace(/^±\s*|^\+\/?-\s*/, '±'),
    sign = /^[+±-]/.exec(rest)?.[0] ?? '',
    figure = rest.slice(sign.length).trim();
  if (figure === '' || figure.length > LONGEST) return null;
  if (sign === '' && worded === '') return null;
  const value = /['"′″]|\b(?:mm|cm|m|ft|in)\.?$/i.test(figure) ? lengthOf(figure) : bareLevel(figure);
  return value === null ? null : (sign === '-' ? -1 : 1) * value;
}

/** A figure with its unit. */
function lengthOf(figure: string): number | null {
  const length = parseLength(figure, 'mm');
  return length.ok ? length.mm : null;
}

/** A figure without a unit: metres where it has decimals, else millimetres. */
function bareLevel(figure: string): number | null {
  if (!/^[\d.,\s]+$/.test(figure)) return null;
  const decimals = /[.,](\d+)$/.exec(figure)?.[1].length ?? 0,
    // A comma with three figures behind it is a decimal one here: levels are told in metres.
    value = /^\d+[.,]\d+$/.test(figure) ? Number(figure.replace(',', '.')) : parseNumber(figure);
  if (value === null || decimals > 3) return null;
  return decimals === 0 ? value : value * 1000;
}

/** Longer texts are no figures. */
const LONGEST = 24;
