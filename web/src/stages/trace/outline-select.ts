import { boxOfPoints } from '@calque/core/geometry';
import { withinRing } from '@calque/core/model';
import { tracedIn } from '@/table/hit';
import type { Table } from '@/table/table';
import { RingTool } from '@/table/tools/ring-tool';

/** Selects by an outline of any shape: all that it touches, or by F only what lies wholly within. What was selected stays. */
export function takeOutlineSelect(table: Table, inside = false): void {
  const before = [...table.state.getState().selection];
  table.hold(
    new RingTool({
      id: 'select-outline',
      noun: inside ? 'Select what lies within' : 'Select what the outline touches',
      snaps: false,
      polygon: true,
      more: () => (inside ? 'F: all that it touches' : 'F: only what lies wholly within'),
      other: () => takeOutlineSelect(table, !inside),
      refused: (words) => table.session.tell(words, true),
      done: (ring) => {
        const { holds, touches } = withinRing(ring);
        const taken = tracedIn(table, boxOfPoints(ring))
          .filter(inside ? holds : touches)
          .map((e) => e.id);
        table.layDown();
        table.setSelection([...before, ...taken]);
        if (taken.length === 0)
          table.session.tell(
            inside
              ? 'Nothing lies wholly within this outline.'
              : 'The outline touches nothing that has been traced.',
          );
      },
    }),
  );
  table.setSelection(before);
}
