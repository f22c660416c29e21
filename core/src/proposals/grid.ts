import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import { joined, type Span } from './spans.ts';
import type { ProposedGridLine } from './types.ts';

/** Bubbles of grid lines have radii between these, and their lines are as long as the third, millimetres of paper. */
const SMALLEST = 2,
  LARGEST = 12,
  SHORTEST = 15;
const PAPER = 72 / 25.4;
/** A line begins at its bubble within this, runs through its middle within this, and goes on across gaps as wide as this, millimetres of paper. */
const AT_RIM = 1,
  OFF = 0.35,
  GAP = 6;
/** What stands in a bubble: "A", "12", "B.1", "C'". */
const NAME = /^[A-Z]{0,2}\d{0,3}(?:[.'/-]\d{0,2}[a-z]?)?[a-z]?['′]?$/;

/** More lines in all are not looked at for bubbles. */
const MOST_LOOKS = 1.5e8;

/** Grid lines by their bubbles: a circle with a short name in it, and a line that runs on from it through its middle. */
export function gridOf(l: Linework): ProposedGridLine[] {
  const lines: [number, number, number, number][] = [];
  for (let i = 0; i < l.segmentKind.length; i++) {
    const kind = ITEM_KINDS_OF_SHEET[l.segmentKind[i]],
      layer = l.segmentStyle[2 * i];
    if (kind === 'text' || kind === 'hatch' || (layer >= 0 && l.layers[layer]?.on === false)) continue;
    lines.push([...l.segments.subarray(4 * i, 4 * i + 4)] as [number, number, number, number]);
  }
  const out: ProposedGridLine[] = [];
  for (const { x, y, r, name } of bubblesOf(l).slice(
    0,
    Math.max(1, Math.floor(MOST_LOOKS / (lines.length + 1))),
  )) {
    const line = lineFrom(lines, x, y, r);
    if (!line) continue;
    const { far } = line,
      // Named at both ends: one line.
      known = out.find(
        (o) =>
          o.name === name &&
          Math.hypot(o.to[0] - x, o.to[1] - y) <= r + 2 * AT_RIM * PAPER + 1 &&
          Math.hypot(o.from[0] - far[0], o.from[1] - far[1]) <= 2 * r + 2 * AT_RIM * PAPER + 1,
      );
    if (!known) out.push({ name, from: line.near, to: far, confidence: 0.95 });
  }
  return out;
}

function bubblesOf(l: Linework): { x: number; y: number; r: number; name: string }[] {
  const texts = l.texts
    .map((t) => ({ text: t.text.trim(), ...middleOf(t) }))
    .filter((t) => t.text !== '' && t.text.length <= 5 && NAME.test(t.text));
  const rounds: [number, number, number][] = [];
  for (let i = 0; i < l.circleKind.length; i++)
    rounds.push([...l.circles.subarray(3 * i, 3 * i + 3)] as [number, number, number]);
  return rounds.flatMap(([x, y, r]) => {
    if (r < SMALLEST * PAPER || r > LARGEST * PAPER) return [];
    const within = texts.filter((t) => Math.hypot(t.x - x, t.y - y) < 0.55 * r);
    return within.length === 1 ? [{ x, y, r, name: within[0].text }] : [];
  });
}

/** The middle of a text: along its base line, and half-way up its letters. */
export const middleOf = (t: { x: number; y: number; width: number; height: number; radians: number }) => {
  const [c, s] = [Math.cos(t.radians), Math.sin(t.radians)],
    up = 0.35 * t.height;
  return { x: t.x + (t.width / 2) * c - up * s, y: t.y + (t.width / 2) * s + up * c };
};

/** The longest line that leaves a bubble through its middle. */
function lineFrom(
  lines: readonly (readonly [number, number, number, number])[],
  x: number,
  y: number,
  r: number,
): { near: [number, number]; far: [number, number] } | null {
  let best: { near: [number, number]; far: [number, number]; length: number } | null = null;
  for (const [x0, y0, x1, y1] of lines) {
    const [a, b] = [Math.hypot(x0 - x, y0 - y), Math.hypot(x1 - x, y1 - y)],
      [near, other] = a < b ? [a, b] : [b, a];
    if (Math.abs(near - r) > AT_RIM * PAPER || other < r) continue;
    const n = Math.hypot(x1 - x0, y1 - y0);
    if (n < 1e-6) continue;
    const away = a < b ? [(x1 - x0) / n, (y1 - y0) / n] : [(x0 - x1) / n, (y0 - y1) / n];
    if (Math.abs((x0 - x) * away[1] - (y0 - y) * away[0]) > OFF * PAPER) continue;
    const row: Span[] = [];
    for (const [u0, v0, u1, v1] of lines) {
      const offs = [(u0 - x) * away[1] - (v0 - y) * away[0], (u1 - x) * away[1] - (v1 - y) * away[0]];
      if (Math.max(...offs.map(Math.abs)) > OFF * PAPER) continue;
      const [s, t] = [(u0 - x) * away[0] + (v0 - y) * away[1], (u1 - x) * away[0] + (v1 - y) * away[1]];
      if (Math.max(s, t) > 0.5 * r) row.push([Math.max(0.5 * r, Math.min(s, t)), Math.max(s, t)]);
    }
    const first = joined(row, GAP * PAPER).find(([s, t]) => s <= r + AT_RIM * PAPER && t > r);
    if (!first) continue;
    const length = first[1] - r;
    if (length >= SHORTEST * PAPER && (!best || length > best.length))
      best = {
        near: [x + Math.max(r, first[0]) * away[0], y + Math.max(r, first[0]) * away[1]],
        far: [x + first[1] * away[0], y + first[1] * away[1]],
        length,
      };
  }
  return best && { near: best.near, far: best.far };
}
