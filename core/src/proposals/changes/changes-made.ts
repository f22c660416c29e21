import { bandOf, openingsOf, pointAt, type WallBand } from '../../building/index.ts';
import { applyTransform, type Point } from '../../geometry/index.ts';
import {
  apply,
  group,
  ofType,
  pairOf,
  setFields,
  type Change,
  type Model,
  type Pair,
  type Wall,
  type WallOpening,
} from '../../model/index.ts';
import { wallTaken, type Standing } from '../take.ts';
import { bandBetween, bandOn, besideOf, isParallel, localTo, offsetOf, type Band } from './bands.ts';
import type { SeenChange, SeenIssue } from './types.ts';

/** Both issues, and where what is made of changes stands. */
export interface MadeOf {
  older: SeenIssue;
  newer: SeenIssue;
  planeId: string;
  standing: Standing;
  /** Makes a new element of a wall's own fields. */
  newWall(own: ReturnType<typeof wallTaken>): Wall;
}

/** A wall was traced from one that is seen when its middle lies within this of it, and it is as thick within as much; millimetres. */
const TRACED = 60;
/** An end was traced from an end that is seen within this, millimetres beside half of what is thicker. */
const AT_END = 150;

/**
 * What a change of the sheet does to what was traced: null where nothing that was traced is meant by it, or where it has been made
 * already.
 */
export const changeMade = (model: Model, change: SeenChange, of: MadeOf): Change | null =>
  change.kind === 'opening-gone' || change.kind === 'opening-new' || change.kind === 'opening-changed'
    ? openingMade(model, change, of)
    : wallMade(model, change, of);

/** What several changes do together, each to what those before it left; null where that is nothing. */
export function changesMade(model: Model, changes: readonly SeenChange[], of: MadeOf): Change | null {
  let now = model;
  const all: Change[] = [];
  for (const change of changes) {
    const made = changeMade(now, change, of),
      next = made && apply(now, made);
    if (!made || !next?.ok) continue;
    all.push(made);
    now = next.model;
  }
  return group(all);
}

type OpeningChange = Extract<SeenChange, { kind: `opening-${string}` }>;

function wallMade(model: Model, change: Exclude<SeenChange, OpeningChange>, of: MadeOf): Change | null {
  const { older, newer, planeId } = of;
  switch (change.kind) {
    case 'wall-moved': {
      const [o, n] = alongOneWay(bandSeen(older, change.older), bandSeen(newer, change.newer));
      return group(
        tracedFrom(model, planeId, o)
          .filter((w) => isNearerBand(w, o, n))
          .flatMap((w) => some(moved(w, o, n, change.by, 0))),
      );
    }
    case 'wall-thickness': {
      const [o, n] = alongOneWay(bandSeen(older, change.older), bandSeen(newer, change.newer));
      return group(
        tracedFrom(model, planeId, o)
          .filter((w) => isNearer(w.thickness, change.from, change.to))
          .flatMap((w) => some(moved(w, o, n, change.by, change.to - change.from))),
      );
    }
    case 'wall-ends': {
      const o = bandSeen(older, change.older),
        ends = [
          { at: o.from, by: -change.at.from },
          { at: o.to, by: change.at.to },
        ].filter((e) => e.by !== 0);
      return group(tracedFrom(model, planeId, o).flatMap((w) => some(stretched(w, o, ends))));
    }
    case 'wall-gone': {
      const walls = older.seen.walls[change.older].arc
        ? bentFrom(model, planeId, older, change.older)
        : tracedFrom(model, planeId, bandSeen(older, change.older));
      return group(walls.map((entity) => ({ type: 'remove', entity })));
    }
    case 'wall-new': {
      const wall = newer.seen.walls[change.newer],
        isThere = wall.arc
          ? bentFrom(model, planeId, newer, change.newer).length > 0
          : isTraced(model, planeId, bandSeen(newer, change.newer));
      if (isThere) return null;
      const openings = newer.seen.openings.filter((p) => p.wall === change.newer);
      return { type: 'add', entity: of.newWall(wallTaken(wall, openings, newer.placement, of.standing)) };
    }
  }
}

