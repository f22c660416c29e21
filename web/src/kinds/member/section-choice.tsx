'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { nameOfSizes, sectionTyped, type GivenSection } from '@calque/core/model';
import { findSections, massOf, sectionNamed, type TableSection } from '@calque/core/sections';
import { formatNumber, MM_PER } from '@calque/core/units';
import { useFromModel } from '@/project/context';
import { isImperial } from '@/project/views';

/** So many are offered at once. */
const MOST = 60;

/** Thinner is no member: "2x8" is lumber by its name, in inches. Millimetres. */
const THINNEST = 15;

/** A section by its sizes; null for anything else, and for a rectangle so thin that its name is meant. */
function bySizes(text: string, unit: number): GivenSection | string | null {
  const typed = sectionTyped(text, unit);
  return typed === null || typeof typed === 'string' || typed.form !== 'sizes'
    ? typed
    : typed.shape === 'rectangle' && Math.min(typed.b, typed.h) < THINNEST
      ? null
      : typed;
}

const plain = (text: string): string =>
  text.toLowerCase().replace(/[\s×*]+/g, (m) => (m.trim() === '' ? '' : 'x'));

const nameOf = (s: GivenSection | null): string =>
  s === null ? '' : s.form === 'sizes' ? nameOfSizes(s) : s.name;

/** Chooses a section by its name, size or mass, or one of its own by typed sizes. */
export function SectionChoice({
  value,
  onChange,
}: {
  /** Null where several differ. */
  value: GivenSection | null;
  onChange(section: GivenSection): void;
}) {
  const [text, setText] = useState('');
  const imperial = useFromModel(isImperial),
    found = useMemo(() => findSections(text, MOST), [text]),
    // What has that name is meant by it: "2x8" is lumber.
    isNamed = found.some((f) => plain(f.name) === plain(text)),
    sized = isNamed ? null : bySizes(text, imperial ? MM_PER.in : 1),
    typed = typeof sized === 'string' ? null : sized;
  const options: (TableSection | GivenSection)[] = [...(typed ? [typed] : []), ...found];
  const known = value?.form === 'table' ? sectionNamed(value.name) : undefined;
  const label = (o: TableSection | GivenSection): string => ('family' in o ? o.name : nameOf(o));
  return (
    <Autocomplete<TableSection | GivenSection, false, true>
      options={options}
      value={(known ?? value ?? undefined) as TableSection | GivenSection | undefined}
      getOptionLabel={label}
      getOptionKey={label}
      isOptionEqualToValue={(a, b) => label(a) === label(b)}
      filterOptions={(all) => all}
      disableClearable
      onInputChange={(_, next, reason) => setText(reason === 'input' ? next : '')}
      onChange={(_, o) => onChange('family' in o ? { form: 'table', name: o.name } : o)}
      renderOption={({ key, ...props }, o) => (
        <li key={key} {...props}>
          <Typography sx={{ flex: 1 }}>{label(o)}</Typography>
          <Typography variant="caption" color="text.secondary">
            {'family' in o ? `${formatNumber(massOf(o), 1)} kg/m` : 'by its sizes'}
          </Typography>
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          label="Section"
          placeholder={value === null ? 'several' : 'HEA 200, 180 high under 30 kg, 60x200'}
          helperText={typeof sized === 'string' ? sized : undefined}
          error={typeof sized === 'string'}
        />
      )}
      noOptionsText="No section answers that. Try a name, or sizes: 60x200, I 300x150x8x12, Box 100x60x5, Tube 60x4, L 80x60x6."
      sx={{ mb: 1 }}
    />
  );
}
