import type { Bar } from './nesting.ts';
import type { Model } from '../model/index.ts';
import { takeoff, type Takeoff } from './takeoff.ts';

/** What a column of a table holds: lengths in millimetres, areas in square metres, volumes in cubic metres, angles in degrees, figures in the unit of their head. */
export type ColumnKind = 'text' | 'count' | 'length' | 'area' | 'volume' | 'angle' | 'figure';

export interface TableColumn {
  head: string;
  kind: ColumnKind;
}

export interface TableRow {
  cells: readonly (string | number | null)[];
  /** The elements that it counts, to be shown on the drawing. */
  ids: readonly string[];
  storey: string;
  /** How it is cut out of bars, where it is. */
  bars?: readonly Bar[];
}

/** One table of the takeoff. */
export interface CountedTable {
  id:
    | 'storeys'
    | 'rooms'
    | 'sides'
    | 'walls'
    | 'wall-sums'
    | 'layers'
    | 'openings'
    | 'slabs'
    | 'roofs'
    | 'columns'
    | 'stairs'
    | 'members'
    | 'plates'
    | 'bolts'
    | 'assemblies'
    | 'cuts'
    | 'stock';
  name: string;
  columns: readonly TableColumn[];
  rows: readonly TableRow[];
}

type Cell = string | number | null;
type Columns<R> = readonly (readonly [head: string, kind: ColumnKind, of: (row: R) => Cell])[];

const listed = (words: readonly string[]) => words.join(', ');

/** Ids of openings are told with those of their walls. */
const wallOf = (id: string) => id.slice(0, id.lastIndexOf('.'));

function table<R>(
  id: CountedTable['id'],
  name: string,
  rows: readonly R[],
  columns: Columns<R>,
  more: {
    ids(row: NoInfer<R>): readonly string[];
    storey(row: NoInfer<R>): string;
    bars?(row: NoInfer<R>): readonly Bar[];
  },
): CountedTable {
  return {
    id,
    name,
    columns: columns.map(([head, kind]) => ({ head, kind })),
    rows: rows.map((row) => ({
      cells: columns.map(([, , of]) => of(row)),
      ids: more.ids(row),
      storey: more.storey(row),
      ...(more.bars && { bars: more.bars(row) }),
    })),
  };
}

/** How many bars of which length: "3 of 12 m, 1 of 6 m". */
const barWords = (bars: Takeoff['stock'][number]['bars']): string =>
  [...new Set(bars.map((b) => b.stock))]
    .sort((a, b) => b - a)
    .map((stock) => `${bars.filter((b) => b.stock === stock).length} of ${stock / 1000} m`)
    .join(', ');

/** All that is counted of a building as tables, those that hold nothing too. */
export const tablesOf = (model: Model): CountedTable[] => tablesFrom(takeoff(model));

