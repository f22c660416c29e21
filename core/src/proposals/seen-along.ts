import { pointAt, type WallBand } from '../building/index.ts';
import { boxOfPoints, type Point } from '../geometry/index.ts';
import type { DrawnPiece, Nearby } from './nearby.ts';
import { common, covered, joined, total, type Span } from './spans.ts';

/** A jamb goes from face to face, within this share of the thickness and this many millimetres. */
const SHORT_OF = 0.12,
  BEYOND = 90;
/** Lines run along a wall, or square to it, within this sine. */
export const SQUARE = 0.05;
/** Lines of one frame are no farther apart than this. */
export const ONE_JAMB = 75;
/** Two lines are one within this many millimetres. */
export const NEAR = 4;
/** A wall whose openings are looked for, millimetres. */
export interface OpenedWall {
  band: WallBand;
  confidence: number;
  /** Drawn as one thick line or as a fill: it ends where that ends. */
  solid: readonly Span[] | null;
  /** Stretches in which other walls meet it. */
  met: readonly Span[];
  /** Read from the ink of a scan. */
  ofInk: boolean;
}

export interface Seen {
  jambs: number[];
  /** What of each face is drawn, by pen. */
  faces: [Map<string, Span[]>, Map<string, Span[]>];
  /** Lines along it between its faces. */
  inner: { pen: string; span: Span; off: number }[];
  pieces: DrawnPiece[];
}

/** From where to where along a wall. */
export type Stretch = { from: number; to: number };

/** What is drawn at a wall, along it. */
export function lookedAt(band: WallBand, near: Pick<Nearby, 'within'>): Seen {
  const reach = 1200,
    corners = [
      pointAt(band, -reach, -band.right - reach),
      pointAt(band, band.length + reach, -band.right - reach),
      pointAt(band, band.length + reach, band.left + reach),
      pointAt(band, -reach, band.left + reach),
    ],
    pieces = near.within(boxOfPoints(corners)),
    thickness = band.left + band.right,
    out: Seen = { jambs: [], faces: [new Map(), new Map()], inner: [], pieces: [] };
  for (const drawn of pieces) {
    const { piece } = drawn;
    if (piece.kind !== 'segment') {
      out.pieces.push(drawn);
      continue;
    }
    const [t0, v0] = local(band, piece.from),
      [t1, v1] = local(band, piece.to),
      [low, high] = [Math.min(v0, v1), Math.max(v0, v1)];
    if (Math.max(t0, t1) < -reach || Math.min(t0, t1) > band.length + reach) continue;
    out.pieces.push(drawn);
    if (drawn.dashed) continue;
    const run = Math.abs(t1 - t0),
      rise = high - low;
    if (run <= SQUARE * rise + 1) {
      const slack = SHORT_OF * thickness;
      if (
        low < -band.right + slack &&
        high > band.left - slack &&
        low > -band.right - BEYOND &&
        high < band.left + BEYOND
      )
        out.jambs.push((t0 + t1) / 2);
    } else if (rise <= SQUARE * run + 1) {
      const v = (v0 + v1) / 2,
        span: Span = [Math.min(t0, t1), Math.max(t0, t1)],
        slack = Math.max(NEAR, 0.06 * thickness);
      const face = Math.abs(v - band.left) < slack ? 0 : Math.abs(v + band.right) < slack ? 1 : null;
      if (face !== null) {
        const row = out.faces[face].get(drawn.pen);
        if (row) row.push(span);
        else out.faces[face].set(drawn.pen, [span]);
      } else if (v < band.left && v > -band.right) out.inner.push({ pen: drawn.pen, span, off: v });
    }
  }
  return out;
}

export const local = (band: WallBand, [x, y]: Point): [number, number] => {
  const [dx, dy] = [x - band.from[0], y - band.from[1]];
  return [dx * band.ux + dy * band.uy, -dx * band.uy + dy * band.ux];
};

/** Pieces of a face come so near to one another, millimetres, that it runs on. */
const RUNS_ON = 25;
export const spansOf = (face: ReadonlyMap<string, Span[]>, pens: ReadonlySet<string> | null): Span[] =>
  joined(
    [...face].flatMap(([pen, spans]) => (!pens || pens.has(pen) ? spans : [])),
    RUNS_ON,
  );

/** A pen that drew less of the faces of a wall than this is none of its own; one that draws walls nearly as much as another is one beside it. */
const LEAST_OWN = 0.06,
  AS_MUCH = 0.8;

