import { applyTransform, meanScale, type Point } from '../../geometry/index.ts';
import type { Pair } from '../../model/index.ts';
import type { ProposedOpening } from '../types.ts';
import {
  bandsOn,
  besideOf,
  isAsThick,
  isParallel,
  lengthOf,
  localTo,
  offsetOf,
  uncoveredBy,
  type Band,
} from './bands.ts';
import type { OwnLines, SeenChange, SeenIssue } from './types.ts';

/** Lines nearer than this are the same (see compareLines), sheet points: less is no move. */
const SAME_PLACE = 0.5;
/** A wall is another when so much of it lies on none of the other issue. */
const MOST = 0.6;
/** Walls move no farther than this square to themselves, millimetres: beyond it one is gone and another new. */
const FARTHEST = 3000;
/** Ends differ by at least this, millimetres: where lines end is less sure than where they lie. */
const LEAST_END = 30;
/** Lines of one issue alone speak of a wall where so much of its length has some beside it. */
const SPOKEN = 0.25;

/**
 * What of the walls and openings that two issues of a sheet show is not the same. Only what lines tell that one of them alone has:
 * that the same lines were seen otherwise is no change.
 */
export function changesSeen(older: SeenIssue, newer: SeenIssue, lines: OwnLines): SeenChange[] {
  const olds = bandsOn(older.seen.walls, older.placement),
    news = bandsOn(newer.seen.walls, newer.placement),
    least = SAME_PLACE * meanScale(newer.placement),
    taken = new Set<Band>(),
    out: SeenChange[] = [];
  const isOn = (a: Band) => (b: Band) =>
      Math.abs(offsetOf(a, b)) <= least && isAsThick(a.thickness, b.thickness),
    other = new Map<Band, number>([
      ...olds.map((a) => [a, lengthOf(uncoveredBy(a, news, isOn(a))) / a.length] as const),
      ...news.map((a) => [a, lengthOf(uncoveredBy(a, olds, isOn(a))) / a.length] as const),
    ]),
    isOther = (b: Band) => !taken.has(b) && other.get(b)! >= MOST,
    isGone = (b: Band) => speak(lines.gone, b) >= SPOKEN,
    isAdded = (b: Band) => speak(lines.added, b) >= SPOKEN;

  // Pairs of walls that are the same wall, changed: the nearest first.
  const pairs = olds
    .filter(isOther)
    .flatMap((o) =>
      news
        .filter((n) => isOther(n) && isParallel(o, n))
        .map((n) => ({ o, n, off: offsetOf(o, n), beside: besideOf(o, n) })),
    )
    .filter(
      ({ o, n, off, beside }) =>
        Math.abs(off) <= FARTHEST &&
        beside !== null &&
        beside[1] - beside[0] >= MOST * Math.max(o.length, n.length),
    )
    .sort((a, b) => Math.abs(a.off) - Math.abs(b.off));
  for (const { o, n, off } of pairs) {
    if (taken.has(o) || taken.has(n)) continue;
    const by: [number, number] = [-off * o.uy, off * o.ux],
      isThick = isAsThick(o.thickness, n.thickness);
    if (!isThick && Math.abs(off) > Math.max(o.thickness, n.thickness) / 2 + least) continue;
    if (!isGone(o) && !isAdded(n)) continue;
    taken.add(o);
    taken.add(n);
    out.push(
      isThick
        ? { kind: 'wall-moved', older: o.n, newer: n.n, by }
        : { kind: 'wall-thickness', older: o.n, newer: n.n, by, from: o.thickness, to: n.thickness },
    );
  }
  const moved = new Map(out.flatMap((c) => ('older' in c && 'newer' in c ? [[c.older, c] as const] : [])));
  for (const o of olds) {
    if (taken.has(o)) continue;
    const ends = isOther(o) ? null : endsOf(o, news, isOn(o), olds, lines, least);
    if (ends) out.push(ends);
    else if (isOther(o) && isGone(o)) {
      taken.add(o);
      out.push({ kind: 'wall-gone', older: o.n });
    }
  }
  for (const n of news)
    if (isOther(n) && isAdded(n)) {
      taken.add(n);
      out.push({ kind: 'wall-new', newer: n.n });
    }
  return [
    ...out,
    ...bentChanges(older, newer, lines, least),
    ...openingChanges({ older, newer, lines, least, olds, news, taken, moved }),
  ];
}

