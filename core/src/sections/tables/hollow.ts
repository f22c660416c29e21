import type { TableSection } from '../section.ts';
import { printed } from './rows.ts';

/** Sizes with their usual walls, millimetres (EN 10210-2 and EN 10219-2). */
const SQUARE: readonly [number, readonly number[]][] = [
  [40, [3, 4, 5]],
  [50, [3, 4, 5, 6.3]],
  [60, [3, 4, 5, 6.3, 8]],
  [70, [3, 4, 5, 6.3, 8]],
  [80, [3, 4, 5, 6.3, 8]],
  [90, [4, 5, 6.3, 8]],
  [100, [4, 5, 6.3, 8, 10]],
  [120, [4, 5, 6.3, 8, 10, 12.5]],
  [140, [5, 6.3, 8, 10, 12.5]],
  [150, [5, 6.3, 8, 10, 12.5]],
  [160, [5, 6.3, 8, 10, 12.5]],
  [180, [5, 6.3, 8, 10, 12.5]],
  [200, [5, 6.3, 8, 10, 12.5]],
  [250, [6.3, 8, 10, 12.5]],
  [300, [6.3, 8, 10, 12.5]],
  [350, [8, 10, 12.5]],
  [400, [10, 12.5]],
];
const RECTANGULAR: readonly [number, number, readonly number[]][] = [
  [50, 30, [3, 4, 5]],
  [60, 40, [3, 4, 5, 6.3]],
  [80, 40, [3, 4, 5, 6.3, 8]],
  [90, 50, [3, 4, 5, 6.3, 8]],
  [100, 50, [3, 4, 5, 6.3, 8]],
  [100, 60, [4, 5, 6.3, 8]],
  [120, 60, [4, 5, 6.3, 8, 10]],
  [120, 80, [4, 5, 6.3, 8, 10]],
  [140, 80, [4, 5, 6.3, 8, 10]],
  [150, 100, [5, 6.3, 8, 10, 12.5]],
  [160, 80, [4, 5, 6.3, 8, 10]],
  [180, 100, [5, 6.3, 8, 10]],
  [200, 100, [5, 6.3, 8, 10, 12.5]],
  [200, 120, [6.3, 8, 10, 12.5]],
  [250, 150, [6.3, 8, 10, 12.5]],
  [300, 200, [6.3, 8, 10, 12.5]],
  [350, 250, [8, 10, 12.5]],
  [400, 200, [8, 10, 12.5]],
  [450, 250, [8, 10, 12.5]],
  [500, 300, [10, 12.5]],
];
const ROUND: readonly [number, readonly number[]][] = [
  [21.3, [2.6, 3.2]],
  [26.9, [2.6, 3.2]],
  [33.7, [2.6, 3.2, 4]],
  [42.4, [2.6, 3.2, 4]],
  [48.3, [3.2, 4, 5]],
  [60.3, [3.2, 4, 5]],
  [76.1, [3.2, 4, 5]],
  [88.9, [3.2, 4, 5, 6.3]],
  [114.3, [3.6, 4, 5, 6.3]],
  [139.7, [4, 5, 6.3, 8, 10]],
  [168.3, [5, 6.3, 8, 10, 12.5]],
  [193.7, [5, 6.3, 8, 10, 12.5]],
  [219.1, [5, 6.3, 8, 10, 12.5]],
  [244.5, [6.3, 8, 10, 12.5]],
  [273, [6.3, 8, 10, 12.5]],
  [323.9, [6.3, 8, 10, 12.5]],
  [355.6, [8, 10, 12.5]],
  [406.4, [8, 10, 12.5]],
  [457, [8, 10, 12.5]],
  [508, [10, 12.5]],
];

/** Areas that the tables print, cm2: by these the sections are checked. */
const AREAS: Readonly<Record<string, number>> = {
  'SHS 60x60x4 hot': 8.79,
  'SHS 60x60x4 cold': 8.55,
  'SHS 100x100x5 hot': 18.7,
  'SHS 100x100x5 cold': 18.4,
  'SHS 150x150x8 hot': 44.8,
  'SHS 200x200x10 hot': 74.9,
  'SHS 200x200x10 cold': 72.6,
  'RHS 100x50x5 hot': 13.7,
  'RHS 100x50x5 cold': 13.4,
  'RHS 200x100x8 hot': 44.8,
  'RHS 200x100x8 cold': 43.2,
  'CHS 48.3x3.2': 4.53,
  'CHS 114.3x5': 17.2,
  'CHS 219.1x8': 53.1,
  'CHS 323.9x10': 98.6,
};

/** Outer and inner radius of the corners: hot 1.5 t and t (EN 10210-2), cold 2 t and t up to 6 thick, 2.5 t and 1.5 t up to 10, then 3 t and 2 t (EN 10219-2). */
const corners = (t: number, isHot: boolean): { r: number; innerRadius: number } => {
  if (isHot) return { r: 1.5 * t, innerRadius: t };
  const outer = t <= 6 ? 2 : t <= 10 ? 2.5 : 3;
  return { r: outer * t, innerRadius: (outer - 1) * t };
};

const rectangular = (family: 'SHS' | 'RHS', h: number, b: number, t: number): TableSection[] =>
  (['hot', 'cold'] as const)
    // Cold formed ones are not made so thick for their size.
    .filter((way) => way === 'hot' || 2 * corners(t, false).r < 0.8 * Math.min(h, b))
    .map((way) => {
      const name = `${family} ${h}x${b}x${t} ${way}`;
      return {
        name,
        standard: way === 'hot' ? 'EN 10210-2' : 'EN 10219-2',
        family: `${family} ${way}`,
        material: 'steel',
        shape: 'rectangular hollow',
        h,
        b,
        tw: t,
        tf: t,
        ...corners(t, way === 'hot'),
        published: printed({ area: AREAS[name] ?? NaN }),
      };
    });

const round = (d: number, t: number): TableSection => {
  const name = `CHS ${d}x${t}`;
  return {
    name,
    standard: 'EN 10210-2, EN 10219-2',
    family: 'CHS',
    material: 'steel',
    shape: 'round hollow',
    h: d,
    b: d,
    tw: t,
    tf: t,
    r: 0,
    published: printed({ area: AREAS[name] ?? NaN }),
  };
};

export const HOLLOW: readonly TableSection[] = [
  ...SQUARE.flatMap(([a, walls]) => walls.flatMap((t) => rectangular('SHS', a, a, t))),
  ...RECTANGULAR.flatMap(([h, b, walls]) => walls.flatMap((t) => rectangular('RHS', h, b, t))),
  ...ROUND.flatMap(([d, walls]) => walls.map((t) => round(d, t))),
];
