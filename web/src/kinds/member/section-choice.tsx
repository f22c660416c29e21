'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { nameOfSizes, type GivenSection } from '@calque/core/model';
import { findSections, massOf, sectionNamed, type TableSection } from '@calque/core/sections';
import { formatNumber } from '@calque/core/units';

/** So many are offered at once. */
const MOST = 60;

/** Thinner is no member: "2x8" is lumber by its name, in inches. Millimetres. */
const THINNEST = 15;

/** A rectangle by its sizes, "60x200": width and height in millimetres; null for anything else. */
function rectangleTyped(text: string): GivenSection | null {
  const found = /^\s*(\d+(?:\.\d+)?)\s*[x×*]\s*(\d+(?:\.\d+)?)\s*$/.exec(text);
  if (!found) return null;
  const [b, h] = [Number(found[1]), Number(found[2])];
  return b >= THINNEST && h >= THINNEST && b < 1e4 && h < 1e4
    ? { form: 'sizes', shape: 'rectangle', b, h, tw: 0, tf: 0, r: 0 }
    : null;
}

const nameOf = (s: GivenSection | null): string =>
  s === null ? '' : s.form === 'sizes' ? nameOfSizes(s) : s.name;

/** Chooses a section by its name, size or mass, or a rectangle by its two sizes. */
export function SectionChoice({
  value,
  onChange,
}: {
  /** Null where several differ. */
  value: GivenSection | null;
  onChange(section: GivenSection): void;
}) {
  const [text, setText] = useState('');
  const typed = rectangleTyped(text);
  const found = useMemo(() => findSections(text, MOST), [text]);
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
            {'family' in o ? `${formatNumber(massOf(o), 1)} kg/m` : 'by its sizes, mm'}
          </Typography>
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          label="Section"
          placeholder={value === null ? 'several' : 'HEA 200, 180 high under 30 kg, 60x200'}
        />
      )}
      noOptionsText="No section answers that. Try a name, a size, or two sizes: 60x200."
      sx={{ mb: 1 }}
    />
  );
}
