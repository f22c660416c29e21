import type { SheetPoint } from '../../geometry/index.ts';
import { roundingIn, type Figure } from '../../units/index.ts';
import { tolerance, type Agreement } from './consensus.ts';
import { lengthAt } from './fit-view.ts';
import type { Stretch, StretchFinder } from './line-pairs.ts';
import type { PrintedText } from './types.ts';
import { saysIn } from './views.ts';

/** How far a figure may be moved from its stretch without a leader, in heights, beyond its own half width. */
const MOVED = 6;
/** A leader's tip touches the line that it leads to, sheet points; and may end so far beside a small stretch. */
const TIP = 1.2;
/** A moved figure turned otherwise than its line has a leader, or is not of it. */
const SAME_TURN = 0.05;
const SAME_ENDS = 0.5;
/** Without a leader only small stretches give their figures away: so many widths of the figure. */
const SMALL = 1.6;

interface Offer {
  index: number;
  stretch: Stretch;
  cost: number;
}

/**
 * Figures that stand beside a crowded row, or out on a leader: each is given the free stretch near by that it says the
 * length of, the nearest first. Only where a scale is known already; what does not agree stays unread.
 */
export function moveHome(
  candidates: ReadonlyMap<number, Figure>,
  texts: readonly (PrintedText | null)[],
  finder: StretchFinder,
  agreements: readonly Agreement[],
  viewOf: (p: SheetPoint) => number,
): Offer[][] {
  const taken: Stretch[] = agreements.flatMap((a) => [...a.chosen.values()]);
  const offers: (Offer & { view: number })[] = [];
  for (const [index, figure] of candidates) {
    const t = texts[index]!,
      h = t.height;
    const middle: SheetPoint = [
      t.x + (Math.cos(t.radians) * t.width) / 2 - Math.sin(t.radians) * 0.35 * h,
      t.y + (Math.sin(t.radians) * t.width) / 2 + Math.cos(t.radians) * 0.35 * h,
    ];
    const view = viewOf(middle);
    if (view < 0) continue;
    const { fit, units } = agreements[view],
      says = saysIn(figure, agreements[view]),
      allowed = tolerance(fit, roundingIn(figure, units.whole, units.decimal), says);
    const fits = (s: Stretch) =>
      Math.abs(lengthAt(fit, s.from, s.to) - says) <= allowed && !taken.some((o) => sameEnds(o, s));
    const inRow = (s: Stretch) => [...agreements[view].chosen.values()].some((c) => onOneLine(c, s));
    for (const { to: tip } of finder.leaders(t)) {
      for (const s of finder.stretchesNear(tip, Math.max(4 * h, 12), h))
        if (fits(s) && offLine(tip, s) < TIP) offers.push({ index, stretch: s, cost: offLine(tip, s), view });
    }
    const reach = MOVED * h + t.width / 2;
    for (const s of finder.stretchesNear(middle, reach, h)) {
      const turn = Math.abs(Math.sin(Math.atan2(s.to[1] - s.from[1], s.to[0] - s.from[0]) - t.radians));
      const away = Math.hypot((s.from[0] + s.to[0]) / 2 - middle[0], (s.from[1] + s.to[1]) / 2 - middle[1]);
      if (
        s.points <= SMALL * t.width &&
        (turn < SAME_TURN || turn > 1 - SAME_TURN) &&
        away <= reach &&
        fits(s) &&
        inRow(s)
      )
        offers.push({ index, stretch: s, cost: TIP + away + (turn > 0.5 ? 2 * h : 0), view });
    }
  }
  const out: Offer[][] = agreements.map(() => []),
    done = new Set<number>();
  for (const { view, ...o } of offers.sort((a, b) => a.cost - b.cost)) {
    if (done.has(o.index) || taken.some((s) => sameEnds(s, o.stretch))) continue;
    done.add(o.index);
    taken.push(o.stretch);
    out[view].push(o);
  }
  return out;
}

const near = (p: SheetPoint, q: SheetPoint) => Math.hypot(p[0] - q[0], p[1] - q[1]) < SAME_ENDS;
export const sameEnds = (a: Pick<Stretch, 'from' | 'to'>, b: Pick<Stretch, 'from' | 'to'>): boolean =>
  (near(a.from, b.from) && near(a.to, b.to)) || (near(a.from, b.to) && near(a.to, b.from));

/** Moved figures belong to rows of which others are read. */
const onOneLine = (a: Stretch, { from, to }: Stretch) =>
  [from, to].every(
    ([x, y]) =>
      Math.abs(-(x - a.from[0]) * (a.to[1] - a.from[1]) + (y - a.from[1]) * (a.to[0] - a.from[0])) <
      ON_LINE * a.points,
  );
const ON_LINE = 0.5;

/** How far a point is from a stretch. */
function offLine([x, y]: SheetPoint, { from, to, points }: Stretch): number {
  const ux = (to[0] - from[0]) / points,
    uy = (to[1] - from[1]) / points,
    t = Math.max(0, Math.min(points, (x - from[0]) * ux + (y - from[1]) * uy));
  return Math.hypot(from[0] + t * ux - x, from[1] + t * uy - y);
}
