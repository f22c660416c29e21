'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import type { Command } from '@/commands/command';
import { SURFACE_KEYS } from './commands';
import { keyWords } from '@/commands/key-words';

export function ShortcutSheet({ commands, onClose }: { commands: readonly Command[]; onClose(): void }) {
  const row = (key: string, words: string) => (
    <Box key={words} sx={{ display: 'flex', gap: 1.5, py: 0.3 }}>
      <Typography sx={{ width: 150, flex: 'none', fontWeight: 650, textAlign: 'right' }}>{key}</Typography>
      <Typography>{words}</Typography>
    </Box>
  );
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Keys and what they do</DialogTitle>
      <DialogContent sx={{ columns: { sm: 2 }, columnGap: 3 }}>
        <Typography variant="h3" sx={{ mb: 0.5 }}>
          On the drawing
        </Typography>
        {SURFACE_KEYS.map(([key, words]) => row(key, words))}
        {(['Stages', 'Tools', 'Edit', 'View', 'Help'] as const).map((g) => (
          <Box key={g} sx={{ breakInside: 'avoid', mt: 1.5 }}>
            <Typography variant="h3" sx={{ mb: 0.5 }}>
              {g}
            </Typography>
            {commands.filter((c) => c.group === g && c.key).map((c) => row(keyWords(c.key), c.words))}
          </Box>
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
