import { elementOf, sourceOf } from '@/drawing/drawn';
import { endsOfLink, styleOf } from '@/drawing/chain';
import { segmentPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import { ChainTool } from '@/table/tools/chain-tool';

/** Plain lines by a chain of clicks. */
export function takeLineTool(table: Table): void {
  table.hold(
    new ChainTool('line', 'Line', {
      style: () => styleOf(table),
      put: (link) =>
        table.session.do(
          {
            type: 'add',
            entity: elementOf(
              table,
              { type: 'line', from: link.from, to: link.to },
              sourceOf(table, endsOfLink(link)),
            ),
          },
          'Draw a line',
        ),
      takeBack: () => table.session.undo(),
      detail: () => '',
      paintLink: (brush, from, to) => {
        const { context, palette } = brush;
        context.save();
        context.strokeStyle = palette.now;
        context.lineWidth = 2;
        context.beginPath();
        segmentPath(brush, from, to);
        context.stroke();
        context.restore();
      },
    }),
  );
}
