import {
  openingWords,
  pointAt,
  seenInGap,
  type OpeningSeen,
  type TextAt,
  type WallBand,
} from '../building/index.ts';
import { boxOfPoints, type Piece, type Point } from '../geometry/index.ts';
import { common, covered, joined, total, type Span } from './spans.ts';
import type { DrawnPiece, Nearby } from './nearby.ts';
import type { ProposedOpening } from './types.ts';

/** Openings of plans are as wide as this, millimetres. */
const NARROWEST = 350,
  WIDEST = 6500;
/** A jamb goes from face to face, within this share of the thickness and this many millimetres; it runs square to its wall within this sine. */
const SHORT_OF = 0.12,
  BEYOND = 90,
  SQUARE = 0.05;
/** Lines of one frame are no farther apart than this. */
const ONE_JAMB = 75;
/** Two lines are one within this many millimetres. */
const NEAR = 4;
/** A wall stands where so much of both its faces is drawn, by its own pens; a gap is where less than the second is. */
const STANDS = 0.55,
  OPEN = 0.3;

/** A wall whose openings are looked for, millimetres. */
export interface OpenedWall {
  band: WallBand;
  confidence: number;
  /** Drawn as one thick line or as a fill: it ends where that ends. */
  solid: readonly Span[] | null;
  /** Stretches in which other walls meet it. */
  met: readonly Span[];
}

interface Seen {
  jambs: number[];
  /** What of each face is drawn, by pen. */
  faces: [Map<string, Span[]>, Map<string, Span[]>];
  /** Lines along it between its faces. */
  inner: { pen: string; span: Span }[];
  pieces: DrawnPiece[];
}

/** The openings that a sheet shows in a wall, from its first end on. `number`: that of the wall; `penOf`: how much a pen draws walls, 0 to 1. */
export function openingsIn(
  wall: OpenedWall,
  number: number,
  near: Pick<Nearby, 'within'>,
  texts: readonly TextAt[],
  mm: number,
  penOf: (pen: string) => number,
): ProposedOpening[] {
  const { band } = wall,
    seen = lookedAt(band, near),
    own = ownPens(seen, band, penOf),
    drawn = wall.solid
      ? joined(wall.solid)
      : common(...(seen.faces.map((face) => spansOf(face, own)) as [Span[], Span[]])),
    any = common(...(seen.faces.map((face) => spansOf(face, null)) as [Span[], Span[]]));
  const ends = edgesOf(seen.jambs, wall.solid ? drawn : [...any, ...drawn], band.length, wall.met);
  const found: (Stretch & { seen: OpeningSeen })[] = [];
  for (let i = 0; i + 1 < ends.length; i++) {
    const stretch = { from: ends[i].high, to: ends[i + 1].low },
      width = stretch.to - stretch.from;
    if (width < NARROWEST || width > WIDEST) continue;
    // Where another wall meets it there is no opening; but it may begin right beside.
    if (covered([stretch.from, stretch.to], wall.met) > 0.3 * width) continue;
    const kind = kindOf(stretch, seen, drawn, any, wall, own);
    if (kind) found.push({ ...stretch, seen: kind });
  }
  return withoutMullions(found).map((o): ProposedOpening => {
    const leaf = o.seen.kind === 'door',
      words = openingWords(texts, o.seen.kind, band, o.from, o.to),
      hinge = o.seen.hung === 'from' ? o.from : o.to,
      side = o.seen.opens === 'left' ? band.left : -band.right,
      place = (p: Point): [number, number] => [p[0] / mm, p[1] / mm];
    const base = { door: o.seen.swingSeen ? 0.96 : 0.8, window: 0.93, gap: 0.75, niche: 0.3 }[o.seen.kind];
    return {
      kind: o.seen.kind === 'niche' ? 'gap' : o.seen.kind,
      at: place(pointAt(band, (o.from + o.to) / 2, 0)),
      width: o.to - o.from,
      wall: number,
      from: o.from,
      to: o.to,
      leaves: o.seen.leaves as 0 | 1 | 2,
      hung: o.seen.hung,
      opens: o.seen.opens,
      swing:
        leaf && o.seen.swingSeen
          ? {
              hinge: place(pointAt(band, hinge, side)),
              clockwise: (o.seen.hung === 'from') !== (o.seen.opens === 'left'),
            }
          : null,
      tag: words.tag,
      height: words.height,
      sill: words.sill,
      confidence: base * (0.5 + 0.5 * wall.confidence),
    };
  });
}

