'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { group, setFields, type Wall } from '@calque/core/model';
import { useSession } from '@/project/context';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { FaceChoice } from './face-choice';
import { OpeningsOfWalls } from './openings-list';

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
      <FormControlLabel
        control={
          <Checkbox
            checked={walls.every((w) => w.underRoof)}
            indeterminate={walls.some((w) => w.underRoof) && !walls.every((w) => w.underRoof)}
            onChange={(e) => set(() => ({ underRoof: e.target.checked }), 'Let walls follow the roof')}
          />
        }
        label="goes up to the roof over it"
      />
      <OpeningsOfWalls walls={walls} />
    </Box>
  );
}
