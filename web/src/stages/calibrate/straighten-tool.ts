import { applyTransform, invertTransform } from '@calque/core/geometry';
import { settingsOf, type Underlay } from '@calque/core/model';
import { parseLength } from '@calque/core/units';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick, Tool } from '@/table/tool';
import { PicksTool, type PicksPlan } from '@/table/tools/picks-tool';
import { currentUnderlay } from './place';
import { cornersProblem, straightenUnderlay, type Rectangle } from './straighten';
import { sigmaOfPick, typedLength } from './tools';

/** Four picks round a rectangle, shown as they are made. */
class CornersTool extends PicksTool {
  override paint(brush: Brush): void {
    const { context, palette } = brush;
    const ring = [...this.picks, ...(this.complete || !this.hover ? [] : [this.hover])].map((p) =>
      brush.at(p.plane),
    );
    if (ring.length === 0) return;
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    context.beginPath();
    ring.forEach(([x, y], i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    if (ring.length > 2) context.closePath();
    context.stroke();
    context.restore();
  }
}

/** Corners and their sizes, then further points one by one, each with its place; Enter straightens. */
class FurtherTool implements Tool {
  readonly id = 'straighten';
  readonly snaps = true;
  readonly cursor = 'crosshair';
  readonly onlyUnderlay: string;
  private rectangle: Rectangle | null = null;
  private pending: Pick | null = null;
  private further: { pick: Pick; along: number; away: number }[] = [];
  private readonly corners: CornersTool;

  constructor(
    private readonly table: Table,
    private readonly u: Underlay,
    plan: PicksPlan,
    private readonly straighten: (rectangle: Rectangle) => void,
  ) {
    this.onlyUnderlay = u.id;
    this.corners = new CornersTool(plan);
  }

  take(rectangle: Rectangle): void {
    this.rectangle = rectangle;
  }

  words(): string {
    if (!this.rectangle) return this.corners.words();
    if (this.pending) return 'Type where this point lies: along the first side, and away from it';
    return `Pick a further point whose place you know · Enter straightens by ${4 + this.further.length} points`;
  }

  move(pick: Pick): void {
    this.corners.move(pick);
  }

  press(pick: Pick): void {
    if (!this.rectangle) this.corners.press(pick);
    else this.pending = pick;
  }

  field(): FieldRequest | null {
    if (!this.rectangle) return this.corners.field();
    if (!this.pending) return null;
    return {
      required: true,
      at: this.pending.plane,
      fields: [
        { id: 'along', label: 'along', unit: 'length', live: '' },
        { id: 'away', label: 'away', unit: 'length', live: '' },
      ],
      hint: 'From the first corner along the first side, and square away from that side.',
    };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.rectangle) return this.corners.submit(values);
    const along = placeOf(this.table, values.along),
      away = placeOf(this.table, values.away);
    if (along === null || away === null)
      return 'Type both lengths, such as 1200 and 450; 0 lies on the side itself.';
    this.further.push({ pick: this.pending!, along, away });
    this.pending = null;
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Backspace' && this.rectangle && this.further.length > 0 && !this.pending) {
      this.further.pop();
      return true;
    }
    if (event.key !== 'Enter' || !this.rectangle || this.pending)
      return this.rectangle ? false : this.corners.key(event);
    const sigma = (p: Pick) => sigmaOfPick(this.table, this.u, p);
    const all = {
      ...this.rectangle,
      further: this.further.map(({ pick, along, away }) => ({
        at: onSheet(this.u, pick),
        sigma: sigma(pick),
        along,
        away,
      })),
    };
    const problem = cornersProblem(this.u, all);
    if (problem) this.table.session.tell(problem, true);
    else this.straighten(all);
    return true;
  }

  paint(brush: Brush): void {
    this.corners.paint(brush);
    const { context, palette } = brush;
    context.fillStyle = palette.now;
    for (const p of [...this.further.map((f) => f.pick), ...(this.pending ? [this.pending] : [])]) {
      const [x, y] = brush.at(p.plane);
      context.fillRect(x - 3, y - 3, 6, 6);
    }
  }

  cancel(): boolean {
    if (this.pending) this.pending = null;
    else if (this.rectangle) {
      this.rectangle = null;
      this.further = [];
      this.corners.cancel();
    } else return this.corners.cancel();
    return true;
  }
}

/** A length that may be nothing. */
function placeOf(table: Table, text: string | undefined): number | null {
  const parsed = parseLength((text ?? '').trim(), settingsOf(table.session.state.model).units);
  return parsed.ok ? parsed.mm : null;
}

/** The corners of something rectangular on a photo, then its true width and height; `more`: and further points before it is straightened. */
export function takeStraightenTool(table: Table, more = false): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const rectangleOf = (
    picks: readonly Pick[],
    width: number,
    height: number,
    typed: readonly [string, string],
  ): Rectangle => ({
    corners: picks.map((p) => onSheet(u, p)),
    sigma: picks.map((p) => sigmaOfPick(table, u, p)),
    width,
    height,
    typed,
  });
  const straightened = (rectangle: Rectangle) => {
    void straightenUnderlay(table, u, rectangle);
    table.layDown();
  };
  let further: FurtherTool | null = null;
  const plan: PicksPlan = {
    id: 'straighten',
    onlyUnderlay: u.id,
    steps: [
      'Pick a corner of something rectangular whose size you know',
      'Pick its next corner: the first side is the width',
      'Pick the third corner',
      'Pick the fourth corner',
    ],
    ask: () => ({
      required: true,
      fields: [
        { id: 'width', label: 'first side', unit: 'length', live: '' },
        { id: 'height', label: 'second side', unit: 'length', live: '' },
      ],
      hint: more
        ? 'Type both true lengths; further points come next.'
        : 'Type both true lengths. Enter straightens the photo into a new sheet; the photo stays, hidden.',
    }),
    submit: (picks, values) => {
      const width = typedLength(table, values.width ?? ''),
        height = typedLength(table, values.height ?? '');
      if (typeof width === 'string') return `First side: ${width}`;
      if (typeof height === 'string') return `Second side: ${height}`;
      const rectangle = rectangleOf(picks, width.mm, height.mm, [
        (values.width ?? '').trim(),
        (values.height ?? '').trim(),
      ]);
      const problem = cornersProblem(u, rectangle);
      if (problem) return problem;
      if (further) further.take(rectangle);
      else straightened(rectangle);
      return null;
    },
    done: () => {},
    keeps: more,
  };
  if (more) table.hold((further = new FurtherTool(table, u, plan, straightened)));
  else table.hold(new CornersTool(plan));
}

const onSheet = (u: Underlay, p: Pick): [number, number] =>
  applyTransform(invertTransform(u.placement), p.plane);
