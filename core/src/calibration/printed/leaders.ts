import type { SheetPoint } from '../../geometry/index.ts';
import type { LineIndex, PageText } from '../../linework/index.ts';
import { PARALLEL_SINE, TOUCH } from './marks.ts';

/** A leader begins this near to its text, in heights, and has so many bends. */
const LEADER_REACH = 0.8,
  LEADER_BENDS = 2;
/** A shoulder is at most so many widths of its figure long, and four heights. */
const SHOULDER = 2;

/** Where lines lead that begin at a text, bent or straight: the pieces of its leaders, each towards its tip; `s`: the segments that `lines` finds. */
export function leadersOf(
  text: PageText,
  lines: LineIndex,
  s: Float64Array,
): { from: SheetPoint; to: SheetPoint }[] {
  const h = text.height,
    ux = Math.cos(text.radians),
    uy = Math.sin(text.radians);
  const local = (x: number, y: number) => [
    (x - text.x) * ux + (y - text.y) * uy,
    -(x - text.x) * uy + (y - text.y) * ux,
  ];
  const beside = ([x, y]: SheetPoint) => {
    const [u, v] = local(x, y);
    return (
      u > -LEADER_REACH * h &&
      u < text.width + LEADER_REACH * h &&
      v > -LEADER_REACH * h &&
      v < h + LEADER_REACH * h
    );
  };
  const pieces: { from: SheetPoint; to: SheetPoint }[] = [],
    seen = new Set<number>();
  const follow = (x: number, y: number, left: number) => {
    for (const i of lines.inBox(x - TOUCH, y - TOUCH, x + TOUCH, y + TOUCH)) {
      if (seen.has(i)) continue;
      for (const k of [0, 2]) {
        if (Math.hypot(s[4 * i + k] - x, s[4 * i + k + 1] - y) > TOUCH) continue;
        seen.add(i);
        const end: SheetPoint = [s[4 * i + 2 - k], s[4 * i + 3 - k]];
        if (!beside(end)) pieces.push({ from: [s[4 * i + k], s[4 * i + k + 1]], to: end });
        if (left > 0) follow(end[0], end[1], left - 1);
        break;
      }
    }
  };
  const [mx, my] = [text.x + (ux * text.width) / 2, text.y + (uy * text.width) / 2],
    reach = text.width / 2 + (1 + LEADER_REACH) * h;
  for (const i of lines.inBox(mx - reach, my - reach, mx + reach, my + reach)) {
    const p = local(s[4 * i], s[4 * i + 1]),
      q = local(s[4 * i + 2], s[4 * i + 3]);
    // The shoulder of a leader runs along under its figure, farther than it.
    if (
      Math.abs(q[1] - p[1]) < PARALLEL_SINE * Math.abs(q[0] - p[0]) &&
      Math.abs(p[1]) < LEADER_REACH * h &&
      Math.max(p[0], q[0]) > 0.3 * text.width &&
      Math.min(p[0], q[0]) < 0.7 * text.width &&
      Math.abs(q[0] - p[0]) < SHOULDER * text.width + 4 * h &&
      !seen.has(i)
    ) {
      seen.add(i);
      for (const k of [0, 2]) follow(s[4 * i + k], s[4 * i + k + 1], LEADER_BENDS - 1);
    }
    for (const k of [0, 2])
      if (!seen.has(i) && beside([s[4 * i + k], s[4 * i + k + 1]]))
        follow(s[4 * i + k], s[4 * i + k + 1], LEADER_BENDS);
  }
  return pieces;
}
