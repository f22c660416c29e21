import { normalAngle, TAU, type Arc } from './arcs.ts';
import { whereExtendedMeet } from './corners.ts';
import { crossPieces } from './crossings.ts';
import {
  arcPiece,
  isFullTurn,
  pieceAt,
  pieceDirection,
  pieceEnd,
  pieceLength,
  piecePart,
  pieceStart,
  placeOnPiece,
  reversedPiece,
  segmentPiece,
  type Piece,
} from './pieces.ts';
import type { Point } from './spaces.ts';

/**
 * A run of pieces end on end, such as a line, an arc or a path, with what a drafter does to it. A place on it counts its
 * pieces: 2.5 is the middle of the third.
 */
export interface Track {
  pieces: readonly Piece[];
  closed: boolean;
}

/** Ends that are nearer than this, millimetres, are one place. */
const SAME = 1e-6;

export const isClosedRun = (pieces: readonly Piece[]): boolean => {
  const [p, q] = [pieceStart(pieces[0]), pieceEnd(pieces[pieces.length - 1])];
  return (
    Math.hypot(p[0] - q[0], p[1] - q[1]) <= SAME && !(pieces.length === 1 && pieces[0].kind === 'segment')
  );
};

/** The place on a track that is nearest to a point. */
export function placeOnTrack({ pieces }: Track, p: Point): number {
  let best = 0,
    nearest = Infinity;
  pieces.forEach((piece, i) => {
    const t = placeOnPiece(piece, p),
      q = pieceAt(piece, t),
      d = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (d < nearest - SAME) [best, nearest] = [i + t, d];
  });
  return best;
}

export function pointOnTrack({ pieces }: Track, place: number): [number, number] {
  const i = Math.min(pieces.length - 1, Math.floor(place));
  return pieceAt(pieces[i], place - i);
}

/** The part of a track between two places; on a closed one it may run over its beginning, `to` up to a whole round beyond `from`. */
export function trackPart({ pieces, closed }: Track, from: number, to: number): Piece[] {
  const out: Piece[] = [],
    n = pieces.length,
    [first] = pieces;
  // A circle has no seam: a part over its beginning is one arc.
  if (n === 1 && first.kind === 'arc' && isFullTurn(first.arc)) {
    const { arc, clockwise } = first,
      turn = (t: number) => (clockwise ? arc.end - t * TAU : arc.start + t * TAU);
    const [a, b] = [turn(from), turn(to)],
      start = normalAngle(Math.min(a, b));
    return [arcPiece({ ...arc, start, end: start + Math.abs(b - a) }, clockwise)];
  }
  for (let i = Math.floor(from); i < to; i++) {
    const a = Math.max(0, from - i),
      b = Math.min(1, to - i);
    const part = b > a ? piecePart(pieces[closed ? i % n : i], a, b) : null;
    if (part && pieceLength(part) > SAME) out.push(part);
  }
  return out;
}

/** Places at which other pieces cross or touch a track, in order, each once. */
export function crossingsOn(track: Track, others: readonly Piece[]): number[] {
  const out: number[] = [];
  track.pieces.forEach((piece, i) => {
    for (const other of others)
      for (const p of crossPieces(piece, other)) out.push(i + placeOnPiece(piece, p));
  });
  const length = (t: number) => pieceLength(track.pieces[Math.min(track.pieces.length - 1, Math.floor(t))]);
  return out.sort((a, b) => a - b).filter((t, i, all) => i === 0 || (t - all[i - 1]) * length(t) > SAME);
}

export type Trimmed = { ok: true; kept: Piece[][]; gone: Piece[] } | { ok: false; reason: 'not-crossed' };

