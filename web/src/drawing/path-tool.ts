import { bulgePiece, crossesItself, pieceDirection, type Point } from '@calque/core/geometry';
import { flatRings, type Change, type OutlineRing, type Pair, type Traced } from '@calque/core/model';
import { formatNumber, parseAngle } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { elementPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import { angleOf, distance, lengthField, pointFields, typedLength, typedPoint } from '@/table/tools/geometry';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick, Tool } from '@/table/tool';
import { elementOf, foundBy, sourceOf, TYPED, type Found, type Shape } from './drawn';

/** What a run of stretches becomes. */
export interface PathPlan {
  id: string;
  noun: string;
  label: string;
  /** An area closes itself at its end. */ area: boolean;
  /** What a closed outline becomes; an area unless said. */
  becomes?(ring: OutlineRing): Shape;
  /** Or what it changes; words where it can change nothing. */
  change?(ring: OutlineRing): Change | string;
}

const CLOSE_PIXELS = 9;
const ONE_POINT = 1e-6;

const AREA = (ring: OutlineRing): Shape => ({
  type: 'area',
  rings: [ring],
  fill: { kind: 'none' },
  name: '',
  figure: true,
});

/** Draws one path of straight stretches and arcs that go on smoothly, as a single element; F bends the next stretch. */
export class PathTool implements Tool {
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private points: { at: Point; found: Found }[] = [];
  private bulges: number[] = [];
  private hover: Pick | null = null;
  private bent = false;
  private scale = 1;

  constructor(
    private readonly table: Table,
    private readonly plan: PathPlan,
  ) {}

  get id(): string {
    return this.plan.id;
  }

  words(): string {
    const { noun, area } = this.plan,
      n = this.points.length;
    if (n === 0) return `${noun}: click where it starts · Tab: coordinates · Esc ends`;
    const next = this.bent ? 'click where the arc ends' : 'click the next point',
      flip = this.bent ? 'F: straight on' : 'F: an arc that goes on smoothly';
    const ends =
      n >= (area ? 3 : 2)
        ? ` · Enter ${area ? 'closes it' : 'ends it'}${!area && n > 2 ? ', the first point closes it' : ''}`
        : '';
    return `${noun}: ${next}, or type a length${ends} · ${flip} · Backspace: one back`;
  }

  anchor(): [number, number] | null {
    const last = this.points.at(-1);
    return last ? [last.at[0], last.at[1]] : null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  /** Direction in which the path runs at its last point; null where it has not begun to run. */
  private direction(): Point | null {
    const n = this.points.length;
    return n < 2
      ? null
      : pieceDirection(bulgePiece(this.points[n - 2].at, this.points[n - 1].at, this.bulges[n - 2]), 1);
  }

  /** Bulge of the arc that leaves the last point smoothly and ends at a point; 0 while there is nothing to go on from. */
  private bulgeTo(p: Point): number {
    const d = this.direction(),
      last = this.points.at(-1)!.at;
    if (!this.bent || !d) return 0;
    const turn = angleOf(last, p) - Math.atan2(d[1], d[0]);
    // The chord turns off by half the sweep; straight back would be a whole circle.
    const half = Math.atan2(Math.sin(turn), Math.cos(turn));
    return Math.abs(half) < Math.PI - 1e-6 ? Math.tan(half / 2) : 0;
  }

  press(pick: Pick): void {
    this.hover = pick;
    if (this.closesAt(pick.plane)) this.finish(true);
    else this.add(pick.plane, foundBy(pick));
  }

  private closesAt(p: Point): boolean {
    return this.points.length > 2 && distance(p, this.points[0].at) * this.scale < CLOSE_PIXELS;
  }

  private add(at: Point, found: Found): void {
    const last = this.points.at(-1);
    if (last && distance(at, last.at) < ONE_POINT) return;
    if (last) this.bulges.push(this.bulgeTo(at));
    this.points.push({ at, found });
  }

  private shape(points: readonly Point[], bulges: readonly number[], closed: boolean): Shape | null {
    const ring = { points: points.map((p): Pair => [p[0], p[1]]), bulges: [...bulges] };
    if (this.plan.area && points.length > 2) {
      const whole = { ...ring, bulges: [...bulges, ...(bulges.length < points.length ? [0] : [])] };
      return this.plan.becomes?.(whole) ?? AREA(whole);
    }
    return points.length > 1 ? { type: 'path', ...ring, closed } : null;
  }

  private finish(closed: boolean): void {
    const { points } = this,
      places = points.map((p) => p.at);
    const bulges = closed ? [...this.bulges, this.bulgeTo(places[0])] : this.bulges;
    const shape = this.shape(places, bulges, closed);
    if (!shape || (this.plan.area && places.length < 3)) {
      this.table.session.tell(
        this.plan.area
          ? `${this.plan.noun === 'Area' ? 'An area' : `A ${this.plan.noun.toLowerCase()}`} needs three corners: click further points.`
          : 'A path needs two points: click another.',
        true,
      );
      return;
    }
    if ('rings' in shape && crossesItself(flatRings(shape)[0])) {
      this.table.session.tell(
        'This outline crosses itself: it encloses no one area. Take points back by Backspace.',
        true,
      );
      return;
    }
    const change = this.changeOf(shape);
    if (typeof change === 'string') {
      this.table.session.tell(change, true);
      return;
    }
    if (this.table.session.do(change, this.plan.label)) this.reset();
  }

  /** What the drawn shape does to the model. */
  private changeOf(shape: Shape): Change | string {
    if (this.plan.change && 'rings' in shape) return this.plan.change(shape.rings[0]);
    const source = sourceOf(
      this.table,
      this.points.map((p) => p.found),
    );
    return { type: 'add', entity: elementOf(this.table, shape, source) };
  }

  private reset(): void {
    this.points = [];
    this.bulges = [];
    this.bent = false;
  }

  field(): FieldRequest | null {
    if (!this.hover) return null;
    const style = lengthStyle(this.table.session.state.model),
      last = this.points.at(-1)?.at ?? null,
      { plane } = this.hover;
    const sets = pointFields(last, plane, style, this.hover.touched);
    if (this.bent && last && this.direction() && distance(last, plane) > ONE_POINT) {
      const piece = bulgePiece(last, plane, this.bulgeTo(plane));
      if (piece.kind === 'arc')
        sets.unshift([
          lengthField('radius', 'radius', piece.arc.r, style),
          {
            id: 'sweep',
            label: 'sweep',
            unit: 'angle',
            live: `${formatNumber(((piece.arc.end - piece.arc.start) * 180) / Math.PI, 1)}°`,
          },
        ]);
    }
    return { required: false, at: plane, fields: sets[0], others: sets.slice(1), onTab: last === null };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.hover) return null;
    const style = lengthStyle(this.table.session.state.model),
      last = this.points.at(-1)?.at ?? null;
    const typed = Object.values(values).some((v) => v.trim() !== '');
    if (!typed && this.points.length >= (this.plan.area ? 3 : 2)) {
      this.finish(this.plan.area);
      return null;
    }
    const point =
      values.radius?.trim() || values.sweep?.trim()
        ? this.arcEnd(values, last!)
        : typedPoint(values, last ?? this.hover.touched ?? null, this.hover.plane, style);
    if (typeof point === 'string') return point;
    this.add(point, typed ? TYPED : foundBy(this.hover));
    return null;
  }

