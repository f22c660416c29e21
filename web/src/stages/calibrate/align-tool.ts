import { alignByPoints, type Alignment } from '@calque/core/calibration';
import { compose, type CommonPoints } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { label, paintStretch } from '@/table/painters/overlay';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick, Tool } from '@/table/tool';
import { parseLength } from '@calque/core/units';
import { currentUnderlay, place } from './place';
import { useCalibrateState } from './state';

/** Pairs of common points: one on the sheet, then where it ought to lie; Enter lays the sheet by all of them. */
export class AlignTool implements Tool {
  readonly id = 'align-sheet';
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private pairs: CommonPoints[] = [];
  private open: [number, number] | null = null;
  private hover: Pick | null = null;

  constructor(
    private readonly table: Table,
    private readonly u: Underlay,
  ) {
    this.tell();
  }

  /** The sheet's own points first; then anything but the sheet. */
  get onlyUnderlay(): string | undefined {
    return this.open ? undefined : this.u.id;
  }
  get notUnderlay(): string | undefined {
    return this.open ? this.u.id : undefined;
  }

  words(): string {
    if (this.open)
      return 'Pick where that point is to lie, on another sheet, the trace or the plane, or type its place';
    if (this.pairs.length === 0) return `Align ${this.u.name}: pick a point of it`;
    return `Pick another point of ${this.u.name}, or press Enter to lay it by ${this.pairs.length === 1 ? 'this pair' : `these ${this.pairs.length} pairs`} · Backspace takes the last away`;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    if (!this.open) this.open = pick.plane;
    else this.close(pick.plane);
  }

  private close(to: [number, number]): void {
    this.pairs = [...this.pairs, { from: this.open!, to }];
    this.open = null;
    this.tell();
  }

  field(): FieldRequest | null {
    if (!this.open) return null;
    const at = this.hover?.plane ?? this.open;
    const style = lengthStyle(this.table.session.state.model);
    const live = (v: number) => formatLengthWithUnit(v, style);
    return {
      fields: [
        { id: 'x', label: 'x', unit: 'length', live: live(at[0]) },
        { id: 'y', label: 'y', unit: 'length', live: live(at[1]) },
      ],
      required: false,
      at,
    };
  }

  submit(values: Record<string, string>): string | null {
    if (!this.open) return null;
    const { units } = lengthStyle(this.table.session.state.model);
    const parsed = ['x', 'y'].map((id) => parseLength(values[id] ?? '', units));
    const [x, y] = parsed;
    if (!x.ok || !y.ok) return 'Type both x and y, such as 0 and 5250, to say where the point lies.';
    this.close([x.mm, y.mm]);
    return null;
  }

  key(event: KeyboardEvent): boolean {
    if (event.key === 'Enter' && !this.open && this.pairs.length > 0) {
      this.accept();
      return true;
    }
    if (event.key !== 'Backspace' || (!this.open && this.pairs.length === 0)) return false;
    if (this.open) this.open = null;
    else this.pairs = this.pairs.slice(0, -1);
    this.tell();
    return true;
  }

  /** What the pairs say now, for the panel. */
  private tell(): void {
    const outcome =
      this.pairs.length === 0 ? null : alignByPoints(this.pairs, useCalibrateState.getState().alignScaled);
    useCalibrateState.setState({
      aligning: {
        pairs: this.pairs.length,
        alignment: outcome?.ok ? outcome.alignment : null,
        accept: () => this.accept(),
        retell: () => this.tell(),
      },
    });
  }

  private alignment(): Alignment | null {
    const outcome = alignByPoints(this.pairs, useCalibrateState.getState().alignScaled);
    if (outcome.ok) return outcome.alignment;
    this.table.session.tell(
      outcome.reason === 'none'
        ? 'Pick a point of the sheet and where it is to lie first.'
        : 'The picked points lie on one another: take the last away (Backspace) and pick others, far apart.',
      true,
    );
    return null;
  }

  accept(): void {
    const alignment = this.alignment();
    if (!alignment) return;
    place(
      this.table,
      this.u,
      compose(alignment.move, this.u.placement),
      `Align ${this.u.name} by ${this.pairs.length === 1 ? 'a point' : `${this.pairs.length} points`}`,
    );
    this.pairs = [];
    this.table.layDown();
  }

  paint(brush: Brush): void {
    const { palette } = brush;
    const outcome =
      this.pairs.length > 1 ? alignByPoints(this.pairs, useCalibrateState.getState().alignScaled) : null;
    const style = lengthStyle(this.table.session.state.model);
    this.pairs.forEach(({ from, to }, i) => {
      paintStretch(brush, from, to, '', palette.known);
      if (outcome?.ok)
        label(
          brush,
          `misses by ${formatLengthWithUnit(outcome.alignment.residuals[i], style)}`,
          brush.at(to)[0] + 8,
          brush.at(to)[1] + 16,
          palette.known,
        );
    });
    if (this.open && this.hover) paintStretch(brush, this.open, this.hover.plane, '', palette.now, true);
  }

  cancel(): boolean {
    const had = this.open !== null || this.pairs.length > 0;
    this.open = null;
    this.pairs = [];
    if (had) this.tell();
    else useCalibrateState.setState({ aligning: null });
    return had;
  }
}

export function takeAlignTool(table: Table): void {
  const u = currentUnderlay(table);
  if (u) table.hold(new AlignTool(table, u));
}
