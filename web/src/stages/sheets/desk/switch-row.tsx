'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** One thing that can be on or off, with what there is of it; pointing at it shows where it lies. */
export function SwitchRow({ label, aside, on, sample, indent = 0, onChange, onPoint }: { label: string; aside: string; on: boolean; sample?: ReactNode; indent?: number; onChange(on: boolean): void; onPoint?(over: boolean): void }) {
  return (
    <Box component="label" onMouseEnter={() => onPoint?.(true)} onMouseLeave={() => onPoint?.(false)} sx={{ display: 'flex', alignItems: 'center', gap: 0.75, pl: indent * 1.5, cursor: 'pointer', '&:hover': { bgcolor: 'action.hover' } }}>
      <Checkbox checked={on} onChange={(e) => onChange(e.target.checked)} onFocus={() => onPoint?.(true)} onBlur={() => onPoint?.(false)} slotProps={{ input: { 'aria-label': label } }} />
      {sample}
      <Typography noWrap title={label} sx={{ flex: 1, color: on ? 'text.primary' : 'text.secondary', textDecoration: on ? 'none' : 'line-through' }}>{label}</Typography>
      <Typography variant="caption" color="text.secondary" noWrap>{aside}</Typography>
    </Box>
  );
}
