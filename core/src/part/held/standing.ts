import type { PrintedDimension, PrintedReading } from '../../calibration/index.ts';
import {
  applyTransform,
  makeRegion,
  pieceBox,
  regionContains,
  unionBox,
  type Box,
  type Point,
} from '../../geometry/index.ts';
import type { PageText } from '../../linework/index.ts';
import { cropRingOf, type PrintedSource, type Underlay, type WorkPlane } from '../../model/index.ts';
import { holeNotes, readPrinted, type SheetUnit } from '../callouts/index.ts';
import { isAsPrinted, measuredOn, type StandingFigure } from './figures.ts';
import { heldNotes, type SolidHole } from './notes.ts';
import type { SolidView } from './view.ts';

/** A plane of a part with what is seen of its solid there. */
export interface SeenPlane {
  plane: WorkPlane;
  view: SolidView;
}
/** A sheet that is laid on a plane of a part, with what is printed on it. */
export interface LaidSheet {
  underlay: Underlay;
  texts: readonly PageText[];
  reading: PrintedReading;
}

/** A printed figure or note held against a solid. */
export interface HeldFigure {
  text: string;
  /** Millimetres. */
  printed: number;
  /** What the solid measures there; null: it has nothing there. */
  model: number | null;
  agrees: boolean;
  /** What differs, where a figure alone does not tell; empty: nothing. */
  words: string;
  underlayId: string;
  planeId: string;
  /** The middle of its text, sheet points. */
  at: Point;
}
export interface HeldFigures {
  figures: HeldFigure[];
  /** Figures of these sheets that belong to no view of the part, or that nothing can be held against (angles, lengths of arcs). */
  left: number;
}

const MM_PER_POINT = 25.4 / 72;
/** The end of a figure is as near to what it measures as this, millimetres of paper, or as this share of it. */
const SLACK_ON_PAPER = 0.75,
  SLACK_SHARE = 0.005;
/** A figure stands no farther from its view than this, millimetres of paper. */
const BESIDE = 45;
/** Texts of one place are one, in heights of theirs. */
const SAME_TEXT = 1;
/** Where a radius stands for itself, of several nearly as large the one that differs by no more than this share is meant. */
const SIMILAR = 0.2;

/** All that is printed on the sheets of a part, held against its solid; what `driving` names is left to those who hold that. */
export function heldFigures(
  seen: readonly SeenPlane[],
  sheets: readonly LaidSheet[],
  holes: readonly SolidHole[],
  driving: readonly PrintedSource[],
  unit: SheetUnit,
): HeldFigures {
  const views = seen.map((s) => ({ ...s, box: boxOf(s.view) })),
    figures: HeldFigure[] = [];
  let left = 0;
  // A page that is laid on several planes is read once.
  const pages = new Map<string, LaidSheet[]>();
  for (const s of sheets) {
    const key = `${s.underlay.fileId} ${s.underlay.page}`;
    pages.set(key, [...(pages.get(key) ?? []), s]);
  }
  const notes: { callout: ReturnType<typeof holeNotes>[number]['callout']; sheet: LaidSheet; at: Point }[] =
    [];
  for (const laid of pages.values()) {
    const [{ texts, reading }] = laid,
      isDriving = (at: Point, height: number) =>
        driving.some(
          (d) =>
            laid.some((s) => s.underlay.id === d.underlayId) &&
            Math.hypot(d.at[0] - at[0], d.at[1] - at[1]) <= SAME_TEXT * height,
        );
    const cropped = (at: Point) => laid.filter((s) => isWithin(s.underlay, at));
    const said = holeNotes(texts, unit).filter(
      ({ callout: c, texts: rows }) =>
        rows.length > 1 ||
        c.count > 1 ||
        c.head !== null ||
        c.thread !== null ||
        c.through ||
        c.depth !== null ||
        !reading.dimensions.some((d) => d.text === texts[rows[0]].text),
    );
    const inNotes = new Set(said.flatMap((n) => n.texts.map((i) => placeKey(middleOf(texts[i])))));
    for (const { callout, texts: rows } of said) {
      const at = middleOf(texts[rows[0]]),
        [sheet] = cropped(at);
      if (sheet) notes.push({ callout, sheet, at });
    }
    const placed = new Set<string>();
    for (const d of reading.dimensions) {
      const at = middleOf(d.figure),
        key = placeKey(at);
      if (cropped(at).length === 0 || inNotes.has(key) || isDriving(at, d.figure.height)) continue;
      placed.add(key);
      const home =
        d.kind !== 'angle' && d.kind !== 'arc' && !d.free ? homeOf(d, cropped(at), views, unit) : null;
      if (!home) {
        left++;
        continue;
      }
      const { model, agrees } = measuredOn(home.view, home.figure);
      figures.push({
        text: d.text,
        printed: d.millimetres,
        model,
        agrees,
        words: '',
        underlayId: home.underlay.id,
        planeId: home.underlay.planeId,
        at,
      });
    }
    // Radii that stand at a leader, or alone.
    for (const t of texts) {
      const at = middleOf(t),
        key = placeKey(at);
      if (placed.has(key) || inNotes.has(key) || isDriving(at, t.height)) continue;
      const read = readPrinted(t.text, unit),
        [sheet] = cropped(at);
      if (!sheet || (read?.kind !== 'radius' && read?.kind !== 'diameter')) continue;
      const times = read.kind === 'diameter' ? 2 : 1,
        sizes = views.flatMap((v) => roundsOf(v.view)).map((r) => times * r),
        like = sizes.filter((r) => Math.abs(r - read.value) <= SIMILAR * read.value),
        model =
          like.length === 0
            ? null
            : like.reduce((a, b) => (Math.abs(b - read.value) < Math.abs(a - read.value) ? b : a));
      figures.push({
        text: t.text.trim(),
        printed: read.value,
        model,
        agrees:
          model !== null && isAsPrinted(model, { printed: read.value, tolerance: read.tolerance, half: 0 }),
        words: '',
        underlayId: sheet.underlay.id,
        planeId: sheet.underlay.planeId,
        at,
      });
    }
  }
  heldNotes(
    notes.map((n) => n.callout),
    holes,
  ).forEach((held, i) => {
    const { callout, sheet, at } = notes[i];
    figures.push({
      text: callout.text,
      printed: callout.diameter,
      ...held,
      underlayId: sheet.underlay.id,
      planeId: sheet.underlay.planeId,
      at,
    });
  });
  return { figures, left };
}

