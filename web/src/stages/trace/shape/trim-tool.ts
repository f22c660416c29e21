import { extendTrack, grownBox, trimTrack, type Piece } from '@calque/core/geometry';
import { alongPieces, boxOf, replaced, trackOf, type Change, type Runs } from '@calque/core/model';
import type { Table } from '@/table/table';
import type { Brush, Pick } from '@/table/tool';
import { addedLike, boundaries, PointingTool } from './pointing-tool';

class TrimTool extends PointingTool {
  readonly id = 'trim';

  words(): string {
    return this.hover?.shift ? 'Extend: click near the end that is to go on to the next thing' : 'Trim: click the part that is to go · hold Shift to extend an end instead · Esc ends';
  }

  press(pick: Pick): void {
    const e = this.at(pick);
    if (!e) return;
    if (pick.shift) {
      const extended = extendTrack(trackOf(e), pick.bare, boundaries(this.table, e));
      const longer = extended.ok ? alongPieces(e, extended.pieces) : null;
      if (longer) this.do([replaced(e, longer)], 'Extend an element');
      else this.refuse(e.type === 'spline' ? 'A curve cannot go on by itself: drag its end, or draw on from it.' : 'Nothing lies ahead of this end: draw something there first, or drag the end.');
      return;
    }
    const trimmed = trimTrack(trackOf(e), pick.bare, boundaries(this.table, e, grownBox(boxOf(e), 1)));
    if (!trimmed.ok) {
      this.refuse('Nothing crosses this element: delete it whole with Delete, or split it.');
      return;
    }
    this.do(inPlaceOf(e, trimmed.kept), 'Trim an element');
  }

  paint(brush: Brush): void {
    const e = this.hover && this.at(this.hover);
    if (!e) return;
    if (this.hover!.shift) {
      const extended = extendTrack(trackOf(e), this.hover!.bare, boundaries(this.table, e));
      if (extended.ok) this.stroke(brush, extended.pieces, brush.ink.now, 2, true);
      return;
    }
    const trimmed = trimTrack(trackOf(e), this.hover!.bare, boundaries(this.table, e, grownBox(boxOf(e), 1)));
    if (trimmed.ok) this.stroke(brush, trimmed.gone, brush.ink.now, 4, true);
  }
}

/** Runs of pieces in place of an element: the first keeps its name, what follows is new; none takes it away. */
export function inPlaceOf(e: Runs, runs: readonly (readonly Piece[])[]): (Change | null)[] {
  const [first, ...more] = runs.map((pieces) => alongPieces(e, pieces)).filter((r) => r !== null);
  return [first ? replaced(e, first) : { type: 'remove', entity: e }, ...more.map(addedLike)];
}

export const takeTrimTool = (table: Table): void => table.take(new TrimTool(table));
