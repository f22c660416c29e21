'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { joinedFrame } from '@calque/core/framing';
import { group, setFields, type Bolts } from '@calque/core/model';
import { formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { TWO_COLUMNS } from '@/ui/columns';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { OwnDoubts } from '../plate/own-doubts';
import { BoltSizeField, PatternFields } from './pattern-fields';

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
