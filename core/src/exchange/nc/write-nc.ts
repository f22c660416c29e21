import { strToU8, zipSync } from 'fflate';
import {
  cutLength,
  knownSection,
  ofType,
  sectionName,
  settingsOf,
  type KnownSection,
  type Member,
  type Model,
} from '../../model/index.ts';

/** A file for the saw and drill: its name, and its text. */
export interface NcFile {
  name: string;
  text: string;
}

/** All of them in one ZIP archive; null where there are none. */
export function ncArchive(model: Model): Uint8Array<ArrayBuffer> | null {
  const files = writeNc(model);
  return files.length === 0
    ? null
    : new Uint8Array(zipSync(Object.fromEntries(files.map(({ name, text }) => [name, strToU8(text)]))));
}

/** Codes of sections in the open text format of steel fabrication (DSTV, standard description for steel structure pieces, 7th edition 1998). */
const CODES: Readonly<Record<string, string>> = {
  I: 'I',
  channel: 'U',
  angle: 'L',
  tee: 'T',
  'rectangular hollow': 'M',
  'round hollow': 'RO',
  round: 'RU',
  rectangle: 'B',
};

const CUT_SQUARE = '      0.000';
const figure = (v: number) => v.toFixed(2).padStart(11);

/** Pieces within this of one another in length are one file, millimetres. */
const ALIKE = 0.1;

/**
 * A file for each mark, or for each section and length where a member has none: header, then the contours of web and flanges, cut square. What
 * is not of steel, and what no table has, has none.
 */
export function writeNc(model: Model): NcFile[] {
  const pieces = new Map<string, Member[]>();
  for (const m of ofType(model, 'member')) {
    if (knownSection(m.section)?.material !== 'steel') continue;
    const key = m.mark || `${sectionName(m)} ${Math.round(cutLength(m) / ALIKE)}`,
      list = pieces.get(key);
    if (list) list.push(m);
    else pieces.set(key, [m]);
  }
  const taken = new Set<string>();
  return [...pieces.values()].map((members) => {
    const [m] = members,
      name = freeName(m.mark || `${sectionName(m)} ${Math.round(cutLength(m))}`, taken);
    return { name: `${name}.nc1`, text: pieceText(model, m, members.length, name) };
  });
}

/** A name that can be a file's, and that no other has. */
function freeName(words: string, taken: Set<string>): string {
  const plain = words
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9_.-]+/g, '_')
    .slice(0, 60);
  for (let n = 1; ; n++) {
    const name = n === 1 ? plain || 'piece' : `${plain}_${n}`;
    if (taken.has(name.toLowerCase())) continue;
    taken.add(name.toLowerCase());
    return name;
  }
}

/** Letters that the format has: its texts are plain. */
const ascii = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/[^\x20-\x7e]/g, '')
    .trim() || '-';

function pieceText(model: Model, m: Member, count: number, name: string): string {
  const section = knownSection(m.section)!,
    length = cutLength(m),
    sizes = section.sizes;
  const header = [
    'ST',
    `  ${ascii(settingsOf(model).name)}`,
    `  ${name}`,
    '  1',
    `  ${ascii(m.mark || name)}`,
    `  ${ascii(m.material)}`,
    `  ${count}`,
    `  ${ascii(sectionName(m)).replace(/ /g, '')}`,
    `  ${CODES[sizes?.shape ?? ''] ?? 'SO'}`,
    figure(length),
    figure(section.h),
    figure(section.b),
    figure(sizes?.tf ?? 0),
    figure(sizes?.tw ?? 0),
    figure(sizes?.r ?? 0),
    figure((section.figures.area / 1e6) * m.density),
    figure(section.figures.perimeter / 1000),
    CUT_SQUARE,
    CUT_SQUARE,
    CUT_SQUARE,
    CUT_SQUARE,
    '  ',
    '  ',
    '  ',
    '  ',
  ];
  return [...header, ...contours(section, length), 'EN', ''].join('\r\n');
}

/** Rectangles of the parts of a section: the web or front (v), and the flanges (o above, u below). */
function contours({ h, b, sizes }: KnownSection, length: number): string[] {
  const part = (side: string, height: number): string[] => [
    'AK',
    ...[
      [0, 0],
      [length, 0],
      [length, height],
      [0, height],
      [0, 0],
    ].map(
      ([x, y], i) =>
        `${i === 0 ? `  ${side} ` : '    '}${x.toFixed(2).padStart(10)}${i === 0 ? 'u' : ' '}${y.toFixed(2).padStart(10)}      0.00`,
    ),
  ];
  const shape = sizes?.shape;
  if (shape === 'round' || shape === 'round hollow') return part('v', h);
  if (shape === 'rectangle' || shape === undefined) return part('v', h);
  return [...part('v', h), ...part('o', b), ...(shape === 'angle' || shape === 'tee' ? [] : part('u', b))];
}
