import { boxContains, boxOfPoints, boxRing, type Box, type Point } from '@calque/core/geometry';
import { group, replaced, stretched, type Traced } from '@calque/core/model';
import { formatLength } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { shownChosen, tracedIn } from '@/table/hit';
import { paintStretch } from '@/table/painters/overlay';
import { elementPath, ringPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import { distance, lengthField, typedPoint } from '@/table/tools/geometry';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick, Tool } from '@/table/tool';

const STEPS = [
  'click one corner of a box around the points that are to move',
  'click its opposite corner',
  'pick the point to move from',
  'pick where it goes, or type how far',
];

/** Moves all points in a box: what lies wholly within goes along, what reaches out of it is stretched. With a selection, only that. */
class StretchTool implements Tool {
  readonly id = 'stretch';
  readonly cursor = 'crosshair';
  private picks: [number, number][] = [];
  private hover: Pick | null = null;

  constructor(
    private readonly table: Table,
    private readonly only: ReadonlySet<string> | null,
  ) {}

  /** The box is drawn freely; where to and from is picked. */
  get snaps(): boolean {
    return this.picks.length >= 2;
  }

  words(): string {
    const n = this.picks.length;
    return `Stretch${this.only && n < 2 ? ' what is selected' : ''}: ${STEPS[n]} · ${n === 0 ? 'Esc ends' : 'Backspace: one back'}`;
  }

  anchor(): [number, number] | null {
    return this.picks.length === 3 ? this.picks[2] : null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.hover = pick;
    const last = this.picks.at(-1);
    if (this.picks.length === 3) {
      this.finish([pick.plane[0] - last![0], pick.plane[1] - last![1]]);
      return;
    }
    if (this.picks.length === 1 && (pick.plane[0] === last![0] || pick.plane[1] === last![1])) return;
    this.picks = [...this.picks, pick.plane];
    if (this.picks.length === 2 && this.within().length === 0) {
      this.table.session.tell(
        'No point of anything traced lies in this box: draw it around the ends or corners that are to move.',
        true,
      );
      this.picks = [];
    }
  }

  private get box(): Box {
    return boxOfPoints(this.picks.slice(0, 2));
  }

  private within(): Traced[] {
    const { box } = this;
    const found = this.only
      ? shownChosen(this.table).filter((e) => this.only!.has(e.id))
      : tracedIn(this.table, box);
    return found.filter((e) => stretched(e, (p) => boxContains(box, [p[0], p[1], p[0], p[1]]), [1, 0]) !== e);
  }

  /** The elements as they would be; words where one of them would have no length. */
  private moved(by: Point): Traced[] | string {
    const { box } = this,
      out: Traced[] = [];
    for (const e of this.within()) {
      const next = stretched(e, (p) => boxContains(box, [p[0], p[1], p[0], p[1]]), by);
      if (!next)
        return 'Something would have no length there: move the points less far, or take a larger box.';
      out.push(next);
    }
    return out;
  }

  private finish(by: Point): void {
    const moved = this.moved(by);
    if (typeof moved === 'string') {
      this.table.session.tell(moved, true);
      return;
    }
    const { model } = this.table.session.state;
    if (
      this.table.session.do(
        group(moved.map((e) => replaced(model.get(e.id) as Traced, e))),
        moved.length === 1 ? 'Stretch an element' : `Stretch ${moved.length} elements`,
      )
    )
      this.picks = [];
  }

  field(): FieldRequest | null {
    const [, , from] = this.picks;
    if (!from || !this.hover) return null;
    const { plane } = this.hover,
      style = lengthStyle(this.table.session.state.model);
    return {
      required: false,
      at: plane,
      fields: [
        lengthField('right', 'right', plane[0] - from[0], style),
        lengthField('up', 'up', plane[1] - from[1], style),
      ],
    };
  }

  submit(values: Record<string, string>): string | null {
    const [, , from] = this.picks;
    if (!from || !this.hover) return null;
    const to = typedPoint(values, from, this.hover.plane, lengthStyle(this.table.session.state.model));
    if (typeof to === 'string') return to;
    this.finish([to[0] - from[0], to[1] - from[1]]);
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key !== 'Backspace' || this.picks.length === 0) return false;
    this.picks = this.picks.slice(0, -1);
    return true;
  }

  cancel(): boolean {
    const had = this.picks.length > 0;
    this.picks = [];
    return had;
  }

  paint(brush: Brush): void {
    if (this.picks.length === 0 || !this.hover) return;
    const { context, palette } = brush,
      [a, b, from] = this.picks;
    context.save();
    context.strokeStyle = palette.now;
    context.fillStyle = 'rgba(212,69,31,0.08)';
    context.lineWidth = 1;
    context.setLineDash([5, 4]);
    context.beginPath();
    ringPath(brush, boxRing(boxOfPoints([a, b ?? this.hover.bare])));
    context.fill();
    context.stroke();
    const to = this.hover.plane,
      moved = from ? this.moved([to[0] - from[0], to[1] - from[1]]) : [];
    context.setLineDash([]);
    context.lineWidth = 2;
    context.beginPath();
    if (typeof moved !== 'string') for (const e of moved) elementPath(brush, e);
    context.stroke();
    context.restore();
    if (from)
      paintStretch(
        brush,
        from,
        to,
        formatLength(distance(from, to), lengthStyle(this.table.session.state.model)),
        palette.now,
        true,
      );
  }
}

export function takeStretchTool(table: Table): void {
  const { selection } = table.state.getState(),
    ids = [...selection];
  table.hold(new StretchTool(table, ids.length > 0 ? new Set(ids) : null));
  // Taking a tool up lets go of nothing: what is selected stays lit.
  table.setSelection(ids);
}
