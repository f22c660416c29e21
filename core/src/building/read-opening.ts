import { pieceLength, type Piece, type Point } from '../geometry/index.ts';
import { pairOf, usualOpening, type WallOpening } from '../model/index.ts';
import { pointAt, type WallBand } from './wall-geometry.ts';

/** What the plan shows in a gap of a wall. */
export type OpeningSeen = Pick<WallOpening, 'kind' | 'leaves' | 'folds' | 'hung' | 'opens'> & {
  /** Is the swing seen, or only that it is a door? */ swingSeen: boolean;
  /** How deep a niche is drawn, millimetres. */ depth?: number;
};

/** A leaf hangs this near to an edge of its opening, as a share of its width and in millimetres at most, and is as long as it but for the frame. */
const AT_EDGE = 0.16,
  FARTHEST_HINGE = 150,
  MISFIT = 0.2;
/** A leaf stands at least so far from the wall (sine), and a window's lines run along it within the second. */
const STANDS = 0.15,
  ALONG = 0.02;
/** A window's lines go on over at least this share of the opening. */
const GOES_OVER = 0.7;

interface Leaf {
  atFrom: boolean;
  left: boolean;
  length: number;
  isArc: boolean;
}

/** An opening seen along its wall: its edges, and what is near them. */
class Gap {
  private readonly width: number;
  /** How far from an edge or a face something may lie that belongs to it. */
  private readonly room: number;

  constructor(
    private readonly band: WallBand,
    private readonly from: number,
    private readonly to: number,
  ) {
    this.width = to - from;
    this.room = Math.min(FARTHEST_HINGE, AT_EDGE * this.width);
  }

  /** Along the wall, and to the left of its line. */
  private local([x, y]: Point): [number, number] {
    const { from, ux, uy } = this.band,
      [dx, dy] = [x - from[0], y - from[1]];
    return [dx * ux + dy * uy, -dx * uy + dy * ux];
  }

  private edgeNear(t: number): 'from' | 'to' | null {
    const near = (at: number) => Math.abs(t - at) <= this.room;
    return near(this.from) ? 'from' : near(this.to) ? 'to' : null;
  }

  private isBeside(v: number): boolean {
    const { room } = this;
    return v > -this.band.right - room && v < this.band.left + room;
  }

  private isLeaf(length: number): boolean {
    return [this.width, this.width / 2].some((l) => Math.abs(length - l) <= MISFIT * l);
  }

  /** A leaf by the arc of its swing, or by its own line. */
  leaf(piece: Piece): Leaf | null {
    if (piece.kind === 'arc') {
      const { cx, cy, r, start, end } = piece.arc,
        [t, v] = this.local([cx, cy]),
        edge = this.edgeNear(t);
      if (!edge || !this.isLeaf(r) || !this.isBeside(v)) return null;
      const middle = (start + end) / 2,
        [, side] = this.local([cx + r * Math.cos(middle), cy + r * Math.sin(middle)]);
      return { atFrom: edge === 'from', left: side > v, length: r, isArc: true };
    }
    if (piece.kind !== 'segment') return null;
    const length = pieceLength(piece),
      ends = [this.local(piece.from), this.local(piece.to)];
    if (!this.isLeaf(length) || Math.abs(ends[1][1] - ends[0][1]) < STANDS * length) return null;
    const at = ends.findIndex((e) => this.isBeside(e[1]) && this.edgeNear(e[0]) !== null);
    if (at < 0 || this.isBeside(ends[1 - at][1])) return null;
    return {
      atFrom: this.edgeNear(ends[at][0]) === 'from',
      left: ends[1 - at][1] > ends[at][1],
      length,
      isArc: false,
    };
  }

  /** A line of a window goes along the wall, between its faces, from one edge to the other. */
  isPane(piece: Piece): boolean {
    if (piece.kind !== 'segment') return false;
    const [p, q] = [this.local(piece.from), this.local(piece.to)],
      low = Math.min(p[0], q[0]),
      high = Math.max(p[0], q[0]),
      { room } = this;
    return (
      Math.abs(q[1] - p[1]) < ALONG * (high - low) &&
      p[1] > -this.band.right - 1 &&
      p[1] < this.band.left + 1 &&
      Math.min(high, this.to) - Math.max(low, this.from) > GOES_OVER * this.width &&
      low > this.from - room &&
      high < this.to + room
    );
  }
}

/**
 * What the lines of a plan say of an opening between two distances along a wall: a door by its leaf or the arc of its swing, a window by
 * its lines, else a gap. `pieces`: what is drawn near by, plane millimetres. `hung` and `opens` are seen along the wall.
 */
export function seenInGap(band: WallBand, from: number, to: number, pieces: readonly Piece[]): OpeningSeen {
  const gap = new Gap(band, from, to),
    all = pieces.flatMap((p) => gap.leaf(p) ?? []),
    // An arc of half the width has another beside it: alone it is a casement.
    isHalf = (l: Leaf) => l.length < (1 - MISFIT) * (to - from),
    leaves = all.filter(
      (l) =>
        !l.isArc || !isHalf(l) || all.some((o) => isHalf(o) && o.atFrom !== l.atFrom && o.isArc === l.isArc),
    );
  const arcs = leaves.filter((l) => l.isArc),
    said = arcs.length > 0 ? arcs : leaves;
  if (said.length === 0) {
    const nothing = { leaves: 0, hung: 'from', opens: 'left', swingSeen: false } as const;
    return { kind: pieces.some((p) => gap.isPane(p)) ? 'window' : 'gap', ...nothing };
  }
  const isDouble =
    said.some((l) => l.atFrom) &&
    said.some((l) => !l.atFrom) &&
    said.every((l) => l.length < (1 - MISFIT) * (to - from));
  return {
    kind: 'door',
    leaves: isDouble ? 2 : 1,
    hung: said[0].atFrom ? 'from' : 'to',
    opens: said[0].left ? 'left' : 'right',
    swingSeen: true,
  };
}

/** An opening as the plan shows it between two distances along a wall, its heights as is usual and so marked. */
export function openingSeen(
  id: string,
  band: WallBand,
  from: number,
  to: number,
  pieces: readonly Piece[],
): WallOpening {
  const { swingSeen, ...seen } = seenInGap(band, from, to, pieces),
    usual = usualOpening(id, seen.kind, pairOf(pointAt(band, from, 0)), pairOf(pointAt(band, to, 0)));
  return {
    ...usual,
    ...seen,
    assumed: swingSeen ? usual.assumed.filter((m) => m !== 'swing') : usual.assumed,
  };
}

/** The four corners of an opening in its wall. */
export const openingCorners = (band: WallBand, from: number, to: number): Point[] => [
  pointAt(band, from, -band.right),
  pointAt(band, to, -band.right),
  pointAt(band, to, band.left),
  pointAt(band, from, band.left),
];
