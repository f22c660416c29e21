'use client';

import Slider from '@mui/material/Slider';
import { useState } from 'react';

/** How far something is faded, as a line: told once it is left. */
export function FadeLine({
  value,
  label = 'Faded',
  onChange,
}: {
  value: number;
  label?: string;
  onChange(fade: number): void;
}) {
  const [now, setNow] = useState<number | null>(null);
  return (
    <Slider
      size="small"
      min={0}
      max={0.9}
      step={0.1}
      value={now ?? value}
      aria-label={label}
      valueLabelDisplay="auto"
      valueLabelFormat={(v) => `${Math.round(100 * v)} % faded`}
      onChange={(_, v) => setNow(v as number)}
      onChangeCommitted={(_, v) => {
        onChange(v as number);
        setNow(null);
      }}
    />
  );
}
