'use client';

import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { isTraced } from '@calque/core/model';
import { useProject } from '@/project/context';
import { useTable, useTableState } from '@/table/context';

/** How much of the storey is done, and whether that shows; nothing where nothing is. */
export function DoneLine() {
  const table = useTable();
  const model = useProject((s) => s.model);
  const planeId = useTableState((s) => s.planeId);
  const showDone = useTableState((s) => s.showDone);
  const done = useMemo(
    () => [...model.values()].filter((e) => isTraced(e) && e.planeId === planeId && e.done).length,
    [model, planeId],
  );
  if (done === 0) return null;
  return (
    <Button aria-pressed={showDone} onClick={() => table.setShowDone(!showDone)}>
      {showDone ? `${done} done, shown: hide (Shift U)` : `${done} done, hidden: show (Shift U)`}
    </Button>
  );
}
