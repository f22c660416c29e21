import {
  arcHasAngle,
  arcPiece,
  crossLines,
  crossPieces,
  crossSegmentArc,
  cubicAt,
  cubicPiece,
  distanceToSegment,
  footOnArc,
  footOnCubic,
  footOnSegment,
  segmentPiece,
  type Box,
  type Line4,
  type Piece,
  type Point,
} from '../geometry/index.ts';
import type { ItemKind, SnapItems } from './items.ts';
import type { SnapGeometry } from './sheet-items.ts';

/**
 * What a pick can find. 'meeting': where two lines would cross if they went on; 'quarter': a circle's points straight
 * right, up, left and down; 'square' and 'tangent' are seen from the point that was picked before; 'base': where a text begins;
 * 'inline' and 'parallel' are offered by guides of what was touched (guides.ts), 'grid' by the grid (grid.ts).
 */
export const SNAP_KINDS = [
  'end',
  'crossing',
  'meeting',
  'middle',
  'centre',
  'quarter',
  'square',
  'tangent',
  'base',
  'inline',
  'parallel',
  'grid',
  'along',
] as const;
export type SnapKind = (typeof SNAP_KINDS)[number];

export interface SnapCandidate {
  kind: SnapKind;
  /** In the space of the source. */
  x: number;
  y: number;
  distance: number;
  /** Rank, the lower the better: distance and handicap in shares of the radius, so that sources can be compared. */
  score: number;
  /** Polylines of the geometry that was found, to light up. */
  lit: readonly (readonly Point[])[];
  /** Number of the item it belongs to, in the order of the index. */
  item: number;
}

export interface SnapLimits {
  /** Nothing outside this box is found. */
  crop?: Box;
  /** 1 for each item that is switched off, in the order of the index. */
  off?: Uint8Array | null;
  /** Where a point may lie, beside the box. */
  within?: (x: number, y: number) => boolean;
  /** Kinds that are wanted; all when absent. */
  kinds?: ReadonlySet<SnapKind>;
  /** The point picked before: what lies square or tangent to it is found. */
  anchor?: Point | null;
}

/** At most this many items near the cursor are looked at: more cannot be told apart by eye. */
const MOST_ITEMS = 24;
/** Pairs of items are crossed only among the nearest few. */
const MOST_CROSSED = 10;

/**
 * Preference among kinds as a handicap in shares of the radius. A point always wins over a place along
 * a line; among points an end wins over a middle that is not clearly nearer. Fixed, so that the choice
 * between two candidates does not flicker.
 */
const HANDICAP: Record<Exclude<SnapKind, 'inline' | 'parallel' | 'grid'>, number> = {
  end: 0,
  crossing: 0.1,
  meeting: 0.3,
  centre: 0.15,
  middle: 0.25,
  quarter: 0.28,
  square: 0.2,
  tangent: 0.2,
  base: 0.2,
  along: 1.2,
};

/** Handicap of an end where one line alone ends: hatches have hundreds, corners are what people mean. */
const LONE_END = 0.18;

/** Places nearer than this share of the radius are one place. */
const SAME_PLACE = 2e-3;
/** Larger than any cell number, so that two of them make one key. */
const KEY_STRIDE = 8192;
/** More than these nobody steps through. */
const MOST_CANDIDATES = 12;
/** Among many lines most pairs would meet somewhere near: only the likeliest are offered. */
const MOST_MEETINGS = 2;

interface Near {
  item: number;
  kind: ItemKind;
  distance: number;
  foot: Point;
}
type OwnKind = keyof typeof HANDICAP;
interface Place {
  kind: OwnKind;
  x: number;
  y: number;
  distance: number;
  score: number;
  a: Near;
  b?: Near;
}
type Add = (kind: OwnKind, x: number, y: number, a: Near, b?: Near) => void;

/** Answers snap queries on one source. */
export class Snapper {
  constructor(private readonly items: SnapItems) {}

