import type { SectionMaterial, TableSection } from '../section.ts';

/** Usual sizes, millimetres: flats (EN 10058), rounds (EN 10060), squares (EN 10059). */
const FLAT: readonly [number, readonly number[]][] = [
  [20, [5, 6, 8, 10]],
  [25, [5, 6, 8, 10]],
  [30, [5, 6, 8, 10]],
  [40, [5, 6, 8, 10, 12]],
  [50, [5, 6, 8, 10, 12, 15]],
  [60, [6, 8, 10, 12, 15, 20]],
  [70, [6, 8, 10, 12, 15]],
  [80, [6, 8, 10, 12, 15, 20]],
  [100, [6, 8, 10, 12, 15, 20, 25]],
  [120, [8, 10, 12, 15, 20]],
  [150, [8, 10, 12, 15, 20, 25]],
];
const ROUND = [8, 10, 12, 16, 20, 24, 25, 30, 36, 40, 50, 60];
const SQUARE = [10, 12, 16, 20, 25, 30, 40, 50];

/** Planed softwood, depth by width (common sizes; EN 336 gives the tolerances, no sizes): Europe, and North America by its nominal inches (PS 20). */
const SAWN: readonly [number, readonly number[]][] = [
  [38, [63, 89, 114, 140, 184, 235]],
  [45, [45, 70, 95, 120, 145, 170, 195, 220, 245]],
  [47, [75, 100, 125, 150, 175, 200, 225]],
  [60, [80, 100, 120, 140, 160, 180, 200, 220, 240]],
  [75, [150, 175, 200, 225]],
  [80, [80, 100, 120, 140, 160, 180, 200, 220, 240]],
  [100, [100, 120, 140, 160, 180, 200, 220, 240]],
  [120, [120, 140, 160, 180, 200, 220, 240]],
  [140, [140, 160, 200, 240]],
];
const IN = 25.4;
const DRESSED: readonly [string, number, number][] = [
  ['2x4', 1.5, 3.5],
  ['2x6', 1.5, 5.5],
  ['2x8', 1.5, 7.25],
  ['2x10', 1.5, 9.25],
  ['2x12', 1.5, 11.25],
  ['4x4', 3.5, 3.5],
  ['4x6', 3.5, 5.5],
  ['4x8', 3.5, 7.25],
  ['4x10', 3.5, 9.25],
  ['4x12', 3.5, 11.25],
  ['6x6', 5.5, 5.5],
  ['6x8', 5.5, 7.5],
  ['6x10', 5.5, 9.5],
  ['6x12', 5.5, 11.5],
  ['8x8', 7.5, 7.5],
];
/** Glued laminated timber, usual sizes of layers of 40 (EN 14080). */
const GLULAM: readonly [number, readonly number[]][] = [80, 100, 120, 140, 160, 180, 200].map((b) => [
  b,
  Array.from({ length: 12 }, (_, i) => 120 + 40 * i).filter((h) => h >= b && h <= 8 * b),
]);

const rectangle = (
  family: string,
  standard: string,
  material: SectionMaterial,
  name: string,
  [h, b]: [number, number],
): TableSection => ({
  name,
  standard,
  family,
  material,
  shape: 'rectangle',
  h,
  b,
  tw: 0,
  tf: 0,
  r: 0,
  published: {},
});

export const BARS: readonly TableSection[] = [
  ...FLAT.flatMap(([h, all]) =>
    all.map((t) => rectangle('Flat', 'EN 10058', 'steel', `Flat ${h}x${t}`, [h, t])),
  ),
  ...SQUARE.map((a) => rectangle('Square bar', 'EN 10059', 'steel', `Square ${a}`, [a, a])),
  ...ROUND.map((d): TableSection => ({
    ...rectangle('Round bar', 'EN 10060', 'steel', `Round ${d}`, [d, d]),
    shape: 'round',
  })),
];

export const TIMBER: readonly TableSection[] = [
  ...SAWN.flatMap(([b, all]) =>
    all.map((h) => rectangle('Timber', 'common sizes', 'timber', `Timber ${b}x${h}`, [h, b])),
  ),
  ...DRESSED.map(([name, b, h]) =>
    rectangle('Lumber', 'PS 20, dressed dry', 'timber', `Lumber ${name}`, [h * IN, b * IN]),
  ),
  ...GLULAM.flatMap(([b, all]) =>
    all.map((h) => rectangle('Glulam', 'EN 14080', 'timber', `Glulam ${b}x${h}`, [h, b])),
  ),
];
