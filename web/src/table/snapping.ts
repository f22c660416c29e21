import {
  applyTransform,
  invertTransform,
  meanScale,
  movedPiece,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { ofType, type Model, type Underlay, gridOn, planeOf } from '@calque/core/model';
import {
  alongGrid,
  alongGuides,
  crossingsBetween,
  guidesOf,
  type Offered,
  type SnapCandidate,
  type SnapKind,
  type SnapLimits,
  type Snapper,
  type Touched,
} from '@calque/core/snapping';
import type { InkCache } from './ink-cache';
import type { LineworkCache } from './linework-cache';
import { withinOutline, type LookCache } from './look-cache';
import type { TraceCache } from './trace-cache';

/** Distance within which a pick finds something, CSS pixels. */
export const SNAP_PIXELS = 11;

export const SNAP_WORDS: Record<SnapKind, string> = {
  end: 'end of line',
  crossing: 'crossing',
  meeting: 'would meet here',
  centre: 'centre',
  middle: 'middle',
  quarter: 'quarter of the circle',
  square: 'square to it',
  tangent: 'tangent to it',
  base: 'where a text begins',
  inline: 'in line with it',
  parallel: 'parallel or square to it',
  grid: 'on the grid',
  along: 'on the line',
};

/** The kinds by name, where they are listed. */
export const SNAP_NAMES: Record<SnapKind, string> = {
  end: 'ends',
  crossing: 'crossings',
  meeting: 'where lines would meet',
  centre: 'centres',
  middle: 'middles',
  quarter: 'quarters of circles',
  square: 'square to',
  tangent: 'tangent to',
  base: 'where texts begin',
  inline: 'in line with what was touched',
  parallel: 'parallel to what was touched',
  grid: 'the grid',
  along: 'along lines',
};

/** Something found under the cursor, in plane millimetres. */
export interface Found {
  kind: SnapKind;
  plane: [number, number];
  /** The underlay that it belongs to, with the point on its sheet; null for what has been traced. */
  underlayId: string | null;
  sheet: [number, number] | null;
  lit: readonly (readonly Point[])[];
  /** The line, arc or curve that it lies on, in plane millimetres; null where it is none there, such as an arc on a stretched sheet. */
  piece?(): Piece | null;
  /** Read from the ink of a scan: how far the ink strays from it, plane millimetres. Absent for what a file or a person drew. */
  stray?: number;
  /** A place that the tool in hand knows better than the linework does, such as the end of a printed dimension: its words. */
  named?: string;
  /** Of another storey, which shows through: its name. */
  ghost?: string;
}

/** What was found, in a few words. */
export const foundWords = (found: Found): string =>
  found.ghost === undefined ? ownWords(found) : `${ownWords(found)}, ${found.ghost}`;

const ownWords = (found: Found): string =>
  found.named !== undefined
    ? found.named
    : found.stray === undefined
      ? SNAP_WORDS[found.kind]
      : `${SNAP_WORDS[found.kind]}, from ink within ${found.stray < 0.1 ? found.stray.toFixed(2) : found.stray < 10 ? found.stray.toFixed(1) : Math.round(found.stray)} mm`;

/** A place on a sheet that the tool in hand knows by name; it comes before all else that lies under the cursor. */
export interface NamedPlace {
  sheet: readonly [number, number];
  words: string;
  /** What is lit up, sheet points. */ lit: readonly (readonly Point[])[];
}
const NAMED_AHEAD = 1;

/** So many lines of each source are crossed with those of the others: more lie too close to be told apart. */
const MOST_CROSSED = 4;

export interface SnapScope {
  planeId: string;
  /** Only this underlay's own linework. */
  onlyUnderlay?: string;
  /** Nothing of this one. */
  notUnderlay?: string;
  /** The point picked before, plane millimetres. */
  anchor?: Point | null;
  /** The one underlay that is shown alone for the moment. */
  aloneId?: string | null;
  /** Kinds that picks find; all when absent. */
  kinds?: ReadonlySet<SnapKind>;
  /** What the cursor has touched before, to be in line with. */
  touched?: readonly Touched[];
  /** Places that the tool knows on the one underlay it is for. */
  named?: readonly NamedPlace[];
  /** Other storeys whose trace shows through and is found as well. */
  ghosts?: readonly string[];
  /** What is found beside all else: edges of the other views of a part, of its solid; each by what it is of. */
  beside?: readonly { snapper: Snapper; of: string }[];
}

/** All that can be snapped to near a plane point, the best first. `scale` is CSS pixels per millimetre. */
export function findSnaps(
  model: Model,
  sheets: LineworkCache,
  looks: LookCache,
  traces: TraceCache,
  inks: InkCache,
  at: Point,
  scale: number,
  scope: SnapScope,
): Found[] {
  const radius = SNAP_PIXELS / scale;
  const found: (Found & { score: number })[] = [];
  const sources: { piece: Piece; lit: readonly Point[] }[][] = [];
  const take = (
    snapper: Snapper,
    candidates: readonly SnapCandidate[],
    place: (p: Point) => [number, number],
    underlayId: string | null,
    moved: (p: Piece) => Piece | null,
  ) => {
    // The lines under the cursor, for where they cross those of other sources.
    const lines = candidates.filter((c) => c.kind === 'along').slice(0, MOST_CROSSED);
    sources.push(
      lines.flatMap((c) => {
        const piece = snapper.piece(c.item);
        const there = piece && moved(piece);
        return there ? [{ piece: there, lit: c.lit[0].map(place) }] : [];
      }),
    );
    for (const c of candidates) {
      found.push({
        kind: c.kind,
        plane: place([c.x, c.y]),
        underlayId,
        sheet: underlayId ? [c.x, c.y] : null,
        lit: c.lit.map((line) => line.map(place)),
        score: c.score,
        piece: () => {
          const own = snapper.piece(c.item);
          return own && moved(own);
        },
      });
    }
  };
  for (const u of ofType(model, 'underlay')) {
    if (!snapsTo(u, scope)) continue;
    for (const c of inks.near(u, at, radius, { within: withinOutline(u), ...limitsOn(u, scope) })) {
      const place = (p: Point) => applyTransform(u.placement, p);
      found.push({
        kind: c.kind,
        plane: place([c.x, c.y]),
        underlayId: u.id,
        sheet: [c.x, c.y],
        lit: c.lit.map((line) => line.map(place)),
        score: c.score,
        stray: c.stray,
        piece: () => onPlane(c.piece, u),
      });
    }
    if (scope.onlyUnderlay === u.id && (!scope.kinds || scope.kinds.has('end')))
      for (const n of scope.named ?? []) {
        const plane = applyTransform(u.placement, n.sheet),
          away = Math.hypot(plane[0] - at[0], plane[1] - at[1]);
        if (away <= radius)
          found.push({
            kind: 'end',
            plane,
            underlayId: u.id,
            sheet: [n.sheet[0], n.sheet[1]],
            lit: n.lit.map((line) => line.map((p) => applyTransform(u.placement, p))),
            score: away / radius - NAMED_AHEAD,
            named: n.words,
          });
      }
    const sheet = sheets.get(u.fileId, u.page);
    if (!sheet) continue;
    // Also where nothing has been switched: layers may be off by the file's own wish.
    const off = looks.of(u, sheet.linework, sheet.linework.layers.length > 0)?.visibility?.items ?? null;
    const unit = meanScale(u.placement);
    const [x, y] = applyTransform(invertTransform(u.placement), at);
    take(
      sheet.snapper,
      sheet.snapper.query(x, y, radius / unit, {
        crop: u.crop,
        off,
        within: withinOutline(u),
        ...limitsOn(u, scope),
      }),
      (p) => applyTransform(u.placement, p),
      u.id,
      (p) => onPlane(p, u),
    );
  }
  if (!scope.onlyUnderlay) {
    const { snapper } = traces.of(model, scope.planeId).index;
    const limits = { anchor: scope.anchor, kinds: scope.kinds };
    take(
      snapper,
      snapper.query(at[0], at[1], radius, limits),
      (p) => [p[0], p[1]],
      null,
      (p) => p,
    );
    for (const id of scope.ghosts ?? []) {
      const first = found.length,
        ghost = traces.of(model, id).index.snapper;
      take(
        ghost,
        ghost.query(at[0], at[1], radius, limits),
        (p) => [p[0], p[1]],
        null,
        (p) => p,
      );
      for (const f of found.slice(first)) f.ghost = planeOf(model, id)?.name;
    }
    for (const { snapper: other, of } of scope.beside ?? []) {
      const first = found.length;
      take(
        other,
        other.query(at[0], at[1], radius, limits),
        (p) => [p[0], p[1]],
        null,
        (p) => p,
      );
      for (const f of found.slice(first)) f.ghost = of;
    }
  }
  const offer = (c: Omit<Offered, 'kind'>, kind: SnapKind) => {
    if (!scope.kinds || scope.kinds.has(kind))
      found.push({ kind, plane: [c.x, c.y], underlayId: null, sheet: null, lit: c.lit, score: c.score });
  };
  for (const c of crossingsBetween(sources, at, radius)) offer(c, 'crossing');
  // What one underlay alone is picked on knows no plane yet: neither grid nor guides say anything there.
  if (!scope.onlyUnderlay) {
    if (scope.touched && scope.touched.length > 0)
      for (const c of alongGuides(guidesOf(scope.touched, scope.anchor ?? null), at, radius, sources.flat()))
        offer(c, c.kind);
    const grid = gridOn(model, scope.planeId);
    if (grid?.shown && showsGrid(grid, scale)) for (const c of alongGrid(grid, at, radius)) offer(c, c.kind);
  }
  return found.sort((a, b) => a.score - b.score);
}

/** Lines of the grid closer than this on the screen, CSS pixels, run together: they are neither drawn nor found. */
export const LEAST_GRID_PIXELS = 7;
const showsGrid = (grid: { across: number; up: number }, scale: number) =>
  Math.min(grid.across, grid.up) * scale >= LEAST_GRID_PIXELS;

/** Is the sheet as large one way as the other? Otherwise its arcs are none on the plane. */
const keepsCircles = ([a, b, c, d]: Underlay['placement']) =>
  Math.abs(Math.hypot(a, b) / Math.hypot(c, d) - 1) < 1e-9;

/** A piece of a sheet on the plane; null for none, or an arc that is none there. */
const onPlane = (p: Piece | null, u: Underlay): Piece | null =>
  p && (p.kind !== 'arc' || keepsCircles(u.placement)) ? movedPiece(p, u.placement) : null;

/** What the tool asks of a pick, in the space of the sheet. */
const limitsOn = (u: Underlay, { anchor, kinds }: SnapScope): SnapLimits => ({
  anchor: anchor && applyTransform(invertTransform(u.placement), anchor),
  kinds,
});

function snapsTo(u: Underlay, scope: SnapScope): boolean {
  if (scope.onlyUnderlay) return u.id === scope.onlyUnderlay && u.visible;
  return (
    u.id !== scope.notUnderlay &&
    (scope.aloneId ? u.id === scope.aloneId : u.visible) &&
    u.snap &&
    u.planeId === scope.planeId &&
    u.fade < 1
  );
}
