import { chance, PAPER, type Hand, type Point } from '../hands/draw/hand.ts';
import { house, type House, type HouseGiven } from './house.ts';
import { drawn, type Office } from './office.ts';
import type { Strange } from './strange.ts';

/** A practice sheet for proposals: a house, and the office that draws it. */
export interface HouseSheet {
  name: string;
  given: HouseGiven;
  office: Office;
  strange?: Strange;
}

/** Sheets that what is proposed is tuned on. */
export const TUNED: readonly HouseSheet[] = [
  {
    name: 'lines',
    given: { seed: 3, wing: true },
    office: { factor: 100, walls: 'lines', furniture: true, numbers: true, areas: 'm2' },
  },
  {
    name: 'poche',
    given: { seed: 5, inner: [150], width: 14000, height: 9000 },
    office: { factor: 100, walls: 'poche', panes: 1, leaf: 'line', furniture: true, numbers: true },
  },
  {
    name: 'hatch',
    given: { seed: 8, outer: 365, inner: [115, 240], width: 13000, tags: true },
    office: { factor: 50, walls: 'hatch', panes: 3, leaf: 'box', areas: 'm2', furniture: true },
  },
  {
    name: 'studs',
    given: { seed: 13, outer: 190, inner: [120] },
    office: { factor: 50, walls: 'studs', leaf: 'half', names: 'capitals', furniture: true, stair: true },
  },
  {
    name: 'thick',
    given: { seed: 21, outer: 300, inner: [125], width: 16000, height: 10000 },
    office: { factor: 100, walls: 'thick', panes: 1, facesThrough: false, furniture: true },
  },
  {
    name: 'exploded',
    given: { seed: 34, outer: 250, inner: [100, 140], wing: true },
    office: {
      factor: 100,
      walls: 'exploded',
      bold: 0.5,
      fine: 0.4,
      swing: 'chords',
      furniture: true,
      tiles: true,
    },
  },
  {
    name: 'doubled',
    given: { seed: 55, outer: 300, inner: [100], doubles: true },
    office: {
      factor: 50,
      walls: 'doubled',
      bold: 0.4,
      fine: 0.4,
      threshold: true,
      board: true,
      furniture: true,
    },
  },
  {
    name: 'layers',
    given: { seed: 89, outer: 420, inner: [115], width: 13500, tags: true },
    office: {
      factor: 50,
      walls: 'layers',
      panes: 4,
      facesThrough: false,
      areas: 'm2',
      tiles: true,
      furniture: true,
    },
  },
  {
    name: 'hall',
    given: {
      seed: 144,
      width: 24000,
      height: 16000,
      least: 5200,
      columns: 'square',
      grid: true,
      inner: [150],
    },
    office: { factor: 100, walls: 'lines', columnFill: 'solid', numbers: true, dims: null },
  },
  {
    name: 'turned',
    given: { seed: 233, outer: 300, inner: [120], wing: true, tags: true },
    office: {
      factor: 100,
      turned: 0.31,
      walls: 'grey',
      furniture: true,
      numbers: true,
      areas: 'm2',
      bold: 0.5,
    },
  },
];

/** Sheets that are kept apart: looked at for the figures alone. */
export const APART: readonly HouseSheet[] = [
  {
    name: 'apart-fills',
    given: { seed: 1001, outer: 380, inner: [150, 100], width: 15000, height: 9500, tags: true },
    office: { factor: 50, walls: 'quads', panes: 2, furniture: true, stair: true, areas: 'm2' },
  },
  {
    name: 'apart-imperial',
    given: { seed: 1002, outer: 203.2, inner: [114.3, 139.7], width: 13411, height: 9144, wing: true },
    office: {
      factor: 48,
      walls: 'lines',
      names: 'capitals',
      areas: 'sf',
      furniture: true,
      bold: 0.7,
      fine: 0.5,
      panes: 1,
    },
  },
  {
    name: 'apart-columns',
    given: {
      seed: 1003,
      width: 30000,
      height: 18000,
      least: 6500,
      columns: 'round',
      grid: true,
      outer: 250,
      inner: [125],
    },
    office: { factor: 200, walls: 'lines', columnFill: 'plain', bold: 0.6, fine: 0.2, swing: 'dashed' },
  },
  {
    name: 'apart-turned-hatch',
    given: { seed: 1004, outer: 300, inner: [175], wing: true, doubles: true },
    office: {
      factor: 100,
      turned: -0.6,
      walls: 'hatch',
      leaf: 'none',
      numbers: true,
      furniture: true,
      tiles: true,
    },
  },
  {
    name: 'apart-thin',
    given: { seed: 1005, outer: 240, inner: [80], width: 11000, height: 8000 },
    office: {
      factor: 100,
      walls: 'lines',
      bold: 0.25,
      fine: 0.25,
      furniture: true,
      stair: true,
      panes: 1,
      swing: 'arc',
    },
  },
  {
    name: 'apart-thick-turned',
    given: { seed: 1006, outer: 250, inner: [120], width: 15000, height: 9000, tags: true },
    office: { factor: 50, turned: 0.2, walls: 'thick', panes: 2, leaf: 'half', furniture: true, areas: 'm2' },
  },
];

