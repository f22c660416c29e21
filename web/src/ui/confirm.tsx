'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { ReactNode } from 'react';

export function Confirm({
  title,
  children,
  action,
  onYes,
  onNo,
}: {
  title: string;
  children: ReactNode;
  action: string;
  onYes(): void;
  onNo(): void;
}) {
  return (
    <Dialog open onClose={onNo} maxWidth="xs" fullWidth>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>{children}</DialogContent>
      <DialogActions>
        <Button onClick={onNo}>Keep it</Button>
        <Button variant="contained" onClick={onYes} autoFocus>
          {action}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
