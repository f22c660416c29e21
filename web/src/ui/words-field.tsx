'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';

/** Words, which must not be empty unless they may: taken on Enter or on leaving, given up by Esc. `wrong` says why they were refused. */
export function WordsField({
  label,
  value,
  wrong = null,
  mayBeEmpty = false,
  onChange,
}: {
  label: string;
  value: string;
  wrong?: string | null;
  mayBeEmpty?: boolean;
  onChange(value: string): void;
}) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const typed = text?.trim() ?? '';
    if ((typed !== '' || mayBeEmpty) && text !== null && typed !== value) onChange(typed);
    setText(null);
  };
  return (
    <TextField
      label={label}
      fullWidth
      value={text ?? value}
      error={wrong !== null}
      helperText={wrong}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter') take();
        if (e.key === 'Escape' && text !== null) {
          e.stopPropagation();
          setText(null);
        }
      }}
      slotProps={{ htmlInput: { maxLength: 200 } }}
    />
  );
}
