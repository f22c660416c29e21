'use client';

import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PlaceOnMap } from '@calque/core/model';

/** A place on a map as it is being typed. */
export type TypedPlace = Record<'system' | 'east' | 'north' | 'height' | 'turn', string>;

const DEGREES = 180 / Math.PI;
const EMPTY: TypedPlace = { system: '', east: '', north: '', height: '', turn: '' };
/** Farther than any map goes, metres. */
const FARTHEST = 1e8;

const trimmed = (v: number) => String(Math.round(v * 1e9) / 1e9);

export const asTyped = (place: PlaceOnMap | null): TypedPlace =>
  place
    ? {
        system: place.system,
        east: trimmed(place.east),
        north: trimmed(place.north),
        height: trimmed(place.height),
        turn: trimmed(place.turn * DEGREES),
      }
    : EMPTY;

const figure = (text: string, missing: number | null): number | null => {
  const plain = text
    .trim()
    .replace(/[\s\u202f\u2009']/g, '')
    .replace(',', '.');
  if (plain === '') return missing;
  const value = Number(plain);
  return Number.isFinite(value) && Math.abs(value) <= FARTHEST ? value : null;
};

/** The place that is typed; null where nothing is, 'wrong' where it is none. */
export function asPlace(typed: TypedPlace): PlaceOnMap | null | 'wrong' {
  if (Object.values(typed).every((t) => t.trim() === '')) return null;
  const [east, north] = [figure(typed.east, null), figure(typed.north, null)],
    [height, turn] = [figure(typed.height, 0), figure(typed.turn, 0)],
    system = typed.system.trim();
  if (system === '' || east === null || north === null || height === null || turn === null) return 'wrong';
  return { system, east, north, height, turn: turn / DEGREES };
}

/** Where the project's zero lies on a map: written into building models. */
export function MapFields({
  value,
  isWrong,
  onChange,
}: {
  value: TypedPlace;
  isWrong: boolean;
  onChange(value: TypedPlace): void;
}) {
  const field = (key: keyof TypedPlace, label: string, placeholder = '') => (
    <TextField
      label={label}
      placeholder={placeholder}
      value={value[key]}
      onChange={(e) => onChange({ ...value, [key]: e.target.value })}
      slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 100 } }}
    />
  );
  return (
    <Box>
      <Typography variant="h3">On the map</Typography>
      <Typography
        variant="caption"
        sx={{ display: 'block', mb: 1.25, color: isWrong ? 'error.main' : 'text.secondary' }}
      >
        {isWrong
          ? 'A place needs the name of its system, and its east and north in metres; or leave all of it empty.'
          : 'Where the zero of the drawing lies, for IFC. Leave it empty where nobody has said.'}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.25 }}>
        {field('system', 'Reference system', 'EPSG:25832')}
        {field('turn', 'Turn of x from east, °', '0')}
        {field('east', 'East, m')}
        {field('north', 'North, m')}
        {field('height', 'Height of level 0, m', '0')}
      </Box>
    </Box>
  );
}
