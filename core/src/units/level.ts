import { parseLength, parseNumber } from './length.ts';

/** Words that stand before the figure of a level: finished or structural floor, reduced level, top of steel or concrete, and the like. */
const BEFORE =
  /^(?:(?:f\.?f\.?l|s\.?s\.?l|s\.?f\.?l|r\.?l|t\.?o\.?s|t\.?o\.?c|t\.?o\.?w|el|elev|elevation|level|lvl|ok(?:\s+(?:ffb|rfb|rd|rok|fok))?|ofb|niveau|nivel|quota)\b[.:]?\s*)+/i;

/**
 * The height that the figure of a level mark says, millimetres: "+3,450" and "RL 18.450" are metres, for they have two or three
 * decimals; "+2700" is millimetres; "+11'-4 1/2\"" feet and inches. Null for what is no level: a plain figure needs a sign, decimals or
 * a word before it.
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
  const isSaid = sign !== '' || worded !== '',
    value = /['"′″]|\b(?:mm|cm|m|ft|in)\.?$/i.test(figure)
      ? lengthOf(figure, isSaid)
      : bareLevel(figure, isSaid);
  return value === null ? null : (sign === '-' ? -1 : 1) * value;
}

/** A figure with its unit: a length that a sign or a word makes a level. */
function lengthOf(figure: string, isSaid: boolean): number | null {
  const length = parseLength(figure, 'mm');
  return length.ok && isSaid ? length.mm : null;
}

/** A figure without a unit: metres where it has decimals, else millimetres. */
function bareLevel(figure: string, isSaid: boolean): number | null {
  if (!/^[\d.,\s]+$/.test(figure)) return null;
  const decimals = /[.,](\d+)$/.exec(figure)?.[1].length ?? 0,
    // A comma with three figures behind it is a decimal one here: levels are told in metres.
    value = /^\d+[.,]\d+$/.test(figure) ? Number(figure.replace(',', '.')) : parseNumber(figure);
  if (value === null) return null;
  if (decimals === 0) return isSaid ? value : null;
  return decimals > 3 || (!isSaid && decimals < 2) ? null : value * 1000;
}

/** Longer texts are no figures. */
const LONGEST = 24;