export function tablesFrom(counted: Takeoff): CountedTable[] {
  const sides = counted.spaces.flatMap((s) =>
    s.boundaries.map((b) => ({ ...b, room: s.name, storey: s.storey })),
  );
  return [
    table(
      'storeys',
      'Storeys',
      counted.storeys.map((s) => ({ ...s, ...sumsOf(counted, s.name) })),
      [
        ['storey', 'text', (s) => s.name],
        ['level', 'length', (s) => s.level],
        ['height', 'length', (s) => s.height],
        ['rooms', 'count', (s) => s.rooms],
        ['floor area, net', 'area', (s) => s.net],
        ['walls in plan', 'area', (s) => s.walls],
        ['volume of rooms', 'volume', (s) => s.volume],
        ['assumed', 'text', (s) => listed(s.assumed)],
      ],
      { ids: () => [], storey: (s) => s.name },
    ),
    table(
      'rooms',
      'Rooms',
      counted.spaces,
      [
        ['number', 'text', (s) => s.number],
        ['room', 'text', (s) => s.name],
        ['storey', 'text', (s) => s.storey],
        ['area', 'area', (s) => s.area],
        ['printed area', 'area', (s) => s.printed],
        ['perimeter', 'length', (s) => s.perimeter],
        ['height', 'length', (s) => s.height],
        ['volume', 'volume', (s) => s.volume],
        [
          'outside walls, net',
          'area',
          (s) => sum(s.boundaries, (b) => (b.side === 'wall' && b.beyond === 'outside' ? b.net : 0)),
        ],
        ['glazing', 'area', (s) => sum(s.boundaries, (b) => b.glazing)],
        ['assumed', 'text', (s) => listed(s.assumed)],
      ],
      { ids: (s) => (s.id === null ? [] : [s.id]), storey: (s) => s.storey },
    ),
    table(
      'sides',
      'Sides of rooms',
      sides,
      [
        ['room', 'text', (b) => b.room],
        ['storey', 'text', (b) => b.storey],
        ['side', 'text', (b) => b.side],
        ['facing', 'text', (b) => b.facing],
        ['beyond', 'text', (b) => (b.unheated ? `${b.beyond}, unheated` : b.beyond)],
        ['length', 'length', (b) => b.length],
        ['gross', 'area', (b) => b.gross],
        ['net', 'area', (b) => b.net],
        ['glazing', 'area', (b) => b.glazing],
        ['doors', 'area', (b) => b.doors],
        ['wall', 'text', (b) => b.wallType],
        ['wall thickness', 'length', (b) => b.thickness],
      ],
      { ids: (b) => (b.wall === null ? [] : [b.wall]), storey: (b) => b.storey },
    ),
    table(
      'walls',
      'Walls',
      counted.walls,
      [
        ['wall', 'text', (w) => w.type],
        ['storey', 'text', (w) => w.storey],
        ['length', 'length', (w) => w.length],
        ['thickness', 'length', (w) => w.thickness],
        ['foot at', 'length', (w) => w.base],
        ['height', 'length', (w) => w.height],
        ['one face', 'area', (w) => w.area],
        ['without openings', 'area', (w) => w.net],
        ['volume', 'volume', (w) => w.volume],
        ['assumed', 'text', (w) => listed(w.assumed)],
      ],
      own,
    ),
    table(
      'wall-sums',
      'Walls by type',
      wallSums(counted),
      [
        ['wall', 'text', (w) => w.type],
        ['thickness', 'length', (w) => w.thickness],
        ['storey', 'text', (w) => w.storey],
        ['walls', 'count', (w) => w.ids.length],
        ['length', 'length', (w) => w.length],
        ['one face', 'area', (w) => w.area],
        ['without openings', 'area', (w) => w.net],
        ['volume', 'volume', (w) => w.volume],
      ],
      { ids: (w) => w.ids, storey: (w) => w.storey },
    ),
    table(
      'layers',
      'Layers of walls',
      counted.layers,
      [
        ['wall', 'text', (l) => l.type],
        ['storey', 'text', (l) => l.storey],
        ['layer', 'count', (l) => l.place],
        ['material', 'text', (l) => l.material],
        ['purpose', 'text', (l) => l.purpose],
        ['thickness', 'length', (l) => l.thickness],
        ['without openings', 'area', (l) => l.area],
        ['volume', 'volume', (l) => l.volume],
      ],
      { ids: (l) => l.walls, storey: (l) => l.storey },
    ),
    table(
      'openings',
      'Openings',
      counted.openings,
      [
        ['opening', 'text', (o) => o.tag],
        ['kind', 'text', (o) => o.kind],
        ['storey', 'text', (o) => o.storey],
        ['width', 'length', (o) => o.width],
        ['height', 'length', (o) => o.height],
        ['sill', 'length', (o) => o.sill],
        ['area', 'area', (o) => (o.width * o.height) / 1e6],
        ['leaves', 'count', (o) => o.leaves],
        ['hung at', 'text', (o) => (o.hung ? HUNG[o.hung.edge] : '')],
        ['opens to the', 'text', (o) => o.hung?.opens ?? ''],
        ['type', 'text', (o) => o.type],
        ['material', 'text', (o) => o.material],
        ['assumed', 'text', (o) => listed(o.assumed)],
      ],
      { ids: (o) => [wallOf(o.id)], storey: (o) => o.storey },
    ),
    table(
      'slabs',
      'Slabs',
      counted.slabs,
      [
        ['storey', 'text', (s) => s.storey],
        ['area', 'area', (s) => s.area],
        ['thickness', 'length', (s) => s.thickness],
        ['top above level', 'length', (s) => s.top],
        ['volume', 'volume', (s) => s.volume],
        ['assumed', 'text', (s) => listed(s.assumed)],
      ],
      own,
    ),
    table(
      'roofs',
      'Roofs',
      counted.roofs,
      [
        ['storey', 'text', (r) => r.storey],
        ['area as it slopes', 'area', (r) => r.area],
        ['area in plan', 'area', (r) => r.plan],
        ['pitch', 'angle', (r) => r.pitch],
        ['volume', 'volume', (r) => r.volume],
        ['assumed', 'text', (r) => listed(r.assumed)],
      ],
      own,
    ),
    table(
      'columns',
      'Columns',
      counted.columns,
      [
        ['storey', 'text', (c) => c.storey],
        ['section', 'text', (c) => c.form],
        ['width', 'length', (c) => c.width],
        ['depth', 'length', (c) => c.depth],
        ['height', 'length', (c) => c.height],
        ['volume', 'volume', (c) => c.volume],
        ['assumed', 'text', (c) => listed(c.assumed)],
      ],
      own,
    ),
    table(
      'stairs',
      'Stairs',
      counted.stairs,
      [
        ['storey', 'text', (s) => s.storey],
        ['risers', 'count', (s) => s.risers],
        ['rise', 'length', (s) => s.rise],
        ['going', 'length', (s) => s.going],
        ['width', 'length', (s) => s.width],
        ['height', 'length', (s) => s.height],
        ['volume', 'volume', (s) => s.volume],
        ['unusual', 'text', (s) => s.doubts.join('; ')],
        ['assumed', 'text', (s) => listed(s.assumed)],
      ],
      own,
    ),
    table(
      'members',
      'Members',
      counted.members,
      [
        ['mark', 'text', (m) => m.mark],
        ['kind', 'text', (m) => m.role],
        ['section', 'text', (m) => m.section],
        ['material', 'text', (m) => m.material],
        ['on', 'text', (m) => m.on],
        ['length', 'length', (m) => m.length],
        ['start', 'text', (m) => m.ends[0]],
        ['end', 'text', (m) => m.ends[1]],
        ['holes', 'count', (m) => m.holes],
        ['kg/m', 'figure', (m) => m.massPerMetre],
        ['mass, kg', 'figure', (m) => m.mass],
        ['surface', 'area', (m) => m.surface],
      ],
      { ids: (m) => [m.id], storey: (m) => m.on },
    ),
    table(
      'plates',
      'Plates',
      counted.plates,
      [
        ['mark', 'text', (p) => p.mark],
        ['plate', 'text', (p) => p.name],
        ['thickness', 'length', (p) => p.thickness],
        ['length', 'length', (p) => p.length],
        ['width', 'length', (p) => p.width],
        ['one face', 'area', (p) => p.area],
        ['holes', 'count', (p) => p.holes],
        ['material', 'text', (p) => p.material],
        ['pieces', 'count', (p) => p.count],
        ['mass of one, kg', 'figure', (p) => p.mass],
      ],
      { ids: (p) => p.members, storey: () => '' },
    ),
    table(
      'bolts',
      'Bolts',
      counted.bolts,
      [
        ['bolt', 'text', (b) => b.name],
        ['grade', 'text', (b) => b.grade],
        ['standard', 'text', (b) => b.standard],
        ['length', 'length', (b) => b.length],
        ['pieces', 'count', (b) => b.count],
        ['mass, kg', 'figure', (b) => b.mass],
      ],
      { ids: (b) => b.members, storey: () => '' },
    ),
    table(
      'assemblies',
      'Assemblies',
      counted.assemblies,
      [
        ['assembly', 'text', (a) => a.mark],
        ['member', 'text', (a) => a.main],
        ['section', 'text', (a) => a.section],
        ['welded to it', 'text', (a) => a.parts],
        ['pieces', 'count', (a) => a.count],
        ['mass of one, kg', 'figure', (a) => a.mass],
      ],
      { ids: (a) => a.members, storey: () => '' },
    ),
    table(
      'cuts',
      'Cut list',
      counted.cuts,
      [
        ['section', 'text', (c) => c.section],
        ['material', 'text', (c) => c.material],
        ['length', 'length', (c) => c.length],
        ['ends', 'text', (c) => c.ends],
        ['holes', 'count', (c) => c.holes],
        ['pieces', 'count', (c) => c.count],
        ['mass, kg', 'figure', (c) => c.mass],
      ],
      { ids: (c) => c.members, storey: () => '' },
    ),
    table(
      'stock',
      'Bars to buy',
      counted.stock,
      [
        ['section', 'text', (s) => s.section],
        ['material', 'text', (s) => s.material],
        ['bars', 'text', (s) => barWords(s.bars)],
        ['bought', 'length', (s) => s.bought],
        ['used', 'length', (s) => s.used],
        ['left over, %', 'figure', (s) => s.waste * 100],
        ['too long for any', 'count', (s) => s.tooLong.length],
      ],
      { ids: () => [], storey: () => '', bars: (s) => s.bars },
    ),
  ];
}

