'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { exactStyle, formatLength, parseLength, UNIT_SIGNS, type ParsedLength } from '@calque/core/units';
import { useFromModel } from '@/project/context';
import { measuredAsTyped } from '@/project/last-measured';
import { lengthStyle } from '@/project/views';

/** Why something typed is no length that does; null: it does. */
function whyNot(
  parsed: ParsedLength,
  positive: boolean,
  least: number,
  style: Parameters<typeof formatLength>[1],
): string | null {
  if (!parsed.ok)
    return parsed.reason === 'too-large'
      ? 'Longer than a thousand kilometres.'
      : 'Not a length: 100, 0.1 m or 4".';
  if (positive && parsed.mm <= 0) return 'More than nothing, please.';
  return parsed.mm < least ? `At least ${formatLength(least, exactStyle(least, style))}.` : null;
}

/** A length that can be typed in any unit; null shows that several differ, or what `empty` says. Taken on Enter or on leaving; the down arrow offers what was measured last. */
export function LengthField({
  label,
  value,
  onChange,
  fullWidth,
  positive = true,
  least = -Infinity,
  empty = 'several',
  onEmptied,
  exact = false,
}: {
  label: string;
  value: number | null;
  onChange(mm: number): void;
  fullWidth?: boolean;
  positive?: boolean;
  /** Less than this is no answer, millimetres. */
  least?: number;
  empty?: string;
  /** What to do where it is left empty; else what was stays. */
  onEmptied?(): void;
  /** Said as it is, though the project rounds to less. */
  exact?: boolean;
}) {
  const own = useFromModel(lengthStyle),
    style = exact && value !== null ? exactStyle(value, own) : own,
    shown = value === null ? '' : formatLength(value, style);
  const [text, setText] = useState<string | null>(null),
    [typed, setTyped] = useState(false);
  const parsed = text === null ? null : parseLength(text, style.units);
  const wrong = parsed === null || text!.trim() === '' ? null : whyNot(parsed, positive, least, style),
    bad = wrong !== null;
  const take = () => {
    // What was only looked at stays as it is, though it is shown rounded.
    if (parsed?.ok && !bad && parsed.mm !== value && typed) onChange(parsed.mm);
    if (text?.trim() === '' && value !== null) onEmptied?.();
    setText(null);
  };
  const sign = UNIT_SIGNS[style.units];
  return (
    <TextField
      label={sign ? `${label}, ${sign}` : label}
      fullWidth={fullWidth}
      value={text ?? shown}
      placeholder={value === null ? empty : undefined}
      error={bad}
      helperText={wrong ?? undefined}
      onFocus={(e) => {
        setTyped(false);
        setText(shown);
        e.target.select();
      }}
      onChange={(e) => {
        setTyped(true);
        setText(e.target.value);
      }}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'ArrowDown') {
          setTyped(true);
          setText(measuredAsTyped('length', style.units) ?? text);
        }
        // Leaving takes it: once. What is no length stays in hand with the reason.
        if (e.key === 'Enter' && !bad) (e.target as HTMLElement).blur();
        if (e.key === 'Escape') {
          setText(null);
          (e.target as HTMLElement).blur();
        }
      }}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
