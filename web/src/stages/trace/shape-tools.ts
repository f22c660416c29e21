import { bandOf, pointAt } from '@calque/core/building';
import { cornerOf, extendEnd, offsetTowards, splitAt, trimAway, type Point, type Stretch } from '@calque/core/geometry';
import { group, setFields, type Change, type Traced } from '@calque/core/model';
import { formatLength, parseLength } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { tracedAt, tracedHere } from '@/table/hit';
import { segmentPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import type { Brush, FieldRequest, Pick, Tool } from '@/table/tool';

/** Tools that change the shape of single elements by pointing at them. Each stays in hand until Esc. */
abstract class PointingTool implements Tool {
  abstract readonly id: string;
  readonly snaps: boolean = false;
  readonly cursor = 'crosshair';
  protected hover: Pick | null = null;

  constructor(protected readonly table: Table) {}

  abstract words(): string;
  abstract press(pick: Pick): void;

  move(pick: Pick): void { this.hover = pick; }

  cancel(): boolean { return false; }

  protected at(pick: Pick): Traced | null { return tracedAt(this.table, pick.bare); }

  protected do(changes: readonly (Change | null)[], label: string): boolean {
    return this.table.session.do(group(changes), label);
  }

  protected refuse(words: string): void { this.table.session.tell(words, true); }

  protected stroke(brush: Brush, stretches: readonly Stretch[], colour: string, width: number, dashed = false): void {
    const { context } = brush;
    context.save();
    context.strokeStyle = colour;
    context.lineWidth = width;
    if (dashed) context.setLineDash([5, 4]);
    context.beginPath();
    for (const s of stretches) segmentPath(brush, s.from, s.to);
    context.stroke();
    context.restore();
  }
}

/** What may cut an element or stop it: lines, drawn lines of walls, and for plain lines the walls' faces. */
function boundaries(table: Table, element: Traced): Stretch[] {
  return tracedHere(table).filter((e) => e.id !== element.id).flatMap((e): Stretch[] => {
    if (e.type === 'line' || element.type === 'wall') return [e];
    const band = bandOf(e);
    return [band.left, -band.right].map((v) => ({ from: pointAt(band, 0, v), to: pointAt(band, band.length, v) }));
  });
}

const ends = ({ from, to }: Stretch): { from: [number, number]; to: [number, number] } => ({ from: [from[0], from[1]], to: [to[0], to[1]] });
/** A further element like another, elsewhere. */
const likeIt = (e: Traced, s: Stretch): Change => ({ type: 'add', entity: { ...e, ...ends(s), id: crypto.randomUUID() } });

class TrimTool extends PointingTool {
  readonly id = 'trim';

  words(): string {
    return this.hover?.shift ? 'Extend: click near the end that is to go on to the next thing' : 'Trim: click the part that is to go · hold Shift to extend an end instead · Esc ends';
  }

  press(pick: Pick): void {
    const e = this.at(pick);
    if (!e) return;
    if (pick.shift) {
      const extended = extendEnd(e, pick.bare, boundaries(this.table, e));
      if (extended.ok) this.do([setFields<Traced>(e, ends(extended.stretch))], 'Extend an element');
      else this.refuse('Nothing lies ahead of this end: draw something there first, or drag the end.');
      return;
    }
    const trimmed = trimAway(e, pick.bare, boundaries(this.table, e));
    if (!trimmed.ok) {
      this.refuse('Nothing crosses this element: delete it whole with Delete, or split it.');
      return;
    }
    const [first, ...more] = trimmed.kept;
    this.do([setFields<Traced>(e, ends(first)), ...more.map((s) => likeIt(e, s))], 'Trim an element');
  }

  paint(brush: Brush): void {
    const e = this.hover && this.at(this.hover);
    if (!e) return;
    if (this.hover!.shift) {
      const extended = extendEnd(e, this.hover!.bare, boundaries(this.table, e));
      if (extended.ok) this.stroke(brush, [extended.stretch], brush.ink.now, 2, true);
      return;
    }
    const trimmed = trimAway(e, this.hover!.bare, boundaries(this.table, e));
    if (trimmed.ok) this.stroke(brush, [trimmed.gone], brush.ink.now, 4, true);
  }
}

class CornerTool extends PointingTool {
  readonly id = 'corner';
  private first: { e: Traced; at: Point } | null = null;
  /** Cut back by this much from the corner, millimetres. */
  private size = 0;

  private get cut(): string { return this.size > 0 ? `, cut back by ${formatLength(this.size, lengthStyle(this.table.session.state.model))}` : ''; }

  words(): string {
    return `Corner${this.cut}: ${this.first ? 'click the other line, on the side that stays' : 'click a line on the side that stays'} · type a size to cut the corner back · Esc ends`;
  }

  press(pick: Pick): void {
    const e = this.at(pick);
    if (!e) return;
    if (!this.first || this.first.e.id === e.id) {
      this.first = { e, at: pick.bare };
      return;
    }
    const corner = cornerOf(this.first.e, this.first.at, e, pick.bare, this.size);
    if (!corner.ok) {
      this.refuse(corner.reason === 'parallel' ? 'These two run the same way: they have no corner.' : `One of them is too short to be cut back${this.cut ? this.cut.replace(', cut back', '') : ''}, or lies wholly on the other side: click the side that stays, or type a smaller size.`);
      return;
    }
    const { e: a } = this.first;
    this.first = null;
    this.do([setFields<Traced>(a, ends(corner.a)), setFields<Traced>(e, ends(corner.b)), corner.bevel && likeIt(a, corner.bevel)], this.size > 0 ? 'Cut a corner back' : 'Bring two elements to a corner');
  }

  field(): FieldRequest | null {
    return this.hover && { required: false, at: this.hover.plane, fields: [{ id: 'size', label: 'cut back', unit: 'length', live: formatLength(this.size, lengthStyle(this.table.session.state.model)) }] };
  }

  submit(values: Record<string, string>): string | null {
    const parsed = parseLength(values.size ?? '', lengthStyle(this.table.session.state.model).units);
    if (!parsed.ok || parsed.mm < 0) return `"${values.size}" is no size. Type a length, such as 150; 0 makes a plain corner.`;
    this.size = parsed.mm;
    return null;
  }

  override cancel(): boolean {
    const had = this.first !== null;
    this.first = null;
    return had;
  }

  paint(brush: Brush): void {
    if (this.first) this.stroke(brush, [this.first.e], brush.ink.now, 3);
    const e = this.hover && this.at(this.hover);
    if (!e || !this.first || e.id === this.first.e.id) return;
    const corner = cornerOf(this.first.e, this.first.at, e, this.hover!.bare, this.size);
    if (corner.ok) this.stroke(brush, [corner.a, corner.b, ...(corner.bevel ? [corner.bevel] : [])], brush.ink.now, 2, true);
  }
}

class OffsetTool extends PointingTool {
  readonly id = 'offset';
  override readonly snaps = true;
  private base: Traced | null = null;
  /** As typed last; null takes the cursor's distance. */
  private typed: number | null = null;

  words(): string {
    if (!this.base) return 'Offset: click the element to run beside';
    return this.typed === null ? 'Offset: click where it is to run, or type how far · Esc takes another' : 'Offset: click the side on which it is to run · Esc takes another';
  }

  private stretch(pick: Pick): Stretch | null {
    if (!this.base) return null;
    const { from, to } = this.base;
    const across = Math.abs((to[0] - from[0]) * (pick.plane[1] - from[1]) - (to[1] - from[1]) * (pick.plane[0] - from[0])) / Math.hypot(to[0] - from[0], to[1] - from[1]);
    const distance = this.typed ?? across;
    return distance > 1e-6 ? offsetTowards(this.base, distance, pick.plane) : null;
  }

  press(pick: Pick): void {
    if (!this.base) {
      this.base = this.at(pick);
      return;
    }
    const stretch = this.stretch(pick);
    if (stretch) this.do([likeIt(this.base, stretch)], 'Offset an element');
  }

  field(): FieldRequest | null {
    if (!this.base || !this.hover) return null;
    const s = this.stretch(this.hover);
    const live = s ? Math.hypot(s.from[0] - this.base.from[0], s.from[1] - this.base.from[1]) : 0;
    return { required: false, at: this.hover.plane, fields: [{ id: 'distance', label: 'distance', unit: 'length', live: formatLength(live, lengthStyle(this.table.session.state.model)) }], hint: 'Enter, then click the side.' };
  }

  submit(values: Record<string, string>): string | null {
    const parsed = parseLength(values.distance ?? '', lengthStyle(this.table.session.state.model).units);
    if (!parsed.ok || parsed.mm <= 0) return `"${values.distance}" is no distance. Type a length above 0, such as 240.`;
    this.typed = parsed.mm;
    return null;
  }

  override cancel(): boolean {
    const had = this.base !== null;
    this.base = null;
    this.typed = null;
    return had;
  }

  paint(brush: Brush): void {
    if (!this.base || !this.hover) return;
    this.stroke(brush, [this.base], brush.ink.now, 2);
    const s = this.stretch(this.hover);
    if (s) this.stroke(brush, [s], brush.ink.now, 2, true);
  }
}

class SplitTool extends PointingTool {
  readonly id = 'split';
  override readonly snaps = true;

  words(): string { return 'Split: click where an element is to be parted in two · Esc ends'; }

  press(pick: Pick): void {
    const e = tracedAt(this.table, pick.plane) ?? this.at(pick);
    if (!e) return;
    const parts = splitAt(e, pick.plane);
    if (parts) this.do([setFields<Traced>(e, ends(parts[0])), likeIt(e, parts[1])], 'Split an element');
    else this.refuse('That is its end already: click somewhere between the ends.');
  }
}

export const takeTrimTool = (table: Table): void => table.take(new TrimTool(table));
export const takeCornerTool = (table: Table): void => table.take(new CornerTool(table));
export const takeOffsetTool = (table: Table): void => table.take(new OffsetTool(table));
export const takeSplitTool = (table: Table): void => table.take(new SplitTool(table));
