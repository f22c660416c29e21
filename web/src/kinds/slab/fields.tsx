'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { group, setFields, slabArea, type Slab, type SlabMeasure } from '@calque/core/model';
import { formatArea } from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { AssumedRow } from '@/ui/assumed-row';
import { TWO_COLUMNS } from '@/ui/columns';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

const without = (assumed: readonly SlabMeasure[], said: SlabMeasure) => assumed.filter((m) => m !== said);

/** Area, thickness and level of slabs. */
export function SlabFields({ chosen: slabs }: { chosen: readonly Slab[] }) {
  const session = useSession();
  const style = useFromModel(lengthStyle);
  const set = (fields: (s: Slab) => Partial<Omit<Slab, 'id' | 'type'>>, label: string) =>
    session.do(group(slabs.map((s) => setFields(s, fields(s)))), label);
  const area = slabs.reduce((sum, s) => sum + slabArea(s), 0);
  return (
    <Box sx={{ width: '100%' }}>
      <Typography sx={{ fontWeight: 650, mb: 1 }}>{formatArea(area, style.units)}</Typography>
      <Box sx={TWO_COLUMNS}>
        <LengthField
          label="Thickness"
          value={shared(slabs, (s) => s.thickness)}
          onChange={(thickness) => {
            useBuildingSizes.setState(({ said }) => ({
              slab: { thickness },
              said: { ...said, slab: ['thickness'] },
            }));
            set(
              (s) => ({ thickness, assumed: without(s.assumed, 'thickness') }),
              'Change the thickness of a slab',
            );
          }}
        />
        <LengthField
          label="Top above level"
          positive={false}
          value={shared(slabs, (s) => s.top)}
          onChange={(top) =>
            set((s) => ({ top, assumed: without(s.assumed, 'top') }), 'Change the level of a slab')
          }
        />
      </Box>
      <AssumedRow chosen={slabs} />
    </Box>
  );
}
