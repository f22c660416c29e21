import { applyTransform, invertTransform } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import type { Table } from '@/table/table';
import type { Brush, Pick } from '@/table/tool';
import { PicksTool } from '@/table/tools/picks-tool';
import { currentUnderlay } from './place';
import { cornersProblem, straightenUnderlay, type Rectangle } from './straighten';
import { sigmaOfPick, typedLength } from './tools';

/** Four picks round a rectangle, shown as they are made. */
class CornersTool extends PicksTool {
  override paint(brush: Brush): void {
    const { context, ink } = brush;
    const ring = [...this.picks, ...(this.complete || !this.hover ? [] : [this.hover])].map((p) => brush.at(p.plane));
    if (ring.length === 0) return;
    context.save();
    context.strokeStyle = ink.now;
    context.lineWidth = 2;
    context.beginPath();
    ring.forEach(([x, y], i) => (i === 0 ? context.moveTo(x, y) : context.lineTo(x, y)));
    if (ring.length > 2) context.closePath();
    context.stroke();
    context.restore();
  }
}

/** The corners of something rectangular on a photo, then its true width and height. */
export function takeStraightenTool(table: Table): void {
  const u = currentUnderlay(table);
  if (!u) return;
  const rectangleOf = (picks: readonly Pick[], width: number, height: number, typed: readonly [string, string]): Rectangle => ({
    corners: picks.map((p) => onSheet(u, p)), sigma: picks.map((p) => sigmaOfPick(table, u, p)), width, height, typed,
  });
  table.take(new CornersTool({
    id: 'straighten', onlyUnderlay: u.id,
    steps: ['Pick a corner of something rectangular whose size you know', 'Pick its next corner: the first side is the width', 'Pick the third corner', 'Pick the fourth corner'],
    ask: () => ({ required: true, fields: [{ id: 'width', label: 'first side', unit: 'length', live: '' }, { id: 'height', label: 'second side', unit: 'length', live: '' }], hint: 'Type both true lengths. Enter straightens the photo into a new sheet; the photo stays, hidden.' }),
    submit: (picks, values) => {
      const width = typedLength(table, values.width ?? ''), height = typedLength(table, values.height ?? '');
      if (typeof width === 'string') return `First side: ${width}`;
      if (typeof height === 'string') return `Second side: ${height}`;
      const rectangle = rectangleOf(picks, width.mm, height.mm, [(values.width ?? '').trim(), (values.height ?? '').trim()]);
      const problem = cornersProblem(u, rectangle);
      if (problem) return problem;
      void straightenUnderlay(table, u, rectangle);
      return null;
    },
    done: () => table.layDown(),
  }));
}

const onSheet = (u: Underlay, p: Pick): [number, number] => applyTransform(invertTransform(u.placement), p.plane);
