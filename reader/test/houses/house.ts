import { differenceOf, ringArea, unionOf, type Polygon, type Ring } from '@calque/core/geometry';
import { chance } from '../hands/draw/hand.ts';

/** Plans to try proposals on, with all that stands in them: made by chance from a seed, millimetres, y up. */
export type Place = [number, number];

export interface HouseWall {
  from: Place;
  to: Place;
  thickness: number;
  outer: boolean;
}
export interface HouseOpening {
  wall: number;
  /** Of its middle, along the wall. */
  at: number;
  width: number;
  kind: 'door' | 'window' | 'gap';
  leaves: 0 | 1 | 2;
  /** Seen along the wall: which edge it hangs at, and to which side it opens. */
  hung: 'from' | 'to';
  opens: 'left' | 'right';
  tag: string | null;
}
export interface HouseRoom {
  name: string;
  number: string;
  outline: Ring;
  /** Square metres. */
  area: number;
  at: Place;
}
export interface HouseColumn {
  at: Place;
  width: number;
  depth: number;
  round: boolean;
}
export interface House {
  walls: HouseWall[];
  openings: HouseOpening[];
  rooms: HouseRoom[];
  columns: HouseColumn[];
  grid: { name: string; from: Place; to: Place }[];
  /** Bodies of the walls without and with their openings. */
  solid: Polygon[];
  cut: Polygon[];
  width: number;
  height: number;
}

export interface HouseGiven {
  seed: number;
  width?: number;
  height?: number;
  outer?: number;
  inner?: readonly number[];
  /** A wing at the right, lower than the house. */
  wing?: boolean;
  /** So much is cut off one corner, at 45 degrees. */
  canted?: number;
  /** Rooms are not parted below this. */
  least?: number;
  columns?: 'square' | 'round' | 'oblong' | null;
  grid?: boolean;
  tags?: boolean;
  doubles?: boolean;
  sills?: boolean;
}

const NAMES = [
  'Oar store',
  'Club room',
  'Kitchen',
  'Hall',
  'Changing 1',
  'Changing 2',
  'Office',
  'Drying',
  'Workshop',
  'Showers',
  'Stores',
  'Coach',
  'Boiler',
  'Stair hall',
  'Archive',
  'Sauna',
  'Plant',
  'Lobby',
  'First aid',
  'Trophy room',
];

interface Cell {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** The corners of a stretch of a wall, from face to face. */
export function stretch(w: HouseWall, from: number, to: number, beyond = 0): Ring {
  const [ux, uy] = wayOf(w),
    h = w.thickness / 2 + beyond,
    p = (t: number, v: number): Place => [w.from[0] + t * ux - v * uy, w.from[1] + t * uy + v * ux];
  return [p(from, -h), p(to, -h), p(to, h), p(from, h)];
}
export const lengthOf = (w: HouseWall) => Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]);
export function wayOf(w: HouseWall): Place {
  const n = lengthOf(w);
  return [(w.to[0] - w.from[0]) / n, (w.to[1] - w.from[1]) / n];
}

