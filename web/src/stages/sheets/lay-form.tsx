'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { describeScale, parseScale } from '@calque/core/units';
import type { Model } from '@calque/core/model';
import { useFromModel, useProject, useSession } from '@/project/context';
import type { FileInfo } from '@/project/wire';
import { useTable, useTableState } from '@/table/context';
import { PicksTool } from '@/table/tools/picks-tool';
import { layDown, scaleBeside, type Chosen } from './lay';

const hasUnderlays = (model: Model): boolean => model.hasType('underlay');

/** At which scale and where the chosen pages are laid. */
export function LayForm({
  file,
  chosen,
  onLaid,
  onCrop,
}: {
  file: FileInfo;
  chosen: readonly Chosen[];
  onLaid(): void;
  onCrop(): void;
}) {
  const session = useSession();
  const table = useTable();
  const note = chosen[0].sheet.scaleNotes[0];
  const [mode, setMode] = useState<'paper' | 'stated'>('paper');
  const [scale, setScale] = useState('');
  const text = scale === '' && note ? note.text : scale;
  const parsed = parseScale(text);
  const own = chosen[0].sheet.reference !== null;
  const factor = own ? 1 : mode === 'paper' ? null : parsed.ok ? parsed.factor : undefined;
  const others = useFromModel(hasUnderlays),
    planeId = useTableState((s) => s.planeId),
    guess = useProject((s) => scaleBeside(s.model, planeId));
  const lay = (at: [number, number] | null) => {
    if (factor === undefined) return;
    layDown(session, table, file, chosen, at, factor);
    onLaid();
  };
  const atPoint = () =>
    table.take(
      new PicksTool({
        id: 'lay-at',
        steps: ['Click where the lower left corner of the sheet is to lie'],
        done: ([p]) => {
          lay(p.plane);
          table.layDown();
        },
      }),
    );
  return (
    <Box sx={{ mt: 1, p: 1.25, bgcolor: 'knownWash', borderLeft: 4, borderColor: 'known' }}>
      <Typography sx={{ fontWeight: 650 }}>
        {chosen.length === 1
          ? `Lay page ${chosen[0].sheet.page} down`
          : `Lay ${chosen.length} pages down, side by side`}
      </Typography>
      {own ? (
        <Typography color="text.secondary" sx={{ my: 0.5 }}>
          This drawing is at true size by its own units. It needs no calibration.
        </Typography>
      ) : (
        <RadioGroup value={mode} onChange={(e) => setMode(e.target.value as 'paper' | 'stated')}>
          <FormControlLabel
            value="paper"
            control={<Radio />}
            label={`not to scale yet (${guess === 1 ? 'paper size' : `as large as the sheets beside it, at ${describeScale(guess, false).text}`})`}
          />
          <FormControlLabel
            value="stated"
            control={<Radio />}
            label={note ? `at a stated scale (it says ${note.text})` : 'at a stated scale'}
          />
        </RadioGroup>
      )}
      {!own && mode === 'stated' && (
        <TextField
          fullWidth
          label="Scale"
          placeholder={'1:50, 1/4" = 1\'-0", 1" = 20\''}
          value={scale === '' && note ? note.text : scale}
          onChange={(e) => setScale(e.target.value)}
          error={text !== '' && !parsed.ok}
          sx={{ my: 0.75 }}
          helperText={
            text === ''
              ? 'As 1:50, 1/4" = 1\'-0", 1" = 20\' or a bare factor.'
              : parsed.ok
                ? `1 mm of paper is ${Number(parsed.factor.toPrecision(6))} mm. A stated scale is a claim: check it with a known dimension.`
                : `"${text}" is not a scale. Write it as 1:50, 1/4" = 1'-0" or 1" = 20'.`
          }
        />
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 0.5 }}>
        {others && !own && (
          <Button variant="contained" disabled={factor === undefined} onClick={() => lay(null)}>
            Lay beside the others
          </Button>
        )}
        <Button
          variant={others && !own ? 'outlined' : 'contained'}
          disabled={factor === undefined}
          onClick={() => lay([0, 0])}
        >
          {own ? 'Lay at its own place' : 'Lay at the origin'}
        </Button>
        <Button variant="outlined" disabled={factor === undefined} onClick={atPoint}>
          At a point
        </Button>
        <Button onClick={onCrop}>Crop</Button>
      </Box>
    </Box>
  );
}
