'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { areaFigures, group, setFields, type Area, type AreaFill } from '@calque/core/model';
import { formatArea, formatLengthWithUnit, parseAngle } from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

const USUAL_HATCH: Extract<AreaFill, { kind: 'hatch' }> = {
  kind: 'hatch',
  angle: Math.PI / 4,
  spacing: 150,
  crossed: false,
};

/** Its figures, name and fill. */
export function AreaFields({ chosen: areas }: { chosen: readonly Area[] }) {
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
