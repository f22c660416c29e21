import { strToU8, zipSync } from 'fflate';
import {
  cutLength,
  knownSection,
  ofType,
  sectionName,
  settingsOf,
  type Member,
  type Model,
} from '../../model/index.ts';

import {
  flatSlots,
  joinedFrame,
  pieceKey,
  plateAreas,
  reachOf,
  type JoinedFrame,
  type PlatePart,
  type Shape,
} from '../../framing/index.ts';
import { boxOfPoints, ringLength, type Point } from '../../geometry/index.ts';
import { markedPlates } from '../../takeoff/index.ts';
import { contours, holes, outline, ten } from './contours.ts';

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

const figure = (v: number) => v.toFixed(2).padStart(11);

const degrees = (k: number) => ((Math.atan(k) * 180) / Math.PI).toFixed(3).padStart(11);

/** Pieces within this of one another in length are one file, millimetres. */
const ALIKE = 0.1;

/**
 * A file for each mark, or for each piece that is cut alike where a member has none: header, then the contours of web and flanges with their
 * cuts and copes, and the holes; and one for each flat plate of steel, bends by chords, slots as inner contours. What is not of steel, and what no
 * table has, has none.
 */
export function writeNc(model: Model): NcFile[] {
  const frame = joinedFrame(model),
    pieces = new Map<string, Member[]>();
  for (const m of ofType(model, 'member')) {
    const section = knownSection(m.section);
    if (section?.material !== 'steel') continue;
    const key =
        m.mark || `${sectionName(m)} ${Math.round(cutLength(m) / ALIKE)} ${pieceKey(frame, m, section)}`,
      list = pieces.get(key);
    if (list) list.push(m);
    else pieces.set(key, [m]);
  }
  const taken = new Set<string>(),
    members = [...pieces.values()].map((alike) => {
      const [m] = alike,
        name = freeName(m.mark || `${sectionName(m)} ${Math.round(cutLength(m))}`, taken);
      return { name: `${name}.nc1`, text: pieceText(model, m, shapeOf(frame, m), alike.length, name) };
    }),
    plates = markedPlates(frame).flatMap(({ mark, plates: alike }): NcFile[] => {
      const [p] = alike;
      if (p.angle || p.density < LEAST_STEEL) return [];
      const name = freeName(mark, taken);
      return [{ name: `${name}.nc1`, text: plateText(model, p, alike.length, name) }];
    });
  return [...members, ...plates];
}

/** What is lighter is no steel, kg/m3. */
const LEAST_STEEL = 7000;

/** A flat plate: a piece of code B, as long and as wide as the box about it. */
function plateText(model: Model, p: PlatePart, count: number, name: string): string {
  const [x0, y0, x1, y1] = boxOfPoints(p.outline),
    { net, gross } = plateAreas(p),
    length = x1 - x0,
    about = ([x, y]: Point): Point => [x - x0, y - y0];
  return [
    'ST',
    `  ${ascii(settingsOf(model).name)}`,
    `  ${name}`,
    '  1',
    `  ${ascii(name)}`,
    `  ${ascii(p.material)}`,
    `  ${count}`,
    `  PL${Math.round(p.thickness * 100) / 100}`,
    '  B',
    figure(length),
    figure(y1 - y0),
    figure(0),
    figure(0),
    figure(p.thickness),
    figure(0),
    // For each metre of its length, as of members.
    figure((net * p.thickness * p.density) / 1e6 / length),
    figure((2 * gross + ringLength(p.outline) * p.thickness) / 1e3 / length),
    ...[0, 0, 0, 0].map(degrees),
    '  ',
    '  ',
    '  ',
    '  ',
    ...outline('v', p.outline.map(about)),
    ...flatSlots(p).flatMap((slot) => outline('v', slot.map(about), 'IK')),
    ...(p.holes.length === 0
      ? []
      : [
          'BO',
          ...p.holes.map(({ at, d }) => `  v ${ten(at[0] - x0)}u${ten(at[1] - y0)}${ten(d)}      0.00`),
        ]),
    'EN',
    '',
  ].join('\r\n');
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

/** A member that is cut square has the shape of its bar. */
const shapeOf = (frame: JoinedFrame, m: Member): Shape =>
  frame.shapes.get(m.id) ?? {
    start: { z: 0, kx: 0, ky: 0 },
    end: { z: cutLength(m), kx: 0, ky: 0 },
    notches: [],
    holes: [],
  };

function pieceText(model: Model, m: Member, shape: Shape, count: number, name: string): string {
  const section = knownSection(m.section)!,
    [low, high] = reachOf(section, shape),
    length = high - low,
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
    // Angles of the cuts in degrees: seen at the web, then at the flanges.
    degrees(shape.start.ky),
    degrees(shape.end.ky),
    degrees(shape.start.kx),
    degrees(shape.end.kx),
    '  ',
    '  ',
    '  ',
    '  ',
  ];
  const side = m.mirrored ? -1 : 1;
  return [
    ...header,
    ...contours(section, shape, side, low),
    ...holes(section, shape, side, low),
    'EN',
    '',
  ].join('\r\n');
}
