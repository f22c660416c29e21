'use client';

import Box from '@mui/material/Box';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { IconDots } from '@tabler/icons-react';
import { useMemo, useState } from 'react';
import { isTraced, ofType, planeOf, type Entity } from '@calque/core/model';
import { useKeyOf } from '@/commands/context';
import { useFloating } from '@/commands/floating';
import { useProject } from '@/project/context';
import { count, traceTally, traceWords } from '@/project/trace-words';
import { useTable, useTableState } from '@/table/context';
import { MarkButton } from '@/ui/icon-button';
import { Slip, type DragOver } from './slip';

const doneOn = (e: Entity): string | null => (isTraced(e) && e.done ? e.planeId : null);

/** The trace among the sheets, with its layers, its groups and what of it is done behind the dots. */
export function TraceSlip({ onTop, drag, onClick }: { onTop: boolean; drag: DragOver; onClick(): void }) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const planeId = useTableState((s) => s.planeId);
  const showDone = useTableState((s) => s.showDone);
  const traced = traceTally(model, planeId),
    { assumed } = traced;
  const done = useMemo(() => model.tally(doneOn).get(planeId) ?? 0, [model, planeId]);
  const doneKey = useKeyOf('show-done');
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const show = (what: 'layers' | 'groups') => {
    setMenu(null);
    useFloating.getState().show(what);
  };
  const state =
    traced.total === 0
      ? 'nothing traced yet'
      : `${traceWords(traced)}${assumed ? `, ${count(assumed, 'height', 'heights')} assumed` : ''}`;
  return (
    <Box sx={{ position: 'relative', width: 'fit-content' }}>
      <Slip
        drag={drag}
        shift={6}
        marksOver
        title={`Trace, ${(planeOf(model, planeId)?.name ?? '').toLowerCase()}`}
        aside={traced.total > 0 && onTop ? 'on top' : ''}
        state={state}
        colour={assumed ? 'assumed' : 'text.secondary'}
        onClick={onClick}
      />
      <MarkButton
        word="Layers, groups, what is done"
        aria-haspopup="menu"
        sx={{ position: 'absolute', right: 2, bottom: 3 }}
        onClick={(e) => setMenu(e.currentTarget)}
      >
        <IconDots size={17} stroke={1.6} />
      </MarkButton>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <MenuItem onClick={() => show('layers')}>
          Layers of the trace ({ofType(model, 'layer').length}) …
        </MenuItem>
        <MenuItem onClick={() => show('groups')}>Groups ({ofType(model, 'assembly').length}) …</MenuItem>
        <MenuItem
          disabled={done === 0}
          onClick={() => {
            setMenu(null);
            table.setShowDone(!showDone);
          }}
        >
          {done === 0
            ? 'Nothing is marked as done'
            : showDone
              ? `${done} done, shown: hide${doneKey}`
              : `${done} done, hidden: show${doneKey}`}
        </MenuItem>
      </Menu>
    </Box>
  );
}
