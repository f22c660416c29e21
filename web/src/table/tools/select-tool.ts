import { boxContains, boxOfPoints, boxRing, translation, type Point } from '@calque/core/geometry';
import {
  apply,
  boxOf,
  edgesOf,
  gripsOf,
  group,
  isStraightElement,
  jointGrips,
  movedBy,
  replaced,
  tracedOn,
  withEdge,
  withGrip,
  withinRing,
  type Traced,
} from '@calque/core/model';
import { rulesOn, settled } from '@calque/core/part';
import { formatLength, type LengthStyle } from '@calque/core/units';
import { chosenTraced, REACH_PIXELS, shownChosen, tracedAt, tracedIn } from '../hit';
import { MovedPath } from '../painters/moved-path';
import { elementPath, MOST_WITH_GRIPS } from '../painters/trace';
import { useNudge } from '../nudge';
import { removeChosen } from '../removal';
import type { Table } from '../table';
import type { Brush } from '../brush';
import type { Pick, Tool } from '../tool';
import { paintStretch } from '../painters/overlay';
import { distance } from './geometry';

/** Ends nearer than this (millimetres) are one corner and are dragged together. */
const ONE_CORNER = 1;

/** A line is taken hold of within this, CSS pixels; for a click it may lie farther off. */
const HELD_PIXELS = 3;

/** What is held of an element: one of its grips, or one of its stretches by its middle. */
type Grip = { id: string; grip: number } | { id: string; edge: number };

type Hold =
  | {
      kind: 'box';
      from: Point;
      to: Point;
      add: boolean;
      /** Only what lies wholly within. */ inside: boolean;
    }
  | { kind: 'grip'; held: Grip; corner: Point; to: Point; alone: boolean }
  | { kind: 'move'; from: Point; to: Point; path: MovedPath };

/** Selects traced elements by click and box; drags ends and whole selections. */
export class SelectTool implements Tool {
  readonly id = 'select';
  readonly cursor = 'default';
  private hold: Hold | null = null;
  private pressedOn: { pick: Pick; hit: string | null } | null = null;

  constructor(
    private readonly table: Table,
    private readonly style: () => LengthStyle,
  ) {}

  /** Snapping matters only while something is dragged. */
  get snaps(): boolean {
    return this.hold?.kind === 'grip' || this.hold?.kind === 'move';
  }

  words(): string {
    if (this.hold?.kind === 'box')
      return this.hold.inside
        ? 'Takes only what lies wholly within the box'
        : 'Takes all that the box touches · Alt: only what lies within';
    if (this.hold?.kind === 'grip')
      return 'edge' in this.hold.held
        ? 'Drag the stretch to its place, its neighbours follow · Shift holds the axis'
        : 'Drag the point to its place · Shift holds the axis, Alt leaves its neighbours';
    if (this.hold?.kind === 'move') return 'Drag the selection to its place · Shift holds the axis';
    const n = this.table.state.getState().selection.size;
    if (n > 0) return `${n} selected · drag to move, drag a point, Delete removes, Esc lets go`;
    return 'Click anything drawn to select it, or drag a box';
  }

  anchor(): [number, number] | null {
    if (this.hold?.kind === 'grip') return [...this.hold.corner] as [number, number];
    return this.hold?.kind === 'move' ? ([...this.hold.from] as [number, number]) : null;
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
    else if (this.hold.kind === 'grip') this.hold = { ...this.hold, to: pick.plane, alone: pick.alt };
    else this.hold = { ...this.hold, to: pick.plane };
    this.table.repaint('overlay');
  }