/** What is an element by itself. */
const own = {
  ids: (r: { id: string }) => [r.id],
  storey: (r: { storey: string }) => r.storey,
};

const HUNG = { from: 'first edge', to: 'second edge' } as const;

function sum<T>(list: readonly T[], of: (t: T) => number): number {
  return list.reduce((total, t) => total + of(t), 0);
}

function sumsOf({ spaces, walls }: Takeoff, storey: string) {
  const here = spaces.filter((s) => s.storey === storey);
  return {
    rooms: here.length,
    net: sum(here, (s) => s.area),
    volume: sum(here, (s) => s.volume),
    walls: sum(
      walls.filter((w) => w.storey === storey),
      (w) => w.plan,
    ),
  };
}

/** Walls of one type on one storey, together; those of none by their thickness. */
function wallSums({ walls }: Takeoff) {
  const sums = new Map<
    string,
    {
      storey: string;
      type: string;
      thickness: number;
      ids: string[];
      length: number;
      area: number;
      net: number;
      volume: number;
    }
  >();
  for (const w of walls) {
    const key = JSON.stringify([w.storey, w.type, w.thickness]);
    let entry = sums.get(key);
    if (!entry)
      sums.set(
        key,
        (entry = {
          storey: w.storey,
          type: w.type,
          thickness: w.thickness,
          ids: [],
          length: 0,
          area: 0,
          net: 0,
          volume: 0,
        }),
      );
    entry.ids.push(w.id);
    entry.length += w.length;
    entry.area += w.area;
    entry.net += w.net;
    entry.volume += w.volume;
  }
  return [...sums.values()];
}