  /** Candidates within the radius, the best first. */
  query(x: number, y: number, radius: number, limits: SnapLimits = {}): SnapCandidate[] {
    // One walk of the index and plain distances first: only the nearest few become objects.
    const near = this.nearest(x, y, radius, limits.off ?? null).map((item) => this.measure(item, x, y));
    const places = new Map<number, Place>();
    const cell = radius * SAME_PLACE;
    const add: Add = (kind, px, py, a, b) => {
      const dx = px - x,
        dy = py - y;
      // Most points lie further off than the radius: this is asked first, and cheaply.
      const square = dx * dx + dy * dy;
      if (square > radius * radius) return;
      const distance = Math.sqrt(square);
      if (
        !inside(limits.crop, px, py) ||
        (limits.kinds && !limits.kinds.has(kind)) ||
        (limits.within && !limits.within(px, py))
      )
        return;
      const score = distance / radius + HANDICAP[kind] + (kind === 'end' ? LONE_END : 0);
      const key = Math.round(dx / cell) * KEY_STRIDE + Math.round(dy / cell);
      const twin = places.get(key);
      // The same place found twice keeps its better name; two ends together are a corner.
      if (twin && kind === 'end' && twin.kind === 'end') twin.score = distance / radius + HANDICAP.end;
      if (!twin || HANDICAP[kind] < HANDICAP[twin.kind])
        places.set(key, { kind, x: px, y: py, distance, score, a, b });
    };
    for (const n of near) this.pointsOf(n, add);
    if (limits.anchor) for (const n of near) this.seenFrom(limits.anchor, n, add);
    this.crossings(near, add);
    let meetings = 0;
    return [...places.values()]
      .sort((p, q) => p.score - q.score || p.x - q.x || p.y - q.y)
      .filter((p) => p.kind !== 'meeting' || meetings++ < MOST_MEETINGS)
      .slice(0, MOST_CANDIDATES)
      .map(({ kind, x: px, y: py, distance, score, a, b }) => ({
        kind,
        x: px,
        y: py,
        distance,
        score,
        item: a.item,
        lit: b ? [this.outline(a), this.outline(b)] : [this.outline(a)],
      }));
  }

  /** Numbers of the nearest items within the radius, at most MOST_ITEMS, nearest first; equals in the order of the sheet. */
  private nearest(x: number, y: number, radius: number, off: Uint8Array | null): number[] {
    const kept: number[] = [],
      distances: number[] = [];
    for (const item of this.items.search(x - radius, y - radius, x + radius, y + radius)) {
      if (off?.[item]) continue;
      const distance = this.distanceTo(item, x, y);
      if (distance > radius) continue;
      let at = kept.length;
      while (
        at > 0 &&
        (distances[at - 1] > distance || (distances[at - 1] === distance && kept[at - 1] > item))
      )
        at--;
      if (at >= MOST_ITEMS) continue;
      kept.splice(at, 0, item);
      distances.splice(at, 0, distance);
      if (kept.length > MOST_ITEMS) {
        kept.pop();
        distances.pop();
      }
    }
    return kept;
  }

  /** The geometry of an item; null for a centre or a text. */
  piece(item: number): Piece | null {
    const kind = this.items.kindOf(item);
    if (kind === 'segment' || kind === 'fillEdge') {
      const [x0, y0, x1, y1] = this.items.segment(item);
      return segmentPiece([x0, y0], [x1, y1]);
    }
    if (kind === 'curve') return cubicPiece(this.items.curve(item));
    return kind === 'arc' || kind === 'circle' ? arcPiece(this.items.round(item)) : null;
  }

  private distanceTo(item: number, x: number, y: number): number {
    return this.items.straightDistance(item, x, y) ?? this.measure(item, x, y).distance;
  }

  private measure(item: number, x: number, y: number): Near {
    const kind = this.items.kindOf(item);
    if (kind === 'segment' || kind === 'fillEdge') {
      const [x0, y0, x1, y1] = this.items.segment(item);
      const foot = footOnSegment(x, y, x0, y0, x1, y1);
      return { item, kind, foot, distance: lengthOf(foot[0] - x, foot[1] - y) };
    }
    if (kind === 'curve') {
      const foot = footOnCubic(this.items.curve(item), x, y);
      return { item, kind, foot, distance: lengthOf(foot[0] - x, foot[1] - y) };
    }
    if (kind === 'text') {
      const foot = this.items.base(item);
      return { item, kind, foot, distance: lengthOf(foot[0] - x, foot[1] - y) };
    }
    const c = this.items.round(item);
    if (kind === 'arcCentre' || kind === 'circleCentre')
      return { item, kind, foot: [c.cx, c.cy], distance: Math.hypot(c.cx - x, c.cy - y) };
    const foot = footOnArc(c, x, y);
    return { item, kind, foot, distance: lengthOf(foot[0] - x, foot[1] - y) };
  }

