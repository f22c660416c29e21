'use client';

import MenuItem from '@mui/material/MenuItem';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import {
  DEFAULT_PRECISION,
  UNIT_NAMES,
  UNIT_SYSTEMS,
  formatLengthWithUnit,
  type LengthStyle,
  type UnitSystem,
} from '@calque/core/units';

const DECIMALS = [0, 1, 2, 3, 4];
const FRACTIONS = [1, 2, 4, 8, 16, 32, 64];
const SAMPLE_MM = 5250.7;

/** Units and precision of a project, with a sample of how lengths will read. */
export function LengthStyleFields({
  value,
  onChange,
}: {
  value: LengthStyle;
  onChange(value: LengthStyle): void;
}) {
  const fractions = value.units === 'ft-in';
  return (
    <Stack direction="row" spacing={1.5}>
      <TextField
        select
        label="Units shown"
        value={value.units}
        sx={{ flex: 1 }}
        onChange={(e) => {
          const units = e.target.value as UnitSystem;
          onChange({ units, precision: DEFAULT_PRECISION[units] });
        }}
      >
        {UNIT_SYSTEMS.map((u) => (
          <MenuItem key={u} value={u}>
            {UNIT_NAMES[u]}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="Precision"
        value={value.precision}
        sx={{ flex: 1 }}
        onChange={(e) => onChange({ ...value, precision: Number(e.target.value) })}
      >
        {(fractions ? FRACTIONS : DECIMALS).map((p) => (
          <MenuItem key={p} value={p}>
            {formatLengthWithUnit(SAMPLE_MM, { units: value.units, precision: p })}
          </MenuItem>
        ))}
      </TextField>
    </Stack>
  );
}