const WALLS: readonly Office['walls'][] = [
  'lines',
  'poche',
  'grey',
  'quads',
  'hatch',
  'studs',
  'layers',
  'thick',
  'doubled',
  'exploded',
];

/** A sheet by chance: a house of any size, drawn with habits drawn from those of all offices. */
export function randomSheet(seed: number): HouseSheet {
  const random = chance(7919 * seed + 17),
    one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)],
    maybe = (share: number) => random() < share,
    walls = one(WALLS),
    factor = one([50, 50, 96, 100, 100, 200]),
    big = factor > 100 ? 2 : 1,
    fine = one([0.2, 0.25, 0.3, 0.4]);
  return {
    name: `chance ${seed} ${walls}`,
    given: {
      seed: 100 + seed,
      width: Math.round(big * (9000 + 9000 * random())),
      height: Math.round(big * (7000 + 5000 * random())),
      outer: walls === 'layers' ? one([380, 420, 450]) : one([200, 240, 300, 365]),
      inner: one([[100], [115], [125, 150], [90, 140], [175], [100, 200]]),
      wing: maybe(0.4),
      least: big * 2400,
      columns: maybe(0.15) ? one(['square', 'round', 'oblong'] as const) : null,
      grid: maybe(0.3),
      tags: maybe(0.4),
      doubles: maybe(0.3),
    },
    office: {
      factor,
      turned: maybe(0.3) ? 1.4 * (random() - 0.5) : 0,
      walls,
      bold: maybe(0.15) ? fine : fine * (1.5 + 2 * random()),
      fine,
      panes: one([1, 2, 2, 3, 4]),
      facesThrough: maybe(0.7),
      board: maybe(0.2),
      leaf: one(['line', 'line', 'box', 'half', 'none'] as const),
      swing: one(['arc', 'arc', 'arc', 'chords', 'dashed'] as const),
      threshold: maybe(0.2),
      furniture: maybe(0.8),
      tiles: maybe(0.25),
      stair: maybe(0.35),
      names: one(['plain', 'plain', 'capitals'] as const),
      numbers: maybe(0.5),
      areas: one(['m2', 'sf', null, null] as const),
      dims: maybe(0.8) ? undefined : null,
      columnFill: one(['solid', 'crossed'] as const),
      north: maybe(0.4),
    },
  };
}

/** A sheet with the house that it draws, its places on the sheet. */
export function houseSheet({ given, office, strange }: HouseSheet): {
  house: House;
  hand: Hand;
  at: (x: number, y: number) => Point;
  /** Sheet points of a millimetre. */
  scale: number;
} {
  const made = house(given);
  return { house: made, ...drawn(made, office, strange), scale: PAPER / office.factor };
}

