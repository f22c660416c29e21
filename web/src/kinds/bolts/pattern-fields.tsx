'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { BOLT_SIZES, boltOf } from '@calque/core/framing';
import { MOST_BOLTS, type BoltPattern } from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';

const readCount = (text: string): number | null => {
  const v = Number(text);
  return Number.isInteger(v) && v >= 1 && v <= MOST_BOLTS ? v : null;
};

/** Of what size bolts are. */
export function BoltSizeField({ d, onChange }: { d: number | null; onChange(d: number): void }) {
  return (
    <TextField
      select
      label="Size"
      value={d === null ? '' : boltOf(d).name}
      onChange={(e) => onChange(BOLT_SIZES.find((b) => b.name === e.target.value)!.d)}
    >
      {BOLT_SIZES.map((b) => (
        <MenuItem key={b.name} value={b.name}>
          {b.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** How bolts stand: in rows and columns, or on a circle. */
export function PatternFields({
  pattern,
  onChange,
}: {
  pattern: BoltPattern;
  onChange(pattern: BoltPattern): void;
}) {
  const countField = (label: string, value: number, set: (v: number) => BoltPattern) => (
    <FigureField
      label={label}
      value={value}
      shown={(v) => formatNumber(v, 0)}
      read={readCount}
      wrong={`1 to ${MOST_BOLTS}`}
      onChange={(v) => onChange(set(v))}
    />
  );
  if (pattern.form === 'circle')
    return (
      <>
        {countField('Bolts', pattern.count, (count) => ({ ...pattern, count }))}
        <LengthField
          label="On a circle of"
          value={pattern.diameter}
          onChange={(diameter) => onChange({ ...pattern, diameter })}
        />
      </>
    );
  return (
    <>
      {countField('Rows', pattern.rows, (rows) => ({ ...pattern, rows }))}
      <LengthField
        label="Pitch"
        value={pattern.pitch}
        onChange={(pitch) => onChange({ ...pattern, pitch })}
      />
      {countField('Columns', pattern.columns, (columns) => ({ ...pattern, columns }))}
      <LengthField
        label="Gauge"
        value={pattern.gauge}
        onChange={(gauge) => onChange({ ...pattern, gauge })}
      />
    </>
  );
}
