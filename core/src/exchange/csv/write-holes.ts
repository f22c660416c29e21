import type { UnitSystem } from '../../units/index.ts';
import type { DrawnPart } from '../shop/part.ts';
import { csvText } from './csv-text.ts';
import { csvUnits } from './units.ts';

const DEGREES = 180 / Math.PI;
const angle = (radians: number) => String(Math.round(radians * DEGREES * 1e6) / 1e6);

const headWord = (head: DrawnPart['holes'][number]['head']): string => {
  if (!head) return '';
  return head.angle === null ? 'counterbore' : 'countersink';
};

/** The round holes of a part as CSV: where each enters, which way it goes, how wide and how deep; lengths in the project's unit. */
export function writeHolesCsv(holes: DrawnPart['holes'], units: UnitSystem): string {
  const { unit, length } = csvUnits(units),
    of = (words: string) => `${words} (${unit})`;
  return csvText([
    [
      'hole',
      of('diameter'),
      of('depth'),
      'thread',
      'head',
      of('head diameter'),
      of('head depth'),
      'head angle (degrees)',
      of('x'),
      of('y'),
      of('z'),
      'axis x',
      'axis y',
      'axis z',
    ],
    ...holes.map((h, i) => [
      String(i + 1),
      length(h.diameter),
      h.depth === null ? 'through' : length(h.depth),
      h.thread ?? '',
      headWord(h.head),
      h.head ? length(h.head.diameter) : '',
      h.head ? length(h.head.depth) : '',
      h.head?.angle ? angle(h.head.angle) : '',
      ...h.at.map(length),
      ...h.axis.map((v) => String(Math.round(v * 1e9) / 1e9 + 0)),
    ]),
  ]);
}
