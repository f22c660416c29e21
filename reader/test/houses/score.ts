import type { Proposals } from '@calque/core/proposals';
import { lengthOf, wayOf, type House, type Place } from './house.ts';

/** How much of what is there was found, and how much of what was proposed is there; counts or lengths. */
export interface Hit {
  there: number;
  found: number;
  proposed: number;
  right: number;
}
export type Sure = 'wall' | 'opening' | 'room' | 'column' | 'grid line' | 'stair';
export interface Score {
  walls: Hit;
  openings: Hit;
  /** Of the doors found: whose hung side and swing are right. */
  swings: { doors: number; right: number };
  rooms: Hit;
  /** Of the rooms found: whose name is right. */
  names: { rooms: number; right: number };
  columns: Hit;
  grid: Hit;
  /** What was proposed, how sure, and whether it is so; walls by their length in metres. */
  sure: { what: Sure; confidence: number; right: number; all: number }[];
}

/** What counts as found (issue: within 25 mm and 10 % or 15 mm), millimetres. */
const OFF = 25,
  STEP = 20;
const isAsThick = (a: number, b: number) => Math.abs(a - b) <= Math.max(15, 0.1 * b);
type Line = { from: readonly [number, number]; to: readonly [number, number]; thickness: number };

function isOn([x, y]: Place, { from, to }: Line): boolean {
  const n = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / n, (to[1] - from[1]) / n],
    s = (x - from[0]) * ux + (y - from[1]) * uy;
  return s > -OFF && s < n + OFF && Math.abs((y - from[1]) * ux - (x - from[0]) * uy) <= OFF;
}
/** How much of a line others of its thickness lie on, and its length. */
function on(line: Line, others: readonly Line[]): [number, number] {
  const n = Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1]),
    like = others.filter((o) => isAsThick(o.thickness, line.thickness)),
    count = Math.max(1, Math.round(n / STEP));
  let hit = 0;
  for (let i = 0; i < count; i++) {
    const t = (i + 0.5) / count,
      p: Place = [
        line.from[0] + (line.to[0] - line.from[0]) * t,
        line.from[1] + (line.to[1] - line.from[1]) * t,
      ];
    if (like.some((o) => isOn(p, o))) hit++;
  }
  return [(hit / count) * n, n];
}
export function wallScore(truth: readonly Line[], walls: readonly Line[]): Hit {
  const sum = (of: readonly Line[], by: readonly Line[]) =>
    of.map((w) => on(w, by)).reduce(([a, b], [c, d]) => [a + c, b + d], [0, 0]);
  const [found, there] = sum(truth, walls),
    [right, proposed] = sum(walls, truth);
  return { there, found, proposed, right };
}

