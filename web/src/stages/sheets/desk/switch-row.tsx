'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState, type ReactNode } from 'react';

/** One thing that can be on or off, with what there is of it; pointing at it shows where it lies. */
export function SwitchRow({
  label,
  aside,
  on,
  sample,
  holds,
  indent = 0,
  onChange,
  onPoint,
}: {
  label: string;
  aside: string;
  on: boolean;
  sample?: ReactNode;
  /** What it holds, where its name does not say so. */ holds?: string;
  indent?: number;
  onChange(on: boolean): void;
  onPoint?(over: boolean): void;
}) {
  const [pointed, setPointed] = useState(false);
  const point = (over: boolean) => {
    setPointed(over);
    onPoint?.(over && on);
  };
  // What is switched off stays dark, although the pointer rests where it was switched.
  const tell = useRef(onPoint);
  useEffect(() => {
    tell.current = onPoint;
  });
  useEffect(() => {
    if (pointed) tell.current?.(on);
  }, [on, pointed]);
  return (
    <Box
      component="label"
      onMouseEnter={() => point(true)}
      onMouseLeave={() => point(false)}
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.75,
        pl: indent * 1.5,
        cursor: 'pointer',
        '&:hover': { bgcolor: 'action.hover' },
      }}
    >
      <Checkbox
        checked={on}
        onChange={(e) => onChange(e.target.checked)}
        onFocus={() => point(true)}
        onBlur={() => point(false)}
        slotProps={{ input: { 'aria-label': label } }}
      />
      {sample}
      <Typography
        noWrap={!holds}
        title={label}
        sx={{
          flex: 1,
          color: on ? 'text.primary' : 'text.secondary',
          textDecoration: on ? 'none' : 'line-through',
        }}
      >
        {label}
        {holds && (
          <Typography component="span" variant="caption" color="text.secondary">
            {' '}
            {holds}
          </Typography>
        )}
      </Typography>
      <Typography variant="caption" color="text.secondary" noWrap>
        {aside}
      </Typography>
    </Box>
  );
}
