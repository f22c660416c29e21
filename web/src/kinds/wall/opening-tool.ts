import {
  asPrinted,
  arcOf,
  bandNear,
  gapNear,
  openingCorners,
  openingLines,
  openingsOf,
  pointAt,
  stretchOn,
  type OpeningPrinted,
  type OpeningSeen,
  type WallBand,
} from '@calque/core/building';
import type { Point } from '@calque/core/geometry';
import {
  freeOpeningId,
  get,
  nextTag,
  pairOf,
  setFields,
  usualOpening,
  type Model,
  type OpeningKind,
  type OpeningMeasure,
  type Wall,
  type WallOpening,
  standing,
  topOf,
} from '@calque/core/model';
import { formatLength, formatLengthWithUnit } from '@calque/core/units';
import type { NamedWays, Ways } from '@/drawing/next-way';
import { linesOf, piecesNear } from '@/drawing/plan-lines';
import { lengthStyle } from '@/project/views';
import type { Brush } from '@/table/brush';
import { piecePath, ringPath } from '@/table/painters/trace';
import { traceHere } from '@/table/hit';
import type { Table } from '@/table/table';
import type { FieldRequest, Pick } from '@/table/tool';
import { lengthField, typedLength } from '@/table/tools/geometry';
import { printedBeside } from './printed-beside';
import { useOpeningFigures, type TypedFigures } from './opening-figures';

const KINDS: readonly OpeningKind[] = ['door', 'window', 'gap', 'niche'];
export const OPENING_WORDS: Readonly<Record<OpeningKind, string>> = {
  door: 'door',
  window: 'window',
  gap: 'gap',
  niche: 'niche',
};
/** Usual widths, until another is typed; millimetres. */
const USUAL_WIDTH: Readonly<Record<OpeningKind, number>> = {
  door: 900,
  window: 1200,
  gap: 900,
  niche: 600,
};
/** A wall is meant when the pointer is this near to its body, CSS pixels. */
const REACH_PIXELS = 12;
/** So far along a wall its plan is looked at for an opening, millimetres. */
const LOOKED_AT = 3500;

/** Widths this near, millimetres, are one. */
const SAME_WIDTH = 5;

/** Where an opening is to be, and what has been typed of it. */
interface Place {
  wall: Wall;
  band: WallBand;
  from: number;
  to: number;
  kind: OpeningKind;
  figures: TypedFigures;
}

interface Proposal {
  wall: Wall;
  band: WallBand;
  from: number;
  to: number;
  opening: WallOpening;
  /** Are its edges those of the plan? */ fromPlan: boolean;
  /** What the sheet writes beside it, where its edges are the plan's. */ printed?: OpeningPrinted;
}

/** Puts doors, windows, gaps and niches into walls: where the plan shows one its edges and swing are taken from there. */
class OpeningTool implements NamedWays {
  readonly id = 'opening';
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private hover: Pick | null = null;
  /** null: whatever the plan shows, a door where it shows nothing. */
  private kind: OpeningKind | null = null;
  private beside: { key: string; model: Model; printed: OpeningPrinted } | null = null;

  constructor(private readonly table: Table) {}

  words(): string {
    const p = this.proposal(),
      style = lengthStyle(this.table.session.state.model);
    if (typeof p === 'string') return `Opening: ${p} · F: door, window, gap, niche · Esc ends`;
    const { opening, from, to, fromPlan } = p,
      swing =
        opening.kind === 'door' && !fromPlan
          ? ' · the side you point at is where it opens, Shift hangs it at the other edge'
          : opening.kind === 'niche' && !fromPlan
            ? ' · it is open to the side you point at'
            : '';
    return `Opening: click for a ${OPENING_WORDS[opening.kind]} ${formatLengthWithUnit(to - from, style)} wide${fromPlan ? `, as the plan shows it${this.printedWords(p)}` : ', or type its width'}${swing} · Esc ends`;
  }

