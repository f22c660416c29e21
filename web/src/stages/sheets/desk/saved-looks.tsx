'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { NO_SWITCHES } from '@calque/core/linework';
import { ofType } from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import type { Desk } from './use-desk';

/** Choices of what is on and off, kept under a name and used on other sheets of the set. */
export function SavedLooks({ desk: { look, setSwitches } }: { desk: Desk }) {
  const session = useSession();
  const model = useProject((s) => s.model);
  const [name, setName] = useState<string | null>(null);
  const saved = ofType(model, 'look');
  const plain = JSON.stringify(look.switches) === JSON.stringify(NO_SWITCHES);
  const save = () => {
    const text = name?.trim();
    if (text)
      session.do(
        {
          type: 'add',
          entity: { type: 'look', id: crypto.randomUUID(), name: text, switches: look.switches },
        },
        `Keep the choice ${text}`,
      );
    setName(null);
  };
  return (
    <Box sx={{ mt: 1, pt: 0.75, borderTop: 1, borderColor: 'edge' }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        <Button disabled={plain} onClick={() => setSwitches(NO_SWITCHES, 'All as in the file')}>
          All as in the file
        </Button>
        <Button disabled={plain} onClick={() => setName('')}>
          Keep this choice
        </Button>
      </Box>
      {name !== null && (
        <TextField
          autoFocus
          fullWidth
          label="Name of the choice"
          placeholder="Walls only"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={save}
          onKeyDown={(e) => {
            if (e.key === 'Enter') save();
            if (e.key === 'Escape') setName(null);
          }}
          slotProps={{ htmlInput: { maxLength: 200 } }}
          sx={{ my: 0.5 }}
        />
      )}
      {saved.map((s) => (
        <Box key={s.id} sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography noWrap sx={{ flex: 1 }}>
            {s.name}
          </Typography>
          <Button onClick={() => setSwitches(s.switches, `Use the choice ${s.name}`)}>Use here</Button>
          <Button
            onClick={() => session.do({ type: 'remove', entity: s }, `Forget the choice ${s.name}`)}
            sx={{ color: 'text.secondary' }}
          >
            Forget
          </Button>
        </Box>
      ))}
    </Box>
  );
}
