import { openingWords, pointAt, seenInGap, type OpeningSeen, type TextAt } from '../building/index.ts';
import type { Piece, Point } from '../geometry/index.ts';
import { foldingSide, hasArc, isFurniture, slidingSide, swingsHere } from './leaves.ts';
import type { Nearby } from './nearby.ts';
import {
  edgesOf,
  innerOf,
  INSET,
  layersOf,
  linesIn,
  lookedAt,
  NEAR,
  ONE_JAMB,
  ONE_LAYER,
  ownPens,
  spansOf,
  type OpenedWall,
  type Seen,
  type Stretch,
} from './seen-along.ts';
import { common, covered, joined, total, type Span } from './spans.ts';
import type { ProposedOpening } from './types.ts';

/** Openings of plans are as wide as this, millimetres. */
const NARROWEST = 350,
  WIDEST = 6500;
/** A wall stands where so much of both its faces is drawn, by its own pens; a gap is where less than the second is. */
const STANDS = 0.55,
  OPEN = 0.3;

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
  // Ink has no pens: where its faces end by whatever drew them.
  const ends = edgesOf(
      wall.ofInk ? { ...seen, inner: [] } : seen,
      wall.ofInk && !wall.solid ? any : drawn,
      band.length,
      wall.met,
    ),
    layers = wall.solid || wall.ofInk ? null : layersOf(seen, ends, drawn, wall.met);
  const found: (Stretch & { seen: OpeningSeen })[] = [];
  for (let i = 0; i + 1 < ends.length; i++) {
    const stretch = { from: ends[i].high, to: ends[i + 1].low },
      width = stretch.to - stretch.from;
    if (width < NARROWEST || width > WIDEST) continue;
    // Where another wall meets it there is no opening; but it may begin right beside.
    if (covered([stretch.from, stretch.to], wall.met) > 0.3 * width) continue;
    const kind = kindOf(stretch, { seen, drawn, any, wall, own, layers });
    if (kind) found.push({ ...stretch, seen: kind });
  }
  const isStudded =
    seen.jambs.filter((t) => !found.some((o) => t > o.from - 2 * FRAME.most && t < o.to + 2 * FRAME.most))
      .length > found.length;
  return withoutMullions(found).map((clear, i, all): ProposedOpening => {
    const framed = withFrame(clear, drawn, seen.jambs, isStudded),
      // What stands between two openings parts them.
      isFree =
        framed.from > (all[i - 1]?.to ?? -NEAR) + NEAR &&
        framed.to < (all[i + 1]?.from ?? band.length + NEAR) - NEAR,
      o = isFree ? { ...clear, ...framed } : clear,
      leaf = o.seen.kind === 'door',
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
      folds: o.seen.folds === true,
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
      type: null,
      material: null,
      confidence: base * (0.5 + 0.5 * wall.confidence),
    };
  });
}

/** What is known of a wall in which openings are looked for: what is drawn of both faces by its own pens and by any, and where its layers lie. */
interface Look {
  seen: Seen;
  drawn: readonly Span[];
  any: readonly Span[];
  wall: OpenedWall;
  own: ReadonlySet<string>;
  layers: readonly number[] | null;
}

function kindOf({ from, to }: Stretch, { seen, drawn, any, wall, own, layers }: Look): OpeningSeen | null {
  const width = to - from,
    inside: Span = [from + INSET * width, to - INSET * width],
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
        swingsHere(piece, wall.band, { from, to }) && !isFurniture(seen, piece, wall.band, width)
          ? [piece]
          : [],
      ),
    );
  // A casement swings too, but shuts between panes.
  const isGlazed =
    shown > STANDS && seen.inner.filter((i) => covered(inside, [i.span]) > 0.9 * length).length > 1;
  // A threshold may be drawn as the faces are.
  if (!isGlazed && hasArc(seen.pieces, wall.band, { from, to })) {
    const found = look();
    if (found.kind === 'door' && found.swingSeen) return found;
  }
  const plain = { leaves: 0, hung: 'from', opens: 'left', swingSeen: false } as const;
  if (stands > STANDS) {
    // One pen may draw all, or the faces lie under a white patch: then a window shows by lines between its faces that the wall beside it has not.
    const lines = linesIn(seen, [from, to]),
      isOf = (of: readonly number[], v: number) => of.some((o) => Math.abs(o - v) <= ONE_LAYER),
      isWindow = layers
        ? lines.some((v) => !isOf(layers, v)) && !layers.some((v) => isOf(lines, v))
        : !wall.solid &&
          covered(inside, innerOf(seen, own)) >= 0.9 * length &&
          elsewhere(seen, [from, to], wall) <= 0.3;
    return isWindow ? { kind: 'window', ...plain } : null;
  }
  if (panes > 0.7 || shown > STANDS) return { kind: 'window', ...plain };
  // Leaves that fold are lines that stand off the wall too.
  const folding = shown < OPEN ? foldingSide(seen, { from, to }, wall.band) : null;
  if (folding) return { kind: 'door', ...plain, folds: true, opens: folding };
  const found = look();
  if (found.kind === 'door') return found;
  if (shown >= OPEN) return null;
  // A leaf that slides stands beside its opening or in it, half open.
  const side = slidingSide(seen, { from, to }, wall.band);
  return side ? { kind: 'door', ...plain, opens: side } : { ...found, kind: 'gap' };
}

/** Frames are as wide as this at each side, millimetres. */
const FRAME = { least: 15, most: 130 };

/**
 * An opening with its frame: the wall is cut to where its own faces end in a jamb, though leaves and panes stand within a frame that another pen draws. Where
 * one pen draws all a frame shows by a second line as far behind either jamb, in a wall that few such lines cross elsewhere (studs do).
 */
function withFrame(
  { from, to, seen: { kind } }: Stretch & { seen: OpeningSeen },
  drawn: readonly Span[],
  jambs: readonly number[],
  isStudded: boolean,
): Stretch {
  const isWide = (n: number) => n >= FRAME.least && n <= FRAME.most,
    isFrame = (t: number, edge: number) =>
      isWide(Math.abs(t - edge)) && jambs.some((j) => Math.abs(j - t) <= NEAR),
    before = drawn
      .map((s) => s[1])
      .filter((t) => t <= from + NEAR)
      .at(-1),
    after = drawn.map((s) => s[0]).find((t) => t >= to - NEAR);
  if ((before !== undefined && isFrame(before, from)) || (after !== undefined && isFrame(after, to)))
    return {
      from: before !== undefined && isFrame(before, from) ? before : from,
      to: after !== undefined && isFrame(after, to) ? after : to,
    };
  const wide =
    kind === 'door' && !isStudded
      ? jambs.map((j) => from - j).filter((n) => isWide(n) && jambs.some((o) => Math.abs(o - to - n) <= NEAR))
      : [];
  const most = Math.max(0, ...wide);
  return { from: from - most, to: to + most };
}

/** How much of a wall right beside a stretch has lines between its faces. */
function elsewhere(seen: Seen, [from, to]: Span, { band }: OpenedWall): number {
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
  const near = total(beside);
  return near < 1 ? 0 : total(common(joined(beside), inner)) / near;
}

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
