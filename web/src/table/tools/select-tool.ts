import { boxOfPoints, regionContains, makeRegion, type Point } from '@calque/core/geometry';
import { group, setFields, type Change, type Traced } from '@calque/core/model';
import { formatLength, type LengthStyle } from '@calque/core/units';
import { chosenTraced, REACH_PIXELS, tracedAt, tracedHere } from '../hit';
import type { Table } from '../table';
import type { Brush, Pick, Tool } from '../tool';
import { paintStretch } from '../painters/overlay';
import { distance } from './geometry';

/** Ends nearer than this (millimetres) are one corner and are dragged together. */
const ONE_CORNER = 1;

type Hold =
  | { kind: 'box'; from: Point; to: Point; add: boolean; /** Only what lies wholly within. */ inside: boolean }
  | { kind: 'end'; corner: Point; to: Point }
  | { kind: 'move'; from: Point; to: Point };

/** Selects traced elements by click and box; drags ends and whole selections. */
export class SelectTool implements Tool {
  readonly id = 'select';
  readonly cursor = 'default';
  private hold: Hold | null = null;
  private pressedOn: { pick: Pick; hit: string | null } | null = null;

  constructor(private readonly table: Table, private readonly style: () => LengthStyle) {}

  /** Snapping matters only while something is dragged. */
  get snaps(): boolean { return this.hold?.kind === 'end' || this.hold?.kind === 'move'; }

  words(): string {
    if (this.hold?.kind === 'box') return this.hold.inside ? 'Takes only what lies wholly within the box' : 'Takes all that the box touches · Alt: only what lies within';
    if (this.hold?.kind === 'end') return 'Drag the end to its place · Shift holds the axis, Alt leaves its neighbours';
    if (this.hold?.kind === 'move') return 'Drag the selection to its place · Shift holds the axis';
    const n = this.table.state.getState().selection.size;
    if (n > 0) return `${n} selected · drag to move, drag an end, Delete removes, Esc lets go`;
    return 'Click a wall or line to select it, or drag a box';
  }

  anchor(): [number, number] | null {
    if (this.hold?.kind === 'end') return [...this.hold.corner] as [number, number];
    return this.hold?.kind === 'move' ? [...this.hold.from] as [number, number] : null;
  }

  press(pick: Pick): void {
    this.hold = null;
    const hit = this.hit(pick.bare);
    this.pressedOn = { pick, hit };
  }

  drag(pick: Pick): void {
    if (!this.pressedOn) return;
    this.hold ??= this.begin(this.pressedOn.pick, this.pressedOn.hit);
    if (this.hold.kind === 'box') this.hold = { ...this.hold, to: pick.bare, inside: pick.alt };
    else this.hold = { ...this.hold, to: pick.plane };
    this.table.repaint('overlay');
  }

  private begin(pick: Pick, hit: string | null): Hold {
    const { selection } = this.table.state.getState();
    const corner = this.cornerAt(pick.bare, selection);
    if (corner) return { kind: 'end', corner, to: corner };
    if (hit) {
      if (!selection.has(hit)) this.table.setSelection([hit]);
      return { kind: 'move', from: this.nearestCorner(pick.bare, hit) ?? pick.bare, to: pick.bare };
    }
    return { kind: 'box', from: pick.bare, to: pick.bare, add: pick.shift, inside: pick.alt };
  }

  release(pick: Pick): void {
    const { hold, pressedOn } = this;
    this.hold = null;
    this.pressedOn = null;
    if (!hold) {
      if (pressedOn) this.click(pressedOn.hit, pick.shift);
      return;
    }
    if (hold.kind === 'box') this.takeBox(hold);
    else if (hold.kind === 'end') this.moveCorner(hold.corner, hold.to, pick.alt);
    else this.moveSelection([hold.to[0] - hold.from[0], hold.to[1] - hold.from[1]]);
  }

  private click(hit: string | null, add: boolean): void {
    const { selection } = this.table.state.getState();
    if (!hit) {
      if (!add) this.table.setSelection([]);
      return;
    }
    if (!add) this.table.setSelection([hit]);
    else this.table.setSelection(selection.has(hit) ? [...selection].filter((id) => id !== hit) : [...selection, hit]);
  }

  private hit(at: Point): string | null {
    return tracedAt(this.table, at)?.id ?? null;
  }

  private members(): Traced[] {
    return tracedHere(this.table);
  }

  private cornerAt(at: Point, selection: ReadonlySet<string>): Point | null {
    const reach = REACH_PIXELS / this.table.view.scale;
    for (const e of this.members()) {
      if (!selection.has(e.id)) continue;
      for (const end of [e.from, e.to]) if (distance(at, end) <= reach) return end;
    }
    return null;
  }

  private nearestCorner(at: Point, id: string): Point | null {
    const e = this.members().find((m) => m.id === id);
    if (!e) return null;
    return distance(at, e.from) < distance(at, e.to) ? e.from : e.to;
  }

