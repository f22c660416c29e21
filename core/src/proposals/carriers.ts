import { joined } from './spans.ts';
import type { Stroke } from './strokes.ts';

/** A straight line without ends on which strokes lie; `off` and what is drawn in the measure of its way. */
export interface Carrier {
  /** How far from the sheet's zero, across its way. */
  off: number;
  /** What of it is drawn, in order and apart. */
  drawn: [number, number][];
  /** How much of it each pen drew, points. */
  pens: Map<string, number>;
  /** How wide what drew it is, points. */
  width: number;
  /** Ink in many short pieces, like an axis: nothing that lies within a wall. */
  dashed: boolean;
  /** The share of it that may be lines of hatches. */
  hatch: number;
}

/** All carriers that run one way. */
export interface Way {
  /** Radians from 0 to below a half turn. */
  angle: number;
  /** In order of how far off they lie. */
  carriers: Carrier[];
}

/** Lines run the same way within this, radians; they lie on one carrier within this share of a point more than `near`. */
const SAME_WAY = 2.5e-3;
/** Ways with less drawn than this share of all are none that walls run. */
const LEAST_SHARE = 0.002;

/** A stroke with its length and the way in which it runs, from 0 to below a half turn. */
interface Angled {
  stroke: Stroke;
  length: number;
  angle: number;
}

/** Ink runs one way within this, radians: the more surely the longer it is, so that the cube of its length tells the way. */
const INK_WAY = 0.006,
  /** Ways of ink with less drawn than this share are none. */
  LEAST_OF_INK = 0.01,
  MOST_OF_INK = 40,
  /** Ink strays from its way by no more than this, however short it is. */
  MOST_ASTRAY = 0.06;

/** Strokes read from ink, as running the ways that its long ones run: short ones tell their way badly. `slack`: how far a place may lie off, points. */
function straightened(angled: readonly Angled[], slack: number): Angled[] {
  const all = angled.reduce((sum, s) => sum + s.length, 0),
    mains: number[] = [],
    left = [...angled].sort((a, b) => b.length - a.length).slice(0, LONGEST_OF_INK);
  while (mains.length < MOST_OF_INK && left.length > 0) {
    const by = [...left].sort((a, b) => a.angle - b.angle);
    let best: Angled[] = [],
      most = 0,
      sum = 0;
    for (let i = 0, j = 0; i < by.length; i++) {
      sum += by[i].length;
      while (by[i].angle - by[j].angle > INK_WAY) sum -= by[j++].length;
      if (sum > most) [most, best] = [sum, by.slice(j, i + 1)];
    }
    if (most < LEAST_OF_INK * all) break;
    const weight = best.reduce((x, s) => x + s.length ** 3, 0),
      angle = best.reduce((x, s) => x + s.length ** 3 * s.angle, 0) / weight;
    mains.push(angle);
    for (let i = left.length - 1; i >= 0; i--)
      if (turnBetween(left[i].angle, angle) <= 2 * INK_WAY) left.splice(i, 1);
  }
  return angled.flatMap((s) => {
    const reach = Math.min(MOST_ASTRAY, Math.max(INK_WAY, slack / s.length)),
      [main] = mains
        .map((angle) => ({ angle, off: turnBetween(angle, s.angle) }))
        .filter((m) => m.off <= reach)
        .sort((a, b) => a.off - b.off);
    return main ? [{ ...s, angle: main.angle }] : [];
  });
}
/** So many of the longest tell the ways. */
const LONGEST_OF_INK = 4000;

/** Dashes lie no farther apart than this and are on the whole no longer, points; so many make a row. */
const DASH = { gap: 9, length: 32, row: 5, least: 0.25 };

/** Is a line of ink all in short pieces, over a long way? */
function isDashed(drawn: readonly [number, number][]): boolean {
  const lengths = drawn.map(([a, b]) => b - a).sort((a, b) => a - b);
  return (
    lengths.length > DASH.row &&
    lengths[lengths.length >> 1] <= DASH.length &&
    lengths.at(-1)! <= 2 * DASH.length
  );
}

