import { ITEM_KINDS_OF_SHEET, type Linework, type PageText } from '../linework/index.ts';
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
  return arrowOfLines(l, letters) ?? arrowOfFill(l, letters);
}
const MOST_LETTERS = 20;

/** An arrow that is one filled shape is longer than it is wide by this, has no more corners, its other corners lie so much of its length behind its tip, and its sides are alike within this share of its width. */
const SLENDER = 1.25,
  MOST_CORNERS = 8,
  BEHIND = 0.2,
  ALIKE = 0.05;

/** A filled shape, alike at both sides, that runs out to one corner before a letter. */
function arrowOfFill(l: Linework, letters: readonly PageText[]): ProposedNorth | null {
  let best: ProposedNorth | null = null;
  for (const t of letters) {
    const { x, y } = middleOf(t);
    for (const corners of fillsNear(l, x, y)) {
      const far = ([px, py]: readonly [number, number]) => Math.hypot(px - x, py - y),
        [tip, ...others] = [...corners].sort((a, b) => far(a) - far(b)),
        mean = [0, 1].map((k) => corners.reduce((sum, p) => sum + p[k], 0) / corners.length),
        n = Math.hypot(tip[0] - mean[0], tip[1] - mean[1]);
      if (n < 1) continue;
      const [ux, uy] = [(tip[0] - mean[0]) / n, (tip[1] - mean[1]) / n],
        // How far behind its tip something lies, and beside its axis.
        local = ([px, py]: readonly [number, number]) => ({
          behind: (tip[0] - px) * ux + (tip[1] - py) * uy,
          aside: -(px - tip[0]) * uy + (py - tip[1]) * ux,
        }),
        rest = others.map(local),
        letter = local([x, y]),
        size = Math.max(...rest.map((p) => p.behind)),
        byAside = [...rest].sort((a, b) => a.aside - b.aside),
        [first, last] = [byAside[0], byAside[byAside.length - 1]],
        [right, left] = [first.aside, last.aside];
      if (letter.behind > 0 || Math.abs(letter.aside) > AIMS) continue;
      if (size < LENGTH[0] || size > LENGTH[1] || size < SLENDER * (left - right)) continue;
      if (rest.some((p) => p.behind < BEHIND * size)) continue;
      if (Math.abs(first.behind - last.behind) > ALIKE * size) continue;
      if (left - right < 1 || Math.abs(left + right) > ALIKE * (left - right)) continue;
      if (!best || size > best.size)
        best = {
          at: [tip[0] - (size / 2) * ux, tip[1] - (size / 2) * uy],
          direction: Math.atan2(uy, ux),
          size,
        };
    }
  }
  return best;
}

/** The corners of small fills of straight edges near a place. */
function fillsNear(l: Linework, x: number, y: number): [number, number][][] {
  const near = new Map<number, [number, number][]>();
  for (let i = 0; i < l.fillEdgeKind.length; i++) {
    const layer = l.fillEdgeStyle[2 * i];
    if (ITEM_KINDS_OF_SHEET[l.fillEdgeKind[i]] === 'text' || (layer >= 0 && l.layers[layer]?.on === false))
      continue;
    const [x0, y0, x1, y1] = l.fillEdges.subarray(4 * i, 4 * i + 4);
    if (Math.hypot(x0 - x, y0 - y) > NEAR + LENGTH[1]) continue;
    const corners = near.get(l.fillEdgeObject[i]) ?? [];
    for (const p of [
      [x0, y0],
      [x1, y1],
    ] as [number, number][])
      if (!corners.some((c) => Math.hypot(c[0] - p[0], c[1] - p[1]) < 0.1)) corners.push(p);
    near.set(l.fillEdgeObject[i], corners);
  }
  return [...near.values()].filter(
    (corners) =>
      corners.length >= 3 &&
      corners.length <= MOST_CORNERS &&
      corners.some((c) => Math.hypot(c[0] - x, c[1] - y) <= NEAR),
  );
}

/** An arrow of lines: a shaft whose head points at a letter. */
function arrowOfLines(l: Linework, letters: readonly PageText[]): ProposedNorth | null {
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