/** Takes the part of a track around a place away, up to what crosses it on either side. */
export function trimTrack(track: Track, around: Point, others: readonly Piece[]): Trimmed {
  const n = track.pieces.length,
    at = placeOnTrack(track, around);
  const inner = (t: number) => lengthBetween(track, 0, t) > SAME && lengthBetween(track, t, n) > SAME;
  const cuts = crossingsOn(track, others).filter((t) => track.closed || inner(t));
  if (track.closed) {
    if (cuts.length < 2) return { ok: false, reason: 'not-crossed' };
    const before = [...cuts].reverse().find((t) => t <= at) ?? cuts[cuts.length - 1] - n,
      after = cuts.find((t) => t > at) ?? cuts[0] + n;
    const from = before < 0 ? before + n : before,
      to = before < 0 ? after + n : after;
    return {
      ok: true,
      gone: trackPart(track, from, to),
      kept: [trackPart(track, to >= n ? to - n : to, (to >= n ? to - n : to) + n - (to - from))],
    };
  }
  const before = [...cuts].reverse().find((t) => t <= at),
    after = cuts.find((t) => t > at);
  if (before === undefined && after === undefined) return { ok: false, reason: 'not-crossed' };
  const kept = [
    before === undefined ? [] : trackPart(track, 0, before),
    after === undefined ? [] : trackPart(track, after, n),
  ].filter((k) => k.length > 0);
  return { ok: true, kept, gone: trackPart(track, before ?? 0, after ?? n) };
}

function lengthBetween(track: Track, from: number, to: number): number {
  return trackPart(track, from, to).reduce((sum, p) => sum + pieceLength(p), 0);
}

/** The track in two at a place; null where that is one of its ends. A closed one is opened there, in one part. */
export function splitTrack(track: Track, at: Point): Piece[][] | null {
  const n = track.pieces.length,
    t = placeOnTrack(track, at);
  if (track.closed) return [trackPart(track, t, t + n)];
  const parts = [trackPart(track, 0, t), trackPart(track, t, n)];
  return parts.every((p) => p.length > 0) ? parts : null;
}

export type Extended = { ok: true; pieces: Piece[] } | { ok: false; reason: 'nothing-ahead' };

/** Lets the end of an open track that is nearer to a place go on, straight or along its circle, to the first thing ahead. */
export function extendTrack(track: Track, near: Point, others: readonly Piece[]): Extended {
  if (track.closed) return { ok: false, reason: 'nothing-ahead' };
  const ends = [pieceStart(track.pieces[0]), pieceEnd(track.pieces[track.pieces.length - 1])];
  const [toStart, toEnd] = ends.map((p) => Math.hypot(p[0] - near[0], p[1] - near[1]));
  const forward = toEnd <= toStart;
  const last = forward ? track.pieces[track.pieces.length - 1] : reversedPiece(track.pieces[0]);
  const longer = goOn(last, others);
  if (!longer) return { ok: false, reason: 'nothing-ahead' };
  return {
    ok: true,
    pieces: forward
      ? [...track.pieces.slice(0, -1), longer]
      : [reversedPiece(longer), ...track.pieces.slice(1)],
  };
}

/** A piece that goes on beyond its end to the first of the others ahead. */
function goOn(piece: Piece, others: readonly Piece[]): Piece | null {
  if (piece.kind === 'cubic') return null;
  if (piece.kind === 'segment') {
    const length = pieceLength(piece),
      k = FAR / length;
    const ray = segmentPiece(piece.to, [
      piece.to[0] + k * (piece.to[0] - piece.from[0]),
      piece.to[1] + k * (piece.to[1] - piece.from[1]),
    ]);
    const hits = others
      .flatMap((o) => crossPieces(ray, o))
      .filter((p) => Math.hypot(p[0] - piece.to[0], p[1] - piece.to[1]) > SAME);
    const nearest = nearestTo(piece.to, hits);
    return nearest && segmentPiece(piece.from, nearest);
  }
  if (isFullTurn(piece.arc)) return null;
  const { arc, clockwise } = piece,
    sweep = arc.end - arc.start;
  const rest: Arc = { ...arc, start: arc.end, end: arc.start + TAU };
  const beyond = others
    .flatMap((o) => crossPieces(arcPiece(rest), o))
    .map(([x, y]) => {
      const angle = Math.atan2(y - arc.cy, x - arc.cx);
      return clockwise ? normalAngle(arc.start - angle) : normalAngle(angle - arc.end);
    })
    .filter((more) => more * arc.r > SAME && (TAU - sweep - more) * arc.r > SAME);
  if (beyond.length === 0) return null;
  const more = Math.min(...beyond);
  return arcPiece(
    clockwise
      ? { ...arc, start: normalAngle(arc.start - more), end: normalAngle(arc.start - more) + sweep + more }
      : { ...arc, end: arc.end + more },
    clockwise,
  );
}