/** What of a line of ink is no row of dashes: a file tells its dashed pens, a scan shows single strokes. */
function undashed(drawn: readonly [number, number][]): [number, number][] {
  const rows: [number, number][][] = [];
  for (const s of drawn) {
    const last = rows.at(-1)?.at(-1);
    if (last && s[0] - last[1] <= DASH.gap) rows.at(-1)!.push(s);
    else rows.push([s]);
  }
  return rows.flatMap((row) => {
    if (row.length < DASH.row) return row;
    const lengths = row.map(([a, b]) => b - a).sort((a, b) => a - b),
      filled = lengths.reduce((x, y) => x + y, 0) / (row.at(-1)![1] - row[0][0]),
      isRow = lengths[lengths.length >> 1] <= DASH.length && filled >= DASH.least;
    // A line along which dashes go on stays as far as it is longer than they are.
    return isRow ? row.filter(([a, b]) => b - a > 3 * DASH.length) : row;
  });
}

/** The turn between two ways, 0 to a quarter turn. */
function turnBetween(a: number, b: number): number {
  const d = Math.abs(a - b) % Math.PI;
  return Math.min(d, Math.PI - d);
}

/** Strokes by the ways in which they run and the lines on which they lie; `near`: what lies so near is one line, points; `slack`: how far places of ink may lie off, 0 of lines. */
export function waysOf(strokes: readonly Stroke[], near: number, slack = 0): Way[] {
  const own = strokes.map((stroke): Angled => {
      const { from, to } = stroke,
        angle = Math.atan2(to[1] - from[1], to[0] - from[0]),
        length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      return { stroke, length, angle: ((angle % Math.PI) + Math.PI) % Math.PI };
    }),
    angled = (slack > 0 ? straightened(own, slack) : own).sort((a, b) => a.angle - b.angle),
    all = angled.reduce((sum, s) => sum + s.length, 0);
  // What runs nearly level may be told from either end of the half turn.
  const groups: (typeof angled)[] = [];
  for (const s of angled) {
    const last = groups.at(-1);
    if (last && s.angle - last.at(-1)!.angle <= SAME_WAY) last.push(s);
    else groups.push([s]);
  }
  const [first] = groups,
    end = groups.at(-1);
  if (first && end && first !== end && first[0].angle + Math.PI - end.at(-1)!.angle <= SAME_WAY) {
    groups.pop();
    first.unshift(...end.map((s) => ({ ...s, angle: s.angle - Math.PI })));
  }
  return groups.flatMap((group): Way[] => {
    const length = group.reduce((sum, s) => sum + s.length, 0);
    if (length < LEAST_SHARE * all) return [];
    const angle = group.reduce((sum, s) => sum + s.length * s.angle, 0) / length,
      [ux, uy] = [Math.cos(angle), Math.sin(angle)],
      rows = group
        .map(({ stroke, length: own }) => {
          const [s, t] = [stroke.from, stroke.to].map(([x, y]) => x * ux + y * uy).sort((a, b) => a - b),
            [v, w] = [stroke.from, stroke.to].map(([x, y]) => -x * uy + y * ux);
          return {
            s,
            t,
            off: (v + w) / 2,
            pen: stroke.pen,
            width: stroke.width,
            own,
            hatched: stroke.hatch ? own : 0,
          };
        })
        .sort((a, b) => a.off - b.off);
    const carriers: (Carrier & { last: number; weight: number })[] = [];
    for (const r of rows) {
      const last = carriers.at(-1);
      if (last && r.off - last.last <= near) {
        last.off = (last.off * last.weight + r.off * r.own) / (last.weight + r.own);
        last.width = (last.width * last.weight + r.width * r.own) / (last.weight + r.own);
        last.weight += r.own;
        last.hatch += r.hatched;
        last.last = r.off;
        last.drawn.push([r.s, r.t]);
        last.pens.set(r.pen, (last.pens.get(r.pen) ?? 0) + r.own);
      } else
        carriers.push({
          off: r.off,
          last: r.off,
          width: r.width,
          dashed: false,
          weight: r.own,
          drawn: [[r.s, r.t]],
          pens: new Map([[r.pen, r.own]]),
          hatch: r.hatched,
        });
    }
    return [
      {
        angle,
        carriers: carriers.map(({ off, drawn, pens, width, hatch, weight }) => ({
          off,
          width,
          dashed: slack > 0 && isDashed(joined(drawn, near)),
          drawn: slack > 0 ? undashed(joined(drawn, near)) : joined(drawn, near),
          pens,
          hatch: hatch / weight,
        })),
      },
    ];
  });
}