export function house(given: HouseGiven): House {
  const {
      seed,
      width = 12000,
      height = 8400,
      outer = 300,
      inner = [100],
      wing = false,
      canted = 0,
      least = 2400,
    } = given,
    random = chance(seed),
    between = (a: number, b: number, step = 10) => Math.round((a + (b - a) * random()) / step) * step,
    walls: HouseWall[] = [],
    cells: Cell[] = [];
  const add = (from: Place, to: Place, thickness: number, isOuter: boolean) =>
    walls.push({ from, to, thickness, outer: isOuter });
  const [W, H] = [width, height],
    w = wing ? Math.round(0.45 * W) : 0,
    h = wing ? Math.round(0.6 * H) : 0;
  const ring: Place[] = wing
    ? [
        [0, 0],
        [W + w, 0],
        [W + w, h],
        [W, h],
        [W, H],
        [0, H],
      ]
    : [
        [0, 0],
        [W, 0],
        ...(canted > 0
          ? ([
              [W, H - canted],
              [W - canted, H],
            ] as Place[])
          : [[W, H] as Place]),
        [0, H],
      ];
  ring.forEach((p, i) => add(p, ring[(i + 1) % ring.length], outer, true));
  if (wing) add([W, 0], [W, h], inner[0], false);
  const part = (cell: Cell, depth: number): void => {
    const wide = cell.w > cell.h ? cell.w : cell.h;
    if (wide < 2 * least || depth > 5 || (depth > 1 && random() < 0.12)) return void cells.push(cell);
    const at = between(least, wide - least, 50),
      t = inner[Math.floor(random() * inner.length)];
    if (cell.w > cell.h) {
      add([cell.x + at, cell.y], [cell.x + at, cell.y + cell.h], t, false);
      part({ ...cell, w: at }, depth + 1);
      part({ ...cell, x: cell.x + at, w: cell.w - at }, depth + 1);
    } else {
      add([cell.x, cell.y + at], [cell.x + cell.w, cell.y + at], t, false);
      part({ ...cell, h: at }, depth + 1);
      part({ ...cell, y: cell.y + at, h: cell.h - at }, depth + 1);
    }
  };
  part({ x: 0, y: 0, w: W, h: H }, 0);
  if (wing) part({ x: W, y: 0, w, h }, 1);

  const openings = openingsOf(walls, given, random, between);
  const bodies = walls.map((v) => stretch(v, -beyond(v), lengthOf(v) + beyond(v))),
    solid = unionOf(bodies),
    holes = openings.map((o) => stretch(walls[o.wall], o.at - o.width / 2, o.at + o.width / 2, 5)),
    cut = solid.flatMap((p) => withoutHoles(p, holes));
  const names = [...NAMES].sort(() => random() - 0.5);
  const rooms = cells.flatMap((c, i): HouseRoom[] => {
    const own: Ring = [
        [c.x, c.y],
        [c.x + c.w, c.y],
        [c.x + c.w, c.y + c.h],
        [c.x, c.y + c.h],
      ],
      left = differenceOf([own], bodies).sort((a, b) => Math.abs(ringArea(b[0])) - Math.abs(ringArea(a[0])));
    if (left.length === 0) return [];
    const outline = left[0][0];
    return [
      {
        name: names[i % names.length],
        number: String(101 + i),
        outline,
        area: Math.abs(ringArea(outline)) / 1e6,
        at: [c.x + c.w / 2, c.y + c.h / 2],
      },
    ];
  });
  return { walls, openings, rooms, ...standing(given, W, H, walls), solid, cut, width: W + w, height: H };
}

/** Outer walls reach beyond their middle lines' ends to close their corners. */
const beyond = (w: HouseWall) => (w.outer ? w.thickness / 2 : 0);

function withoutHoles(polygon: Polygon, holes: readonly Ring[]): Polygon[] {
  return differenceOf(polygon, holes);
}

