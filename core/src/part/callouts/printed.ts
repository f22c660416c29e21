import { MM_PER_BARE, readFigure } from '../../units/index.ts';
import type { SheetUnit } from './callout.ts';

/** A printed figure that can drive. */
export interface PrintedFigure {
  kind: 'length' | 'radius' | 'diameter' | 'angle';
  /** Millimetres, or radians of an angle. */
  value: number;
  tolerance: { plus: number; minus: number } | null;
  /** Of so many alike: "4x", "2 PL". */
  count: number;
}

const NUMBER = String.raw`(\d*[.,]?\d+)`;
const EITHER = new RegExp(`[±]\\s*${NUMBER}`),
  APART = new RegExp(`\\+\\s*${NUMBER}\\s*(?:mm|["″])?\\s*/?\\s*[-−]\\s*${NUMBER}`);
const COUNT = /^\s*(\d+)\s*(?:[x×]\s*(?=[^\d\s.,])|pl(?:aces|cs)?\b\.?)/i,
  COUNT_BEHIND = /\s(\d+)\s*(?:x|×|pl(?:aces|cs)?\b\.?)\s*$/i;

/** Reads a text of a sheet as a figure that can drive: a length, a radius, a diameter or an angle, with its tolerance. Null for what is none. */
export function readPrinted(text: string, unit: SheetUnit): PrintedFigure | null {
  const number = (s: string) => Number(s.replace(',', '.')),
    said = (v: string) => number(v) * (/mm/i.test(text) ? 1 : MM_PER_BARE[unit]),
    either = EITHER.exec(text),
    apart = either ? null : APART.exec(text);
  const tolerance = either
    ? { plus: said(either[1]), minus: said(either[1]) }
    : apart && { plus: said(apart[1]), minus: said(apart[2]) };
  const ahead = COUNT.exec(text),
    behind = ahead ? null : COUNT_BEHIND.exec(text),
    count = Number(ahead?.[1] ?? behind?.[1] ?? 1);
  const bare = text
    .replace(EITHER, '')
    .replace(APART, '')
    .replace(COUNT, '')
    .replace(COUNT_BEHIND, '')
    .replace(/\b(?:typ|ref)\b\.?/i, '')
    .trim();
  const figure = readFigure(bare);
  if (!figure || figure.kind === 'arc') return null;
  if (figure.kind === 'angle')
    return figure.degrees === undefined
      ? null
      : { kind: 'angle', value: (figure.degrees * Math.PI) / 180, tolerance: null, count };
  const value = figure.millimetres ?? (figure.bare === null ? null : figure.bare * MM_PER_BARE[unit]);
  return value !== null && value > 0 && count >= 1 ? { kind: figure.kind, value, tolerance, count } : null;
}