  /** Where the arc ends that goes on smoothly with a radius through a sweep, to the cursor's side. */
  private arcEnd(values: Record<string, string>, last: Point): [number, number] | string {
    const style = lengthStyle(this.table.session.state.model),
      bulge = this.bulgeTo(this.hover!.plane),
      now = bulgePiece(last, this.hover!.plane, bulge);
    if (now.kind !== 'arc') return 'Move the cursor to the side to which the arc is to bend.';
    const r = typedLength(values.radius, now.arc.r, style),
      sweep = values.sweep?.trim() ? parseAngle(values.sweep) : now.arc.end - now.arc.start;
    if (typeof r === 'string') return r;
    if (r <= 0) return 'The radius must be above 0.';
    if (sweep === null || sweep <= 0 || sweep >= 2 * Math.PI)
      return `"${values.sweep}" is no sweep. Type degrees above 0 and below 360.`;
    const d = this.direction()!,
      k = r / Math.hypot(d[0], d[1]),
      side = bulge > 0 ? 1 : -1;
    const c: Point = [last[0] - side * k * d[1], last[1] + side * k * d[0]],
      a = side * sweep,
      [x, y] = [last[0] - c[0], last[1] - c[1]];
    return [c[0] + x * Math.cos(a) - y * Math.sin(a), c[1] + x * Math.sin(a) + y * Math.cos(a)];
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.points.length > 0) {
      this.points = this.points.slice(0, -1);
      this.bulges = this.bulges.slice(0, -1);
    } else if (event.key === 'Enter' && this.points.length > 1) this.finish(this.plan.area);
    else return false;
    return true;
  }

  /** The next stretch bends, or runs straight again. */
  nextVariant(): boolean {
    if (this.points.length < 2) {
      this.table.session.tell('An arc goes on from a stretch: draw one first.');
      return true;
    }
    this.bent = !this.bent;
    return true;
  }

  paint(brush: Brush): void {
    this.scale = brush.view.scale;
    if (!this.hover || this.points.length === 0) return;
    const { context, palette } = brush,
      places = this.points.map((p) => p.at),
      closing = this.closesAt(this.hover.plane);
    const points = closing ? places : [...places, this.hover.plane];
    const bulges = [...this.bulges, this.bulgeTo(closing ? places[0] : this.hover.plane)];
    const shape =
      distance(places[places.length - 1], this.hover.plane) < ONE_POINT && !closing
        ? this.shape(places, this.bulges, false)
        : this.shape(points, bulges, closing);
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    context.beginPath();
    if (shape)
      elementPath(brush, { ...shape, id: '', planeId: '', source: sourceOf(this.table, []) } as Traced);
    context.stroke();
    if (places.length > 2) {
      const [x, y] = brush.at(places[0]);
      context.lineWidth = 1.5;
      context.beginPath();
      context.arc(x, y, CLOSE_PIXELS - 2, 0, 2 * Math.PI);
      context.stroke();
    }
    context.restore();
  }

  cancel(): boolean {
    const had = this.points.length > 0;
    this.reset();
    return had;
  }
}
