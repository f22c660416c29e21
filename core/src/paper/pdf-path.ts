import { arcPiece, TAU, type Arc, type Piece, type Point } from '../geometry/index.ts';

/** A path of a page as its content writes it: operators with their figures, in points. */
export type To = (p: Point) => Point;

const n = (v: number) => String(Math.round(v * 1e4) / 1e4);
const at = (p: Point) => `${n(p[0])} ${n(p[1])}`;

/** More of a turn than this is drawn by several curves: a quarter of a circle strays by 0.03 % of its radius. */
const QUARTER = Math.PI / 2;

/** An arc as Béziers, from one of its ends to the other. */
function curvesOf({ cx, cy, r, start, end }: Arc, backwards: boolean): [Point, Point, Point][] {
  const [from, to] = backwards ? [end, start] : [start, end],
    parts = Math.max(1, Math.ceil(Math.abs(to - from) / QUARTER - 1e-9)),
    step = (to - from) / parts,
    k = (4 / 3) * Math.tan(step / 4);
  const place = (a: number): Point => [cx + r * Math.cos(a), cy + r * Math.sin(a)];
  return Array.from({ length: parts }, (_, i) => {
    const [a, b] = [from + i * step, from + (i + 1) * step],
      [p, q] = [place(a), place(b)];
    return [
      [p[0] - k * r * Math.sin(a), p[1] + k * r * Math.cos(a)],
      [q[0] + k * r * Math.sin(b), q[1] - k * r * Math.cos(b)],
      q,
    ];
  });
}

/** One piece after where the path is. */
function goOn(piece: Piece, to: To): string {
  if (piece.kind === 'segment') return `${at(to(piece.to))} l`;
  if (piece.kind === 'cubic') {
    const c = piece.cubic;
    return `${[2, 4, 6].map((i) => at(to([c[i], c[i + 1]]))).join(' ')} c`;
  }
  return curvesOf(piece.arc, piece.clockwise ?? false)
    .map((points) => `${points.map((p) => at(to(p))).join(' ')} c`)
    .join('\n');
}

const startOf = (piece: Piece): Point => {
  if (piece.kind === 'segment') return piece.from;
  if (piece.kind === 'cubic') return [piece.cubic[0], piece.cubic[1]];
  const { cx, cy, r, start, end } = piece.arc,
    a = piece.clockwise ? end : start;
  return [cx + r * Math.cos(a), cy + r * Math.sin(a)];
};

/** Pieces end on end as a path. */
export const pathOf = (pieces: readonly Piece[], to: To, closed = false): string =>
  pieces.length === 0
    ? ''
    : `${at(to(startOf(pieces[0])))} m\n${pieces.map((p) => goOn(p, to)).join('\n')}${closed ? '\nh' : ''}`;

export const ringPath = (ring: readonly Point[], to: To, closed: boolean): string =>
  `${ring.map((p, i) => `${at(to(p))} ${i === 0 ? 'm' : 'l'}`).join('\n')}${closed ? '\nh' : ''}`;

export const circlePath = (cx: number, cy: number, r: number, to: To): string =>
  pathOf([arcPiece({ cx, cy, r, start: 0, end: TAU })], to, true);