type Stretch = { from: number; to: number };

/** What is drawn at a wall, along it. */
function lookedAt(band: WallBand, near: Pick<Nearby, 'within'>): Seen {
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
      } else if (v < band.left && v > -band.right) out.inner.push({ pen: drawn.pen, span });
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
const spansOf = (face: ReadonlyMap<string, Span[]>, pens: ReadonlySet<string> | null): Span[] =>
  joined(
    [...face].flatMap(([pen, spans]) => (!pens || pens.has(pen) ? spans : [])),
    RUNS_ON,
  );

/** A pen that drew less of the faces of a wall than this is none of its own; one that draws walls nearly as much as another is one beside it. */
const LEAST_OWN = 0.06,
  AS_MUCH = 0.8;

/** Of the pens that draw the faces of a wall those that most draw walls elsewhere: windows are drawn along the faces too. */
function ownPens({ faces }: Seen, band: WallBand, penOf: (pen: string) => number): Set<string> {
  const sums = new Map<string, number>();
  for (const face of faces)
    for (const [pen, spans] of face)
      sums.set(pen, (sums.get(pen) ?? 0) + total(common(joined(spans), [[0, band.length]])));
  const all = [...sums.values()].reduce((a, b) => a + b, 0),
    real = [...sums].filter(([, n]) => n >= LEAST_OWN * all).map(([pen]) => pen),
    most = Math.max(0, ...real.map(penOf));
  return new Set(real.filter((pen) => penOf(pen) >= AS_MUCH * most));
}

