'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ListSubheader from '@mui/material/ListSubheader';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { USUAL_SHARE, USUAL_SIZES, type UsualSize } from '@calque/core/calibration';
import { ofType, type Underlay } from '@calque/core/model';
import { formatLengthWithUnit, parseLength } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable } from '@/table/context';
import { takeUsualSizeTool } from './tools';

/** Sizes that things usually have, for a sheet that prints none: assumed, with a wide tolerance. */
export function UsualCard({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const session = useSession();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState('');
  const [name, setName] = useState('');
  const [size, setSize] = useState('');
  const own = ofType(model, 'usualSize');
  const all: readonly UsualSize[] = [...own, ...USUAL_SIZES];
  const taken = all.find((s) => s.id === chosen);
  const mine = own.find((s) => s.id === chosen);
  const parsed = size.trim() === '' ? null : parseLength(size, style.units);
  const bad = parsed !== null && !(parsed.ok && parsed.mm > 0);
  const words = (s: UsualSize) =>
    `${s.name}, ${formatLengthWithUnit(s.millimetres, style)} ± ${formatLengthWithUnit(s.spread, style)}`;
  const add = () => {
    if (!parsed?.ok || bad || name.trim() === '') return;
    const id = crypto.randomUUID();
    if (
      !session.do(
        {
          type: 'add',
          entity: {
            type: 'usualSize',
            id,
            name: name.trim(),
            millimetres: parsed.mm,
            spread: USUAL_SHARE * parsed.mm,
          },
        },
        `Enter the usual size of ${name.trim()}`,
      )
    )
      return;
    setChosen(id);
    setName('');
    setSize('');
  };
  if (!open)
    return (
      <Button onClick={() => setOpen(true)} aria-expanded={false}>
        No printed dimension? Assume a usual size
      </Button>
    );
  return (
    <Box sx={{ p: 1.25, borderLeft: 4, borderColor: 'assumed', mb: 1 }} data-testid="usual">
      <Typography sx={{ color: 'assumed', mb: 1 }}>
        A usual size is only assumed: the sheet is not to scale by it, and its tolerance is wide.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          select
          fullWidth
          label="Usual size"
          value={chosen}
          onChange={(e) => setChosen(e.target.value)}
        >
          {own.length > 0 && <ListSubheader>Own entries</ListSubheader>}
          {own.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {words(s)}
            </MenuItem>
          ))}
          {own.length > 0 && <ListSubheader>Of the trade</ListSubheader>}
          {USUAL_SIZES.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {words(s)}
            </MenuItem>
          ))}
        </TextField>
        <Button
          variant="outlined"
          disabled={!taken || u.locked}
          onClick={() => taken && takeUsualSizeTool(table, taken)}
        >
          Pick it
        </Button>
      </Box>
      <Box sx={{ display: 'flex', gap: 0.75, mt: 1, alignItems: 'flex-start' }}>
        <TextField
          label="Own entry"
          value={name}
          onChange={(e) => setName(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 100 } }}
        />
        <TextField
          label="Size"
          value={size}
          error={bad}
          helperText={bad ? 'Not a length.' : undefined}
          onChange={(e) => setSize(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') add();
          }}
          sx={{ width: 90 }}
        />
        <Button onClick={add} disabled={name.trim() === '' || parsed === null || bad}>
          Keep
        </Button>
      </Box>
      {mine && (
        <Button
          onClick={() => {
            if (session.do({ type: 'remove', entity: mine }, `Remove the usual size of ${mine.name}`))
              setChosen('');
          }}
        >
          Remove “{mine.name}”
        </Button>
      )}
      <Button onClick={() => setOpen(false)} aria-expanded>
        Fold
      </Button>
    </Box>
  );
}
