import type { Point } from './spaces.ts';

/** A straight element by its ends; millimetres of the plane. */
export interface Stretch { from: Point; to: Point }

/** Ends that are nearer than this, millimetres, are one place. */
const SAME = 1e-6;
/** Lines that meet at a flatter angle (sine) have no corner that anybody means. */
const PARALLEL_SINE = 1e-6;

export const lengthOfStretch = ({ from, to }: Stretch): number => Math.hypot(to[0] - from[0], to[1] - from[1]);

const at = ({ from, to }: Stretch, t: number): [number, number] => (t === 0 ? [from[0], from[1]] : t === 1 ? [to[0], to[1]] : [from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])]);

/** Where the point lies along the stretch, 0 at its beginning and 1 at its end, beyond where it is beyond. */
export function placeAlong({ from, to }: Stretch, p: Point): number {
  const dx = to[0] - from[0], dy = to[1] - from[1];
  return ((p[0] - from[0]) * dx + (p[1] - from[1]) * dy) / (dx * dx + dy * dy);
}

/** Places at which the line through both, each by its own measure, cross; null where they run the same way. */
function crossing(a: Stretch, b: Stretch): { t: number; u: number } | null {
  const dx = a.to[0] - a.from[0], dy = a.to[1] - a.from[1], ex = b.to[0] - b.from[0], ey = b.to[1] - b.from[1];
  const cross = dx * ey - dy * ex;
  if (Math.abs(cross) <= PARALLEL_SINE * Math.hypot(dx, dy) * Math.hypot(ex, ey)) return null;
  const fx = b.from[0] - a.from[0], fy = b.from[1] - a.from[1];
  return { t: (fx * ey - fy * ex) / cross, u: (fx * dy - fy * dx) / cross };
}

/** Places along the line at which others cross or touch it, in order; `reach`: also beyond its ends. */
function crossings(line: Stretch, others: readonly Stretch[], reach: boolean): number[] {
  const length = lengthOfStretch(line), out: number[] = [];
  for (const other of others) {
    const found = crossing(line, other);
    if (!found) continue;
    const slack = SAME / lengthOfStretch(other);
    if (found.u < -slack || found.u > 1 + slack) continue;
    if (!reach && (found.t * length <= SAME || (1 - found.t) * length <= SAME)) continue;
    out.push(found.t);
  }
  return out.sort((a, b) => a - b);
}

export type Trimmed = { ok: true; kept: Stretch[]; gone: Stretch } | { ok: false; reason: 'not-crossed' };

/** Takes the part of a line around a place away, up to what crosses it on either side. Nothing may be left of it. */
export function trimAway(line: Stretch, around: Point, others: readonly Stretch[]): Trimmed {
  const t = Math.min(1, Math.max(0, placeAlong(line, around)));
  const cuts = crossings(line, others, false).filter((c) => c > 0 && c < 1);
  const before = cuts.filter((c) => c <= t).at(-1), after = cuts.find((c) => c > t);
  if (before === undefined && after === undefined) return { ok: false, reason: 'not-crossed' };
  const kept: Stretch[] = [];
  if (before !== undefined) kept.push({ from: line.from, to: at(line, before) });
  if (after !== undefined) kept.push({ from: at(line, after), to: line.to });
  return { ok: true, kept, gone: { from: at(line, before ?? 0), to: at(line, after ?? 1) } };
}

export type Extended = { ok: true; stretch: Stretch } | { ok: false; reason: 'nothing-ahead' };

/** Lets the end that is nearer to a place go on to the first thing that lies ahead of it. */
export function extendEnd(line: Stretch, near: Point, others: readonly Stretch[]): Extended {
  const forward = placeAlong(line, near) >= 0.5, length = lengthOfStretch(line);
  const ahead = crossings(line, others, true).filter((t) => (forward ? (t - 1) * length > SAME : -t * length > SAME));
  const t = forward ? ahead[0] : ahead.at(-1);
  if (t === undefined) return { ok: false, reason: 'nothing-ahead' };
  return { ok: true, stretch: forward ? { from: line.from, to: at(line, t) } : { from: at(line, t), to: line.to } };
}

export type Corner = { ok: true; a: Stretch; b: Stretch; /** The bevel, where one was asked for. */ bevel: Stretch | null } | { ok: false; reason: 'parallel' | 'too-large' };

/**
 * Brings two lines to a corner: each ends where they cross, and keeps the side on which it was picked. With a size,
 * both are cut back by it from the corner and a bevel joins them.
 */
export function cornerOf(a: Stretch, pickA: Point, b: Stretch, pickB: Point, size = 0): Corner {
  const found = crossing(a, b);
  if (!found) return { ok: false, reason: 'parallel' };
  const corner = at(a, found.t);
  const one = (line: Stretch, t: number, pick: Point): { stretch: Stretch; cut: [number, number] } | null => {
    const towardsEnd = placeAlong(line, pick) >= t;
    const far = towardsEnd ? line.to : line.from, length = Math.hypot(far[0] - corner[0], far[1] - corner[1]);
    // What is kept must be there: at least as long as what is cut back.
    const keeps = towardsEnd ? t < 1 : t > 0;
    if (!keeps || length - size <= SAME) return null;
    const k = size / length, cut: [number, number] = [corner[0] + k * (far[0] - corner[0]), corner[1] + k * (far[1] - corner[1])];
    return { stretch: towardsEnd ? { from: cut, to: line.to } : { from: line.from, to: cut }, cut };
  };
  const first = one(a, found.t, pickA), second = one(b, found.u, pickB);
  if (!first || !second) return { ok: false, reason: 'too-large' };
  return { ok: true, a: first.stretch, b: second.stretch, bevel: size > 0 ? { from: first.cut, to: second.cut } : null };
}

/** The same line at a distance, on the side of a place. */
export function offsetTowards(line: Stretch, distance: number, side: Point): Stretch {
  const dx = line.to[0] - line.from[0], dy = line.to[1] - line.from[1], length = Math.hypot(dx, dy);
  const left = dx * (side[1] - line.from[1]) - dy * (side[0] - line.from[0]) >= 0 ? 1 : -1;
  const nx = (-left * distance * dy) / length, ny = (left * distance * dx) / length;
  return { from: [line.from[0] + nx, line.from[1] + ny], to: [line.to[0] + nx, line.to[1] + ny] };
}

/** The line in two at a place; null where that is one of its ends, or beside it. */
export function splitAt(line: Stretch, place: Point): [Stretch, Stretch] | null {
  const t = placeAlong(line, place), length = lengthOfStretch(line);
  if (t * length <= SAME || (1 - t) * length <= SAME) return null;
  const middle = at(line, t);
  return [{ from: line.from, to: middle }, { from: middle, to: line.to }];
}
