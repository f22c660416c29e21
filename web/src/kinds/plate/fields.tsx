'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { joinedFrame } from '@calque/core/framing';
import { get, group, ofType, plateFace, setFields, type Plate } from '@calque/core/model';
import { formatArea, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { WordsField } from '@/ui/words-field';
import { readDensity } from '../member/density';
import { memberName } from '../member/joint-tool';
import { OwnDoubts } from './own-doubts';

const NONE = 'none';

/** Thickness, place, material and mass of plates. */
export function PlateFields({ chosen: plates }: { chosen: readonly Plate[] }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle);
  const set = (fields: Partial<Omit<Plate, 'id' | 'type'>>, label: string) =>
    session.do(group(plates.map((p) => setFields<Plate>(p, fields))), label);
  const parts = joinedFrame(model).plates,
    holes = plates.map((p) => parts.find((q) => q.id === p.id)?.holes.length ?? 0),
    mass = plates.reduce((sum, p) => sum + (plateFace(p) * p.thickness * p.density) / 1e9, 0),
    area = plates.reduce((sum, p) => sum + plateFace(p), 0),
    drilled = holes.reduce((sum, n) => sum + n, 0);
  const weldedTo = shared(plates, (p) => p.weldedTo ?? NONE),
    members = ofType(model, 'member').filter((m) => plates.every((p) => p.planeId === m.planeId));
  return (
    <Box sx={{ width: '100%' }}>
      <Typography sx={{ mb: 1 }} data-testid="plate-figures">
        {formatArea(area, style.units)} before bolts, {formatNumber(mass, 2)} kg
        {drilled > 0 ? `; ${drilled} round ${drilled === 1 ? 'hole' : 'holes'} with those of bolts` : ''}
      </Typography>
      <Box sx={TWO_COLUMNS}>
        <LengthField
          label="Thickness"
          value={shared(plates, (p) => p.thickness)}
          onChange={(thickness) => set({ thickness }, 'Change the thickness of a plate')}
        />
        <LengthField
          label="Out of plane"
          positive={false}
          value={shared(plates, (p) => p.rise)}
          onChange={(rise) => set({ rise }, 'Raise a plate')}
        />
        <WordsField
          label="Called"
          mayBeEmpty
          value={shared(plates, (p) => p.name) ?? ''}
          onChange={(name) => set({ name }, 'Call a plate')}
        />
        <TextField
          select
          label="Welded to"
          value={weldedTo ?? ''}
          onChange={(e) =>
            set(
              { weldedTo: e.target.value === NONE ? null : e.target.value },
              'Say what a plate is welded to',
            )
          }
        >
          <MenuItem value={NONE}>nothing: bolted</MenuItem>
          {weldedTo && weldedTo !== NONE && !members.some((m) => m.id === weldedTo) && (
            <MenuItem value={weldedTo}>{memberName(get(model, 'member', weldedTo))}</MenuItem>
          )}
          {members.map((m) => (
            <MenuItem key={m.id} value={m.id}>
              {memberName(m)}
            </MenuItem>
          ))}
        </TextField>
        <WordsField
          label="Material"
          value={shared(plates, (p) => p.material) ?? ''}
          onChange={(material) => set({ material }, 'Say what a plate is made of')}
        />
        <FigureField
          label="Density, kg/m³"
          value={shared(plates, (p) => p.density)}
          shown={(v) => formatNumber(v, 0)}
          read={readDensity}
          wrong="A density above 0, in kg/m³"
          onChange={(density) => set({ density }, 'Say what a plate is made of')}
        />
      </Box>
      <OwnDoubts ids={plates.map((p) => p.id)} />
    </Box>
  );
}
