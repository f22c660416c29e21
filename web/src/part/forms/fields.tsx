'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { formatNumber, parseAngle } from '@calque/core/units';
import { FigureField } from '@/ui/figure-field';

/** One of several words. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange(value: T): void;
}) {
  return (
    <TextField select label={label} value={value} onChange={(e) => onChange(e.target.value as T)}>
      {options.map(([id, words]) => (
        <MenuItem key={id} value={id}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}

export function Tick({ label, on, onChange }: { label: string; on: boolean; onChange(on: boolean): void }) {
  return (
    <FormControlLabel
      control={<Checkbox checked={on} onChange={(e) => onChange(e.target.checked)} />}
      label={label}
    />
  );
}

const DEGREE = Math.PI / 180;

/** An angle in degrees. */
export function AngleField({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  value: number;
  /** Degrees. */
  least: number;
  most: number;
  onChange(radians: number): void;
}) {
  return (
    <FigureField
      label={label}
      value={value}
      shown={(v) => `${formatNumber(v / DEGREE, 2)}°`}
      read={(text) => {
        const radians = parseAngle(text);
        return radians !== null && radians / DEGREE >= least && radians / DEGREE <= most ? radians : null;
      }}
      wrong={`An angle from ${least}° to ${most}°`}
      onChange={onChange}
    />
  );
}

/** So many of something. */
export function CountField({
  label,
  value,
  most,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  onChange(n: number): void;
}) {
  return (
    <FigureField
      label={label}
      value={value}
      shown={String}
      read={(text) => {
        const n = Number(text);
        return Number.isInteger(n) && n >= 1 && n <= most ? n : null;
      }}
      wrong={`A whole number from 1 to ${most}`}
      onChange={onChange}
    />
  );
}
