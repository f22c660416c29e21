'use client';

import type { Underlay } from '@calque/core/model';
import { useSession } from '@/project/context';
import { dependentsOf, removalWords, removeUnderlays } from '@/project/removal';
import { stackOf } from '@/project/views';
import { useTable } from '@/table/context';
import { Confirm } from '@/ui/confirm';

/** Asks whether sheets are to be taken off the table, with what goes and what stays. */
export function RemoveUnderlays({ underlays, onDone }: { underlays: readonly Underlay[]; onDone(): void }) {
  const session = useSession();
  const table = useTable();
  const { model } = session.state,
    [first] = underlays,
    many = underlays.length > 1;
  const remove = () => {
    const stack = stackOf(model, first.planeId),
      gone = new Set(underlays.map((u) => u.id)),
      at = stack.findIndex((o) => o.id === first.id),
      next = [...stack.slice(at), ...stack.slice(0, at).reverse()].find((o) => !gone.has(o.id));
    const label = many ? `Take ${underlays.length} sheets off the table` : `Remove ${first.name}`;
    // The next one in the stack is the current one then: what is done goes on with it.
    if (session.do(removeUnderlays(model, underlays), label)) table.setUnderlay(next?.id ?? null);
    onDone();
  };
  return (
    <Confirm
      title={many ? `Take ${underlays.length} sheets off the table?` : `Take ${first.name} off the table?`}
      action={many ? 'Take them off' : 'Take it off'}
      onNo={onDone}
      onYes={remove}
    >
      {removalWords(dependentsOf(model, underlays), many)}
      {many
        ? 'The files stay attached, and undo brings the sheets back.'
        : 'The file stays attached, and undo brings the sheet back.'}
    </Confirm>
  );
}
