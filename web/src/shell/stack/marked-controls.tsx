'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { group, setFields, type Underlay } from '@calque/core/model';
import { useSession } from '@/project/context';
import { FadeLine } from '@/ui/fade-line';
import { RemoveUnderlays } from './remove-underlays';
import { SLIP_WIDTH } from './slip';

/** Several sheets at once: hidden, locked, faded, taken off, each in one step. */
export function MarkedControls({ underlays, onDone }: { underlays: readonly Underlay[]; onDone(): void }) {
  const session = useSession();
  const [removing, setRemoving] = useState(false);
  const set = (fields: Partial<Omit<Underlay, 'id' | 'type'>>, label: string) =>
    session.do(group(underlays.map((u) => setFields(u, fields))), `${label} ${underlays.length} sheets`);
  const shown = underlays.some((u) => u.visible),
    open = underlays.some((u) => !u.locked);
  return (
    <Box
      role="group"
      aria-label="The chosen sheets"
      sx={{ width: SLIP_WIDTH, ml: 0.5, mt: 1, p: 0.75, bgcolor: 'slip', border: 1, borderColor: 'found' }}
    >
      <Typography sx={{ fontWeight: 650, px: 0.5 }}>{underlays.length} sheets chosen</Typography>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 0.75 }}>
        <Typography variant="caption">Faded</Typography>
        <FadeLine
          label="Fade them"
          value={Math.max(...underlays.map((u) => u.fade))}
          onChange={(fade) => set({ fade }, 'Fade')}
        />
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        <Button onClick={() => set({ visible: !shown }, shown ? 'Hide' : 'Show')}>
          {shown ? 'Hide them' : 'Show them'}
        </Button>
        <Button onClick={() => set({ locked: open }, open ? 'Lock' : 'Unlock')}>
          {open ? 'Lock them' : 'Unlock them'}
        </Button>
        <Button disabled={!open} onClick={() => setRemoving(true)}>
          Take off …
        </Button>
        <Button onClick={onDone}>Let go</Button>
      </Box>
      {removing && (
        <RemoveUnderlays
          underlays={underlays.filter((u) => !u.locked)}
          onDone={() => {
            setRemoving(false);
            onDone();
          }}
        />
      )}
    </Box>
  );
}
