import {
  GABLE,
  groundStorey,
  modelOf,
  type Entity,
  type Model,
  type Pair,
  type WallOpening,
  type WallType,
} from '@calque/core/model';
import { base } from './given-elements.ts';
import { wall } from './given-walls.ts';

export const door = (id: string, from: Pair, to: Pair, more: Partial<WallOpening> = {}): WallOpening => ({
  id,
  kind: 'door',
  from,
  to,
  sill: 0,
  head: 2100,
  leaves: 1,
  hung: 'from',
  opens: 'left',
  tag: id.toUpperCase(),
  assumed: [],
  ...more,
});
export const window = (id: string, from: Pair, to: Pair, more: Partial<WallOpening> = {}): WallOpening =>
  door(id, from, to, { kind: 'window', sill: 900, leaves: 0, ...more });

/** Corners of a rectangle, the first at its lower left. */
export const rectangle = (x0: number, y0: number, x1: number, y1: number): Pair[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
export const ring = (points: Pair[]) => ({ points, bulges: points.map(() => 0) });

/** Boards outside, studs, a lining inside: as thick as the outer walls of the boat store. */
export const BOARDED: WallType = {
  type: 'wallType',
  id: 'boarded',
  name: 'Boarded studs',
  layers: [
    { material: 'Larch boards', purpose: 'finish', thickness: 22 },
    { material: 'Air', purpose: 'cavity', thickness: 38 },
    { material: 'Studs', purpose: 'structure', thickness: 225 },
    { material: 'Gypsum board', purpose: 'lining', thickness: 15 },
  ],
};

/** A boat store of two rooms with a loft above: walls, openings, slabs, a column, a stair, a saddle roof, gables under it. */
export const HOUSE: Entity[] = [
  ...(
    [
      ['A', [0, -500], [0, 6500]],
      ['B', [9000, -500], [9000, 6500]],
      ['1', [-500, 0], [9500, 0]],
    ] as const
  ).map(([name, from, to]): Entity => ({
    type: 'gridLine',
    ...base(`grid-${name}`),
    from: [...from],
    to: [...to],
    name,
  })),
  BOARDED,
  wall('south', [0, 0], [9000, 0], {
    thickness: 300,
    alignment: 'right',
    wallType: BOARDED.id,
    firstLayer: 'right',
    heightAssumed: true,
    openings: [door('d1', [1000, 0], [2000, 0], { assumed: ['head'] }), window('w1', [5000, 0], [6500, 0])],
  }),
  wall('east', [9000, 0], [9000, 6000], {
    thickness: 300,
    alignment: 'right',
    wallType: BOARDED.id,
    firstLayer: 'right',
  }),
  wall('north', [9000, 6000], [0, 6000], {
    thickness: 300,
    alignment: 'right',
    // Told against the way of its wall.
    openings: [window('w2', [2000, 6000], [3000, 6000], { leaves: 2 })],
  }),
  wall('west', [0, 6000], [0, 0], { thickness: 300, alignment: 'right' }),
  wall('middle', [4000, 300], [4000, 5700], {
    thickness: 100,
    openings: [
      door('d2', [4000, 2000], [4000, 2900], { hung: 'to', opens: 'right' }),
      door('g1', [4000, 4000], [4000, 5000], { kind: 'gap', leaves: 0, tag: '' }),
    ],
  }),
  {
    type: 'space',
    ...base('bay'),
    at: [2000, 3000],
    name: 'Boat bay · Łódź',
    number: 'G.01',
    letters: 125,
    printed: 20e6,
  },
  {
    type: 'slab',
    ...base('floor'),
    rings: [ring(rectangle(0, 0, 9000, 6000)), ring(rectangle(7000, 1000, 8000, 2500))],
    thickness: 200,
    top: 0,
    assumed: ['thickness'],
  },
  {
    type: 'column',
    ...base('post'),
    at: [6500, 3000],
    angle: 0.2,
    section: { form: 'rectangle', width: 250, depth: 250 },
    foot: 0,
    height: 2700,
    heightAssumed: false,
  },
  {
    type: 'stair',
    ...base('stair'),
    from: [4500, 5000],
    to: [7020, 5000],
    width: 900,
    risers: 10,
    back: { risers: 7, side: 'right', gap: 100, landing: 900 },
    rise: 3000,
    riseAssumed: false,
    thickness: 150,
  },
  wall('loft-west', [0, 6000], [0, 0], {
    planeId: 'loft',
    thickness: 300,
    alignment: 'right',
    underRoof: true,
    height: 1000,
    openings: [window('w3', [0, 3500], [0, 2500], { sill: 600, head: 1500 })],
  }),
  wall('loft-south', [0, 0], [9000, 0], {
    planeId: 'loft',
    thickness: 300,
    alignment: 'right',
    underRoof: true,
    height: 1000,
  }),
  {
    type: 'roof',
    ...base('roof'),
    planeId: 'loft',
    points: rectangle(0, 0, 9000, 6000),
    pitches: [0.6, GABLE, 0.6, GABLE],
    eaves: 1200,
    overhang: 0,
    thickness: 250,
    assumed: ['pitch'],
  },
  {
    type: 'symbol',
    ...base('compass'),
    mark: 'north',
    at: [-2000, 0],
    angle: Math.PI / 2,
    size: 500,
    text: 'N',
  },
];

export const houseModel = (...more: Entity[]): Model =>
  modelOf([
    {
      type: 'settings',
      id: 'settings',
      name: "Rower's house",
      units: 'mm',
      precision: 1,
      onMap: { system: 'EPSG:25832', east: 456789.125, north: 5432100.5, height: 93.4, turn: Math.PI / 6 },
    },
    { ...groundStorey('ground'), heightAssumed: false },
    { ...groundStorey('loft'), name: 'Loft', elevation: 3000, height: 2400 },
    ...HOUSE,
    ...more,
  ]);