  private begin(pick: Pick, hit: string | null): Hold {
    const { selection } = this.table.state.getState();
    const grip = this.gripAt(pick.bare, selection);
    if (grip) return { kind: 'grip', ...grip, to: grip.corner, alone: pick.alt };
    // A box may begin near a line: what is not selected is dragged only when it is really taken hold of.
    if (hit && (selection.has(hit) || tracedAt(this.table, pick.bare, HELD_PIXELS)?.id === hit)) {
      if (!selection.has(hit)) this.table.setSelection([hit]);
      return {
        kind: 'move',
        from: this.cornerAt(pick.bare, hit) ?? pick.bare,
        to: pick.bare,
        path: new MovedPath(shownChosen(this.table)),
      };
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
    else if (hold.kind === 'grip') this.moveGrip({ ...hold, alone: pick.alt });
    else this.moveSelection([hold.to[0] - hold.from[0], hold.to[1] - hold.from[1]]);
  }

  private click(hit: string | null, add: boolean): void {
    const { selection } = this.table.state.getState();
    if (!hit) {
      if (!add) this.table.setSelection([]);
      return;
    }
    if (!add) this.table.setSelection([hit]);
    else
      this.table.setSelection(
        selection.has(hit) ? [...selection].filter((id) => id !== hit) : [...selection, hit],
      );
  }

  private hit(at: Point): string | null {
    return tracedAt(this.table, at)?.id ?? null;
  }

  /** The grip or the middle of a stretch under the pointer, of what is selected. */
  private gripAt(at: Point, selection: ReadonlySet<string>): { held: Grip; corner: Point } | null {
    const reach = REACH_PIXELS / this.table.view.scale;
    const chosen = selection.size > MOST_WITH_GRIPS ? [] : shownChosen(this.table);
    for (const e of chosen) {
      const grips = gripsOf(e),
        grip = grips.findIndex((p) => distance(at, p) <= reach);
      if (grip >= 0) return { held: { id: e.id, grip }, corner: grips[grip] };
    }
    for (const e of chosen) {
      const edges = edgesOf(e),
        edge = edges.findIndex((s) => distance(at, s.middle) <= reach);
      if (edge >= 0) return { held: { id: e.id, edge }, corner: edges[edge].middle };
    }
    return null;
  }

  /** A corner of the element under the pointer: held by it the selection comes exactly to where it snaps. Else it is held where it was taken. */
  private cornerAt(at: Point, id: string): Point | null {
    const reach = REACH_PIXELS / this.table.view.scale,
      e = shownChosen(this.table).find((m) => m.id === id);
    return (
      (e ? gripsOf(e) : [])
        .filter((p) => distance(at, p) <= reach)
        .sort((p, q) => distance(at, p) - distance(at, q))[0] ?? null
    );
  }

  private takeBox(hold: Extract<Hold, { kind: 'box' }>): void {
    const box = boxOfPoints([hold.from, hold.to]);
    const { touches } = withinRing(boxRing(box));
    const taken = tracedIn(this.table, box)
      .filter((e) => (hold.inside ? boxContains(box, boxOf(e)) : touches(e)))
      .map((e) => e.id);
    const { selection } = this.table.state.getState();
    this.table.setSelection(hold.add ? [...selection, ...taken] : taken);
  }

  /** The elements as they would be with what is held at its new place; null where one of them would have no length. */
  private reshaped({ held, corner, to, alone }: Extract<Hold, { kind: 'grip' }>): Traced[] | null {
    const e = shownChosen(this.table).find((m) => m.id === held.id);
    if (!e) return [];
    const first =
      'edge' in held
        ? withEdge(e, held.edge, [to[0] - corner[0], to[1] - corner[1]])
        : withGrip(e, held.grip, to);
    if (!first) return null;
    if ('edge' in held || !jointGrips(e).includes(held.grip)) return [first];
    const { selection } = this.table.state.getState();
    const [x, y] = corner,
      neighbours = tracedIn(this.table, [
        x - ONE_CORNER,
        y - ONE_CORNER,
        x + ONE_CORNER,
        y + ONE_CORNER,
      ]).filter((n) => n.id !== e.id && (!alone || selection.has(n.id)));
    const out: Traced[] = [first];
    for (const n of neighbours) {
      const grips = gripsOf(n),
        joint = jointGrips(n).find((g) => distance(grips[g], corner) <= ONE_CORNER);
      if (joint === undefined) continue;
      const moved = withGrip(n, joint, to);
      if (!moved) return null;
      out.push(moved);
    }
    return out;
  }

  private moveGrip(hold: Extract<Hold, { kind: 'grip' }>): void {
    const next = this.reshaped(hold);
    if (!next) {
      this.table.session.tell(
        'The point was dragged onto another: the element would have no length there. Nothing was changed.',
        true,
      );
      return;
    }
    const { model } = this.table.session.state;
    this.table.session.do(
      group(next.map((e) => replaced(model.get(e.id) as Traced, e))),
      'edge' in hold.held ? 'Drag a stretch' : 'Drag an end',
    );
  }

  private moveSelection([dx, dy]: Point): void {
    if (Math.hypot(dx, dy) < 1e-9) return;
    const map = translation(dx, dy);
    const moved = chosenTraced(this.table).map((e) => replaced(e, movedBy(e, map)));
    this.table.session.do(
      group(moved),
      moved.length === 1 ? 'Move an element' : `Move ${moved.length} elements`,
    );
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Delete' || event.key === 'Backspace') {
      removeChosen(this.table);
      return true;
    }
    const step = NUDGE[event.key];
    if (step && this.table.state.getState().selection.size > 0) {
      // A typed length, or one screen pixel rounded to a whole step of 1, 5, 10 … millimetres; Shift takes ten.
      const unit =
        (useNudge.getState().step ?? niceStep(1 / this.table.view.scale)) * (event.shiftKey ? 10 : 1);
      this.moveSelection([step[0] * unit, step[1] * unit]);
      return true;
    }
    return false;
  }

