'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { takeCropTool, takeOutlineTool } from '../crop-tools';
import { useSession } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { TINTS } from '@/project/tints';
import { setFields } from '@calque/core/model';
import type { Desk } from './use-desk';

/** How the sheet is shown, and which part of it. */
export function LookTab({ desk: { underlay: u, look, setLook } }: { desk: Desk }) {
  const session = useSession();
  const table = useTable();
  const alone = useTableState((s) => s.aloneId) === u.id;
  const row = (label: string, on: boolean, change: (on: boolean) => void) => (
    <FormControlLabel
      sx={{ display: 'flex', ml: -0.5, mr: 0 }}
      control={<Switch size="small" checked={on} onChange={(e) => change(e.target.checked)} />}
      label={label}
    />
  );
  return (
    <Box>
      <Typography variant="caption" color="text.secondary">
        Ink
      </Typography>
      <Box role="radiogroup" aria-label="Ink" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mb: 0.75 }}>
        {TINTS.map(([words, tint]) => (
          <ButtonBase
            key={words}
            role="radio"
            aria-checked={look.tint === tint}
            onClick={() => setLook({ tint }, 'Ink')}
            sx={{
              border: 1,
              borderColor: look.tint === tint ? 'text.primary' : 'edge',
              px: 0.75,
              py: 0.25,
              gap: 0.6,
              fontSize: 12.5,
              fontWeight: look.tint === tint ? 650 : 400,
            }}
          >
            {tint !== null && (
              <Box sx={{ width: 10, height: 10, bgcolor: `#${tint.toString(16).padStart(6, '0')}` }} />
            )}
            {words}
          </ButtonBase>
        ))}
      </Box>
      {row('Paper shown below the ink', look.paper, (paper) =>
        setLook({ paper }, paper ? 'Show paper' : 'Show only ink'),
      )}
      {row('Lines only, no fills, texts or pictures', look.linesOnly, (linesOnly) =>
        setLook({ linesOnly }, linesOnly ? 'Lines only' : 'As printed'),
      )}
      {row('In front of the trace', look.inFront, (inFront) =>
        setLook({ inFront }, inFront ? 'In front of the trace' : 'Behind the trace'),
      )}
      {row('Edge of the crop drawn', look.frame, (frame) =>
        setLook({ frame }, frame ? 'Show the edge' : 'Hide the edge'),
      )}
      {row('This sheet alone, for now', alone, (on) => table.showAlone(on ? u.id : null))}
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.75 }}>
        Crop: {u.outline ? `${u.outline.length} corners` : 'a rectangle'}. What lies outside is kept, but
        neither seen nor snapped to.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mt: 0.5 }}>
        <Button variant="outlined" disabled={u.locked} onClick={() => takeCropTool(table, u.id)}>
          Drag the crop
        </Button>
        <Button variant="outlined" disabled={u.locked} onClick={() => takeOutlineTool(table, u.id)}>
          Draw an outline
        </Button>
        <Button
          disabled={u.locked}
          onClick={() => {
            const s = session.state.files
              .find((f) => f.id === u.fileId)
              ?.sheets.find((x) => x.page === u.page);
            if (s)
              session.do(
                setFields(u, { crop: [0, 0, s.width, s.height], outline: null }),
                `Whole page: ${u.name}`,
              );
          }}
        >
          Whole page
        </Button>
      </Box>
    </Box>
  );
}