/** What share of a band has lines beside it that run as it does, or across it where they lie within it. */
function speak(lines: OwnLines['gone'], b: Band): number {
  const half = b.thickness / 2 + NEAR;
  let sum = 0;
  for (const [x0, y0, x1, y1] of lines) {
    const [s, v] = localTo(b, [x0, y0]),
      [e, w] = localTo(b, [x1, y1]);
    if (Math.abs(v) > half || Math.abs(w) > half) continue;
    sum += Math.max(0, Math.min(b.length, Math.max(s, e)) - Math.max(0, Math.min(s, e)));
  }
  // Two faces make one wall.
  return sum / 2 / b.length;
}
/** Lines of a face lie so near to where it is seen, millimetres. */
const NEAR = 15;

/** Is a line drawn, by one issue alone, around a place? */
function isTold({ added, gone }: OwnLines, [x, y]: Point, reach: number): boolean {
  const near = (line: readonly number[]) =>
    ENDS_AND_MIDDLE.some((t) => {
      const dx = line[0] + t * (line[2] - line[0]) - x,
        dy = line[1] + t * (line[3] - line[1]) - y;
      return dx * dx + dy * dy <= reach * reach;
    });
  return added.some(near) || gone.some(near);
}

const ENDS_AND_MIDDLE = [0, 0.5, 1] as const;

/** Where a wall that is there still ends otherwise. */
function endsOf(
  o: Band,
  news: readonly Band[],
  isOn: (b: Band) => boolean,
  olds: readonly Band[],
  lines: OwnLines,
  least: number,
): SeenChange | null {
  const [best] = news
    .filter((n) => isParallel(o, n) && isOn(n))
    .map((n) => ({ n, beside: besideOf(o, n) }))
    .filter((c) => c.beside !== null)
    .sort((a, b) => b.beside![1] - b.beside![0] - (a.beside![1] - a.beside![0]));
  if (!best) return null;
  const { n } = best,
    [from, to] = [localTo(o, n.from)[0], localTo(o, n.to)[0]],
    limit = Math.max(least, LEAST_END);
  // Longer only where no other wall was, shorter only where none is now: walls in line are told apart as it happens.
  const isNews = (a: Band, s: number, e: number, others: readonly Band[]): boolean => {
    if (Math.abs(e - s) <= limit) return false;
    const at = (t: number): Point => [o.from[0] + t * o.ux, o.from[1] + t * o.uy],
      middle = at((s + e) / 2),
      isThere = others.some((b) => {
        const [t, v] = localTo(b, middle);
        return isParallel(a, b) && Math.abs(v) <= least && t > 0 && t < b.length;
      });
    return !isThere && isTold(lines, middle, Math.abs(e - s) / 2 + o.thickness + limit);
  };
  const at = {
    from: isNews(o, 0, from, from < 0 ? olds : news) ? -from : 0,
    to: isNews(o, o.length, to, to > o.length ? olds : news) ? to - o.length : 0,
  };
  return at.from === 0 && at.to === 0 ? null : { kind: 'wall-ends', older: o.n, newer: n.n, at };
}

/** Bent walls that only one issue has. */
function bentChanges(older: SeenIssue, newer: SeenIssue, lines: OwnLines, least: number): SeenChange[] {
  const arcs = ({ seen, placement }: SeenIssue) =>
    seen.walls.flatMap((w, n) =>
      w.arc
        ? [
            {
              n,
              ends: [w.from, w.to].map((p) => applyTransform(placement, p)),
              radius: w.arc.radius * meanScale(placement),
              thickness: w.thickness,
            },
          ]
        : [],
    );
  type Bent = ReturnType<typeof arcs>[number];
  const isSame = (a: Bent) => (b: Bent) =>
    isAsThick(a.thickness, b.thickness) &&
    Math.abs(a.radius - b.radius) <= 2 * least + 20 &&
    [0, 1].every((i) =>
      b.ends.some((p) => Math.hypot(p[0] - a.ends[i][0], p[1] - a.ends[i][1]) <= 2 * least + LEAST_END),
    );
  const [olds, news] = [arcs(older), arcs(newer)],
    isSpoken = (a: Bent, own: OwnLines['gone']) =>
      a.ends.some((p) => isTold({ added: own, gone: [] }, p, a.thickness + a.radius / 2));
  return [
    ...olds
      .filter((a) => !news.some(isSame(a)) && isSpoken(a, lines.gone))
      .map(({ n }): SeenChange => ({ kind: 'wall-gone', older: n })),
    ...news
      .filter((a) => !olds.some(isSame(a)) && isSpoken(a, lines.added))
      .map(({ n }): SeenChange => ({ kind: 'wall-new', newer: n })),
  ];
}

/** Two openings are one, moved or made wider, when their middles are no farther apart than this share of the wider. */
const SAME_OPENING = 0.6;

