import Flatbush from 'flatbush';
import { PlaneTrace } from '../derive/index.ts';
import {
  boxOfPoints,
  flattenPiece,
  insideIntervals,
  makeRegion,
  subtractIntervals,
  type Interval,
  type Line4,
  type Point,
  type Region,
} from '../geometry/index.ts';
import { endsOf, looseOf, ownerId, piecesOf, type Model, type Traced } from '../model/index.ts';
import type { TracedLines } from './types.ts';

/** What no sheet draws, or draws with words. */
const NOT_DRAWN: ReadonlySet<Traced['type']> = new Set([
  'text',
  'dimension',
  'space',
  'openBoundary',
  'constructionLine',
  'symbol',
  'bolts',
]);
/** How far chords may stray from what is bent, millimetres. */
const CHORDS = 0.1;
/** A face lies within another wall, or on where that runs into it, within this, millimetres. */
const ON_BODY = 0.5;
/** Sine of the angle from which a wall runs into another rather than along it. */
export const INTO = 0.2;
/** See TracedLines. */
export const OF_WALL = 3;
/** So many lines are graded at most. */
export const MOST_LINES = 400_000;

/**
 * The lines that have been traced on a plane and show: faces of walls as they are cut to one another, without what lies in others, with
 * their free ends and the jambs of their openings; of members their axis, and their outlines; of the rest its own lines.
 */
export function linesOfTrace(model: Model, planeId: string, isMeant: (e: Traced) => boolean): TracedLines {
  const trace = new PlaneTrace(planeId);
  trace.follow(model, true);
  const lines: number[] = [],
    of: number[] = [],
    ways: number[] = [],
    elements: string[] = [],
    numbers = new Map<string, number>(),
    others: number[] = [];
  const put = (id: string, [x0, y0, x1, y1]: Line4, way: number) => {
    if (of.length >= MOST_LINES || (x0 === x1 && y0 === y1)) return;
    let n = numbers.get(id);
    if (n === undefined) {
      numbers.set(id, (n = elements.length));
      elements.push(id);
    }
    lines.push(x0, y0, x1, y1);
    of.push(n);
    ways.push(way);
  };
  const shown = [...trace.elements.values()],
    isHere = new Set(shown.filter(isMeant).map((e) => e.id));
  const faces = facesApart(trace);
  for (const [id, some] of faces) {
    if (isHere.has(ownerId(id))) for (const f of some) put(ownerId(id), f, OF_WALL);
    else others.push(...some.flat());
  }
  for (const e of shown.filter((o) => isHere.has(o.id)))
    for (const part of looseOf(e)) {
      if (NOT_DRAWN.has(part.type) || part.type === 'wall') continue;
      const ends = part.type === 'gridLine' || part.type === 'member' ? endsOf(part) : null;
      if (ends) put(e.id, [...ends[0], ...ends[1]] as unknown as Line4, part.type === 'member' ? 1 : 0);
      if (part.type === 'gridLine') continue;
      for (const piece of piecesOf(part)) {
        const points = flattenPiece(piece, CHORDS);
        for (let i = 1; i < points.length; i++)
          put(e.id, [...points[i - 1], ...points[i]] as unknown as Line4, part.type === 'member' ? 2 : 0);
      }
    }
  return {
    lines: Float64Array.from(lines),
    of: Int32Array.from(of),
    ways: Uint8Array.from(ways),
    elements,
    others: Float64Array.from(others),
    isCut: of.length >= MOST_LINES,
  };
}

/** Faces of walls without what of them lies in other walls, or where others run into them. */
function facesApart({ cut }: PlaneTrace): Map<string, Line4[]> {
  const bodies = [...cut.bodies].map(([id, ring]) => ({
    id,
    region: makeRegion([ring], 'nonzero'),
    way: wayOf(ring),
  }));
  const out = new Map<string, Line4[]>();
  if (bodies.length === 0) return out;
  const index = new Flatbush(bodies.length);
  for (const [, ring] of cut.bodies) index.add(...boxOfPoints(ring));
  index.finish();
  for (const [id, faces] of cut.faces)
    out.set(
      id,
      faces.flatMap(([x0, y0, x1, y1]): Line4[] => {
        const near = index.search(
          Math.min(x0, x1) - ON_BODY,
          Math.min(y0, y1) - ON_BODY,
          Math.max(x0, x1) + ON_BODY,
          Math.max(y0, y1) + ON_BODY,
        );
        let left: Interval[] = [[0, 1]];
        for (const n of near) {
          if (bodies[n].id === id) continue;
          const { region, way } = bodies[n],
            isInto = Math.abs(crossOf(way, [x1 - x0, y1 - y0])) > INTO;
          left = subtractIntervals(left, within(region, [x0, y0, x1, y1], isInto ? -ON_BODY : ON_BODY));
        }
        return left.map((part) => partOf([x0, y0, x1, y1], part));
      }),
    );
  return out;
}

/** A part of a line, by shares of it. */
export const partOf = ([x0, y0, x1, y1]: Line4, [a, b]: Interval): Line4 => [
  x0 + a * (x1 - x0),
  y0 + a * (y1 - y0),
  x0 + b * (x1 - x0),
  y0 + b * (y1 - y0),
];

/** The parts of a line within a body; along its edge they begin and end where its corners are. */
const within = (region: Region, [x0, y0, x1, y1]: Line4, margin: number): Interval[] => {
  // Where a line runs along an edge it crosses nothing: it is cut where the corners of the body lie.
  const length = Math.hypot(x1 - x0, y1 - y0),
    cuts = [
      0,
      1,
      ...region.rings.flatMap((ring) =>
        ring.flatMap(([x, y]) => {
          const t = ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / length ** 2;
          return t > 0 && t < 1 ? [t] : [];
        }),
      ),
    ].sort((a, b) => a - b);
  return cuts.slice(1).flatMap((to, i): Interval[] => {
    const from = cuts[i];
    if (to - from < 1e-12) return [];
    const at = (t: number) => [x0 + t * (x1 - x0), y0 + t * (y1 - y0)] as const;
    return insideIntervals(region, ...at(from), ...at(to), margin).map(([a, b]): Interval => [
      from + a * (to - from),
      from + b * (to - from),
    ]);
  });
};

/** The way in which a body runs: of its longest side. */
function wayOf(ring: readonly Point[]): Point {
  let best: Point = [1, 0],
    longest = 0;
  ring.forEach(([x, y], i) => {
    const [p, q] = ring[(i + 1) % ring.length],
      length = Math.hypot(p - x, q - y);
    if (length > longest) [best, longest] = [[(p - x) / length, (q - y) / length], length];
  });
  return best;
}
const crossOf = ([ax, ay]: Point, [bx, by]: Point): number => (ax * by - ay * bx) / (Math.hypot(bx, by) || 1);
