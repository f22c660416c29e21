import type { FigurePlace, PrintedDimension, PrintedReading } from '../../calibration/index.ts';
import {
  applyTransform,
  makeRegion,
  pieceBox,
  regionContains,
  unionBox,
  type Box,
  type Point,
  MM_PER_POINT,
} from '../../geometry/index.ts';
import type { PageText } from '../../linework/index.ts';
import { cropRingOf, type PrintedSource, type Underlay, type WorkPlane } from '../../model/index.ts';
import {
  holeNotes,
  readPrinted,
  type HoleCallout,
  type SheetUnit,
  type WrittenText,
} from '../callouts/index.ts';
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

type BoxedView = SeenPlane & { box: Box | null };

/** The end of a figure is as near to what it measures as this, millimetres of paper, or as this share of it. */
const SLACK_ON_PAPER = 0.75,
  SLACK_SHARE = 0.005;
/** A figure stands no farther from its view than this, millimetres of paper. */
const BESIDE = 45;
/** A place is on a text so many of its heights above and below its line. */
const SAME_TEXT = 1.5;
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
  const views = seen.map((s) => ({ ...s, box: boxOf(s.view) }));
  // A page that is laid on several planes is read once.
  const pages = new Map<string, LaidSheet[]>();
  for (const s of sheets) {
    const key = `${s.underlay.fileId} ${s.underlay.page}`;
    pages.set(key, [...(pages.get(key) ?? []), s]);
  }
  const read = [...pages.values()].map((laid) => new HeldPage(laid, views, driving, unit)),
    notes = read.flatMap((page) => page.notes()),
    held = heldNotes(
      notes.map((n) => n.callout),
      holes,
    );
  return {
    figures: [
      ...read.flatMap((page) => [...page.dimensions(), ...page.rounds()]),
      ...notes.map(({ callout, sheet, at }, i) => ({
        text: callout.text,
        printed: callout.diameter,
        ...held[i],
        ...placeOf(sheet, at),
      })),
    ],
    left: read.reduce((sum, page) => sum + page.left, 0),
  };
}

const placeOf = ({ underlay }: Pick<LaidSheet, 'underlay'>, at: Point) => ({
  underlayId: underlay.id,
  planeId: underlay.planeId,
  at,
});

/** One page, laid on a plane or on several, with what of it is held already. */
class HeldPage {
  /** Figures that belong to no view, or cannot be held against a solid. */
  left = 0;
  private readonly taken = new Set<string>();
  private readonly texts: LaidSheet['texts'];
  private readonly reading: PrintedReading;

  constructor(
    private readonly laid: readonly LaidSheet[],
    private readonly views: readonly BoxedView[],
    private readonly driving: readonly PrintedSource[],
    private readonly unit: SheetUnit,
  ) {
    [{ texts: this.texts, reading: this.reading }] = laid;
  }

  /** The sheets within whose crop a place lies. */
  private cropped = (at: Point): LaidSheet[] => this.laid.filter((s) => isWithin(s.underlay, at));

  /** Is a text held already, or does it drive? */
  private isTaken(text: WrittenText | FigurePlace): boolean {
    return (
      this.taken.has(placeKey(middleOf(text))) ||
      this.driving.some((d) => this.laid.some((s) => s.underlay.id === d.underlayId) && isOn(text, d.at))
    );
  }

  /** Notes at holes: what says more than a diameter, and diameters that are no dimension. */
  notes(): { callout: HoleCallout; sheet: LaidSheet; at: Point }[] {
    return holeNotes(this.texts, this.unit).flatMap(({ callout: c, texts: rows }) => {
      const lines = rows.map((i) => this.texts[i]),
        at = middleOf(lines[0]),
        saysMore =
          rows.length > 1 || c.count > 1 || c.through || [c.head, c.thread, c.depth].some((v) => v !== null);
      if (lines.some((t) => this.isTaken(t))) return [];
      if (!saysMore && this.reading.dimensions.some((d) => d.text === lines[0].text)) return [];
      for (const t of lines) this.taken.add(placeKey(middleOf(t)));
      const [sheet] = this.cropped(at);
      return sheet ? [{ callout: c, sheet, at }] : [];
    });
  }

  dimensions(): HeldFigure[] {
    return this.reading.dimensions.flatMap((d) => {
      const at = middleOf(d.figure),
        sheets = this.cropped(at);
      if (sheets.length === 0 || this.isTaken(d.figure)) return [];
      this.taken.add(placeKey(at));
      const isLength = d.kind !== 'angle' && d.kind !== 'arc' && !d.free,
        home = isLength ? homeOf(d, sheets, this.views, this.unit) : null;
      if (!home) {
        this.left++;
        return [];
      }
      return [
        {
          text: d.text,
          printed: d.millimetres,
          ...measuredOn(home.view, home.figure),
          words: '',
          ...placeOf(home, at),
        },
      ];
    });
  }

  /** Radii and diameters that stand at a leader, or alone. */
  rounds(): HeldFigure[] {
    return this.texts.flatMap((t): HeldFigure[] => {
      const at = middleOf(t),
        [sheet] = this.cropped(at),
        read = sheet && !this.isTaken(t) ? readPrinted(t.text, this.unit) : null;
      if (read?.kind !== 'radius' && read?.kind !== 'diameter') return [];
      const times = read.kind === 'diameter' ? 2 : 1,
        off = (r: number) => Math.abs(r - read.value),
        like = this.views
          .flatMap((v) => roundsOf(v.view))
          .map((r) => times * r)
          .filter((r) => off(r) <= SIMILAR * read.value),
        model = like.length === 0 ? null : like.reduce((a, b) => (off(b) < off(a) ? b : a)),
        asPrinted = { printed: read.value, tolerance: read.tolerance, half: 0 };
      return [
        {
          text: t.text.trim(),
          printed: read.value,
          model,
          agrees: model !== null && isAsPrinted(model, asPrinted),
          words: '',
          ...placeOf(sheet, at),
        },
      ];
    });
  }
}

/** Does a place lie on a text, or where it begins? */
function isOn({ x, y, width, height, radians }: WrittenText | FigurePlace, [px, py]: Point): boolean {
  const [c, s] = [Math.cos(radians), Math.sin(radians)],
    along = (px - x) * c + (py - y) * s,
    up = (py - y) * c - (px - x) * s;
  return along >= -height && along <= width + height && Math.abs(up) <= SAME_TEXT * height;
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
  views: readonly BoxedView[],
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