function openingsOf(
  walls: readonly HouseWall[],
  { tags = false, doubles = false }: HouseGiven,
  random: () => number,
  between: (a: number, b: number, step?: number) => number,
): HouseOpening[] {
  const out: HouseOpening[] = [];
  let [doors, windows, entrances] = [0, 0, 0];
  walls.forEach((w, i) => {
    const [ux, uy] = wayOf(w),
      length = lengthOf(w);
    // Where other walls meet it, nothing opens.
    const taken = walls
      .filter((o) => o !== w)
      .flatMap((o) =>
        [o.from, o.to].flatMap((p) => {
          const [dx, dy] = [p[0] - w.from[0], p[1] - w.from[1]],
            t = dx * ux + dy * uy;
          return Math.abs(-dx * uy + dy * ux) < 1 && t > -1 && t < length + 1
            ? [{ t, half: o.thickness / 2 }]
            : [];
        }),
      )
      .concat(
        // Where it ends in the side of another.
        ...[w.from, w.to].map((p, k) =>
          walls
            .filter((o) => o !== w && Math.abs(wayOf(o)[0] * ux + wayOf(o)[1] * uy) < 0.5)
            .filter((o) => {
              const [vx, vy] = wayOf(o),
                [dx, dy] = [p[0] - o.from[0], p[1] - o.from[1]],
                t = dx * vx + dy * vy;
              return Math.abs(-dx * vy + dy * vx) < 1 && t > -1 && t < lengthOf(o) + 1;
            })
            .map((o) => ({ t: k === 0 ? 0 : length, half: o.thickness / 2 })),
        ),
      )
      .sort((a, b) => a.t - b.t);
    for (let k = 0; k + 1 < taken.length; k++) {
      const from = taken[k].t + taken[k].half + 100,
        to = taken[k + 1].t - taken[k + 1].half - 100,
        free = to - from;
      if (free < 900) continue;
      const base = {
        wall: i,
        hung: random() < 0.5 ? 'from' : 'to',
        opens: random() < 0.5 ? 'left' : 'right',
      } as const;
      if (w.outer) {
        if (entrances === 0 && free > 1600) {
          entrances++;
          const width = doubles ? 1600 : 1000;
          out.push({
            ...base,
            at: from + free / 2,
            width,
            kind: 'door',
            leaves: doubles ? 2 : 1,
            tag: tags ? `D${String(++doors).padStart(2, '0')}` : null,
          });
        } else if (random() < 0.8) {
          const width = Math.min(free, between(600, 2400, 100));
          out.push({
            ...base,
            at: from + width / 2 + Math.round((free - width) * random()),
            width,
            kind: 'window',
            leaves: 0,
            tag: tags ? `W${String(++windows).padStart(2, '0')}` : null,
          });
        }
      } else if (random() < 0.75) {
        const width = Math.min(free, [700, 800, 900, 1000][Math.floor(random() * 4)]),
          gap = random() < 0.12;
        out.push({
          ...base,
          at: from + width / 2 + Math.round((free - width) * (random() < 0.6 ? 0 : random())),
          width,
          kind: gap ? 'gap' : 'door',
          leaves: gap ? 0 : 1,
          tag: tags && !gap ? `D${String(++doors).padStart(2, '0')}` : null,
        });
      }
    }
  });
  return out;
}

/** Columns and grid lines. */
function standing(
  { columns = null, grid = false }: HouseGiven,
  W: number,
  H: number,
  walls: readonly HouseWall[],
) {
  const xs = [0, 0.2, 0.4, 0.6, 0.8, 1].map((t) => Math.round(t * W)),
    ys = [0, 0.33, 0.66, 1].map((t) => Math.round(t * H)),
    size = columns === 'oblong' ? [240, 400] : [300, 300];
  const isFree = ([x, y]: Place) =>
    walls.every((w) => {
      const [ux, uy] = wayOf(w),
        [dx, dy] = [x - w.from[0], y - w.from[1]],
        t = dx * ux + dy * uy;
      return Math.abs(-dx * uy + dy * ux) > w.thickness / 2 + 250 || t < -250 || t > lengthOf(w) + 250;
    });
  return {
    columns: columns
      ? xs.flatMap((x) =>
          ys
            .map((y): Place => [x, y])
            .filter(isFree)
            .map((at) => ({ at, width: size[0], depth: size[1], round: columns === 'round' })),
        )
      : [],
    grid: grid
      ? [
          ...xs.map((x, i) => ({
            name: String(i + 1),
            from: [x, -1500] as Place,
            to: [x, H + 1500] as Place,
          })),
          ...ys.map((y, i) => ({
            name: 'ABCD'[i],
            from: [-1500, y] as Place,
            to: [W + 1500, y] as Place,
          })),
        ]
      : [],
  };
}
