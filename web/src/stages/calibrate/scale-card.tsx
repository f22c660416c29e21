'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { scaleFactorOf } from '@calque/core/calibration';
import type { Underlay } from '@calque/core/model';
import { describeScale } from '@calque/core/units';
import { useFromModel, useProject } from '@/project/context';
import { isImperial } from '@/project/views';
import { useTable } from '@/table/context';
import { layAtFactor } from './evidence';
import { readAskedScale } from './asked-scale';

/** Field in which a scale is said; the command finds it by its id. */
export const SCALE_FIELD = 'sheet-scale';

/** A scale that is said: as a ratio, an equation, a factor, or by the paper that the sheet was drawn on. */
export function ScaleCard({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const imperial = useFromModel(isImperial);
  const sheet = useProject((s) =>
    s.files.find((f) => f.id === u.fileId)?.sheets.find((x) => x.page === u.page),
  );
  const [text, setText] = useState('');
  const now = scaleFactorOf(u.placement),
    asked = text.trim() === '' ? null : readAskedScale(text, now, sheet ?? null);
  const lay = () => {
    if (!asked?.ok || u.locked) return;
    if (layAtFactor(table, u, asked.factor, `Lay ${u.name} at ${describeScale(asked.factor, imperial).text}`))
      setText('');
  };
  return (
    <Box sx={{ mb: 1.25 }} data-testid="scale-card">
      <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'flex-start' }}>
        <TextField
          id={SCALE_FIELD}
          label="Scale, factor or paper"
          value={text}
          placeholder={'1:100, 1/4" = 1\'-0", ×2, A1'}
          disabled={u.locked}
          error={asked !== null && !asked.ok}
          sx={{ flex: 1 }}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') lay();
          }}
        />
        <Button variant="outlined" disabled={u.locked || !asked?.ok} onClick={lay}>
          Lay at it
        </Button>
      </Box>
      {asked && (
        <Typography variant="caption" sx={{ color: asked.ok ? 'text.secondary' : 'differs' }}>
          {asked.ok
            ? `From ${describeScale(now, imperial).text} to ${describeScale(asked.factor, imperial).text}. It is a claim, until a dimension bears it out.`
            : asked.why}
        </Typography>
      )}
    </Box>
  );
}
