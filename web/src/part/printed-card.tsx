'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { formatLength } from '@calque/core/units';
import { useFromModel } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { usePartSolid } from './part-solid';

/** Printed figures that drive, each held against the solid. */
export function PrintedCard() {
  const printed = usePartSolid((s) => s.solid?.printed ?? null),
    style = useFromModel(lengthStyle);
  if (!printed || printed.length === 0) return null;
  const bad = printed.filter((p) => !p.agrees).length;
  return (
    <Box sx={{ mt: 1.5 }} data-testid="part-printed">
      <Typography variant="h3">Printed figures</Typography>
      <Typography role="status" sx={{ color: bad > 0 ? 'differs' : 'known' }}>
        {bad === 0
          ? `All ${printed.length} that drive agree with the solid.`
          : `${bad} of ${printed.length} do not agree with the solid.`}
      </Typography>
      {printed.map((p, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1 }}>
          <Typography sx={{ flex: 1 }}>{p.text}</Typography>
          <Typography sx={{ color: p.agrees ? 'known' : 'differs' }}>
            {p.agrees
              ? 'agrees'
              : p.model === null
                ? 'not in the solid'
                : `the solid has ${formatLength(p.model, style)}`}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
