'use client';

import Box from '@mui/material/Box';
import type { BoltPattern } from '@calque/core/model';
import { waysInHand } from '@/drawing/next-way';
import { useTable } from '@/table/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { useNextBolts, type NextBolts } from './next-bolts';
import { BoltSizeField, PatternFields } from './pattern-fields';

/** What the next bolts will be: their size, and how they stand. */
export function NextBoltsCard() {
  const table = useTable(),
    next = useNextBolts(),
    inRows = (waysInHand(table)?.at ?? 0) === 0;
  const set = (fields: Partial<NextBolts>) => {
    useNextBolts.setState(fields);
    table.repaint('overlay');
  };
  return (
    <Box sx={{ ...TWO_COLUMNS, mb: 1 }}>
      <BoltSizeField d={next.d} onChange={(d) => set({ d })} />
      <span />
      <PatternFields
        pattern={inRows ? next.rows : next.circle}
        onChange={(p: BoltPattern) => set(p.form === 'rows' ? { rows: p } : { circle: p })}
      />
    </Box>
  );
}
