import type { WallBand } from '../building/index.ts';
import type { Piece, Point } from '../geometry/index.ts';
import type { DrawnPiece } from './nearby.ts';
import { local, NEAR, SQUARE, type Seen, type Stretch } from './seen-along.ts';

/**
 * A leaf that slides is so much of the width of its opening (`least` to `most`), so much of it stands in the opening, and it is no farther before the face of
 * its wall, millimetres; it ends at a jamb, unless it comes out of its wall.
 */
const SLIDING = { least: 0.4, most: 1.15, inside: 0.25, before: 160, atJamb: 0.12 };

type Side = 'left' | 'right';

/** To which side of a wall a leaf slides that is drawn along it, in the opening, before it or half within the wall; null where none is. */
export function slidingSide(seen: Seen, { from, to }: Stretch, band: WallBand): Side | null {
  const width = to - from;
  let best: { side: Side; inside: number } | null = null;
  for (const { piece, dashed } of seen.pieces) {
    if (piece.kind !== 'segment' || dashed) continue;
    const along = alongWall(piece, band);
    if (!along || !mayBeLeaf(along, width, band)) continue;
    const { low, high, v } = along,
      inside = (Math.min(high, to) - Math.max(low, from)) / width,
      atJamb = Math.min(...[low, high].flatMap((t) => [Math.abs(t - from), Math.abs(t - to)])),
      isWithin = v < band.left && v > -band.right,
      comesOut = isWithin && (low < from - NEAR || high > to + NEAR);
    if ((atJamb > SLIDING.atJamb * width && !comesOut) || (best && best.inside >= inside)) continue;
    if (!isWithin && [piece.from, piece.to].some((p) => turnsAt(seen, piece, p))) continue;
    if (inside < (comesOut ? SLIDING.inside : SLIDING.least - 0.05)) continue;
    best = { side: v >= 0 ? 'left' : 'right', inside };
  }
  return best?.side ?? null;
}

/** A line along a wall: from where to where, and how far to the left of its line; null for one that does not run along it. */
function alongWall(
  { from, to }: { from: Point; to: Point },
  band: WallBand,
): { low: number; high: number; v: number } | null {
  const [[t0, v0], [t1, v1]] = [local(band, from), local(band, to)],
    [low, high] = [Math.min(t0, t1), Math.max(t0, t1)];
  return Math.abs(v1 - v0) > SQUARE * (high - low) + 1 ? null : { low, high, v: (v0 + v1) / 2 };
}

/** Is a line along a wall as long as a leaf, and does it lie where one would: a threshold lies on a face. */
function mayBeLeaf(
  { low, high, v }: { low: number; high: number; v: number },
  width: number,
  { left, right }: WallBand,
): boolean {
  const onFace = Math.max(NEAR, 0.06 * (left + right)),
    long = high - low;
  return (
    Math.abs(v - left) >= onFace &&
    Math.abs(v + right) >= onFace &&
    long >= SLIDING.least * width &&
    long <= SLIDING.most * width &&
    v <= left + SLIDING.before &&
    v >= -right - SLIDING.before
  );
}

/** A leaf that folds is so much of the width of its opening, and stands off its wall between these sines; it begins within the wall. */
const FOLDING = { least: 0.07, most: 0.62, flat: 0.2, reach: 60 };

/** To which side of a wall leaves fold that are drawn as a row of short lines to and fro; null where none are. */
export function foldingSide(seen: Seen, { from, to }: Stretch, band: WallBand): Side | null {
  const width = to - from,
    leaves: { side: Side; rises: boolean; long: number }[] = [];
  for (const { piece, dashed } of seen.pieces) {
    if (piece.kind !== 'segment' || dashed) continue;
    const [p, q] = [local(band, piece.from), local(band, piece.to)].sort((a, b) => a[0] - b[0]),
      long = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (long < FOLDING.least * width || long > FOLDING.most * width) continue;
    if (p[0] < from - FOLDING.reach || q[0] > to + FOLDING.reach) continue;
    if (Math.abs(q[1] - p[1]) < FOLDING.flat * long || Math.abs(q[0] - p[0]) < SQUARE * long) continue;
    const isIn = (v: number) => v < band.left + FOLDING.reach && v > -band.right - FOLDING.reach;
    // From the wall out into the room, or back.
    if (isIn(p[1]) === isIn(q[1])) continue;
    const out = isIn(p[1]) ? q[1] : p[1];
    leaves.push({ side: out > 0 ? 'left' : 'right', rises: isIn(p[1]), long });
  }
  for (const side of ['left', 'right'] as const) {
    const of = leaves.filter((l) => l.side === side),
      longest = Math.max(0, ...of.map((l) => l.long));
    if (of.some((l) => l.rises) && of.some((l) => !l.rises) && of.every((l) => l.long > 0.8 * longest))
      return side;
  }
  return null;
}

