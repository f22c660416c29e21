'use client';

import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import { useState, type FormEvent } from 'react';
import type { LengthStyle } from '@calque/core/units';
import { api } from '@/project/api';
import { LengthStyleFields } from './precision';

export function NewProjectDialog({ onClose, onMade }: { onClose(): void; onMade(id: string): void }) {
  const [name, setName] = useState('');
  const [style, setStyle] = useState<LengthStyle>({ units: 'mm', precision: 0 });
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const make = async (event: FormEvent) => {
    event.preventDefault();
    if (name.trim() === '') {
      setProblem('Give the project a name.');
      return;
    }
    setBusy(true);
    try {
      onMade((await api.createProject({ name: name.trim(), ...style })).id);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
      setBusy(false);
    }
  };

  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <form onSubmit={(e) => void make(e)}>
        <DialogTitle>New project</DialogTitle>
        <DialogContent>
          <Stack spacing={2} sx={{ pt: 1 }}>
            {problem && (
              <Alert severity="error" variant="outlined">
                {problem}
              </Alert>
            )}
            <TextField
              autoFocus
              label="Name"
              value={name}
              onChange={(e) => setName(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 200 } }}
            />
            <LengthStyleFields value={style} onChange={setStyle} />
          </Stack>
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={busy}>
            Make the project
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