  private pointsOf(n: Near, add: Add): void {
    if (n.kind === 'segment' || n.kind === 'fillEdge') {
      const [x0, y0, x1, y1] = this.items.segment(n.item);
      add('end', x0, y0, n);
      add('end', x1, y1, n);
      add('middle', (x0 + x1) / 2, (y0 + y1) / 2, n);
      add('along', n.foot[0], n.foot[1], n);
      return;
    }
    if (n.kind === 'curve') {
      const c = this.items.curve(n.item);
      add('end', c[0], c[1], n);
      add('end', c[6], c[7], n);
      add('along', n.foot[0], n.foot[1], n);
      return;
    }
    if (n.kind === 'text') {
      add('base', n.foot[0], n.foot[1], n);
      return;
    }
    const c = this.items.round(n.item);
    if (n.kind === 'arcCentre' || n.kind === 'circleCentre') {
      add('centre', c.cx, c.cy, n);
      return;
    }
    add('along', n.foot[0], n.foot[1], n);
    for (let q = 0; q < 4; q++)
      if (arcHasAngle(c.start, c.end, (q * Math.PI) / 2))
        add('quarter', c.cx + c.r * QUARTERS[q][0], c.cy + c.r * QUARTERS[q][1], n);
    if (n.kind === 'arc') {
      for (const a of [c.start, c.end]) add('end', c.cx + c.r * Math.cos(a), c.cy + c.r * Math.sin(a), n);
      const m = (c.start + c.end) / 2;
      add('middle', c.cx + c.r * Math.cos(m), c.cy + c.r * Math.sin(m), n);
    }
  }

  /** Where a line from the anchor would meet the item square or tangent to it. */
  private seenFrom([ax, ay]: Point, n: Near, add: Add): void {
    if (n.kind === 'segment' || n.kind === 'fillEdge') {
      const [x0, y0, x1, y1] = this.items.segment(n.item);
      const foot = footOnSegment(ax, ay, x0, y0, x1, y1);
      // An end is nearest to what lies beyond it, but not square to it.
      const t = (foot[0] - ax) * (x1 - x0) + (foot[1] - ay) * (y1 - y0);
      if (Math.abs(t) <= 1e-9 * lengthOf(foot[0] - ax, foot[1] - ay) * lengthOf(x1 - x0, y1 - y0))
        add('square', foot[0], foot[1], n);
      return;
    }
    if (n.kind !== 'arc' && n.kind !== 'circle') return;
    const { cx, cy, r, start, end } = this.items.round(n.item);
    const away = lengthOf(ax - cx, ay - cy),
      towards = Math.atan2(ay - cy, ax - cx);
    if (away === 0) return;
    const at = (kind: OwnKind, angle: number) => {
      if (arcHasAngle(start, end, angle)) add(kind, cx + r * Math.cos(angle), cy + r * Math.sin(angle), n);
    };
    at('square', towards);
    at('square', towards + Math.PI);
    if (away <= r) return;
    const half = Math.acos(r / away);
    at('tangent', towards + half);
    at('tangent', towards - half);
  }

