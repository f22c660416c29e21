import { normalAngle, TAU } from './arcs.ts';
import { crossCircles, crossLines, lineOnCircle, type Line4 } from './crossings.ts';
import { footOnLine } from './near.ts';
import {
  arcPiece,
  distanceToPiece,
  isFullTurn,
  pieceDirection,
  pieceEnd,
  pieceStart,
  segmentPiece,
  type Piece,
} from './pieces.ts';
import type { Point } from './spaces.ts';

/** Ends that are nearer than this, millimetres, are one place. */
const SAME = 1e-6;
/** Lines that meet at a flatter angle (sine) have no corner that anybody means. */
const PARALLEL_SINE = 1e-6;

const asLine = (p: Extract<Piece, { kind: 'segment' }>): Line4 => [p.from[0], p.from[1], p.to[0], p.to[1]];

export type Corner =
  | { ok: true; a: Piece; b: Piece; /** What joins them: a bevel or an arc. */ joint: Piece | null }
  | { ok: false; reason: 'parallel' | 'too-large' };

/**
 * Brings two lines or arcs to a corner: each keeps the part on which it was picked and ends where they meet. With a bevel both
 * are cut back by its size (straight ones only); with a radius an arc that is tangent to both joins them.
 */
export function cornerOfPieces(
  a: Piece,
  pickA: Point,
  b: Piece,
  pickB: Point,
  joint: { bevel?: number; radius?: number } = {},
): Corner {
  if (joint.radius) return roundedCorner(a, pickA, b, pickB, joint.radius);
  const meets = whereExtendedMeet(a, b);
  if (meets.length === 0) return { ok: false, reason: 'parallel' };
  // Of two places the one that is nearer to both picks.
  const away = (p: Point) =>
    Math.hypot(p[0] - pickA[0], p[1] - pickA[1]) + Math.hypot(p[0] - pickB[0], p[1] - pickB[1]);
  const corner = meets.sort((p, q) => away(p) - away(q))[0];
  const size = joint.bevel ?? 0;
  const one = cutTo(a, pickA, corner, size),
    two = cutTo(b, pickB, corner, size);
  if (!one || !two) return { ok: false, reason: 'too-large' };
  return { ok: true, a: one.piece, b: two.piece, joint: size > 0 ? segmentPiece(one.cut, two.cut) : null };
}

/** Where the lines and circles that carry two pieces meet; none where lines run the same way. */
export function whereExtendedMeet(a: Piece, b: Piece): [number, number][] {
  if (a.kind === 'cubic' || b.kind === 'cubic') return [];
  if (a.kind === 'segment' && b.kind === 'segment') {
    const met = crossLines(asLine(a), asLine(b));
    return met && met.sine > PARALLEL_SINE ? [[met.x, met.y]] : [];
  }
  if (a.kind === 'arc' && b.kind === 'arc') return crossCircles(a.arc, b.arc);
  const line = asLine((a.kind === 'segment' ? a : b) as Extract<Piece, { kind: 'segment' }>),
    { arc } = (a.kind === 'arc' ? a : b) as Extract<Piece, { kind: 'arc' }>;
  return lineOnCircle(line, arc).map((t) => [
    line[0] + t * (line[2] - line[0]),
    line[1] + t * (line[3] - line[1]),
  ]);
}

/** A piece from the end that the pick is on to a point of its line or circle, cut back by a size. */
function cutTo(
  piece: Piece,
  pick: Point,
  corner: Point,
  size: number,
): { piece: Piece; cut: [number, number] } | null {
  if (piece.kind === 'segment') {
    const { from, to } = piece,
      dx = to[0] - from[0],
      dy = to[1] - from[1],
      square = dx * dx + dy * dy;
    const along = (p: Point) => ((p[0] - from[0]) * dx + (p[1] - from[1]) * dy) / square;
    const t = along(corner),
      towardsEnd = along(pick) >= t;
    // What is kept must be there.
    if (!(towardsEnd ? t < 1 : t > 0)) return null;
    const far = towardsEnd ? to : from,
      length = Math.hypot(far[0] - corner[0], far[1] - corner[1]);
    if (length - size <= SAME) return null;
    const k = size / length,
      cut: [number, number] = [corner[0] + k * (far[0] - corner[0]), corner[1] + k * (far[1] - corner[1])];
    return { piece: towardsEnd ? segmentPiece(cut, to) : segmentPiece(from, cut), cut };
  }
  if (piece.kind !== 'arc' || size > 0) return null;
  const { arc, clockwise } = piece,
    sweep = arc.end - arc.start;
  const angle = (p: Point) => normalAngle(Math.atan2(p[1] - arc.cy, p[0] - arc.cx) - arc.start);
  if (isFullTurn(arc)) return { piece, cut: [corner[0], corner[1]] };
  const at = angle(corner),
    picked = Math.min(angle(pick), sweep);
  const inside = at <= sweep;
  // The corner lies on the arc: the side of the pick stays. Beyond it: the nearer end goes on to it.
  const keepsEnd = inside ? picked >= at : at - sweep > TAU - at;
  const cutAt = inside ? arc.start + at : arc.start + at - TAU;
  const start = keepsEnd ? cutAt : arc.start,
    end = keepsEnd ? arc.end : arc.start + at;
  if ((end - start) * arc.r <= SAME) return null;
  const from = normalAngle(start);
  return {
    piece: arcPiece({ ...arc, start: from, end: from + (end - start) }, clockwise),
    cut: [corner[0], corner[1]],
  };
}