function openingMade(model: Model, change: OpeningChange, of: MadeOf): Change | null {
  if (change.kind === 'opening-gone') {
    const found = openingBefore(model, of, change);
    return (
      found &&
      withOpenings(
        found.wall,
        (found.wall.openings ?? []).filter((p) => p !== found.o),
      )
    );
  }
  if (change.kind === 'opening-new') {
    const wall = wallUnder(model, of, 'newer', change.newer);
    if (!wall || openingAt(model, of, 'newer', change.newer)) return null;
    return withOpenings(wall, [...(wall.openings ?? []), openingTaken(wall, of, change.newer)]);
  }
  const now = openingAt(model, of, 'newer', change.newer) ?? openingBefore(model, of, change);
  if (!now) return null;
  const { wall, o } = now,
    made = openingTaken(wall, of, change.newer, o.id),
    { kind, sill, head, leaves, assumed, hung, opens } = made,
    next: WallOpening = {
      ...o,
      from: made.from,
      to: made.to,
      ...(change.other && { kind, sill, head, leaves, assumed }),
      ...(!assumed.includes('swing') && { hung, opens }),
    };
  const isMade =
    isAt(o.from, next.from) &&
    isAt(o.to, next.to) &&
    o.kind === next.kind &&
    o.hung === next.hung &&
    o.opens === next.opens;
  return isMade
    ? null
    : withOpenings(
        wall,
        (wall.openings ?? []).map((p) => (p === o ? next : p)),
      );
}
const isAt = (p: Pair, q: Pair): boolean => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_EDGE;
/** Edges of openings within this are at one place, millimetres. */
const SAME_EDGE = 0.5;
const some = (c: Change | null): Change[] => (c ? [c] : []);
const isNearer = (v: number, a: number, b: number): boolean => Math.abs(v - a) < Math.abs(v - b);

const bandSeen = ({ seen, placement }: SeenIssue, n: number): Band => bandOn(seen.walls[n], n, placement);

/** Both running one way. */
function alongOneWay(a: Band, b: Band): [Band, Band] {
  return a.ux * b.ux + a.uy * b.uy >= 0 ? [a, b] : [a, bandBetween(b.n, b.to, b.from, b.thickness)];
}

/** The middle of a wall as it is traced. */
function middleOf(w: Wall): Band {
  const b = bandOf(w),
    off = (b.left - b.right) / 2;
  return bandBetween(-1, pointAt(b, 0, off), pointAt(b, b.length, off), w.thickness);
}

/** Straight walls that were traced from one that is seen. */
function tracedFrom(model: Model, planeId: string, seen: Band): Wall[] {
  return ofType(model, 'wall').filter((w) => {
    if (w.planeId !== planeId || w.curve || Math.abs(w.thickness - seen.thickness) > TRACED) return false;
    const m = middleOf(w),
      beside = isParallel(seen, m) ? besideOf(m, seen) : null;
    return (
      beside !== null && Math.abs(offsetOf(seen, m)) <= TRACED && beside[1] - beside[0] >= 0.5 * m.length
    );
  });
}

/** Is most of a wall that is seen traced? */
function isTraced(model: Model, planeId: string, seen: Band): boolean {
  const covered = tracedFrom(model, planeId, seen).reduce((sum, w) => {
    const part = besideOf(seen, middleOf(w));
    return sum + (part ? part[1] - part[0] : 0);
  }, 0);
  return covered >= 0.5 * seen.length;
}

/** Bent walls that were traced from one that is seen. */
function bentFrom(model: Model, planeId: string, { seen, placement }: SeenIssue, n: number): Wall[] {
  const { from, to } = seen.walls[n],
    ends = [from, to].map((p) => applyTransform(placement, p)),
    near = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]) < TRACED;
  return ofType(model, 'wall').filter(
    (w) =>
      w.planeId === planeId &&
      w.curve &&
      ((near(w.from, ends[0]) && near(w.to, ends[1])) || (near(w.from, ends[1]) && near(w.to, ends[0]))),
  );
}

/** Does a wall lie nearer to where it was seen than to where it is seen now? */
function isNearerBand(w: Wall, o: Band, n: Band): boolean {
  const m = middleOf(w);
  return Math.abs(offsetOf(o, m)) < Math.abs(offsetOf(n, m));
}

/** A wall moved as what it was traced from, its ends where that ends now, its drawn line where it lies in it. */
function moved(w: Wall, o: Band, n: Band, by: Pair, thicker: number): Change | null {
  const next: Wall = { ...w, thickness: w.thickness + thicker },
    [a, b] = [middleOf(w), middleOf(next)],
    // A line on a face: its middle goes with the thickness.
    own: Point = [b.from[0] - a.from[0], b.from[1] - a.from[1]],
    shift: Point = [by[0] - own[0], by[1] - own[1]];
  const at = (p: Pair): Pair => {
    const t = localTo(o, p)[0],
      // So far the end of what it was traced from has moved along.
      along =
        Math.abs(t) <= reachOf(o)
          ? localTo(o, n.from)[0]
          : Math.abs(t - o.length) <= reachOf(o)
            ? localTo(o, n.to)[0] - o.length
            : 0;
    return pairOf([p[0] + shift[0] + along * o.ux, p[1] + shift[1] + along * o.uy]);
  };
  const place = (p: Pair): Pair => pairOf([p[0] + shift[0], p[1] + shift[1]]);
  return setFields(w, {
    from: at(w.from),
    to: at(w.to),
    thickness: next.thickness,
    ...(w.openings && {
      openings: w.openings.map((q) => ({ ...q, from: place(q.from), to: place(q.to) })),
    }),
  });
}
const reachOf = (o: Band): number => AT_END + o.thickness / 2;

