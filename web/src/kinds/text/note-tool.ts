import { noteCorners } from '@calque/core/model';
import { parseAngle } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { ringPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import { lengthField, typedLength } from '@/table/tools/geometry';
import type { Brush } from '@/table/brush';
import type { FieldRequest, Pick, Tool } from '@/table/tool';
import { useTraceState } from '@/drawing/state';
import { elementOf, foundBy, sourceOf } from '@/drawing/drawn';

/** Writes a line of text where it is clicked. */
export class NoteTool implements Tool {
  readonly id = 'text';
  readonly snaps = true;
  readonly cursor = 'text';
  private place: Pick | null = null;
  private hover: Pick | null = null;

  constructor(private readonly table: Table) {}

  words(): string {
    return this.place
      ? 'Text: type it and press Enter · Esc picks another place'
      : 'Text: click where it begins · Esc ends';
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    this.place = pick;
  }

  field(): FieldRequest | null {
    if (!this.place) return null;
    const style = lengthStyle(this.table.session.state.model);
    return {
      required: true,
      at: this.place.plane,
      hint: 'Enter writes it.',
      fields: [
        { id: 'text', label: 'text', unit: 'text', live: '' },
        lengthField('height', 'height', useTraceState.getState().textHeight, style),
        { id: 'turned', label: 'turned', unit: 'angle', live: '0°' },
      ],
    };
  }

  submit(values: Record<string, string>): string | null {
    const text = (values.text ?? '').trim();
    if (!this.place) return null;
    if (text === '') return 'Type what is to stand there.';
    const height = typedLength(
      values.height,
      useTraceState.getState().textHeight,
      lengthStyle(this.table.session.state.model),
    );
    if (typeof height === 'string') return height;
    if (height <= 0) return 'The height must be above 0.';
    const angle = values.turned?.trim() ? parseAngle(values.turned) : 0;
    if (angle === null) return `"${values.turned}" is not an angle. Type degrees, such as 90 or 24.5.`;
    useTraceState.getState().setTextHeight(height);
    const entity = elementOf(
      this.table,
      { type: 'text', at: this.place.plane, angle, height, text },
      sourceOf(this.table, [foundBy(this.place)]),
    );
    if (this.table.session.do({ type: 'add', entity }, 'Write a text')) this.place = null;
    return null;
  }

  paint(brush: Brush): void {
    const at = this.place?.plane ?? this.hover?.plane;
    if (!at) return;
    const { context, palette } = brush,
      height = useTraceState.getState().textHeight;
    context.save();
    context.strokeStyle = palette.now;
    context.setLineDash([4, 3]);
    context.beginPath();
    ringPath(brush, noteCorners({ at: [at[0], at[1]], angle: 0, height, text: 'text' }));
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    const had = this.place !== null;
    this.place = null;
    return had;
  }
}