/** Lines and circles at a distance to either side of a piece, on which the centre of a tangent circle lies. */
function besides(piece: Piece, r: number): ({ line: Line4 } | { cx: number; cy: number; r: number })[] {
  if (piece.kind === 'segment') {
    const [x0, y0, x1, y1] = asLine(piece),
      l = Math.hypot(x1 - x0, y1 - y0),
      nx = (-(y1 - y0) / l) * r,
      ny = ((x1 - x0) / l) * r;
    return [1, -1].map((s) => ({ line: [x0 + s * nx, y0 + s * ny, x1 + s * nx, y1 + s * ny] }));
  }
  if (piece.kind !== 'arc') return [];
  const { cx, cy, r: own } = piece.arc;
  return [own + r, Math.abs(own - r)].filter((v) => v > 0).map((v) => ({ cx, cy, r: v }));
}

function roundedCorner(a: Piece, pickA: Point, b: Piece, pickB: Point, r: number): Corner {
  const meets = a.kind === 'segment' && b.kind === 'segment' ? whereExtendedMeet(a, b) : null;
  if (meets?.length === 0) return { ok: false, reason: 'parallel' };
  const corner = meets?.[0];
  // Of two lines the arc must touch before their far ends: what is kept leads away from the corner.
  const leadsAway = (p: Piece, touch: Point) =>
    !corner ||
    [pieceStart(p), pieceEnd(p)].some(
      (far) =>
        (far[0] - touch[0]) * (touch[0] - corner[0]) + (far[1] - touch[1]) * (touch[1] - corner[1]) > 0,
    );
  let best: Corner = { ok: false, reason: 'too-large' },
    least = Infinity;
  for (const p of besides(a, r)) {
    for (const q of besides(b, r)) {
      for (const [cx, cy] of whereBoth(p, q)) {
        const touchA = touchPoint(a, [cx, cy], r),
          touchB = touchPoint(b, [cx, cy], r);
        if (!touchA || !touchB) continue;
        const one = cutTo(a, pickA, touchA, 0),
          two = cutTo(b, pickB, touchB, 0);
        if (
          !one ||
          !two ||
          !leadsAway(one.piece, touchA) ||
          !leadsAway(two.piece, touchB) ||
          Math.hypot(touchA[0] - touchB[0], touchA[1] - touchB[1]) <= SAME
        )
          continue;
        // The pick must be on what stays, and the arc nearer to the picks than any other that would do.
        const away =
          Math.hypot(touchA[0] - pickA[0], touchA[1] - pickA[1]) +
          Math.hypot(touchB[0] - pickB[0], touchB[1] - pickB[1]) +
          distanceToPiece(one.piece, pickA) +
          distanceToPiece(two.piece, pickB);
        if (away >= least) continue;
        const joint = tangentArc([cx, cy], r, one, touchA, touchB);
        if (!joint) continue;
        [best, least] = [{ ok: true, a: one.piece, b: two.piece, joint }, away];
      }
    }
  }
  return best;
}

function whereBoth(
  p: ReturnType<typeof besides>[number],
  q: ReturnType<typeof besides>[number],
): [number, number][] {
  if ('line' in p && 'line' in q) {
    const met = crossLines(p.line, q.line);
    return met ? [[met.x, met.y]] : [];
  }
  if (!('line' in p) && !('line' in q)) return crossCircles(p, q);
  const { line } = ('line' in p ? p : q) as { line: Line4 },
    circle = ('line' in p ? q : p) as { cx: number; cy: number; r: number };
  return lineOnCircle(line, circle).map((t) => [
    line[0] + t * (line[2] - line[0]),
    line[1] + t * (line[3] - line[1]),
  ]);
}

/** Where a circle of a radius about a centre, which touches the line or circle that carries a piece, does so. */
function touchPoint(piece: Piece, [cx, cy]: Point, r: number): [number, number] | null {
  if (piece.kind === 'segment') return footOnLine([cx, cy], piece.from, piece.to);
  if (piece.kind !== 'arc') return null;
  const { arc } = piece,
    d = Math.hypot(cx - arc.cx, cy - arc.cy);
  if (d === 0) return null;
  // A larger circle around a smaller one touches it on the side away from its centre.
  const k = (Math.abs(d + arc.r - r) < Math.abs(Math.abs(d - arc.r) - r) ? -arc.r : arc.r) / d;
  return [arc.cx + k * (cx - arc.cx), arc.cy + k * (cy - arc.cy)];
}

/** The arc between two points of a circle that goes on where the first piece ends, in its direction. */
function tangentArc([cx, cy]: Point, r: number, one: { piece: Piece }, from: Point, to: Point): Piece | null {
  const atEnd =
    Math.hypot(pieceEnd(one.piece)[0] - from[0], pieceEnd(one.piece)[1] - from[1]) <=
    Math.hypot(pieceStart(one.piece)[0] - from[0], pieceStart(one.piece)[1] - from[1]);
  const d = pieceDirection(one.piece, atEnd ? 1 : 0),
    leave: Point = atEnd ? d : [-d[0], -d[1]];
  const a = Math.atan2(from[1] - cy, from[0] - cx),
    b = Math.atan2(to[1] - cy, to[0] - cx);
  const counter = leave[0] * -Math.sin(a) + leave[1] * Math.cos(a) > 0;
  const start = normalAngle(counter ? a : b),
    sweep = normalAngle(counter ? b - a : a - b);
  // More than a half turn would be the wrong side of the corner.
  return sweep < Math.PI + 1e-9 ? arcPiece({ cx, cy, r, start, end: start + sweep }, !counter) : null;
}
