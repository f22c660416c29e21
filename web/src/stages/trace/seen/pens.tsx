'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { MM_PER_POINT } from '@calque/core/geometry';
import type { Proposals, Told } from '@calque/core/proposals';
import { useTable } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { forgetTold, lookAtSheet, useOffers } from './seen';

/** The pens that draw walls, as the sheet shows it: a person may know better. */
export function Pens({ proposals }: { proposals: Proposals }) {
  const table = useTable(),
    told = useOffers((s) => s.told),
    refused = useOffers((s) => s.refused.length > 0);
  const known = Object.keys(told.pens).filter((name) => !proposals.pens.some((p) => p.name === name)),
    pens = proposals.pens.map((p) => ({ name: p.name, words: penWords(p) }));
  if (pens.length + known.length + proposals.lines.length === 0 && !hasTold(told) && !refused) return null;
  const tell = (name: string, draws: boolean) =>
    lookAtSheet(table, { ...told, pens: { ...told.pens, [name]: draws } });
  return (
    <Box data-testid="seen-pens">
      <Typography variant="h3">Walls are drawn by</Typography>
      {[...pens, ...known.map((name) => ({ name, words: wordsOfName(name) }))].map(({ name, words }) => (
        <FormControlLabel
          key={name}
          sx={{ display: 'flex', ml: -1 }}
          control={
            <Checkbox
              size="small"
              checked={told.pens[name] ?? (proposals.pens.find((p) => p.name === name)?.draws ?? 0) > 0.25}
              onChange={(e) => tell(name, e.target.checked)}
            />
          }
          label={words}
        />
      ))}
      <SingleLines proposals={proposals} />
      {(hasTold(told) || refused) && (
        <Button size="small" onClick={() => forgetTold(table)}>
          Forget what I said
        </Button>
      )}
    </Box>
  );
}

const hasTold = ({ notThick, pens, single = {}, asThick = [] }: Told): boolean =>
  notThick.length + asThick.length + Object.keys(pens).length + Object.keys(single).length > 0;

/** Walls that are drawn by single lines say nothing of how thick they are: a person does. */
function SingleLines({ proposals }: { proposals: Proposals }) {
  const table = useTable(),
    told = useOffers((s) => s.told),
    [pen] = Object.keys(told.single ?? {}),
    [thickness, setThickness] = useState(told.single?.[pen ?? ''] ?? USUAL_SINGLE);
  const tell = (name: string, mm: number) =>
    lookAtSheet(table, { ...told, single: name === '' ? {} : { [name]: mm } });
  return (
    <Box sx={{ display: 'flex', gap: 1, mt: 0.75, mb: 0.5 }}>
      <TextField
        select
        fullWidth
        label="As single lines"
        value={proposals.lines.some((p) => p.name === pen) ? pen : ''}
        onChange={(e) => tell(e.target.value, thickness)}
      >
        <MenuItem value="">none</MenuItem>
        {proposals.lines.map((p) => (
          <MenuItem key={p.name} value={p.name}>
            {penWords(p)}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ width: 110, flexShrink: 0 }}>
        <LengthField
          label="Thick"
          value={thickness}
          least={THINNEST_SINGLE}
          onChange={(mm) => {
            setThickness(mm);
            if (pen !== undefined) tell(pen, mm);
          }}
        />
      </Box>
    </Box>
  );
}
/** What nobody has said otherwise, and the least that is a wall, millimetres. */
const USUAL_SINGLE = 100,
  THINNEST_SINGLE = 10;

function penWords({ width, colour, layer }: Proposals['pens'][number]): string {
  const pen =
    width === 0
      ? 'fills'
      : `the ${(width * MM_PER_POINT).toFixed(2)} mm pen${colour === 0 ? '' : `, colour ${colour.toString(16).padStart(6, '0')}`}`;
  return layer ? `${pen}, layer ${layer}` : pen;
}
/** Of a pen that draws none any more what its name says. */
const wordsOfName = (name: string): string =>
  name.startsWith('fill ') ? 'fills' : `the ${(Number(name.split(' ')[1]) * MM_PER_POINT).toFixed(2)} mm pen`;