/** Of the pens that draw the faces of a wall those that most draw walls elsewhere: windows are drawn along the faces too. */
export function ownPens({ faces }: Seen, band: WallBand, penOf: (pen: string) => number): Set<string> {
  const sums = new Map<string, number>();
  for (const face of faces)
    for (const [pen, spans] of face)
      sums.set(pen, (sums.get(pen) ?? 0) + total(common(joined(spans), [[0, band.length]])));
  const all = [...sums.values()].reduce((a, b) => a + b, 0),
    real = [...sums].filter(([, n]) => n >= LEAST_OWN * all).map(([pen]) => pen),
    most = Math.max(0, ...real.map(penOf));
  return new Set(real.filter((pen) => penOf(pen) >= AS_MUCH * most));
}

/** Places along a wall at which openings may begin or end: jambs, where its faces end and, where nothing crosses it, where lines between them end. Each with where it begins and ends itself. */
export function edgesOf(
  { jambs, inner }: Seen,
  drawn: readonly Span[],
  length: number,
  met: readonly Span[],
): { low: number; high: number }[] {
  const inMet = (t: number) => met.some(([a, b]) => t > a + 2 * NEAR && t < b - 2 * NEAR),
    isEnd = (t: number) => t < LEAST_END || t > length - LEAST_END,
    isBare = jambs.every((t) => isEnd(t) || met.some(([a, b]) => t > a - 2 * NEAR && t < b + 2 * NEAR)),
    frames = isBare
      ? joined(
          inner.map((i) => i.span),
          ONE_FRAME,
          // A leaf that slides into its wall lies partly in the opening.
        ).filter(([a, b]) => covered([a, b], drawn) > ALL_OF * (b - a))
      : [];
  const places = [...jambs, ...drawn.flat(), ...frames.flat(), ...met.flat()]
      .filter((t) => t > -NEAR && t < length + NEAR && !inMet(t))
      .sort((a, b) => a - b),
    out: { low: number; high: number }[] = [];
  for (const t of places) {
    const last = out.at(-1);
    if (last && t - last.high <= ONE_JAMB && t - last.low <= 2 * ONE_JAMB) last.high = t;
    else out.push({ low: t, high: t });
  }
  return out;
}

/** Stretches with lines between the faces of a wall, by some pens or any. */
export const innerOf = ({ inner }: Seen, pens: ReadonlySet<string> | null = null): Span[] =>
  joined(
    inner.flatMap(({ pen, span }) => (!pens || pens.has(pen) ? [span] : [])),
    NEAR,
  );

/** Lines of one window come so near to one another along their wall, millimetres. */
const ONE_FRAME = 120;

/** So much of a wall must stand at its end, millimetres, to tell its layers. */
const LEAST_END = 60;

/** Where, across a wall, its layers lie: the lines between its faces where it begins and where it ends, before its first opening and behind its last; null where it stands at neither. */
export function layersOf(
  seen: Seen,
  edges: readonly { low: number; high: number }[],
  drawn: readonly Span[],
  met: readonly Span[],
): number[] | null {
  const isWall = ([a, b]: Span) =>
      b - a >= LEAST_END && covered([a, b], drawn) > 0.9 * (b - a) && covered([a, b], met) < 0.3 * (b - a),
    walls = edges
      .slice(1)
      .map((e, i): Span => [edges[i].high, e.low])
      .filter(([a, b]) => b - a >= LEAST_END && covered([a, b], met) < 0.3 * (b - a)),
    ends = [walls[0], walls.at(-1)].flatMap((s) => (s && isWall(s) ? [s] : []));
  if (ends.length === 0) return null;
  const lines = ends.map((s) => linesIn(seen, s));
  return lines[0].filter((v) => lines.every((of) => of.some((o) => Math.abs(o - v) <= ONE_LAYER)));
}
/** Lines so near to one another across a wall, millimetres, are one. */
export const ONE_LAYER = 8;
const ALL_OF = 0.9;

/** Where, across a wall, lines between its faces run along all of a stretch. */
export function linesIn({ inner }: Seen, [from, to]: Span): number[] {
  const out: number[] = [],
    inside: Span = [from + INSET * (to - from), to - INSET * (to - from)];
  for (const { off } of inner) {
    if (out.some((v) => Math.abs(v - off) <= ONE_LAYER)) continue;
    const spans = joined(
      inner.flatMap((i) => (Math.abs(i.off - off) <= ONE_LAYER ? [i.span] : [])),
      NEAR,
    );
    if (covered(inside, spans) > ALL_OF * (inside[1] - inside[0])) out.push(off);
  }
  return out;
}
/** Jambs are drawn a little within: so much of a stretch is not looked at, at either end. */
export const INSET = 0.04;
