import {
  boxContains,
  extendTrack,
  grownBox,
  pieceEnd,
  pieceStart,
  trimTrack,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import { alongPieces, boxOf, replaced, trackOf, type Change, type Runs } from '@calque/core/model';
import { tracedBounds } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Brush } from '@/table/brush';
import type { Pick } from '@/table/tool';
import { addedLike, boundaries, PointingTool } from './pointing-tool';

class TrimTool extends PointingTool {
  readonly id = 'trim';

  words(): string {
    return this.hover?.shift
      ? 'Extend: click near the end that is to go on to the next thing'
      : 'Trim: click the part that is to go · hold Shift to extend an end instead · Esc ends';
  }

  press(pick: Pick): void {
    const e = this.at(pick);
    if (!e) return;
    if (pick.shift) {
      const extended = this.extended(e, pick.bare);
      const longer = extended.ok ? alongPieces(e, extended.pieces) : null;
      if (longer) this.do([replaced(e, longer)], 'Extend an element');
      else
        this.refuse(
          e.type === 'spline'
            ? 'A curve cannot go on by itself: drag its end, or draw on from it.'
            : 'Nothing lies ahead of this end: draw something there first, or drag the end.',
        );
      return;
    }
    const trimmed = trimTrack(trackOf(e), pick.bare, boundaries(this.table, e, grownBox(boxOf(e), 1)));
    if (!trimmed.ok) {
      this.refuse('Nothing crosses this element: delete it whole with Delete, or split it.');
      return;
    }
    this.do(inPlaceOf(e, trimmed.kept), 'Trim an element');
  }

  /** The element gone on from its end near a point to the next thing ahead: looked for in wider and wider boxes, so that a large trace is not gone through for what lies near. */
  private extended(e: Runs, near: Point): ReturnType<typeof extendTrack> {
    const { table } = this,
      track = trackOf(e),
      own = boxOf(e),
      all = tracedBounds(table);
    // An arc goes on round its own circle and nowhere else.
    const reach = Math.max(
      own[2] - own[0],
      own[3] - own[1],
      ...track.pieces.map((p) => (p.kind === 'arc' ? 2 * p.arc.r : 0)),
      1,
    );
    for (let grow = reach; ; grow *= 4) {
      const box = grownBox(own, grow),
        found = extendTrack(track, near, boundaries(table, e, box));
      // Whatever is nearer than a place in the box has something in the box as well.
      const ends = found.ok
        ? [pieceStart(found.pieces[0]), pieceEnd(found.pieces[found.pieces.length - 1])]
        : [];
      if (
        (found.ok && ends.every(([x, y]) => boxContains(box, [x, y, x, y]))) ||
        !all ||
        boxContains(box, all)
      )
        return found;
    }
  }

  paint(brush: Brush): void {
    const e = this.hover && this.at(this.hover);
    if (!e) return;
    if (this.hover!.shift) {
      const extended = this.extended(e, this.hover!.bare);
      if (extended.ok) this.stroke(brush, extended.pieces, brush.palette.now, 2, true);
      return;
    }
    const trimmed = trimTrack(trackOf(e), this.hover!.bare, boundaries(this.table, e, grownBox(boxOf(e), 1)));
    if (trimmed.ok) this.stroke(brush, trimmed.gone, brush.palette.now, 4, true);
  }
}

/** Runs of pieces in place of an element: the first keeps its name, what follows is new; none takes it away. */
export function inPlaceOf(e: Runs, runs: readonly (readonly Piece[])[]): (Change | null)[] {
  const [first, ...more] = runs.map((pieces) => alongPieces(e, pieces)).filter((r) => r !== null);
  return [first ? replaced(e, first) : { type: 'remove', entity: e }, ...more.map(addedLike)];
}

export const takeTrimTool = (table: Table): void => table.hold(new TrimTool(table));
