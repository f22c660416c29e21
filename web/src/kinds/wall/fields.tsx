'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { openingsOf } from '@calque/core/building';
import { group, setFields, type Wall } from '@calque/core/model';
import { formatLength } from '@calque/core/units';
import { useFromModel, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { FaceChoice } from './face-choice';

/** Thickness, height and where the drawn line lies. */
export function WallFields({ chosen: walls }: { chosen: readonly Wall[] }) {
  const session = useSession();
  const set = (fields: (w: Wall) => Partial<Omit<Wall, 'id' | 'type'>>, label: string) =>
    session.do(group(walls.map((w) => setFields(w, fields(w)))), label);
  const assumed = walls.filter((w) => w.heightAssumed).length;
  return (
    <Box sx={{ width: '100%' }}>
      <Box sx={{ display: 'flex', gap: 1, mb: 1.25, alignItems: 'flex-start' }}>
        <LengthField
          label="Thickness"
          value={shared(walls, (w) => w.thickness)}
          onChange={(thickness) =>
            set((w) => ({ thickness, source: { ...w.source, thickness: 'typed' } }), 'Change thickness')
          }
        />
        <LengthField
          label="Height"
          value={shared(walls, (w) => w.height)}
          onChange={(height) => set(() => ({ height, heightAssumed: false }), 'Change height')}
        />
      </Box>
      <FaceChoice
        value={shared(walls, (w) => w.alignment)}
        onChange={(alignment) => set(() => ({ alignment }), 'Change alignment')}
      />
      {assumed > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mt: 0.5 }}>
          <Typography variant="caption" sx={{ color: 'assumed' }}>
            {assumed === 1 && walls.length === 1 ? 'height assumed' : `${assumed} heights assumed`}
          </Typography>
          <Button onClick={() => set(() => ({ heightAssumed: false }), 'Confirm heights')}>Confirm</Button>
        </Box>
      )}
      <OpeningsLine walls={walls} />
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
