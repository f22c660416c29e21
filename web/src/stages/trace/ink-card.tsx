'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { Underlay } from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { useProject } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { readInk } from './ink';

/** On a scan there is only ink: its lines are read on request, shown as suggestions, and snapped to. */
export function InkCard({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  useTableState((s) => s.inksChanged);
  const content = useProject(
    (s) => s.files.find((f) => f.id === u.fileId)?.sheets.find((x) => x.page === u.page)?.content,
  );
  if (content === undefined || content === 'vector' || content === 'empty') return null;
  const ink = table.inks.of(u),
    fitted = table.inks.fitted(u)?.pieces.length ?? 0;
  return (
    <Box
      data-testid="ink"
      sx={{
        p: 1,
        mb: 1.25,
        borderLeft: 4,
        borderColor: ink?.state === 'read' ? 'known' : 'now',
        bgcolor: 'action.hover',
      }}
    >
      {(!ink || ink.state === 'failed') && (
        <>
          <Typography>
            {u.name} is a scan: it has ink, but no lines to snap to. Calque can read its straight lines.
          </Typography>
          {ink && <Typography sx={{ color: 'differs' }}>≠ {ink.why}</Typography>}
          <Button variant="outlined" sx={{ mt: 0.75 }} onClick={() => readInk(table)}>
            Read its lines (G)
          </Button>
          <Typography color="text.secondary" sx={{ mt: 0.5 }}>
            Or rest the cursor on a line, a corner or an arc and press ; to fit it to the ink there.
          </Typography>
        </>
      )}
      {ink?.state === 'reading' && (
        <>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography sx={{ flex: 1 }}>Reading lines from the ink …</Typography>
            <Button onClick={ink.stop}>Stop</Button>
          </Box>
          <LinearProgress variant="determinate" value={100 * ink.share} aria-label="Reading lines" />
        </>
      )}
      {ink?.state === 'read' && (
        <>
          <Typography>
            {ink.lines.length === 0
              ? 'No straight lines were found in the ink.'
              : `${formatNumber(ink.lines.length / 4, 0)} lines read from the ink. They are suggestions: picks find them and say how far the ink strays, and what is traced on them stays marked.`}
          </Typography>
          {ink.lines.length > 0 && (
            <Button
              variant="outlined"
              sx={{ mt: 0.75 }}
              aria-pressed={ink.shown}
              onClick={() => table.inks.show(u, !ink.shown)}
            >
              {ink.shown ? 'Hide them (G)' : 'Show them (G)'}
            </Button>
          )}
        </>
      )}
      {fitted > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.5 }}>
          <Typography sx={{ flex: 1 }}>
            {fitted === 1 ? 'One stroke' : `${fitted} strokes`} fitted to the ink at the cursor (;).
          </Typography>
          <Button onClick={() => table.inks.clearFits(u)}>Forget them</Button>
        </Box>
      )}
    </Box>
  );
}
