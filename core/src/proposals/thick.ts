import type { Way } from './carriers.ts';
import type { Run } from './runs.ts';
import { joined, total, type Span } from './spans.ts';
import type { Stroke } from './strokes.ts';

/** Walls drawn by one thick line are between so thick, millimetres; their pen is so wide, points; and so much wider than what draws most. */
const THINNEST = 60,
  THICKEST = 800,
  LEAST_PEN = 1.1,
  WIDER = 2.4;
/** Walls are so much of all that is drawn at least; a frame and a few marks are less. */
const LEAST_DRAWN = 0.04;
/** Where more of what a pen draws than this is a face of something, it draws faces. */
const FACES = 0.4;
/** Such a wall runs on across an opening no wider than this, millimetres. */
const WIDEST_OPENING = 3200;

/** The pens that draw walls as one thick line each. */
export function thickPens(
  strokes: readonly Stroke[],
  mm: number,
  shares: ReadonlyMap<string, number>,
): Set<string> {
  const byPen = new Map<string, { width: number; length: number; count: number }>();
  let all = 0;
  for (const s of strokes) {
    if (s.filled) continue;
    const length = Math.hypot(s.to[0] - s.from[0], s.to[1] - s.from[1]),
      known = byPen.get(s.pen) ?? { width: s.width, length: 0, count: 0 };
    known.length += length;
    known.count++;
    all += length;
    byPen.set(s.pen, known);
  }
  // The width at which half of all that is drawn is drawn.
  let half = 0,
    usual = 0;
  for (const { width, length } of [...byPen.values()].sort((a, b) => a.width - b.width)) {
    half += length;
    usual = width;
    if (half >= all / 2) break;
  }
  const usualFine = Math.min(
    usual,
    ...[...byPen.values()].filter((p) => p.length > 0.05 * all).map((p) => p.width),
  );
  return new Set(
    [...byPen]
      .filter(
        ([pen, { width, length, count }]) =>
          width >= LEAST_PEN &&
          width * mm >= THINNEST &&
          width * mm <= THICKEST &&
          width >= WIDER * usualFine &&
          length >= LEAST_DRAWN * all &&
          (shares.get(pen) ?? 0) < FACES &&
          length / count > 2 * width,
      )
      .map(([pen]) => pen),
  );
}

/** The runs that thick lines of one pen draw; `ways`: of these lines alone, numbered from `first`; `beyond`: so much each goes on behind its ends. */
export function thickRuns(
  ways: readonly Way[],
  width: number,
  mm: number,
  first: number,
  beyond = width / 2,
): Run[] {
  return ways.flatMap(({ carriers }, w) =>
    carriers.flatMap((c, i): Run[] => {
      const rows: Span[][] = [];
      for (const s of joined(c.drawn)) {
        const last = rows.at(-1)?.at(-1);
        if (last && (s[0] - last[1]) * mm <= WIDEST_OPENING) rows.at(-1)!.push(s);
        else rows.push([s]);
      }
      return rows.flatMap((both): Run[] => {
        const [from, to] = [both[0][0], both.at(-1)![1]],
          drawn = total(both);
        if (to - from < width) return [];
        return [
          {
            way: first + w,
            low: i,
            high: i,
            offs: [c.off - width / 2, c.off + width / 2],
            from: from - beyond,
            to: to + beyond,
            // Ends are round or square: half a width beyond.
            both: joined(both.map(([a, b]): Span => [a - beyond, b + beyond])),
            score: 0.9 * drawn,
            confidence: 0.9 * Math.min(1, (to - from) / (1.5 * width)),
            thick: true,
            open: false,
            doubts: [],
          },
        ];
      });
    }),
  );
}