/** A wall with those of its ends moved along that lie where the seen one ended. */
function stretched(w: Wall, o: Band, ends: readonly { at: Point; by: number }[]): Change | null {
  const at = (p: Pair): Pair => {
    const t = localTo(o, p)[0],
      end = ends.find((e) => {
        const was = localTo(o, e.at)[0];
        // Not one that has been moved there already.
        return Math.abs(t - was) <= reachOf(o) && isNearer(t, was, was + e.by);
      });
    return end ? pairOf([p[0] + end.by * o.ux, p[1] + end.by * o.uy]) : p;
  };
  const [from, to] = [at(w.from), at(w.to)];
  if (from === w.from && to === w.to) return null;
  return Math.hypot(to[0] - from[0], to[1] - from[1]) < 1 ? null : setFields(w, { from, to });
}

type Issue = 'older' | 'newer';
const openingSeen = (of: MadeOf, issue: Issue, n: number) => of[issue].seen.openings[n];

/** Where an opening is seen, its wall moved by so much. */
function placeOf(of: MadeOf, issue: Issue, n: number, by: Pair): Point {
  const [x, y] = applyTransform(of[issue].placement, openingSeen(of, issue, n).at);
  return [x + by[0], y + by[1]];
}

/** The traced opening of an older one, whether its wall has been moved or not. */
const openingBefore = (model: Model, of: MadeOf, change: { older: number; with: Pair }) =>
  openingAt(model, of, 'older', change.older) ?? openingAt(model, of, 'older', change.older, change.with);

/** The traced wall in which an opening that is seen lies. */
function wallUnder(model: Model, of: MadeOf, issue: Issue, n: number, by: Pair = [0, 0]): Wall | null {
  const seen = openingSeen(of, issue, n),
    at = placeOf(of, issue, n, by);
  return (
    ofType(model, 'wall').find((w) => {
      if (w.planeId !== of.planeId || w.curve) return false;
      const m = middleOf(w),
        [t, v] = localTo(m, at);
      return Math.abs(v) <= TRACED && t > 0 && t < m.length && isParallel(m, bandSeen(of[issue], seen.wall));
    }) ?? null
  );
}

/** The traced opening where one is seen. */
function openingAt(
  model: Model,
  of: MadeOf,
  issue: Issue,
  n: number,
  by: Pair = [0, 0],
): { wall: Wall; o: WallOpening } | null {
  const seen = openingSeen(of, issue, n),
    wall = wallUnder(model, of, issue, n, by);
  if (!wall) return null;
  const at = localTo(asBand(bandOf(wall)), placeOf(of, issue, n, by))[0],
    [best] = openingsOf(wall)
      .map(({ opening, from, to }) => ({ opening, off: Math.abs((from + to) / 2 - at) }))
      .filter(({ off }) => off <= seen.width / 2)
      .sort((a, b) => a.off - b.off);
  return best ? { wall, o: best.opening } : null;
}
const asBand = (b: WallBand): Band => bandBetween(-1, b.from, b.to, b.left + b.right);

/** An opening as it would be taken, on the line of a wall that is traced. */
function openingTaken(wall: Wall, of: MadeOf, n: number, id?: string): WallOpening {
  const seen = openingSeen(of, 'newer', n),
    taken = wallTaken(of.newer.seen.walls[seen.wall], [seen], of.newer.placement, {
      height: wall.height,
      heightAssumed: wall.heightAssumed,
    }).openings![0],
    line = asBand(bandOf(wall)),
    onLine = (p: Pair): Pair => {
      const t = localTo(line, p)[0];
      return pairOf([line.from[0] + t * line.ux, line.from[1] + t * line.uy]);
    };
  const ids = new Set((wall.openings ?? []).map((o) => o.id));
  let free = 1;
  while (ids.has(`o${free}`)) free++;
  return { ...taken, id: id ?? `o${free}`, from: onLine(taken.from), to: onLine(taken.to) };
}

const withOpenings = (wall: Wall, openings: WallOpening[]): Change | null =>
  setFields(wall, { openings: openings.length > 0 ? openings : null });
