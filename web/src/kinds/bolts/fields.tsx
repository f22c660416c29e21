'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { boltOf, joinedFrame } from '@calque/core/framing';
import { BOLT_GRADES, group, setFields, type BoltGrade, type Bolts } from '@calque/core/model';
import { formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { TWO_COLUMNS } from '@/ui/columns';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { OwnDoubts } from '../plate/own-doubts';
import { BoltSizeField, PatternFields } from './pattern-fields';

const USUAL = 'usual';

/** Size, pattern and what follows of bolts: their length by what they go through. */
export function BoltsFields({ chosen }: { chosen: readonly Bolts[] }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    // Tenths of a millimetre decide which bolt there is.
    fine = style.units === 'mm' ? { ...style, precision: Math.max(1, style.precision) } : style,
    ids = new Set(chosen.map((b) => b.id));
  const set = (fields: (b: Bolts) => Partial<Omit<Bolts, 'id' | 'type'>>, label: string) =>
    session.do(group(chosen.map((b) => setFields<Bolts>(b, fields(b)))), label);
  const sets = joinedFrame(model).bolts.filter((b) => ids.has(b.owner)),
    mass = sets.reduce((sum, b) => sum + b.mass * b.at.length, 0),
    pattern = shared(chosen, (b) => JSON.stringify(b.pattern));
  return (
    <Box sx={{ width: '100%' }}>
      <Typography sx={{ mb: 1 }} data-testid="bolt-figures">
        {sets.length === 0
          ? 'They go through nothing yet.'
          : `${sets
              .map((b) => `${b.at.length} ${b.name}, grip ${formatLengthWithUnit(b.grip, fine)}`)
              .join('; ')}; ${formatNumber(mass, 2)} kg with nuts and washers.`}
      </Typography>
      <Box sx={TWO_COLUMNS}>
        <BoltSizeField
          d={shared(chosen, (b) => b.d)}
          onChange={(d) => set(() => ({ d }), 'Change the size of bolts')}
        />
        <LengthField
          label="Wall at"
          positive={false}
          value={shared(chosen, (b) => b.rise)}
          onChange={(rise) => set(() => ({ rise }), 'Put bolts through another wall')}
        />
        <TextField
          select
          label="Grade"
          value={shared(chosen, (b) => b.grade ?? USUAL) ?? ''}
          onChange={(e) =>
            set(
              () => ({ grade: e.target.value === USUAL ? null : (e.target.value as BoltGrade) }),
              'Change the grade of bolts',
            )
          }
        >
          <MenuItem value={USUAL}>usual, {boltOf(chosen[0].d).grade}</MenuItem>
          {BOLT_GRADES.map((g) => (
            <MenuItem key={g} value={g}>
              {g}
            </MenuItem>
          ))}
        </TextField>
        <span />
        {pattern !== null && (
          <PatternFields
            pattern={chosen[0].pattern}
            onChange={(next) => set(() => ({ pattern: next }), 'Change a pattern of bolts')}
          />
        )}
      </Box>
      <Button
        variant="outlined"
        sx={{ mt: 1 }}
        onClick={() => set((b) => ({ reversed: !b.reversed }), 'Turn bolts round')}
      >
        Heads to the other side
      </Button>
      <OwnDoubts ids={[...ids]} />
    </Box>
  );
}