  /** What the sheet prints of it; where it is not what is drawn or does not fit, that is to be seen. */
  private printedWords({ printed, from, to, wall }: Proposal): string {
    if (!printed) return '';
    const { tag, width, height, sill } = printed,
      size = [width, height].filter((mm) => mm !== null).map((mm) => this.length(mm));
    const words = [
      ...(tag === null ? [] : [tag]),
      ...(size.length === 0 ? [] : [size.join(' by ')]),
      ...(sill === null ? [] : [`sill ${this.length(sill)}`]),
      ...(width !== null && Math.abs(width - (to - from)) > SAME_WIDTH ? ['not as wide as it is drawn'] : []),
      ...(height !== null && (sill ?? 0) + height > this.topOf(wall) ? ['higher than the wall'] : []),
    ];
    return words.length === 0 ? '' : `; the sheet prints ${words.join(', ')}`;
  }

  ways(): Ways {
    return {
      words: ['as the plan shows', ...KINDS],
      at: this.kind === null ? 0 : KINDS.indexOf(this.kind) + 1,
      choose: (at) => {
        this.kind = at === 0 ? null : KINDS[at - 1];
      },
    };
  }

  nextVariant(): boolean {
    const { at, words, choose } = this.ways();
    choose((at + 1) % words.length);
    return true;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  /** The wall that is meant, and where along it the pointer stands. */
  private wallAt({ bare }: Pick): { wall: Wall; band: WallBand; along: number; left: boolean } | null {
    const reach = REACH_PIXELS / this.table.view.scale,
      { walls, locked } = traceHere(this.table);
    let best: ReturnType<OpeningTool['wallAt']> = null,
      nearest = reach;
    for (const wall of walls) {
      // A wall within a placed group is changed in its group.
      if ((wall.layerId && locked.has(wall.layerId)) || !get(this.table.session.state.model, 'wall', wall.id))
        continue;
      const band = bandNear(wall, bare),
        [dx, dy] = [bare[0] - band.from[0], bare[1] - band.from[1]],
        along = dx * band.ux + dy * band.uy,
        off = -dx * band.uy + dy * band.ux;
      const outside = Math.max(-along, along - band.length, off - band.left, -band.right - off, 0);
      if (outside >= nearest) continue;
      nearest = outside;
      best = { wall, band, along, left: off > (band.left - band.right) / 2 };
    }
    return best;
  }

  /** What the plan shows in a wall near a place along it; null without a sheet, or while its lines are not ready. */
  private seen(band: WallBand, along: number): { from: number; to: number; seen: OpeningSeen } | null {
    const { model } = this.table.session.state,
      u = get(model, 'underlay', this.table.state.getState().underlayId);
    if (!u || u.planeId !== this.table.state.getState().planeId) return null;
    const { lines } = linesOf(
      this.table.session.projectId,
      u,
      () => this.table.showTool(),
      this.table.sheets.runsHere?.(u),
    );
    return lines && gapNear(band, along, piecesNear(lines, band, along - LOOKED_AT, along + LOOKED_AT));
  }

  /** What a click would put here; words where it would put nothing. `own`: figures that are being typed, before those of earlier. */
  private proposal(own: TypedFigures = {}): Proposal | string {
    const pick = this.hover,
      at = pick && this.wallAt(pick);
    if (!pick || !at) return 'point at a wall';
    const { wall, band, along } = at,
      plan = this.seen(band, along),
      kind = this.kind ?? (plan ? plan.seen.kind : 'door'),
      figures = { ...useOpeningFigures.getState()[kind], ...own };
    // Where the plan shows one, only what is typed for this very one has another width.
    if (plan && own.width === undefined) return this.asSeen(at, plan, kind, figures);
    const middle = plan ? (plan.from + plan.to) / 2 : pick.found ? alongOf(band, pick.plane) : along,
      half = (figures.width ?? USUAL_WIDTH[kind]) / 2;
    if (2 * half > band.length)
      return `the wall is shorter than ${this.length(2 * half)}: type a smaller width`;
    const from = Math.min(band.length - 2 * half, Math.max(0, middle - half)),
      to = from + 2 * half;
    return this.proposed(
      { wall, band, from, to, kind, figures },
      {
        opens: at.left ? 'left' : 'right',
        hung: pick.shift ? 'to' : 'from',
      },
    );
  }

  private asSeen(
    { wall, band }: { wall: Wall; band: WallBand },
    { from, to, seen }: { from: number; to: number; seen: OpeningSeen },
    kind: OpeningKind,
    figures: TypedFigures,
  ): Proposal | string {
    const asDoor = kind === 'door' && seen.kind === 'door',
      asNiche = kind === 'niche' && seen.kind === 'niche';
    const p = this.proposed(
      { wall, band, from, to, kind, figures },
      {
        ...(asDoor && { hung: seen.hung, opens: seen.opens, leaves: seen.leaves }),
        ...(asNiche && { opens: seen.opens, depth: seen.depth }),
      },
    );
    if (typeof p === 'string') return p;
    const known: OpeningMeasure[] = asDoor && seen.swingSeen ? ['swing'] : asNiche ? ['depth'] : [],
      opening = { ...p.opening, assumed: p.opening.assumed.filter((m) => !known.includes(m)) },
      printed = this.printed(kind, band, from, to);
    // What was typed comes before what is printed.
    const heard =
      figures.sill === undefined && figures.head === undefined
        ? printed
        : { ...printed, sill: null, height: null };
    return { ...p, fromPlan: true, printed, opening: asPrinted(opening, heard, this.topOf(wall)) };
  }

  /** What is found is kept until another opening is meant or the project changes; what is not may come with the lines of a sheet. */
  private printed(kind: OpeningKind, band: WallBand, from: number, to: number): OpeningPrinted {
    const key = `${band.id} ${kind} ${from} ${to}`,
      { model } = this.table.session.state;
    if (this.beside?.key === key && this.beside.model === model) return this.beside.printed;
    const printed = printedBeside(this.table, kind, band, from, to);
    this.beside = Object.values(printed).some((v) => v !== null) ? { key, model, printed } : null;
    return printed;
  }

  private proposed(
    { wall, band, from, to, kind, figures }: Place,
    more: Partial<WallOpening>,
  ): Proposal | string {
    // In a bent wall it is as wide straight from edge to edge, about where its middle is.
    const arc = arcOf(wall),
      [low, high] = arc ? stretchOn(arc, pointAt(band, (from + to) / 2, 0), to - from) : [from, to],
      edges = [low, high].map((t) => pairOf(arc ? arc.at(t) : pointAt(band, t, 0)));
    const other = openingsOf(wall).find((o) => o.from < high - 1e-6 && o.to > low + 1e-6);
    if (other)
      return `a ${OPENING_WORDS[other.opening.kind]} is there already: drag its edges with Select, or change it in the card of its wall`;
    const usual = usualOpening(freeOpeningId(wall.openings ?? []), kind, edges[0], edges[1]);
    const sill = figures.sill ?? usual.sill,
      top = this.topOf(wall),
      head = figures.head ?? Math.min(usual.head, top);
    if (head > top) return `its head would be above the wall, which ends ${this.length(top)} above the floor`;
    if (sill >= head) return 'its sill would be above its head: type other heights';
    const depth = more.depth ?? figures.depth ?? Math.min(usual.depth ?? 0, wall.thickness / 2);
    if (kind === 'niche' && depth >= wall.thickness)
      return `it would go through the wall, which is ${this.length(wall.thickness)} thick: make it less deep, or a gap`;
    const given: OpeningMeasure[] = [
      ...(figures.sill === undefined ? [] : (['sill'] as const)),
      ...(figures.head === undefined ? [] : (['head'] as const)),
      ...(figures.depth === undefined ? [] : (['depth'] as const)),
    ];
    const opening: WallOpening = {
      ...usual,
      sill,
      head,
      ...(kind === 'niche' && { depth }),
      ...more,
      tag: nextTag(this.table.session.state.model, kind),
      assumed: usual.assumed.filter((m) => !given.includes(m)),
    };
    return { wall, band, from, to, opening, fromPlan: false };
  }

  /** Where a wall ends above the floor; one under a roof by its own height. */
  private topOf(wall: Wall): number {
    return topOf(standing(this.table.session.state.model, wall));
  }

  private length(mm: number): string {
    return formatLengthWithUnit(mm, lengthStyle(this.table.session.state.model));
  }

  press(pick: Pick): void {
    this.hover = pick;
    this.put();
  }

  private put(own: TypedFigures = {}): void {
    const p = this.proposal(own);
    if (typeof p === 'string') {
      this.table.session.tell(`${p[0].toUpperCase()}${p.slice(1)}.`, true);
      return;
    }
    const { wall, opening } = p;
    this.table.session.do(
      setFields(wall, { openings: [...(wall.openings ?? []), opening] }),
      `Put a ${OPENING_WORDS[opening.kind]}`,
    );
  }

  field(): FieldRequest | null {
    const p = this.hover && this.proposal();
    if (!p || typeof p === 'string') return null;
    const style = lengthStyle(this.table.session.state.model);
    return {
      required: false,
      at: this.hover!.plane,
      fields: [
        lengthField('width', 'width', p.to - p.from, style),
        lengthField('sill', 'sill', p.opening.sill, style),
        lengthField('head', 'head', p.opening.head, style),
        ...(p.opening.kind === 'niche' ? [lengthField('depth', 'depth', p.opening.depth ?? 0, style)] : []),
      ],
      hint: `Enter puts it${p.fromPlan ? '' : `, ${formatLength(p.from, style)} from the end of the wall`}.`,
    };
  }

  submit(values: Record<string, string>): string | null {
    const p = this.proposal();
    if (typeof p === 'string') return `${p[0].toUpperCase()}${p.slice(1)}.`;
    const style = lengthStyle(this.table.session.state.model),
      given = (id: string) => (values[id] ?? '').trim() !== '';
    const width = typedLength(values.width, p.to - p.from, style),
      sill = typedLength(values.sill, p.opening.sill, style),
      head = typedLength(values.head, p.opening.head, style),
      depth = typedLength(values.depth ?? '', p.opening.depth ?? 0, style);
    for (const figure of [width, sill, head, depth]) if (typeof figure === 'string') return figure;
    if ((width as number) <= 0) return 'The width must be above 0.';
    if (p.opening.kind === 'niche' && (depth as number) <= 0) return 'The depth must be above 0.';
    if ((sill as number) < 0) return 'The sill cannot lie below the floor.';
    const own: TypedFigures = {
      ...(given('width') && { width: width as number }),
      ...(given('sill') && { sill: sill as number }),
      ...(given('head') && { head: head as number }),
      ...(given('depth') && { depth: depth as number }),
    };
    const next = this.proposal(own);
    if (typeof next === 'string') return `${next[0].toUpperCase()}${next.slice(1)}.`;
    this.put(own);
    useOpeningFigures.getState().type(next.opening.kind, own);
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key !== 'Backspace') return false;
    // What was typed counts no more: openings are as the plan has them, or as is usual.
    useOpeningFigures.getState().forget();
    return true;
  }

  paint(brush: Brush): void {
    const p = this.proposal();
    if (typeof p === 'string') return;
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
    context.fillStyle = 'rgba(255,254,250,0.75)';
    context.lineWidth = 2;
    context.beginPath();
    ringPath(brush, openingCorners(p.band, p.from, p.to));
    context.fill();
    context.stroke();
    context.beginPath();
    for (const piece of openingLines(p.band, p)) piecePath(brush, piece);
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    return false;
  }
}

const alongOf = (b: WallBand, p: Point) => (p[0] - b.from[0]) * b.ux + (p[1] - b.from[1]) * b.uy;

export const takeOpeningTool = (table: Table): void => table.hold(new OpeningTool(table));
