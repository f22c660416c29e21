'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { OPENING_KINDS, USUAL_HEAD, USUAL_SILL, type OpeningKind } from '@calque/core/model';
import { useSession } from '@/project/context';
import { putNewOnShelf } from '@/project/shelf';
import { LengthField } from '@/ui/length-field';

/** Puts an opening on the shelf as it is usually made. */
export function KeepOpening() {
  const session = useSession();
  const [open, setOpen] = useState(false),
    [name, setName] = useState(''),
    [kind, setKind] = useState<OpeningKind>('door'),
    [width, setWidth] = useState<number | null>(null),
    [sill, setSill] = useState(0),
    [head, setHead] = useState(USUAL_HEAD);
  if (!open)
    return (
      <Button variant="outlined" sx={{ mt: 1 }} onClick={() => setOpen(true)}>
        Keep an opening
      </Button>
    );
  const why =
    name.trim() === '' ? 'Give it a name.' : sill >= head ? 'Its sill must lie below its head.' : null;
  const keep = async () => {
    const opening = {
      type: 'opening',
      id: crypto.randomUUID(),
      name: name.trim(),
      kind,
      width,
      sill,
      head,
    } as const;
    if (await putNewOnShelf(session, opening)) {
      setName('');
      setOpen(false);
    }
  };
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', mt: 1, pt: 1.5, display: 'grid', gap: 1.25 }}>
      <TextField
        label="Name of the opening"
        value={name}
        autoFocus
        onChange={(e) => setName(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          select
          label="It is a"
          value={kind}
          onChange={(e) => {
            const next = e.target.value as OpeningKind;
            setKind(next);
            setSill(next === 'window' ? USUAL_SILL : 0);
          }}
        >
          {OPENING_KINDS.map((k) => (
            <MenuItem key={k} value={k}>
              {k}
            </MenuItem>
          ))}
        </TextField>
        <LengthField
          label="Width"
          value={width}
          empty="as in the plan"
          onChange={setWidth}
          onEmptied={() => setWidth(null)}
        />
        <LengthField label="Sill" value={sill} positive={false} least={0} onChange={setSill} />
        <LengthField label="Head" value={head} onChange={setHead} />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Button variant="contained" disabled={why !== null} onClick={() => void keep()}>
          Keep it
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
        {why && (
          <Typography variant="caption" color="text.secondary">
            {why}
          </Typography>
        )}
      </Box>
    </Box>
  );
}