/** Sheets in habits that none of the others has. */
export const STRANGE: readonly HouseSheet[] = [
  {
    name: 'strange boxes',
    given: { seed: 2001, inner: [110, 150], outer: 260, canted: 1900 },
    office: { factor: 100, walls: 'lines', furniture: true, numbers: true, areas: 'm2' },
    strange: { walls: 'boxes', doors: 'framed', windows: 'frames', around: ['border', 'overhang'] },
  },
  {
    name: 'strange rooms',
    given: { seed: 2002, inner: [100], outer: 300, wing: true, tags: true },
    office: { factor: 50, walls: 'lines', furniture: true, names: 'capitals', bold: 0.7 },
    strange: {
      walls: 'rooms',
      doors: 'black leaf',
      windows: 'middle box',
      around: ['chains within', 'kerb'],
    },
  },
  {
    name: 'strange wave',
    given: { seed: 2003, inner: [125], outer: 400, canted: 2100, width: 13000 },
    office: { factor: 50, walls: 'lines', furniture: true, numbers: true },
    strange: { walls: 'wave', doors: 'two lines', windows: 'reveal', around: ['border', 'wardrobes'] },
  },
  {
    name: 'strange cross',
    given: { seed: 2004, inner: [140, 240], outer: 365, wing: true },
    office: { factor: 100, walls: 'lines', tiles: true, areas: 'm2', turned: 0.5 },
    strange: { walls: 'cross', doors: 'third', windows: 'casement', around: ['footings', 'paving', 'beams'] },
  },
  {
    name: 'strange bricks',
    given: { seed: 2005, inner: [115], outer: 240, width: 15000, doubles: true },
    office: { factor: 100, walls: 'lines', furniture: true, stair: true, bold: 0.4, fine: 0.25 },
    strange: { walls: 'bricks', windows: 'one line', around: ['border', 'legend', 'railing'] },
  },
  {
    name: 'strange bare',
    given: { seed: 2006, inner: [100], outer: 250, width: 14000, height: 9500 },
    office: { factor: 100, walls: 'lines', furniture: true, numbers: true, bold: 0.5, fine: 0.35 },
    strange: { walls: 'bare', doors: 'third', windows: 'frames', around: ['middle lines', 'overhang'] },
  },
  {
    name: 'strange folding',
    given: { seed: 2007, inner: [120], outer: 300, width: 13000, height: 9000 },
    office: { factor: 50, walls: 'lines', furniture: true },
    strange: { walls: 'filled faces', doors: 'folding', windows: 'frames', around: ['kerb', 'beams'] },
  },
  {
    name: 'strange sliding',
    given: { seed: 2008, inner: [150], outer: 300, wing: true },
    office: { factor: 100, walls: 'lines', furniture: true, tiles: true },
    strange: { doors: 'sliding', windows: 'middle box', around: ['wardrobes', 'railing', 'chains within'] },
  },
  {
    name: 'strange pocket',
    given: { seed: 2009, inner: [150], outer: 350, canted: 1800 },
    office: { factor: 50, walls: 'hatch', furniture: true, turned: -0.9 },
    strange: { doors: 'pocket', windows: 'casement', around: ['footings', 'middle lines'] },
  },
  {
    name: 'strange one pen',
    given: { seed: 2010, inner: [90], outer: 200, width: 11000, height: 9000, tags: true },
    office: {
      factor: 100,
      walls: 'lines',
      furniture: true,
      tiles: true,
      stair: true,
      bold: 0.25,
      fine: 0.25,
    },
    strange: { walls: 'boxes', doors: 'third', windows: 'one line', around: ['wardrobes', 'kerb', 'paving'] },
  },
];

/** A sheet by chance in strange habits, alone or among those of all offices. */
export function randomStrange(seed: number): HouseSheet {
  const base = randomSheet(seed + 5000),
    random = chance(104729 * seed + 71),
    one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)],
    maybe = (share: number) => random() < share;
  return {
    name: `strange ${seed}`,
    given: { ...base.given, columns: null, ...(!base.given.wing && maybe(0.4) && { canted: 1900 }) },
    office: base.office,
    strange: {
      ...(maybe(0.7) && { walls: one(STRANGE_WALLS) }),
      ...(maybe(0.75) && { doors: one(STRANGE_DOORS) }),
      ...(maybe(0.75) && { windows: one(STRANGE_WINDOWS) }),
      around: STRANGE_AROUND.filter(() => maybe(0.25)),
    },
  };
}
const STRANGE_WALLS = ['boxes', 'rooms', 'wave', 'cross', 'bricks', 'bare', 'filled faces'] as const,
  STRANGE_DOORS = ['framed', 'folding', 'sliding', 'pocket', 'third', 'black leaf', 'two lines'] as const,
  STRANGE_WINDOWS = ['frames', 'casement', 'reveal', 'one line', 'middle box'] as const,
  STRANGE_AROUND = [
    'overhang',
    'border',
    'kerb',
    'paving',
    'middle lines',
    'wardrobes',
    'beams',
    'footings',
    'railing',
    'legend',
    'chains within',
  ] as const;
