import { isDashed, straightened, undashed, type Angled } from './ink-lines.ts';
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
