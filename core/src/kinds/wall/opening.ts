import { applyTransform, determinant, type Point, type Transform } from '../../geometry/index.ts';
import { isOnePoint, pairOf, type Pair } from '../drawn.ts';

/** What an opening of a wall is: a door leaf or several, a window, nothing but a gap, or a niche that does not go through it. */
export type OpeningKind = 'door' | 'window' | 'gap' | 'niche';
export const OPENING_KINDS: readonly OpeningKind[] = ['door', 'window', 'gap', 'niche'];

/** What of an opening nobody has typed, picked or read from a sheet. */
export type OpeningMeasure = 'kind' | 'sill' | 'head' | 'swing' | 'depth';
export const OPENING_MEASURES: readonly OpeningMeasure[] = ['kind', 'sill', 'head', 'swing', 'depth'];

/**
 * An opening in a wall. It is part of its wall: it moves, is copied and goes with it. Its edges lie on the wall's drawn line, plane
 * millimetres; heights are above the floor of the wall's storey.
 */
export interface WallOpening {
  /** Among the openings of its wall. */
  id: string;
  kind: OpeningKind;
  from: Pair;
  to: Pair;
  sill: number;
  head: number;
  /** 0: none that swings: one that slides, or folds. */
  leaves: 0 | 1 | 2;
  /** A door without leaves that swing folds; absent: it slides. */
  folds?: boolean | null;
  /** The edge at which its one leaf hangs. */
  hung: 'from' | 'to';
  /** The side of the wall on which a leaf stands when it is open, or to which a niche is open, seen from `from` to `to`. */
  opens: 'left' | 'right';
  /** How deep a niche goes behind its face, millimetres; a wall that is less thick is open through. Nothing but niches has one. */
  depth?: number | null;
  /** As schedules name it: "D04"; perhaps nothing. */
  tag: string;
  /** What its schedule says that it is, and what it is made of; absent: nothing. */
  type?: string | null;
  material?: string | null;
  assumed: OpeningMeasure[];
}

/** What is usual until somebody says otherwise: the head of a door and of a window, its sill, and how deep a niche is; millimetres. */
export const USUAL_HEAD = 2100,
  USUAL_SILL = 900,
  USUAL_DEPTH = 100;

const USUALLY_ASSUMED: Readonly<Record<OpeningKind, readonly OpeningMeasure[]>> = {
  door: ['sill', 'head', 'swing'],
  window: ['sill', 'head'],
  gap: ['sill', 'head'],
  niche: ['sill', 'head', 'depth'],
};

/** An opening of a kind between two places on a wall's line, its heights as is usual and so marked. */
export function usualOpening(id: string, kind: OpeningKind, from: Pair, to: Pair): WallOpening {
  return {
    id,
    kind,
    from,
    to,
    sill: kind === 'window' || kind === 'niche' ? USUAL_SILL : 0,
    head: USUAL_HEAD,
    leaves: kind === 'door' ? 1 : 0,
    hung: 'from',
    opens: 'left',
    ...(kind === 'niche' && { depth: USUAL_DEPTH }),
    tag: '',
    assumed: [...USUALLY_ASSUMED[kind]],
  };
}

const OTHER = { left: 'right', right: 'left' } as const;

/** Where a similarity of the plane takes it: a mirrored door opens to the other side of its way. */
export const movedOpening = (o: WallOpening, map: Transform): WallOpening => ({
  ...o,
  from: applyTransform(map, o.from),
  to: applyTransform(map, o.to),
  opens: determinant(map) < 0 ? OTHER[o.opens] : o.opens,
});

/** With one edge at another place; null where nothing would be left between its edges. */
export function withOpeningEdge(o: WallOpening, edge: 'from' | 'to', at: Point): WallOpening | null {
  const next = { ...o, [edge]: pairOf(at) };
  return isOnePoint(next.from, next.to) ? null : next;
}

/** The first of `o1`, `o2` … that is free among a wall's openings. */
export function freeOpeningId(openings: readonly Pick<WallOpening, 'id'>[]): string {
  const taken = new Set(openings.map((o) => o.id));
  for (let n = 1; ; n++) if (!taken.has(`o${n}`)) return `o${n}`;
}

/** An opening farther than this beside another line, millimetres, is not on it. */
const ON_LINE = 10;

/** The openings that lie on a line at least in part, however it was shortened or parted; those of the rest stay with the rest. */
export function openingsOnLine(openings: readonly WallOpening[], from: Point, to: Point): WallOpening[] {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  return openings.filter((o) => {
    const local = [o.from, o.to].map(([x, y]) => {
      const [dx, dy] = [x - from[0], y - from[1]];
      return { along: dx * ux + dy * uy, off: Math.abs(-dx * uy + dy * ux) };
    });
    const [low, high] = local.map((p) => p.along).sort((a, b) => a - b);
    return local.every((p) => p.off <= ON_LINE) && high > 0 && low < length;
  });
}
