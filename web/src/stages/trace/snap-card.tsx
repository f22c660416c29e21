'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { SNAP_KINDS, type SnapKind } from '@calque/core/snapping';
import { useTable, useTableState } from '@/table/context';
import { SNAP_NAMES } from '@/table/snapping';

/** Which kinds of places picks find. */
export function SnapCard() {
  const table = useTable();
  const kinds = useTableState((s) => s.snapKinds);
  const [open, setOpen] = useState(false);
  const off = SNAP_KINDS.filter((k) => !kinds.has(k));
  const flip = (kind: SnapKind) => {
    const next = new Set(kinds);
    if (!next.delete(kind)) next.add(kind);
    table.setSnapKinds(next);
  };
  return (
    <Box data-testid="snap-kinds" sx={{ borderTop: 1, borderColor: 'edge', pt: 1, mt: 1.5 }}>
      <Button aria-expanded={open} onClick={() => setOpen(!open)}>
        {off.length === 0
          ? 'Picks find everything'
          : off.length === SNAP_KINDS.length
            ? 'Picks find nothing'
            : `Picks find all but ${off.map((k) => SNAP_NAMES[k]).join(', ')}`}
      </Button>
      <LoupeChoice />
      {open && (
        <>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, my: 0.75 }}>
            {SNAP_KINDS.map((k) => (
              <Button
                key={k}
                variant={kinds.has(k) ? 'contained' : 'outlined'}
                aria-pressed={kinds.has(k)}
                sx={{ py: 0.1 }}
                onClick={() => flip(k)}
              >
                {SNAP_NAMES[k]}
              </Button>
            ))}
          </Box>
          <Typography variant="caption" color="text.secondary">
            H limits the next pick alone to one kind, and again to the next.
          </Typography>
        </>
      )}
    </Box>
  );
}

function LoupeChoice() {
  const table = useTable();
  const loupe = useTableState((s) => s.loupe);
  return (
    <Button aria-pressed={loupe} onClick={() => table.setLoupe(!loupe)}>
      {loupe ? 'Loupe at every pick (=)' : 'Loupe where places lie close (=)'}
    </Button>
  );
}
