import type { Brush } from '@/table/brush';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';

/** A place that is clicked again is let go: so near is the same, CSS pixels. */
const SAME = 8;

/** Picks places on the plane, one after the other, for what asked for them. */
export class PlaceTool implements Tool {
  readonly id = 'part-place';
  readonly snaps = true;
  readonly cursor = 'crosshair';

  constructor(
    private readonly table: Table,
    private readonly ask: string,
    /** The places as they are now. */
    private readonly places: () => readonly (readonly [number, number])[],
    private readonly take: (places: [number, number][]) => void,
    /** One pick is enough. */
    private readonly once = false,
  ) {}

  words = (): string => `${this.ask} · Esc when done`;
  move(): void {}

  press({ plane }: Pick): void {
    const { scale } = this.table.state.getState().view,
      all = this.places().map(([x, y]): [number, number] => [x, y]),
      known = all.findIndex(([x, y]) => Math.hypot(x - plane[0], y - plane[1]) * scale <= SAME);
    if (this.once) this.take([[...plane]]);
    else this.take(known < 0 ? [...all, [...plane]] : all.filter((_, i) => i !== known));
    if (this.once) this.table.layDown();
  }

  paint(brush: Brush): void {
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    context.beginPath();
    for (const p of this.places()) {
      const [x, y] = brush.at(p);
      context.moveTo(x - 7, y);
      context.lineTo(x + 7, y);
      context.moveTo(x, y - 7);
      context.lineTo(x, y + 7);
    }
    context.stroke();
    context.restore();
  }

  cancel(): boolean {
    return false;
  }
}