  private takeBox(hold: Extract<Hold, { kind: 'box' }>): void {
    const [x0, y0, x1, y1] = boxOfPoints([hold.from, hold.to]);
    const region = makeRegion([[[x0, y0], [x1, y0], [x1, y1], [x0, y1]]], 'nonzero');
    const touched = this.members().filter((e) => {
      const ends = [e.from, e.to].filter(([x, y]) => regionContains(region, x, y)).length;
      if (hold.inside) return ends === 2;
      if (ends > 0) return true;
      return region.rings[0].some((p, i) => {
        const q = region.rings[0][(i + 1) % 4];
        return segmentsCross(p, q, e.from, e.to);
      });
    }).map((e) => e.id);
    const { selection } = this.table.state.getState();
    this.table.setSelection(hold.add ? [...selection, ...touched] : touched);
  }

  private moveCorner(corner: Point, to: Point, alone: boolean): void {
    const { selection } = this.table.state.getState();
    const changes: (Change | null)[] = [];
    for (const e of this.members()) {
      if (alone && !selection.has(e.id)) continue;
      const fields: { from?: [number, number]; to?: [number, number] } = {};
      if (distance(e.from, corner) <= ONE_CORNER) fields.from = [to[0], to[1]];
      if (distance(e.to, corner) <= ONE_CORNER) fields.to = [to[0], to[1]];
      const next = { from: fields.from ?? e.from, to: fields.to ?? e.to };
      if (distance(next.from, next.to) < 1e-6) {
        this.table.session.tell('The end was dragged onto the other end: the element would have no length. Nothing was changed.', true);
        return;
      }
      if (Object.keys(fields).length > 0) changes.push(setFields<Traced>(e, fields));
    }
    this.table.session.do(group(changes), 'Drag an end');
  }

  private moveSelection([dx, dy]: Point): void {
    if (Math.hypot(dx, dy) < 1e-9) return;
    const { selection } = this.table.state.getState();
    const shift = (p: Point): [number, number] => [p[0] + dx, p[1] + dy];
    const moved = this.members().filter((e) => selection.has(e.id)).map((e) => setFields<Traced>(e, { from: shift(e.from), to: shift(e.to) }));
    this.table.session.do(group(moved), moved.length === 1 ? 'Move an element' : `Move ${moved.length} elements`);
  }

  removeSelection(): void {
    const gone = chosenTraced(this.table);
    if (gone.length === 0) return;
    this.table.session.do(group(gone.map((entity): Change => ({ type: 'remove', entity }))), gone.length === 1 ? 'Delete an element' : `Delete ${gone.length} elements`);
    this.table.setSelection([]);
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Delete' || event.key === 'Backspace') {
      this.removeSelection();
      return true;
    }
    const step = NUDGE[event.key];
    if (step && this.table.state.getState().selection.size > 0) {
      // One screen pixel rounded to a whole step of 1, 5, 10 … millimetres; Shift takes ten.
      const unit = niceStep(1 / this.table.view.scale) * (event.shiftKey ? 10 : 1);
      this.moveSelection([step[0] * unit, step[1] * unit]);
      return true;
    }
    return false;
  }

  paint(brush: Brush): void {
    const { hold } = this;
    if (!hold) return;
    const { context, ink } = brush;
    if (hold.kind === 'box') {
      const [x0, y0] = brush.at(hold.from), [x1, y1] = brush.at(hold.to);
      context.save();
      context.fillStyle = 'rgba(212,69,31,0.10)';
      context.strokeStyle = ink.now;
      context.fillRect(x0, y0, x1 - x0, y1 - y0);
      context.strokeRect(x0, y0, x1 - x0, y1 - y0);
      context.restore();
      return;
    }
    const { selection } = this.table.state.getState();
    if (hold.kind === 'end') {
      for (const e of this.members()) {
        const atFrom = distance(e.from, hold.corner) <= ONE_CORNER, atTo = distance(e.to, hold.corner) <= ONE_CORNER;
        if (atFrom || atTo) paintStretch(brush, atFrom ? e.to : e.from, hold.to, selection.has(e.id) ? formatLength(distance(atFrom ? e.to : e.from, hold.to), this.style()) : '', ink.now, true);
      }
      return;
    }
    const dx = hold.to[0] - hold.from[0], dy = hold.to[1] - hold.from[1];
    for (const e of this.members()) {
      if (selection.has(e.id)) paintStretch(brush, [e.from[0] + dx, e.from[1] + dy], [e.to[0] + dx, e.to[1] + dy], '', ink.now, true);
    }
  }

  cancel(): boolean {
    const { selection } = this.table.state.getState();
    const had = this.hold !== null || selection.size > 0;
    this.hold = null;
    this.pressedOn = null;
    this.table.setSelection([]);
    return had;
  }
}

const NUDGE: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

function niceStep(raw: number): number {
  const power = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((m) => m * power).find((s) => s >= raw)!;
}

function segmentsCross(a: Point, b: Point, c: Point, d: Point): boolean {
  const side = (p: Point, q: Point, r: Point) => Math.sign((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]));
  return side(a, b, c) !== side(a, b, d) && side(c, d, a) !== side(c, d, b);
}