/** As far as anything can lie ahead, millimetres. */
const FAR = 1e7;

function nearestTo(p: Point, points: readonly [number, number][]): [number, number] | null {
  let best: [number, number] | null = null;
  const d = (q: Point) => Math.hypot(q[0] - p[0], q[1] - p[1]);
  for (const q of points) if (!best || d(q) < d(best)) best = q;
  return best;
}

/** A track at a distance to the left of its run (to the right below 0); null where a bend is tighter than that. */
export function offsetTrack(track: Track, distance: number): Piece[] | null {
  const moved = track.pieces.map((p): Piece | null => {
    if (p.kind === 'segment') {
      const l = pieceLength(p),
        nx = (-(p.to[1] - p.from[1]) / l) * distance,
        ny = ((p.to[0] - p.from[0]) / l) * distance;
      return segmentPiece([p.from[0] + nx, p.from[1] + ny], [p.to[0] + nx, p.to[1] + ny]);
    }
    if (p.kind === 'cubic') return null;
    const r = p.arc.r + (p.clockwise ? distance : -distance);
    return r > SAME ? arcPiece({ ...p.arc, r }, p.clockwise) : null;
  });
  if (moved.some((p) => p === null)) return null;
  const pieces = moved as Piece[],
    n = pieces.length;
  if (n === 1) return pieces;
  const joints = pieces.map((p, i) => {
    if (i === n - 1 && !track.closed) return null;
    const q = pieces[(i + 1) % n],
      meets = whereExtendedMeet(p, q);
    return nearestTo(pieceEnd(p), meets) ?? pieceEnd(p);
  });
  const out = pieces.map((p, i) => {
    const from = i > 0 || track.closed ? joints[(i - 1 + n) % n] : null,
      to = joints[i];
    return between(p, from ?? pieceStart(p), to ?? pieceEnd(p));
  });
  return out.every((p) => p !== null) ? (out as Piece[]) : null;
}

/** The part of the line or circle that carries a piece from one of its points to another, in its direction; null where it would turn round. */
function between(piece: Piece, from: Point, to: Point): Piece | null {
  if (piece.kind === 'segment') {
    const forward =
      (to[0] - from[0]) * (piece.to[0] - piece.from[0]) + (to[1] - from[1]) * (piece.to[1] - piece.from[1]);
    return forward > 0 ? segmentPiece(from, to) : null;
  }
  if (piece.kind !== 'arc') return null;
  const { arc, clockwise } = piece,
    angle = (p: Point) => Math.atan2(p[1] - arc.cy, p[0] - arc.cx);
  const start = normalAngle(angle(clockwise ? to : from)),
    sweep = normalAngle(angle(clockwise ? from : to) - start);
  return sweep > 0 && sweep < arc.end - arc.start + Math.PI
    ? arcPiece({ ...arc, start, end: start + sweep }, clockwise)
    : null;
}

/** The side of a track on which a point lies: 1 to the left of its run, -1 to the right. */
export function sideOfTrack(track: Track, p: Point): 1 | -1 {
  const t = placeOnTrack(track, p),
    i = Math.min(track.pieces.length - 1, Math.floor(t)),
    q = pointOnTrack(track, t),
    [dx, dy] = pieceDirection(track.pieces[i], t - i);
  return dx * (p[1] - q[1]) - dy * (p[0] - q[0]) >= 0 ? 1 : -1;
}
