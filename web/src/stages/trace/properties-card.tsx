'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { openingsOf } from '@calque/core/building';
import {
  areaFigures,
  group,
  ofType,
  setFields,
  type Area,
  type AreaFill,
  type Dimension,
  type GridLine,
  type Note,
  type Traced,
  type Wall,
} from '@calque/core/model';
import { formatArea, formatLength, formatLengthWithUnit, parseAngle } from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { LengthField } from '@/ui/length-field';
import { shared } from './shared-value';

const layersOf = (model: Parameters<typeof ofType>[0]) => ofType(model, 'layer');

/** The layer of what is selected, and what texts, dimensions and areas have of their own. */
export function PropertiesCard({ chosen }: { chosen: readonly Traced[] }) {
  const session = useSession();
  const layers = useFromModel(layersOf);
  const layer = shared(chosen, (e) => e.layerId ?? '');
  const texts = chosen.filter((e): e is Note => e.type === 'text'),
    areas = chosen.filter((e): e is Area => e.type === 'area');
  const gridLines = chosen.filter((e): e is GridLine => e.type === 'gridLine');
  const lettered = chosen.filter((e): e is Note | Dimension => e.type === 'text' || e.type === 'dimension');
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 1 }}>
      {layers.length > 0 && (
        <TextField
          select
          label="Layer"
          value={layer ?? 'several'}
          sx={{ width: 150 }}
          onChange={(e) =>
            session.do(
              group(chosen.map((x) => setFields<Traced>(x, { layerId: e.target.value || null }))),
              'Put on a layer',
            )
          }
        >
          {layer === null && (
            <MenuItem value="several" disabled>
              several
            </MenuItem>
          )}
          <MenuItem value="">none</MenuItem>
          {layers.map((l) => (
            <MenuItem key={l.id} value={l.id}>
              {l.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {gridLines.length === 1 && (
        <NameOf key={`${gridLines[0].id} ${gridLines[0].name}`} line={gridLines[0]} />
      )}
      {texts.length === 1 && <TextOf key={`${texts[0].id} ${texts[0].text}`} note={texts[0]} />}
      {lettered.length > 0 && (
        <LengthField
          label="Height of letters"
          value={shared(lettered, (e) => e.height)}
          onChange={(height) =>
            session.do(
              group(lettered.map((e) => setFields<Note | Dimension>(e, { height }))),
              'Change the height of letters',
            )
          }
        />
      )}
      <OpeningsLine walls={chosen.filter((e): e is Wall => e.type === 'wall')} />
      {areas.length > 0 && <AreaCard areas={areas} />}
    </Box>
  );
}

/** Doors and windows that the plan shows in the walls selected. */
function OpeningsLine({ walls }: { walls: readonly Wall[] }) {
  const style = useFromModel(lengthStyle);
  const widths = walls.flatMap((w) => openingsOf(w).map((o) => o.to - o.from));
  if (widths.length === 0) return null;
  return (
    <Typography variant="caption" color="text.secondary">
      {widths.length === 1 ? 'One opening was' : `${widths.length} openings were`} seen on the plan when{' '}
      {walls.length === 1 ? 'it was' : 'they were'} taken:{' '}
      {widths
        .slice(0, MOST_WIDTHS)
        .map((w) => formatLength(w, style))
        .join(', ')}
      {widths.length > MOST_WIDTHS ? ' …' : ''}. Kept in mind, not cut out.
    </Typography>
  );
}
const MOST_WIDTHS = 12;

function NameOf({ line }: { line: GridLine }) {
  const session = useSession();
  const [name, setName] = useState(line.name);
  const keep = () => {
    if (name.trim() !== '' && name.trim() !== line.name)
      session.do(setFields(line, { name: name.trim() }), 'Name a grid line');
  };
  return (
    <TextField
      label="Name"
      value={name}
      onChange={(e) => setName(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
      }}
      sx={{ width: 110 }}
    />
  );
}

function TextOf({ note }: { note: Note }) {
  const session = useSession();
  const [text, setText] = useState(note.text);
  const keep = () => {
    if (text.trim() !== '' && text !== note.text)
      session.do(setFields(note, { text: text.trim() }), 'Change a text');
  };
  return (
    <TextField
      fullWidth
      label="Text"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
      }}
    />
  );
}

const USUAL_HATCH: Extract<AreaFill, { kind: 'hatch' }> = {
  kind: 'hatch',
  angle: Math.PI / 4,
  spacing: 150,
  crossed: false,
};

function AreaCard({ areas }: { areas: readonly Area[] }) {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const set = (fields: (e: Area) => Partial<Omit<Area, 'id' | 'type'>>, label: string) =>
    session.do(group(areas.map((e) => setFields(e, fields(e)))), label);
  const sums = areas
    .map(areaFigures)
    .reduce((a, b) => ({ area: a.area + b.area, perimeter: a.perimeter + b.perimeter }));
  const kind = shared(areas, (e) => e.fill.kind),
    hatches = areas.flatMap((e) => (e.fill.kind === 'hatch' ? [e.fill] : []));
  const [name, setName] = useState(areas.length === 1 ? areas[0].name : '');
  const [angle, setAngle] = useState<string | null>(null);
  const hatch = (change: Partial<typeof USUAL_HATCH>) =>
    set(
      (e) => ({ fill: { ...(e.fill.kind === 'hatch' ? e.fill : USUAL_HATCH), ...change } }),
      'Change a hatch',
    );
  const turn = () => {
    const radians = angle === null ? null : parseAngle(angle);
    if (radians !== null) hatch({ angle: radians });
    setAngle(null);
  };
  const degrees =
    hatches.length > 0 ? String(Math.round(((hatches[0].angle * 180) / Math.PI) * 10) / 10) : '45';
  return (
    <Box sx={{ width: '100%' }}>
      <Typography sx={{ fontWeight: 650 }}>
        {formatArea(sums.area, style.units)}, {formatLengthWithUnit(sums.perimeter, style)} round
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 0.75, alignItems: 'flex-start' }}>
        {areas.length === 1 && (
          <TextField
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            onBlur={() => set(() => ({ name: name.trim() }), 'Name an area')}
            onKeyDown={(e) => {
              if (e.key === 'Enter') set(() => ({ name: name.trim() }), 'Name an area');
            }}
            sx={{ width: 150 }}
          />
        )}
        <Button
          variant="outlined"
          aria-pressed={areas.every((e) => e.figure)}
          onClick={() => set(() => ({ figure: !areas.every((e) => e.figure) }), 'Show the figure of an area')}
        >
          {areas.every((e) => e.figure) ? 'Figure shown' : 'Figure hidden'}
        </Button>
      </Box>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={kind}
        aria-label="Fill"
        onChange={(_, k: AreaFill['kind'] | null) => {
          if (k) set(() => ({ fill: k === 'hatch' ? USUAL_HATCH : { kind: k } }), 'Fill an area');
        }}
      >
        {(
          [
            ['none', 'not filled'],
            ['solid', 'filled'],
            ['hatch', 'hatched'],
          ] as const
        ).map(([id, words]) => (
          <ToggleButton key={id} value={id}>
            {words}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {hatches.length > 0 && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 1, alignItems: 'flex-start' }}>
          <LengthField
            label="Spacing"
            value={shared(hatches, (h) => h.spacing)}
            onChange={(spacing) => hatch({ spacing })}
          />
          <TextField
            label="Angle, °"
            value={angle ?? degrees}
            onChange={(e) => setAngle(e.target.value)}
            onBlur={turn}
            onKeyDown={(e) => {
              if (e.key === 'Enter') turn();
            }}
            sx={{ width: 90 }}
          />
          <Button
            variant="outlined"
            aria-pressed={hatches.every((h) => h.crossed)}
            onClick={() => hatch({ crossed: !hatches.every((h) => h.crossed) })}
          >
            Crossed
          </Button>
        </Box>
      )}
    </Box>
  );
}