/** Places along a wall at which openings may begin or end: jambs, and where its faces end. Each with where it begins and ends itself. */
function edgesOf(
  jambs: readonly number[],
  drawn: readonly Span[],
  length: number,
  met: readonly Span[],
): { low: number; high: number }[] {
  const inMet = (t: number) => met.some(([a, b]) => t > a + 2 * NEAR && t < b - 2 * NEAR);
  const places = [...jambs, ...drawn.flat(), ...met.flat()]
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

function kindOf(
  { from, to }: Stretch,
  seen: Seen,
  drawn: readonly Span[],
  any: readonly Span[],
  wall: OpenedWall,
  pens: ReadonlySet<string>,
): OpeningSeen | null {
  const width = to - from,
    inside: Span = [from + 0.04 * width, to - 0.04 * width],
    length = inside[1] - inside[0];
  const stands = covered(inside, drawn) / length,
    shown = covered(inside, any) / length,
    panes = covered(inside, innerOf(seen)) / length;
  const look = (): OpeningSeen =>
    seenInGap(
      wall.band,
      from,
      to,
      seen.pieces.flatMap(({ piece }): Piece[] =>
        swingsHere(piece, wall.band, { from, to }) ? [piece] : [],
      ),
    );
  // A threshold may be drawn as the faces are.
  if (hasArc(seen.pieces, wall.band, { from, to })) {
    const found = look();
    if (found.kind === 'door' && found.swingSeen) return found;
  }
  const plain = { leaves: 0, hung: 'from', opens: 'left', swingSeen: false } as const;
  if (stands > STANDS) {
    // One pen may draw all, or the faces lie under a white patch: then a window shows by lines between its faces that the wall beside it has not.
    const own = covered(inside, innerOf(seen, pens)) / length,
      shows = own >= 0.9 ? elsewhere(seen, [from, to], wall, null) : elsewhere(seen, [from, to], wall, drawn),
      isWindow = !wall.solid && panes >= 0.9 && shows !== null && shows <= 0.3;
    return isWindow ? { kind: 'window', ...plain } : null;
  }
  if (panes > 0.7 || shown > STANDS) return { kind: 'window', ...plain };
  const found = look();
  if (found.kind === 'door') return found;
  // A leaf that slides stands beside its opening or in it, half open.
  const slides = shown < OPEN ? slidingSide(seen, { from, to }, wall.band) : null;
  if (slides) return { kind: 'door', ...plain, opens: slides };
  return shown < OPEN ? { ...found, kind: 'gap' } : null;
}

/** A leaf that slides is so much of the width of its opening, and stands no farther before the face of its wall, millimetres; one that folds is as many short leaves. */
const SLIDING = { least: 0.4, most: 1.15, before: 160, atJamb: 0.12 };

/** To which side of a wall a leaf slides that is drawn along it, in the opening or before it; null where none is. */
function slidingSide(seen: Seen, { from, to }: Stretch, band: WallBand): 'left' | 'right' | null {
  const width = to - from;
  let best: { side: 'left' | 'right'; inside: number } | null = null;
  for (const { piece, dashed } of seen.pieces) {
    if (piece.kind !== 'segment' || dashed) continue;
    const [t0, v0] = local(band, piece.from),
      [t1, v1] = local(band, piece.to),
      [low, high] = [Math.min(t0, t1), Math.max(t0, t1)],
      v = (v0 + v1) / 2,
      long = high - low;
    if (Math.abs(v1 - v0) > SQUARE * long + 1) continue;
    // A threshold lies on a face.
    const onFace = Math.max(NEAR, 0.06 * (band.left + band.right));
    if (Math.abs(v - band.left) < onFace || Math.abs(v + band.right) < onFace) continue;
    if (long < SLIDING.least * width || long > SLIDING.most * width) continue;
    if (v > band.left + SLIDING.before || v < -band.right - SLIDING.before) continue;
    const inside = (Math.min(high, to) - Math.max(low, from)) / width,
      atJamb = Math.min(...[low, high].flatMap((t) => [Math.abs(t - from), Math.abs(t - to)]));
    if (atJamb > SLIDING.atJamb * width || inside < SLIDING.least - 0.05 || (best && best.inside >= inside))
      continue;
    best = { side: v >= 0 ? 'left' : 'right', inside };
  }
  return best?.side ?? null;
}

/** A leaf hangs and shuts within this of the faces of its wall, millimetres. */
const AT_FACE = 80;

/** The arc of a leaf begins, shut, at the other edge of its opening, or in its middle where there are two: of another opening it does not. */
function swingsHere(piece: Piece, band: WallBand, { from, to }: Stretch): boolean {
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

const hasArc = (pieces: readonly DrawnPiece[], band: WallBand, { from, to }: Stretch): boolean =>
  pieces.some(({ piece }) => {
    if (piece.kind !== 'arc') return false;
    const [t] = local(band, [piece.arc.cx, piece.arc.cy]),
      room = 0.16 * (to - from);
    return Math.min(Math.abs(t - from), Math.abs(t - to)) < room && swingsHere(piece, band, { from, to });
  });

/** Stretches with lines between the faces of a wall, by some pens or any. */
const innerOf = ({ inner }: Seen, pens: ReadonlySet<string> | null = null): Span[] =>
  joined(
    inner.flatMap(({ pen, span }) => (!pens || pens.has(pen) ? [span] : [])),
    NEAR,
  );

/** How much of a wall right beside a stretch has lines between its faces; with `stands` of what of it stands, null where next to nothing does. */
function elsewhere(
  seen: Seen,
  [from, to]: Span,
  { band }: OpenedWall,
  stands: readonly Span[] | null,
): number | null {
  const inner = innerOf(seen),
    around: Span[] = [
      [0, Math.max(0, from)],
      [Math.min(band.length, to), band.length],
    ],
    length = total(around);
  if (length < 1) return 0;
  // Other windows have such lines too: what counts is between them.
  const edges = [...seen.jambs].sort((a, b) => a - b);
  const beside = around.map(([a, b]): Span => {
    const before = edges.filter((t) => t < from - ONE_JAMB).at(-1) ?? a,
      after = edges.find((t) => t > to + ONE_JAMB) ?? b;
    return b <= from + 1 ? [Math.max(a, before), b] : [a, Math.min(b, after)];
  });
  const looked = stands ? common(joined(beside), stands) : joined(beside),
    near = total(looked);
  if (stands && near < LEAST_BESIDE) return null;
  return near < 1 ? 0 : total(common(looked, inner)) / near;
}

/** So much of a wall must stand beside a window, millimetres, to tell its lines from layers. */
const LEAST_BESIDE = 100;

/** Windows beside one another, with a post between, are one. */
function withoutMullions<T extends Stretch & { seen: OpeningSeen }>(found: readonly T[]): T[] {
  const out: T[] = [];
  for (const o of found) {
    const last = out.at(-1);
    if (last && last.seen.kind === 'window' && o.seen.kind === 'window' && o.from - last.to <= 2 * ONE_JAMB)
      last.to = o.to;
    else out.push({ ...o });
  }
  return out;
}
