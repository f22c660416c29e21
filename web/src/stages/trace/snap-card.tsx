'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { SNAP_KINDS, type SnapKind } from '@calque/core/snapping';
import { useTable, useTableState } from '@/table/context';
import { SNAP_NAMES } from '@/table/snapping';

/** Which kinds of places picks find. */
export function SnapCard() {
  const table = useTable();
  const kinds = useTableState((s) => s.snapKinds);
  const flip = (kind: SnapKind) => {
    const next = new Set(kinds);
    if (!next.delete(kind)) next.add(kind);
    table.setSnapKinds(next);
  };
  return (
    <Box data-testid="snap-kinds">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        {snapWords(kinds)}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mb: 0.75 }}>
        {SNAP_KINDS.map((k) => (
          <Button
            key={k}
            variant={kinds.has(k) ? 'contained' : 'outlined'}
            aria-pressed={kinds.has(k)}
            sx={{ py: 0.25 }}
            onClick={() => flip(k)}
          >
            {SNAP_NAMES[k]}
          </Button>
        ))}
      </Box>
      <Typography variant="caption" color="text.secondary">
        H limits the next pick alone to one kind, and again to the next.
      </Typography>
      <LoupeChoice />
    </Box>
  );
}

/** What picks find, in words. */
export function snapWords(kinds: ReadonlySet<SnapKind>): string {
  const off = SNAP_KINDS.filter((k) => !kinds.has(k));
  if (off.length === 0) return 'Picks find everything';
  return off.length === SNAP_KINDS.length
    ? 'Picks find nothing'
    : `Picks find all but ${off.map((k) => SNAP_NAMES[k]).join(', ')}`;
}

function LoupeChoice() {
  const table = useTable();
  const loupe = useTableState((s) => s.loupe);
  return (
    <Button aria-pressed={loupe} sx={{ ml: -1 }} onClick={() => table.setLoupe(!loupe)}>
      {loupe ? 'Loupe at every pick (=)' : 'Loupe where places lie close (=)'}
    </Button>
  );
}