  paint(brush: Brush): void {
    const { hold } = this;
    if (!hold) return;
    const { context, palette } = brush;
    if (hold.kind === 'box') {
      const [x0, y0] = brush.at(hold.from),
        [x1, y1] = brush.at(hold.to);
      context.save();
      context.fillStyle = 'rgba(212,69,31,0.10)';
      context.strokeStyle = palette.now;
      context.fillRect(x0, y0, x1 - x0, y1 - y0);
      context.strokeRect(x0, y0, x1 - x0, y1 - y0);
      context.restore();
      return;
    }
    const ruled = this.byRules(hold);
    if (hold.kind === 'move' && ruled) {
      this.paintElements(brush, ruled, null);
      return;
    }
    if (hold.kind === 'move') {
      hold.path.stroke(brush, palette.now, translation(hold.to[0] - hold.from[0], hold.to[1] - hold.from[1]));
      return;
    }
    this.paintElements(brush, ruled ?? this.reshaped(hold) ?? [], hold.held.id);
  }

  /** Where rules hold on the plane: all that moves with what is dragged, as it will come to lie. Null where there are none. */
  private byRules(hold: Exclude<Hold, { kind: 'box' }>): Traced[] | null {
    const { model } = this.table.session.state,
      { planeId } = this.table.state.getState();
    if (!model.hasType('rule') || rulesOn(model, planeId).length === 0) return null;
    const moved =
      hold.kind === 'grip'
        ? this.reshaped(hold)
        : chosenTraced(this.table).map((e) =>
            movedBy(e, translation(hold.to[0] - hold.from[0], hold.to[1] - hold.from[1])),
          );
    const change = group((moved ?? []).map((e) => replaced(model.get(e.id) as Traced, e))),
      after = change && apply(model, settled(model, change));
    if (!after?.ok) return null;
    return tracedOn(after.model, planeId).filter((e) => model.get(e.id) !== e);
  }

  private paintElements(brush: Brush, elements: readonly Traced[], held: string | null): void {
    const { context, palette } = brush;
    for (const e of elements) {
      if (isStraightElement(e)) {
        paintStretch(
          brush,
          e.from,
          e.to,
          e.id === held ? formatLength(distance(e.from, e.to), this.style()) : '',
          palette.now,
          true,
        );
        continue;
      }
      context.save();
      context.strokeStyle = palette.now;
      context.lineWidth = 2;
      context.setLineDash([6, 4]);
      context.beginPath();
      elementPath(brush, e);
      context.stroke();
      context.restore();
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

const NUDGE: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

function niceStep(raw: number): number {
  const power = 10 ** Math.floor(Math.log10(raw));
  return [1, 2, 5, 10].map((m) => m * power).find((s) => s >= raw)!;
}