/** A leaf is a bare line or a thin box: where a line goes off square at its end, longer than this, millimetres, it is a side of something else. */
const BOX_LEAF = 90,
  AS_LEAF = { least: 0.35, most: 1.3, off: 0.1 };

type Segment = Extract<Piece, { kind: 'segment' }>;
/** Lines of what is drawn at a wall by where they end, in cells so wide, millimetres. */
const CELL = 16;
const endsOf = new WeakMap<Seen, Map<string, Segment[]>>();
const cellOf = (x: number, y: number): string => `${Math.round(x / CELL)} ${Math.round(y / CELL)}`;

function endingNear(seen: Seen, [x, y]: Point): Segment[] {
  let index = endsOf.get(seen);
  if (!index) {
    endsOf.set(seen, (index = new Map()));
    for (const { piece } of seen.pieces) {
      if (piece.kind !== 'segment') continue;
      for (const [px, py] of [piece.from, piece.to]) {
        const key = cellOf(px, py),
          row = index.get(key);
        if (row) row.push(piece);
        else index.set(key, [piece]);
      }
    }
  }
  const around = [-CELL, 0, CELL];
  return around.flatMap((dx) => around.flatMap((dy) => index.get(cellOf(x + dx, y + dy)) ?? []));
}

/** Does a line go off square at an end of another, so long that both are sides of a cupboard, a sink or a bed? */
function turnsAt(seen: Seen, piece: Segment, end: Point): boolean {
  const [dx, dy] = [piece.to[0] - piece.from[0], piece.to[1] - piece.from[1]],
    length = Math.hypot(dx, dy);
  return endingNear(seen, end).some((o) => {
    const [ox, oy] = [o.to[0] - o.from[0], o.to[1] - o.from[1]],
      long = Math.hypot(ox, oy);
    return (
      o !== piece &&
      long >= BOX_LEAF &&
      Math.abs(ox * dx + oy * dy) < SQUARE * long * length &&
      [o.from, o.to].some((p) => Math.hypot(p[0] - end[0], p[1] - end[1]) < 2 * NEAR)
    );
  });
}

/** Is a line that stands off a wall, as long as a leaf of an opening so wide, the side of something else? */
export function isFurniture(seen: Seen, piece: Piece, band: WallBand, width: number): boolean {
  if (piece.kind !== 'segment') return false;
  const [dx, dy] = [piece.to[0] - piece.from[0], piece.to[1] - piece.from[1]],
    long = Math.hypot(dx, dy);
  // No other is taken for a leaf.
  if (long < AS_LEAF.least * width || long > AS_LEAF.most * width) return false;
  if (Math.abs(-dx * band.uy + dy * band.ux) < AS_LEAF.off * long) return false;
  const out = (p: Point) => Math.max(local(band, p)[1] - band.left, -band.right - local(band, p)[1]);
  return turnsAt(seen, piece, out(piece.from) < out(piece.to) ? piece.to : piece.from);
}

/** A leaf hangs and shuts within this of the faces of its wall, millimetres. */
const AT_FACE = 80;

/** The arc of a leaf begins, shut, at the other edge of its opening, or in its middle where there are two: of another opening it does not. */
export function swingsHere(piece: Piece, band: WallBand, { from, to }: Stretch): boolean {
  if (piece.kind !== 'arc') return true;
  const { cx, cy, r, start, end } = piece.arc,
    room = 0.2 * (to - from),
    [hinge, off] = local(band, [cx, cy]);
  if (off < -band.right - AT_FACE || off > band.left + AT_FACE) return false;
  return [start, end].some((angle) => {
    const [t, v] = local(band, [cx + r * Math.cos(angle), cy + r * Math.sin(angle)]);
    return (
      t > from - room &&
      t < to + room &&
      Math.abs(t - hinge) > 0.8 * r &&
      v > -band.right - AT_FACE &&
      v < band.left + AT_FACE &&
      // It lies within the opening as seen from where it hangs.
      t > hinge === hinge < (from + to) / 2
    );
  });
}

export const hasArc = (pieces: readonly DrawnPiece[], band: WallBand, { from, to }: Stretch): boolean =>
  pieces.some(({ piece }) => {
    if (piece.kind !== 'arc') return false;
    const [t] = local(band, [piece.arc.cx, piece.arc.cy]),
      room = 0.16 * (to - from);
    return Math.min(Math.abs(t - from), Math.abs(t - to)) < room && swingsHere(piece, band, { from, to });
  });
