import { elementOf, sourceOf } from '@/drawing/drawn';
import { endsOfLink, styleOf } from '@/drawing/chain';
import { segmentPath } from '@/table/painters/trace';
import type { Table } from '@/table/table';
import { ChainTool } from '@/table/tools/chain-tool';

/** Plain lines by a chain of clicks. */
export const takeLineTool = (table: Table): void =>
  takeChainOf(table, { id: 'line', type: 'line', word: 'Line', label: 'Draw a line' });

/** Straight elements of a kind that has no more than its ends, by a chain of clicks. */
export function takeChainOf(
  table: Table,
  { id, type, word, label }: { id: string; type: 'line' | 'openBoundary'; word: string; label: string },
): void {
  table.hold(
    new ChainTool(id, word, {
      style: () => styleOf(table),
      put: (link) =>
        table.session.do(
          {
            type: 'add',
            entity: elementOf(
              table,
              { type, from: link.from, to: link.to },
              sourceOf(table, endsOfLink(link)),
            ),
          },
          label,
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