const placeKey = ([x, y]: Point) => `${x.toFixed(1)} ${y.toFixed(1)}`;
const middleOf = ({ x, y, width, radians }: Pick<PageText, 'x' | 'y' | 'width' | 'radians'>): Point => [
  x + (Math.cos(radians) * width) / 2,
  y + (Math.sin(radians) * width) / 2,
];
const isWithin = (u: Underlay, [x, y]: Point): boolean =>
  regionContains(makeRegion([cropRingOf(u)], 'nonzero'), x, y);
const roundsOf = ({ visible, hidden }: SolidView): number[] =>
  [...visible, ...hidden].flatMap((p) => (p.kind === 'arc' ? [p.arc.r] : []));

function boxOf({ visible, hidden }: SolidView): Box | null {
  const boxes = [...visible, ...hidden].map(pieceBox);
  return boxes.length === 0 ? null : boxes.reduce(unionBox);
}

/** The view that a dimension is drawn beside, and the dimension where it lies on that plane. */
function homeOf(
  d: PrintedDimension,
  laid: readonly LaidSheet[],
  views: readonly (SeenPlane & { box: Box | null })[],
  unit: SheetUnit,
): { view: SolidView; underlay: Underlay; figure: StandingFigure } | null {
  let best: { view: SolidView; underlay: Underlay; figure: StandingFigure } | null = null,
    least = BESIDE;
  for (const { underlay } of laid) {
    const seen = views.find((v) => v.plane.id === underlay.planeId);
    if (!seen?.box) continue;
    const factor = Math.hypot(underlay.placement[0], underlay.placement[1]) / MM_PER_POINT,
      [from, to] = [d.from, d.to].map((p) => applyTransform(underlay.placement, p)),
      slack = Math.max(SLACK_ON_PAPER * factor, SLACK_SHARE * Math.hypot(to[0] - from[0], to[1] - from[1])),
      beside = besideOf(from, to, seen.box, slack);
    if (beside === null || beside / factor >= least) continue;
    least = beside / factor;
    best = {
      view: seen.view,
      underlay,
      figure: {
        kind: d.kind === 'radius' || d.kind === 'diameter' ? d.kind : 'length',
        printed: d.millimetres,
        tolerance: readPrinted(d.text, unit)?.tolerance ?? null,
        half: d.half,
        from,
        to,
        slack,
      },
    };
  }
  return best;
}

/** How far a stretch lies beside a box, square to itself; null where it reaches beyond the box along itself. */
function besideOf(from: Point, to: Point, [x0, y0, x1, y1]: Box, slack: number): number | null {
  const n = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (!(n > 0)) return null;
  const way: Point = [(to[0] - from[0]) / n, (to[1] - from[1]) / n],
    span = (u: number, v: number): [number, number] => {
      const all = [
        [x0, y0],
        [x1, y0],
        [x1, y1],
        [x0, y1],
      ].map(([x, y]) => x * u + y * v);
      return [Math.min(...all), Math.max(...all)];
    };
  const [low, high] = span(...way),
    [a, b] = [from, to].map((p) => p[0] * way[0] + p[1] * way[1]).sort((p, q) => p - q);
  if (a < low - 2 * slack || b > high + 2 * slack) return null;
  const [near, far] = span(-way[1], way[0]),
    off = -from[0] * way[1] + from[1] * way[0];
  return Math.max(0, near - off, off - far);
}
