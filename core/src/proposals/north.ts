import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { middleOf } from './grid.ts';
import type { ProposedGridLine, ProposedNorth } from './types.ts';

/** What says where north is. */
const NORTH = /^(?:n|north)$/i;
/** An arrow lies so near to its letter, and is between so long; it points at the letter within this; points. */
const NEAR = 60,
  LENGTH = [10, 160] as const,
  AIMS = 5;
/** The head of an arrow: lines from its tip, or an edge of a fill there, turned from it by between these, radians. */
const AT_TIP = 2.5,
  HEAD = [0.12, 1.1] as const;

/** Where north is on a sheet, by an arrow whose head points at its letter; null where none is. */
export function northOf(l: Linework, grid: readonly ProposedGridLine[]): ProposedNorth | null {
  const letters = l.texts.filter(
    (t) => NORTH.test(t.text.trim()) && !grid.some((g) => g.name === t.text.trim()),
  );
  if (letters.length === 0 || letters.length > MOST_LETTERS) return null;
  let best: { found: ProposedNorth; length: number } | null = null;
  for (const t of letters) {
    const { x, y } = middleOf(t),
      lines = linesNear(l, x, y);
    for (const [x0, y0, x1, y1] of lines) {
      const isSecond = Math.hypot(x1 - x, y1 - y) < Math.hypot(x0 - x, y0 - y),
        [tip, foot] = isSecond
          ? [
              [x1, y1],
              [x0, y0],
            ]
          : [
              [x0, y0],
              [x1, y1],
            ],
        length = Math.hypot(x1 - x0, y1 - y0),
        [ux, uy] = [(tip[0] - foot[0]) / length, (tip[1] - foot[1]) / length];
      if (length < LENGTH[0] || length > LENGTH[1] || (best && best.length >= length)) continue;
      const ahead = (x - foot[0]) * ux + (y - foot[1]) * uy,
        aside = Math.abs(-(x - foot[0]) * uy + (y - foot[1]) * ux);
      if (ahead < 0.5 * length || aside > AIMS || !hasHead(lines, tip, [ux, uy])) continue;
      best = {
        length,
        found: { at: [(x0 + x1) / 2, (y0 + y1) / 2], direction: Math.atan2(uy, ux), size: length },
      };
    }
  }
  return best?.found ?? null;
}
const MOST_LETTERS = 20;

function linesNear(l: Linework, x: number, y: number): [number, number, number, number][] {
  const out: [number, number, number, number][] = [];
  for (const [lines, kinds, style] of [
    [l.segments, l.segmentKind, l.segmentStyle],
    [l.fillEdges, l.fillEdgeKind, l.fillEdgeStyle],
  ] as const)
    for (let i = 0; i < kinds.length; i++) {
      const kind = ITEM_KINDS_OF_SHEET[kinds[i]],
        layer = style[2 * i];
      if (kind === 'text' || kind === 'markup' || (layer >= 0 && l.layers[layer]?.on === false)) continue;
      const [x0, y0, x1, y1] = lines.subarray(4 * i, 4 * i + 4);
      if (Math.min(Math.hypot(x0 - x, y0 - y), Math.hypot(x1 - x, y1 - y)) <= NEAR)
        out.push([x0, y0, x1, y1]);
    }
  return out;
}

/** Do lines lead back from a tip at both sides of the way of the arrow, as a head does? */
function hasHead(
  lines: readonly (readonly [number, number, number, number])[],
  [x, y]: readonly number[],
  [ux, uy]: readonly [number, number],
): boolean {
  const sides = new Set<number>();
  for (const [x0, y0, x1, y1] of lines)
    for (const [ax, ay, bx, by] of [
      [x0, y0, x1, y1],
      [x1, y1, x0, y0],
    ]) {
      if (Math.hypot(ax - x, ay - y) > AT_TIP) continue;
      const length = Math.hypot(bx - ax, by - ay);
      if (length < 1) continue;
      const back = -((bx - ax) * ux + (by - ay) * uy) / length,
        aside = ((bx - ax) * -uy + (by - ay) * ux) / length,
        turn = Math.atan2(Math.abs(aside), back);
      if (turn >= HEAD[0] && turn <= HEAD[1]) sides.add(Math.sign(aside));
    }
  return sides.size === 2;
}
