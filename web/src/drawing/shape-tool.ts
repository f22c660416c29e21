import type { Point } from '@calque/core/geometry';
import { group, type Change, type Traced } from '@calque/core/model';
import type { LengthStyle } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { elementPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import { pointFields, typedPoint } from '@/table/tools/geometry';
import type { Brush } from '@/table/brush';
import type { Field, FieldRequest, Pick } from '@/table/tool';
import type { NamedWays, Ways } from './next-way';
import { elementOf, foundBy, sourceOf, TYPED, type Found, type Shape } from './drawn';

export interface Context {
  table: Table;
  style: LengthStyle;
  /** Is Alt held, for the other way round? */ alt: boolean;
}

/** One way to draw a shape. */
export interface Variant {
  /** How, as it follows the name of the shape: "by centre and radius". */
  words: string;
  /** Words for each pick in turn; the last ones are asked for again and again where there may be any number. */
  steps: readonly string[];
  /** Any number of picks from this on, ended by Enter or a click on the first point. */
  least?: number;
  /** What these points give, the last perhaps still at the cursor; words where they give nothing. */
  shape(points: readonly Point[], context: Context, closed: boolean): Shape | Shape[] | string;
  /** What these points change, where they draw nothing of their own: `shape` only shows it before. Words where they can change nothing. */
  instead?(points: readonly Point[], context: Context): Change | string;
  /** Are figures asked for before the first pick, without Tab? */
  asksFirst?: boolean;
  /** Figures other than the place of the next point. */
  fields?(points: readonly Point[], live: Point, context: Context): Field[] | null;
  /** The points that those figures stand for; words where they do not do. */
  typed?(
    points: readonly Point[],
    values: Record<string, string>,
    live: Point,
    context: Context,
  ): Point[] | string;
}

export interface ShapePlan {
  id: string;
  noun: string;
  label: string;
  variants: readonly Variant[];
}

/** So near to the first point (CSS pixels) a click closes what may have any number of points. */
const CLOSE_PIXELS = 9;
const ONE_POINT = 1e-6;

/** Draws one shape after another by picks and typed figures, always shown as it would come out; F takes another way to draw it. */
export class ShapeTool implements NamedWays {
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private points: { at: Point; found: Found }[] = [];
  private hover: Pick | null = null;
  private scale = 1;

  constructor(
    private readonly table: Table,
    private readonly plan: ShapePlan,
    private variant = 0,
  ) {}

  get id(): string {
    return this.plan.id;
  }
  private get way(): Variant {
    return this.plan.variants[this.variant];
  }
  private get context(): Context {
    return {
      table: this.table,
      style: lengthStyle(this.table.session.state.model),
      alt: this.hover?.alt ?? false,
    };
  }
  private get places(): Point[] {
    return this.points.map((p) => p.at);
  }
  private get isOpenEnded(): boolean {
    return this.way.least !== undefined;
  }

  words(): string {
    const { way, plan } = this,
      n = this.points.length;
    const how = plan.variants.length > 1 ? ` ${way.words}` : '';
    const ends = this.isOpenEnded && n >= way.least! ? ' · Enter ends it' : '';
    const more =
      n === 0
        ? `${plan.variants.length > 1 ? ' · F: another way' : ''} · Tab: coordinates · Esc ends`
        : ' · Backspace: one back · Esc gives it up';
    return `${plan.noun}${how}: ${way.steps[Math.min(n, way.steps.length - 1)]}${ends}${more}`;
  }

  anchor(): [number, number] | null {
    const last = this.points.at(-1);
    return last ? [last.at[0], last.at[1]] : null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.hover = pick;
    if (this.isOpenEnded && this.points.length >= Math.max(2, this.way.least!) && this.atFirst(pick.plane)) {
      this.finish(true);
      return;
    }
    this.add(pick.plane, foundBy(pick));
  }

  private atFirst(p: Point): boolean {
    const [first] = this.points;
    return (
      first !== undefined && Math.hypot(p[0] - first.at[0], p[1] - first.at[1]) * this.scale < CLOSE_PIXELS
    );
  }

  private add(at: Point, found: Found): void {
    const last = this.points.at(-1);
    // A double click is no point more.
    if (last && Math.hypot(at[0] - last.at[0], at[1] - last.at[1]) < ONE_POINT) return;
    this.points.push({ at, found });
    if (!this.isOpenEnded && this.points.length === this.way.steps.length) this.finish(false);
  }

  private finish(closed: boolean): void {
    if (this.way.instead) {
      const change = this.way.instead(this.places, this.context);
      if (typeof change === 'string') this.table.session.tell(change, true);
      else this.table.session.do(change, this.plan.label);
      this.points = typeof change === 'string' ? this.points.slice(0, -1) : [];
      return;
    }
    const shape = this.way.shape(this.places, this.context, closed);
    if (typeof shape === 'string') {
      this.table.session.tell(shape, true);
      this.points = this.points.slice(0, -1);
      return;
    }
    const source = sourceOf(
      this.table,
      this.points.map((p) => p.found),
    );
    const done = this.table.session.do(
      group(
        [shape].flat().map((one): Change => ({ type: 'add', entity: elementOf(this.table, one, source) })),
      ),
      this.plan.label,
    );
    if (done) this.points = [];
  }

  field(): FieldRequest | null {
    if (!this.hover) return null;
    const { plane } = this.hover,
      last = this.points.at(-1)?.at ?? null;
    const own = this.way.fields?.(this.places, plane, this.context) ?? null;
    const [fields, ...others] = [
      ...(own ? [own] : []),
      ...pointFields(last, plane, this.context.style, this.hover.touched),
    ];
    return {
      required: false,
      at: plane,
      fields,
      others,
      onTab: this.points.length === 0 && !this.way.asksFirst,
    };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.hover) return null;
    const live = this.hover.plane,
      own = this.way.fields?.(this.places, live, this.context) ?? null;
    if (own?.some((f) => (values[f.id] ?? '').trim() !== '')) {
      const points = this.way.typed!(this.places, values, live, this.context);
      if (typeof points === 'string') return points;
      for (const p of points) this.add(p, TYPED);
      return null;
    }
    const point = typedPoint(
      values,
      this.points.at(-1)?.at ?? this.hover.touched ?? null,
      live,
      this.context.style,
    );
    if (typeof point === 'string') return point;
    const typed = Object.values(values).some((v) => v.trim() !== '');
    // Enter on empty fields ends what may have any number of points.
    if (!typed && this.isOpenEnded && this.points.length >= this.way.least!) this.finish(false);
    else this.add(point, typed ? TYPED : foundBy(this.hover));
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.points.length > 0) {
      this.points = this.points.slice(0, -1);
    } else if (event.key === 'Enter' && this.isOpenEnded && this.points.length >= this.way.least!)
      this.finish(false);
    else return false;
    return true;
  }

  ways(): Ways {
    return {
      words: this.plan.variants.map((v) => v.words),
      at: this.variant,
      choose: (at) => this.turnTo(at),
    };
  }

  nextVariant(): boolean {
    if (this.plan.variants.length < 2) return false;
    this.turnTo((this.variant + 1) % this.plan.variants.length);
    return true;
  }

  /** Takes another way to draw the shape; what was picked stays where that way has use for it. */
  private turnTo(variant: number): void {
    this.variant = variant;
    if (!this.isOpenEnded) this.points = this.points.slice(0, this.way.steps.length - 1);
  }

  paint(brush: Brush): void {
    this.scale = brush.view.scale;
    // What one click makes is shown before it.
    if (!this.hover || (this.points.length === 0 && this.way.steps.length > 1)) return;
    const { context, palette } = brush;
    const live =
      this.isOpenEnded &&
      this.points.length >= Math.max(2, this.way.least!) &&
      this.atFirst(this.hover.plane);
    const shape = this.way.shape(live ? this.places : [...this.places, this.hover.plane], this.context, live);
    context.save();
    context.strokeStyle = palette.now;
    context.fillStyle = palette.now;
    context.lineWidth = 2;
    context.beginPath();
    if (typeof shape !== 'string')
      for (const one of [shape].flat())
        elementPath(brush, { ...one, id: '', planeId: '', source: sourceOf(this.table, []) } as Traced);
    context.stroke();
    for (const p of this.places) {
      const [x, y] = brush.at(p);
      context.fillRect(x - 2.5, y - 2.5, 5, 5);
    }
    context.restore();
  }

  cancel(): boolean {
    const had = this.points.length > 0;
    this.points = [];
    return had;
  }
}
