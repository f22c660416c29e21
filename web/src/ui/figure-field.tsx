'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';

interface Props {
  label: string;
  /** What it is now; null where several differ. */
  value: number | null;
  /** A figure as it is shown, and as it is read; null for what is none, or none that does. */
  shown(value: number): string;
  read(text: string): number | null;
  /** Said of what is none. */
  wrong: string;
  onChange(value: number): void;
}

/** A figure that is no length: taken on Enter or on leaving, given up by Esc. */
export function FigureField({ label, value, shown, read, wrong, onChange }: Props) {
  const [text, setText] = useState<string | null>(null);
  const typed = text === null || text.trim() === '' ? null : read(text),
    isBad = text !== null && text.trim() !== '' && typed === null;
  const take = () => {
    if (typed !== null && typed !== value) onChange(typed);
    setText(null);
  };
  return (
    <TextField
      label={label}
      value={text ?? (value === null ? '' : shown(value))}
      placeholder={value === null ? 'several' : undefined}
      error={isBad}
      helperText={isBad ? wrong : undefined}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        // What is none stays in hand, with what is said of it.
        if (e.key === 'Enter' && !isBad) take();
        if (e.key === 'Escape') setText(null);
      }}
      slotProps={{ inputLabel: { shrink: true } }}
      sx={{ width: 120 }}
    />
  );
}