interface OpeningsOf {
  older: SeenIssue;
  newer: SeenIssue;
  lines: OwnLines;
  least: number;
  olds: readonly Band[];
  news: readonly Band[];
  taken: ReadonlySet<Band>;
  moved: ReadonlyMap<number, SeenChange>;
}

/** Of what went with its wall no line need tell that it is elsewhere now. */
const isMoved = (a: { with: Pair }): boolean => a.with[0] !== 0 || a.with[1] !== 0;

/** Openings that changed in walls that both issues have; those of walls that are gone or new go with them. */
function openingChanges({ older, newer, lines, least, olds, news, taken, moved }: OpeningsOf): SeenChange[] {
  const limit = Math.max(least, LEAST_END),
    oldWall = new Map(olds.map((b) => [b.n, b])),
    newWall = new Map(news.map((b) => [b.n, b])),
    kept = new Set([...moved.values()].flatMap((c) => ('newer' in c ? [c.newer] : [])));
  const places = newer.seen.openings.map((o, n) => ({ o, n, at: applyTransform(newer.placement, o.at) })),
    used = new Set<number>(),
    out: SeenChange[] = [];
  const was = older.seen.openings.flatMap((o, n) => {
    const wall = oldWall.get(o.wall),
      change = moved.get(o.wall),
      by: Pair = change && 'by' in change && Array.isArray(change.by) ? change.by : [0, 0];
    if (!wall || (taken.has(wall) && !change)) return [];
    const [x, y] = applyTransform(older.placement, o.at);
    return [{ o, n, wall, at: [x + by[0], y + by[1]] as Point, with: by }];
  });
  // Those that are the same first, then the nearest.
  const pairs = was
    .flatMap((a) =>
      places.flatMap((b) => {
        const [t, v] = localTo(a.wall, b.at),
          [s, u] = localTo(a.wall, a.at),
          isHere = Math.abs(v - u) <= a.wall.thickness / 2 + limit;
        return isHere ? [{ a, b, by: t - s, wider: b.o.width - a.o.width }] : [];
      }),
    )
    .sort((p, q) => Math.abs(p.by) + Math.abs(p.wider) - Math.abs(q.by) - Math.abs(q.wider));
  /** Do leaves of single doors hang at the other edge, or open to the other side? Where both swings are seen. */
  const isHungOtherwise = (
    a: { o: ProposedOpening; at: Point },
    b: { o: ProposedOpening; at: Point },
  ): boolean => {
    if (!a.o.swing || !b.o.swing || a.o.leaves !== 1 || b.o.leaves !== 1) return false;
    const from = (o: ProposedOpening, { placement }: SeenIssue): Point => {
      const [hx, hy] = applyTransform(placement, o.swing!.hinge),
        [x, y] = applyTransform(placement, o.at);
      return [hx - x, hy - y];
    };
    const [p, q] = [from(a.o, older), from(b.o, newer)];
    return p[0] * q[0] + p[1] * q[1] < 0 || a.o.swing.clockwise !== b.o.swing.clockwise;
  };
  const done = new Set<number>();
  const pair = (isMeant: (p: (typeof pairs)[number]) => boolean) => {
    for (const p of pairs) {
      const { a, b, by, wider } = p;
      if (done.has(a.n) || used.has(b.n) || !isMeant(p)) continue;
      done.add(a.n);
      used.add(b.n);
      const change = {
        by: Math.abs(by) > limit ? by : 0,
        wider: Math.abs(wider) > limit ? wider : 0,
        other: a.o.kind !== b.o.kind || (a.o.swing && b.o.swing ? a.o.leaves !== b.o.leaves : false),
        hung: isHungOtherwise(a, b),
      };
      const differs = change.by !== 0 || change.wider !== 0 || change.other || change.hung;
      if (differs && (isMoved(a) || isTold(lines, b.at, b.o.width) || isTold(lines, a.at, a.o.width)))
        out.push({ kind: 'opening-changed', older: a.n, newer: b.n, ...change, with: a.with });
    }
  };
  pair(({ a, b, by }) => Math.abs(by) <= SAME_OPENING * Math.max(a.o.width, b.o.width));
  pair(({ a, b, wider }) => a.o.kind === b.o.kind && Math.abs(wider) <= limit);
  for (const a of was)
    if (!done.has(a.n) && (isMoved(a) || isTold(lines, a.at, a.o.width)))
      out.push({ kind: 'opening-gone', older: a.n, with: a.with });
  for (const { o, n, at } of places) {
    const wall = newWall.get(o.wall);
    if (used.has(n) || !wall || (taken.has(wall) && !kept.has(o.wall))) continue;
    if (isTold(lines, at, o.width)) out.push({ kind: 'opening-new', newer: n });
  }
  return out;
}