  private crossings(near: readonly Near[], add: Add): void {
    const solid = near
      .filter((n) => n.kind !== 'arcCentre' && n.kind !== 'circleCentre' && n.kind !== 'text')
      .sort((a, b) => a.distance - b.distance)
      .slice(0, MOST_CROSSED);
    const straight = (n: Near) => n.kind === 'segment' || n.kind === 'fillEdge';
    const lines = solid.map((n) => (straight(n) ? this.items.segment(n.item) : null));
    for (let i = 0; i < solid.length; i++) {
      for (let j = i + 1; j < solid.length; j++) {
        const a = solid[i],
          b = solid[j];
        if (straight(a) && straight(b)) {
          const met = whereLinesMeet(lines[i]!, lines[j]!);
          if (met) add(met.within ? 'crossing' : 'meeting', met.x, met.y, a, b);
        } else if (straight(a) !== straight(b)) {
          const line = straight(a) ? a : b,
            round = straight(a) ? b : a;
          if (round.kind !== 'arc' && round.kind !== 'circle') continue;
          for (const p of crossSegmentArc(this.items.segment(line.item), this.items.round(round.item)))
            add('crossing', p[0], p[1], a, b);
        }
      }
    }
  }

  private outline(n: Near): readonly Point[] {
    if (n.kind === 'segment' || n.kind === 'fillEdge') {
      const [x0, y0, x1, y1] = this.items.segment(n.item);
      return [
        [x0, y0],
        [x1, y1],
      ];
    }
    if (n.kind === 'curve') {
      const c = this.items.curve(n.item);
      return Array.from({ length: 17 }, (_, i) => cubicAt(c, i / 16));
    }
    if (n.kind === 'text') return [n.foot, n.foot];
    const c = this.items.round(n.item);
    return Array.from({ length: 49 }, (_, i): Point => {
      const a = c.start + ((c.end - c.start) * i) / 48;
      return [c.cx + c.r * Math.cos(a), c.cy + c.r * Math.sin(a)];
    });
  }
}

/** Math.hypot guards against overflow, which no sheet reaches, and is several times slower. */
const lengthOf = (dx: number, dy: number) => Math.sqrt(dx * dx + dy * dy);

const inside = (box: Box | undefined, x: number, y: number) =>
  !box || (x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3]);

/** Right, up, left, down; exact. */
const QUARTERS = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
] as const;

/** Lines that meet at a flatter angle do not say where, as the sine. */
const LEAST_MEETING_SINE = 0.02;

/** Where two lines cross, or would cross if they went on; touching ends count as crossing. Null where they run (nearly) the same way. */
function whereLinesMeet(a: Line4, b: Line4): { x: number; y: number; within: boolean } | null {
  const met = crossLines(a, b);
  if (!met) return null;
  const { x, y, t, u, sine } = met,
    slack = 1e-9;
  const within = t >= -slack && t <= 1 + slack && u >= -slack && u <= 1 + slack;
  return within || sine > LEAST_MEETING_SINE ? { x, y, within } : null;
}

/** Score of a crossing at a distance, to be ranked among candidates of the same radius. */
const crossingScore = (distance: number, radius: number): number => distance / radius + HANDICAP.crossing;

/**
 * Where lines of different sources (two sheets, or a sheet and the trace) cross near a point; all in one space. What one source
 * alone crosses, its own query tells.
 */
export function crossingsBetween(
  sources: readonly (readonly { piece: Piece; lit: readonly Point[] }[])[],
  [x, y]: Point,
  radius: number,
): { x: number; y: number; score: number; lit: readonly (readonly Point[])[] }[] {
  const out: { x: number; y: number; score: number; lit: readonly (readonly Point[])[] }[] = [];
  for (let i = 0; i < sources.length; i++) {
    for (let j = i + 1; j < sources.length; j++) {
      for (const a of sources[i]) {
        for (const b of sources[j]) {
          for (const p of crossPieces(a.piece, b.piece)) {
            const distance = lengthOf(p[0] - x, p[1] - y);
            if (distance <= radius)
              out.push({ x: p[0], y: p[1], score: crossingScore(distance, radius), lit: [a.lit, b.lit] });
          }
        }
      }
    }
  }
  return out;
}

/** Plain check of a query by going through every segment: used by tests against the index. */
export function nearestSegmentDistance(geometry: SnapGeometry, x: number, y: number): number {
  let best = Infinity;
  for (const array of [geometry.segments, geometry.fillEdges]) {
    for (let i = 0; i < array.length; i += 4)
      best = Math.min(best, distanceToSegment(x, y, array[i], array[i + 1], array[i + 2], array[i + 3]));
  }
  return best;
}
