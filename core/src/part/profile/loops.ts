import {
  crossPieces,
  makeRegion,
  pieceAt,
  pieceBox,
  pieceDirection,
  pieceEnd,
  pieceStart,
  regionContains,
  ringArea,
  boxesTouch,
  isFullTurn,
  type Piece,
  type Point,
} from '../../geometry/index.ts';

/** A piece of linework under the name of the curve that it is of. */
export interface NamedPiece {
  id: string;
  piece: Piece;
}
/** Pieces that follow one another head to tail and close, counter-clockwise. */
export interface Loop {
  pieces: NamedPiece[];
}
/** An outline and what is cut out of it. */
export interface ProfileRegion {
  outer: Loop;
  holes: Loop[];
}

/** Why curves bound nothing, in words, and where. */
export class ProfileError extends Error {
  constructor(
    words: string,
    readonly at: Point | null = null,
  ) {
    super(words);
    this.name = 'ProfileError';
  }
}

/** Ends nearer than this are one, millimetres: what rules and snaps put together is nearer. */
export const JOINED = 1e-6;
/** Curves shorter than this are nothing. */
const NOTHING = 1e-6;
const FLATTEN = 48;

const length = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);
const shown = (v: number) => (v < 0.001 ? v.toExponential(1) : String(Number(v.toPrecision(3))));

/** The other way round. */
export function turnedPiece(piece: Piece): Piece {
  if (piece.kind === 'segment') return { kind: 'segment', from: piece.to, to: piece.from };
  if (piece.kind === 'arc') return { ...piece, clockwise: !piece.clockwise };
  const [x0, y0, x1, y1, x2, y2, x3, y3] = piece.cubic;
  return { kind: 'cubic', cubic: [x3, y3, x2, y2, x1, y1, x0, y0] };
}

const isWhole = ({ piece }: NamedPiece): boolean => piece.kind === 'arc' && isFullTurn(piece.arc);

/** Points along a loop, near enough to tell its area and what is inside. */
export const flatLoop = ({ pieces }: Loop): Point[] =>
  pieces.flatMap(({ piece }) =>
    piece.kind === 'segment'
      ? [pieceStart(piece)]
      : Array.from({ length: FLATTEN }, (_, i) => pieceAt(piece, i / FLATTEN)),
  );

const turnedLoop = ({ pieces }: Loop): Loop => ({
  pieces: pieces.map(({ id, piece }) => ({ id, piece: turnedPiece(piece) })).reverse(),
});
const counterClockwise = (loop: Loop): Loop => (ringArea(flatLoop(loop)) < 0 ? turnedLoop(loop) : loop);

/** Pieces head to tail from a first one, as far as they go. `left` are taken out as they are used. */
function chainFrom(first: NamedPiece, left: Set<NamedPiece>): NamedPiece[] {
  const chain = [first];
  left.delete(first);
  for (;;) {
    const end = pieceEnd(chain[chain.length - 1].piece);
    const next = [...left].flatMap((n): { of: NamedPiece; named: NamedPiece }[] => {
      if (length(pieceStart(n.piece), end) <= JOINED) return [{ of: n, named: n }];
      if (length(pieceEnd(n.piece), end) <= JOINED)
        return [{ of: n, named: { id: n.id, piece: turnedPiece(n.piece) } }];
      return [];
    });
    if (next.length === 0) return chain;
    if (next.length > 1)
      throw new ProfileError('More than two curves meet at one end: the outline is not one way round.', end);
    chain.push(next[0].named);
    left.delete(next[0].of);
    if (length(pieceEnd(next[0].named.piece), pieceStart(chain[0].piece)) <= JOINED) return chain;
  }
}

/** The open end of a chain that lies nearest to another end, and how far. */
function gapOf(ends: readonly Point[], end: Point): number {
  return Math.min(...ends.filter((p) => p !== end).map((p) => length(p, end)));
}

/**
 * Outlines with their holes, bounded by curves. Throws ProfileError for curves that are open, cross one another or themselves, or are no longer than
 * nothing.
 */
export function regionsOf(curves: readonly NamedPiece[]): ProfileRegion[] {
  const real = curves.filter(({ piece }) => length(pieceStart(piece), pieceAt(piece, 0.5)) > NOTHING);
  if (real.length === 0) throw new ProfileError('There is no curve that bounds it.');
  const loops: Loop[] = real.filter(isWhole).map((n) => ({ pieces: [n] }));
  const left = new Set(real.filter((n) => !isWhole(n)));
  const open: NamedPiece[][] = [];
  while (left.size > 0) {
    const chain = chainFrom([...left][0], left);
    const closes = length(pieceEnd(chain[chain.length - 1].piece), pieceStart(chain[0].piece)) <= JOINED;
    if (closes && (chain.length > 1 || chain[0].piece.kind !== 'segment')) loops.push({ pieces: chain });
    else open.push(chain);
  }
  if (open.length > 0) {
    const ends = open.flatMap((c) => [pieceStart(c[0].piece), pieceEnd(c[c.length - 1].piece)]),
      at = ends[1],
      gap = gapOf(ends, at);
    throw new ProfileError(
      open.length === 1 && open[0].length === 1
        ? 'The outline is open: a curve of it joins no other.'
        : `The outline is open: there is a gap of ${shown(gap)} mm.`,
      at,
    );
  }
  const turned = loops.map(counterClockwise);
  refuseCrossings(turned);
  return nested(turned);
}

