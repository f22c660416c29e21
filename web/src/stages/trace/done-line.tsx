'use client';

import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { isTraced, type Entity } from '@calque/core/model';
import { useProject } from '@/project/context';
import { useTable, useTableState } from '@/table/context';

const doneOn = (e: Entity): string | null => (isTraced(e) && e.done ? e.planeId : null);

/** How much of the storey is done, and whether that shows; nothing where nothing is. */
export function DoneLine() {
  const table = useTable();
  const model = useProject((s) => s.model);
  const planeId = useTableState((s) => s.planeId);
  const showDone = useTableState((s) => s.showDone);
  const done = useMemo(() => model.tally(doneOn).get(planeId) ?? 0, [model, planeId]);
  if (done === 0) return null;
  return (
    <Button aria-pressed={showDone} onClick={() => table.setShowDone(!showDone)}>
      {showDone ? `${done} done, shown: hide (Shift U)` : `${done} done, hidden: show (Shift U)`}
    </Button>
  );
}
