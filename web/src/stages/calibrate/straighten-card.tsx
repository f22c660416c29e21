'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { Underlay } from '@calque/core/model';
import { useTable, useTableState } from '@/table/context';
import { useStraighten } from './straighten';
import { useKeyOf } from '@/commands/context';
import { takeStraightenTool } from './straighten-tool';

/** A photo at a slant, made straight by four corners. */
export function StraightenCard({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const tool = useTableState((s) => s.toolId);
  const key = useKeyOf('straighten');
  const { doing, why } = useStraighten();
  return (
    <Box sx={{ mb: 1.25 }} data-testid="straighten">
      <Typography color="text.secondary" sx={{ mb: 0.5 }}>
        {tool === 'straighten'
          ? 'Go round the corners of something rectangular whose width and height you know.'
          : 'Taken at a slant, and its right angles do not tell? Four corners of something rectangular make a photo straight and true.'}
      </Typography>
      <Button
        variant="outlined"
        disabled={u.locked || doing !== null}
        onClick={() => takeStraightenTool(table)}
      >
        Straighten by four corners{key}
      </Button>
      <Button disabled={u.locked || doing !== null} onClick={() => takeStraightenTool(table, true)}>
        By more points
      </Button>
      {doing && (
        <Box sx={{ mt: 0.75 }}>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography sx={{ flex: 1 }}>{doing.words}</Typography>
            <Button onClick={doing.stop}>Stop</Button>
          </Box>
          <LinearProgress
            variant={doing.share === null ? 'indeterminate' : 'determinate'}
            value={100 * (doing.share ?? 0)}
            aria-label="Straightening"
          />
        </Box>
      )}
      {why && <Typography sx={{ color: 'differs', mt: 0.5 }}>≠ {why}</Typography>}
    </Box>
  );
}
