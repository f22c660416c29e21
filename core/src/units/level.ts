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
  const factor = sign === '-' ? -1 : 1;
  if (/['"′″]|\b(?:mm|cm|m|ft|in)\.?$/i.test(figure)) {
    const length = parseLength(figure, 'mm');
    return length.ok && (sign !== '' || worded !== '') ? factor * length.mm : null;
  }
  const decimals = /[.,](\d+)$/.exec(figure)?.[1].length ?? 0,
    // A comma with three figures behind it is a decimal one here: levels are told in metres.
    value =
      decimals > 0 && /^\d+[.,]\d+$/.test(figure) ? Number(figure.replace(',', '.')) : parseNumber(figure);
  if (value === null || !/^[\d.,\s]+$/.test(figure)) return null;
  if (decimals === 0) return sign !== '' || worded !== '' ? factor * value : null;
  if (decimals > 3 || (sign === '' && worded === '' && decimals < 2)) return null;
  return factor * value * 1000;
}
const LONGEST = 24;