/** Scores what is proposed for a house; `back`: places of the sheet to those of the house. */
export function scored(
  house: House,
  proposed: Proposals,
  back: (p: readonly [number, number]) => Place,
  stair: { from: Place; to: Place; risers: number } | null = null,
): Score {
  const walls = proposed.walls.map((w) => ({ ...w, from: back(w.from), to: back(w.to) })),
    sure: Score['sure'] = walls.map((w) => {
      const [right, all] = on(w, house.walls);
      return { what: 'wall', confidence: w.confidence, right: right / 1000, all: all / 1000 };
    });
  const truth = house.openings.map((o) => {
    const w = house.walls[o.wall],
      [ux, uy] = wayOf(w),
      at = (t: number, v = 0): Place => [w.from[0] + t * ux - v * uy, w.from[1] + t * uy + v * ux],
      side = o.opens === 'left' ? 1 : -1,
      [hinge, far] = [o.at - o.width / 2, o.at + o.width / 2];
    return {
      ...o,
      place: at(o.at),
      hinge: at(o.hung === 'from' ? hinge : far, (side * w.thickness) / 2),
      // From shut to open, turned clockwise or not: hung at the near edge and opening left it turns to the left.
      clockwise: (o.hung === 'from') !== (o.opens === 'left'),
    };
  });
  const isSame = (t: (typeof truth)[number], o: Proposals['openings'][number]) => {
    const [x, y] = back(o.at);
    return (
      o.kind === t.kind &&
      Math.hypot(x - t.place[0], y - t.place[1]) <= 150 &&
      Math.abs(o.width - t.width) <= Math.max(60, 0.08 * t.width)
    );
  };
  let [doors, swung] = [0, 0];
  for (const t of truth) {
    const o = t.kind === 'door' ? proposed.openings.find((p) => isSame(t, p)) : undefined;
    if (!o) continue;
    doors++;
    if (!o.swing) continue;
    const [x, y] = back(o.swing.hinge);
    if (
      t.leaves === 2 ||
      (Math.hypot(x - t.hinge[0], y - t.hinge[1]) < 250 && o.swing.clockwise === t.clockwise)
    )
      swung++;
  }
  for (const o of proposed.openings)
    sure.push({
      what: 'opening',
      confidence: o.confidence,
      right: truth.some((t) => isSame(t, o)) ? 1 : 0,
      all: 1,
    });
  const middle = (ring: readonly (readonly [number, number])[]): Place => {
    const xs = ring.map((p) => p[0]),
      ys = ring.map((p) => p[1]);
    return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  };
  const isRoom = (t: House['rooms'][number], r: Proposals['rooms'][number]) => {
    const [a, b] = [middle(t.outline as Place[]), middle(r.outline.map(back))];
    return Math.hypot(a[0] - b[0], a[1] - b[1]) < 150 && Math.abs(r.area - t.area) <= 0.02 * t.area;
  };
  const foundRooms = house.rooms.filter((t) => proposed.rooms.some((r) => isRoom(t, r)));
  const near = (a: Place, b: Place, far: number) => Math.hypot(a[0] - b[0], a[1] - b[1]) <= far;
  const isColumn = (t: House['columns'][number], c: Proposals['columns'][number]) =>
    near(back(c.at), t.at, 25) &&
    Math.abs(Math.max(c.width, c.depth) - Math.max(t.width, t.depth)) <= 20 &&
    Math.abs(Math.min(c.width, c.depth) - Math.min(t.width, t.depth)) <= 20;
  const isGrid = (t: House['grid'][number], g: Proposals['grid'][number]) => {
    const n = lengthOf({ ...t, thickness: 0, outer: false }),
      [ux, uy] = [(t.to[0] - t.from[0]) / n, (t.to[1] - t.from[1]) / n];
    return (
      g.name === t.name &&
      [g.from, g.to].map(back).every(([x, y]) => Math.abs((y - t.from[1]) * ux - (x - t.from[0]) * uy) < 30)
    );
  };
  const count = <P extends { confidence: number }>(
    what: Sure,
    of: readonly P[],
    isRight: (p: P) => boolean,
  ) => sure.push(...of.map((p) => ({ what, confidence: p.confidence, right: isRight(p) ? 1 : 0, all: 1 })));
  count('room', proposed.rooms, (r) => house.rooms.some((t) => isRoom(t, r)));
  count('column', proposed.columns, (c) => house.columns.some((t) => isColumn(t, c)));
  count('grid line', proposed.grid, (g) => house.grid.some((t) => isGrid(t, g)));
  count('stair', proposed.stairs, (s) => {
    if (stair === null || s.risers !== stair.risers) return false;
    const ends = [s.from, s.to].map(back),
      // No word says which way is up.
      lies = (a: Place, b: Place) => near(ends[0], a, 60) && near(ends[1], b, 60);
    return lies(stair.from, stair.to) || lies(stair.to, stair.from);
  });
  const hits = <T, P>(there: readonly T[], of: readonly P[], same: (t: T, p: P) => boolean): Hit => ({
    there: there.length,
    found: there.filter((t) => of.some((p) => same(t, p))).length,
    proposed: of.length,
    right: of.filter((p) => there.some((t) => same(t, p))).length,
  });
  return {
    walls: wallScore(house.walls, walls),
    openings: hits(truth, proposed.openings, isSame),
    swings: { doors, right: swung },
    rooms: hits(house.rooms, proposed.rooms, isRoom),
    names: {
      rooms: foundRooms.length,
      right: foundRooms.filter((t) =>
        proposed.rooms.some((r) => isRoom(t, r) && r.name.toUpperCase() === t.name.toUpperCase()),
      ).length,
    },
    columns: hits(house.columns, proposed.columns, isColumn),
    grid: hits(house.grid, proposed.grid, isGrid),
    sure,
  };
}
