'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { setFields, settingsOf } from '@calque/core/model';
import { useSession } from '@/project/context';
import { LengthStyleFields } from '@/ui/precision';
import { asPlace, asTyped, MapFields } from './map-fields';

export function ProjectSettings({ onClose }: { onClose(): void }) {
  const session = useSession();
  const settings = settingsOf(session.state.model);
  const [name, setName] = useState(settings.name);
  const [style, setStyle] = useState({ units: settings.units, precision: settings.precision });
  const [map, setMap] = useState(() => asTyped(settings.onMap ?? null));
  const place = asPlace(map),
    isWrong = name.trim() === '' || place === 'wrong';
  const save = () => {
    if (place === 'wrong' || name.trim() === '') return;
    session.do(
      setFields(settings, {
        name: name.trim(),
        ...style,
        ...((place ?? settings.onMap) && { onMap: place }),
      }),
      'Change the project',
    );
    onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>Name, units, place</DialogTitle>
      <DialogContent>
        <Stack spacing={2} sx={{ pt: 1 }}>
          <TextField
            label="Name"
            value={name}
            error={name.trim() === ''}
            helperText={
              name.trim() === ''
                ? 'A project needs a name.'
                : 'Units change how lengths are shown and typed; nothing that is drawn changes.'
            }
            onChange={(e) => setName(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
          <LengthStyleFields value={style} onChange={setStyle} />
          <MapFields value={map} isWrong={place === 'wrong'} onChange={setMap} />
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={isWrong} onClick={save}>
          Save
        </Button>
      </DialogActions>
    </Dialog>
  );
}
