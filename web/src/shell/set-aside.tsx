'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useProject, useSession } from '@/project/context';
import type { SetAside as Aside } from '@/project/pending';
import { saveText } from '@/ui/save-text';

/** More are not listed one by one. */
const LISTED = 50;

/** Steps that could not be saved: which, why, and what can be done with them. Nothing is shown while there are none. */
export function SetAside() {
  const session = useSession();
  const asides = useProject((s) => s.asides);
  const saved = useProject((s) => s.saved === 'saved');
  const [open, setOpen] = useState(false);
  if (asides.length === 0) return null;
  const close = () => setOpen(false);
  const count = asides.length === 1 ? 'One step' : `${asides.length} steps`;
  const retry = () => {
    const done = session.retryAsides();
    if (done > 0) session.tell(`${done === 1 ? 'One step was' : `${done} steps were`} done again.`);
    if (done === asides.length) close();
  };
  const letGo = () => {
    session.forgetAsides(asides.map((a) => a.step.id));
    close();
  };
  return (
    <>
      <Button
        onClick={() => setOpen(true)}
        aria-haspopup="dialog"
        data-testid="set-aside"
        sx={{ px: 0.75, color: 'differs', fontWeight: 650 }}
      >
        ≠ {asides.length} taken back
      </Button>
      <Dialog open={open} onClose={close} maxWidth="sm" fullWidth aria-labelledby="set-aside-title">
        <DialogTitle id="set-aside-title">{count} could not be saved</DialogTitle>
        <DialogContent>
          <Typography color="text.secondary" sx={{ mb: 1.5 }}>
            Taken back from the drawing, and kept in this browser with the reason.
            {saved ? ' Everything else is saved.' : ''}
          </Typography>
          <ul style={{ margin: 0, paddingLeft: 20 }}>
            {asides.slice(0, LISTED).map(({ step, why }) => (
              <li key={step.id}>
                <Typography>
                  <b>{step.label}</b>: {why}
                </Typography>
              </li>
            ))}
          </ul>
          {asides.length > LISTED && (
            <Typography color="text.secondary">and {asides.length - LISTED} more</Typography>
          )}
        </DialogContent>
        <DialogActions>
          <Button onClick={letGo} color="error">
            Let go
          </Button>
          <Button
            onClick={() =>
              saveText('steps-not-saved.json', asText(session.projectId, asides), 'application/json')
            }
          >
            Save as a file
          </Button>
          <Button variant="contained" onClick={retry}>
            Try again
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

/** The steps whole, so that none of the work is lost. */
const asText = (projectId: string, asides: readonly Aside[]): string =>
  JSON.stringify(
    {
      format: 'calque-steps',
      version: 1,
      project: projectId,
      steps: asides.map(({ step, why }) => ({ label: step.label, why, change: step.change })),
    },
    null,
    1,
  );