/** An open chain of curves, head to tail, in the order in which they hang together. */
export function chainOf(curves: readonly NamedPiece[]): NamedPiece[] {
  if (curves.length === 0) throw new ProfileError('There is no curve.');
  const ends = curves.flatMap(({ piece }) => [pieceStart(piece), pieceEnd(piece)]);
  const lone = (p: Point) => ends.filter((q) => length(p, q) <= JOINED).length === 1;
  const begin = curves.find(({ piece }) => lone(pieceStart(piece)));
  const turned = begin ? null : curves.find(({ piece }) => lone(pieceEnd(piece)));
  if (!begin && !turned) throw new ProfileError('The curves close: a rib needs a chain with two ends.');
  const left = new Set(curves);
  if (turned) left.delete(turned);
  const chain = chainFrom(begin ?? { id: turned!.id, piece: turnedPiece(turned!.piece) }, left);
  if (left.size > 0) throw new ProfileError('The curves are not one chain.', pieceStart([...left][0].piece));
  return chain;
}

function refuseCrossings(loops: readonly Loop[]): void {
  const all = loops.flatMap((l, loop) =>
    l.pieces.map((n, i) => ({ ...n, loop, i, of: l.pieces.length, box: pieceBox(n.piece) })),
  );
  for (let a = 0; a < all.length; a++)
    for (let b = a + 1; b < all.length; b++) {
      const [p, q] = [all[a], all[b]];
      if (!boxesTouch(p.box, q.box)) continue;
      const ends = [pieceStart(p.piece), pieceEnd(p.piece)].filter((e) =>
        [pieceStart(q.piece), pieceEnd(q.piece)].some((f) => length(e, f) <= JOINED),
      );
      const neighbours = p.loop === q.loop && (p.i + 1 === q.i || (p.i === 0 && q.i === p.of - 1));
      const at = crossPieces(p.piece, q.piece).find(
        (c) => !(neighbours && ends.some((e) => length(e, c) <= 1e-5 + 1e-9 * Math.hypot(c[0], c[1]))),
      );
      if (at)
        throw new ProfileError(
          p.loop === q.loop
            ? 'The outline crosses or touches itself.'
            : 'Outlines cross or touch one another.',
          at,
        );
      if (doubled(p.piece, q.piece))
        throw new ProfileError('Two curves lie on one another.', pieceAt(p.piece, 0.5));
    }
}

/** Straight lines in one line that share more than an end. */
function doubled(p: Piece, q: Piece): boolean {
  if (p.kind !== 'segment' || q.kind !== 'segment') return false;
  const d = pieceDirection(p, 0),
    n = Math.hypot(d[0], d[1]);
  const along = (x: Point) => ((x[0] - p.from[0]) * d[0] + (x[1] - p.from[1]) * d[1]) / n,
    off = (x: Point) => Math.abs((x[0] - p.from[0]) * d[1] - (x[1] - p.from[1]) * d[0]) / n;
  if (off(q.from) > JOINED || off(q.to) > JOINED) return false;
  const [a, b] = [along(q.from), along(q.to)].sort((x, y) => x - y);
  return Math.min(n, b) - Math.max(0, a) > JOINED;
}

/** Loops by what lies in what: those within an even number of others are outlines, the others holes of the one next around them. */
function nested(loops: readonly Loop[]): ProfileRegion[] {
  const rings = loops.map(flatLoop),
    areas = rings.map((r) => Math.abs(ringArea(r))),
    regions = rings.map((r) => makeRegion([r], 'evenodd'));
  const around = loops.map((loop, i) => {
    const [x, y] = pieceAt(loop.pieces[0].piece, 0.37);
    return loops.flatMap((_, k) =>
      k !== i && areas[k] > areas[i] && regionContains(regions[k], x, y) ? [k] : [],
    );
  });
  const out = new Map<number, ProfileRegion>();
  loops.forEach((outer, i) => {
    if (around[i].length % 2 === 0) out.set(i, { outer, holes: [] });
  });
  loops.forEach((loop, i) => {
    if (around[i].length % 2 === 0) return;
    const next = around[i].reduce((a, b) => (areas[a] < areas[b] ? a : b));
    out.get(next)?.holes.push(loop);
  });
  return [...out.values()];
}
