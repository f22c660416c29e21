import { splitTrack } from '@calque/core/geometry';
import { isRun, trackOf } from '@calque/core/model';
import { tracedAt } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';
import { PointingTool } from './pointing-tool';
import { inPlaceOf } from './trim-tool';

class SplitTool extends PointingTool {
  readonly id = 'split';
  override readonly snaps = true;

  words(): string {
    return 'Split: click where an element is to be parted in two · Esc ends';
  }

  press(pick: Pick): void {
    const found = tracedAt(this.table, pick.plane),
      e = found && isRun(found) ? found : this.at(pick);
    if (!e) return;
    const track = trackOf(e);
    if (track.closed && track.pieces.length === 1) {
      this.refuse('A circle has no end to be parted at: trim it between two lines that cross it.');
      return;
    }
    const parts = splitTrack(track, pick.plane);
    if (parts) this.do(inPlaceOf(e, parts), track.closed ? 'Open a closed path' : 'Split an element');
    else this.refuse('That is its end already: click somewhere between the ends.');
  }
}

export const takeSplitTool = (table: Table): void => table.hold(new SplitTool(table));
