'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import {
  coreInset,
  faceOfWall,
  get,
  group,
  isRoundEnough,
  setFields,
  typedAs,
  untyped,
  wallTypeOf,
  type Wall,
} from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { FaceChoice } from './face-choice';
import { OpeningsOfWalls } from './openings-list';
import { TypeChoice } from './type-choice';

const OTHER = { left: 'right', right: 'left' } as const;

/** How far the middle of a wall's line lies off the straight way between its ends, millimetres. */
const riseOf = (w: Wall): number => (Math.abs(w.curve ?? 0) * chordOf(w)) / 2;
const chordOf = ({ from, to }: Wall) => Math.hypot(to[0] - from[0], to[1] - from[1]);
const curveOfRise = (w: Wall, rise: number): number => ((w.curve ?? 0) < 0 ? -2 : 2) * (rise / chordOf(w));

/** Thickness, height and where the drawn line lies. */
export function WallFields({ chosen: walls }: { chosen: readonly Wall[] }) {
  const session = useSession();
  const set = (fields: (w: Wall) => Partial<Omit<Wall, 'id' | 'type'>>, label: string) =>
    session.do(group(walls.map((w) => setFields(w, fields(w)))), label);
  const model = useProject((s) => s.model),
    types = new Set(walls.map((w) => wallTypeOf(model, w))),
    typeId = types.size === 1 ? ([...types][0]?.id ?? null) : undefined,
    type = typeId ? get(model, 'wallType', typeId) : null,
    face = shared(walls, (w) => w.alignment),
    core = shared(walls, (w) => faceOfWall(w).core),
    first = shared(walls, (w) => w.firstLayer ?? 'left'),
    turned = first === null ? 'Some left, some right' : `${type?.layers[0].material ?? ''} on the ${first}`;
  const assumed = walls.filter((w) => w.heightAssumed).length;
  return (
    <Box sx={{ width: '100%' }}>
      <TypeChoice
        value={typeId}
        onChange={(id) => {
          const next = get(model, 'wallType', id);
          set(
            (w) => (next ? { ...typedAs(w, next), source: { ...w.source, thickness: 'typed' } } : untyped(w)),
            next ? `Make walls of ${next.name}`.slice(0, 190) : 'Make walls of no type',
          );
        }}
      />
      <Box sx={{ mb: 1.25, width: '50%' }}>
        <LengthField
          label="Rise of its bend"
          positive={false}
          least={0}
          value={shared(walls, riseOf)}
          onChange={(rise) => {
            if (walls.every((w) => isRoundEnough({ ...w, curve: curveOfRise(w, rise) })))
              set((w) => ({ curve: curveOfRise(w, rise) || null }), 'Bend walls');
            else
              session.tell(
                'A wall bends by half a turn at most, and not closer than it is thick: take a smaller rise.',
                true,
              );
          }}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mb: 1.25, alignItems: 'flex-start' }}>
        <LengthField
          label="Thickness"
          value={shared(walls, (w) => w.thickness)}
          onChange={(thickness) =>
            set(
              (w) => ({ ...untyped(w, thickness), source: { ...w.source, thickness: 'typed' } }),
              'Change thickness',
            )
          }
        />
        <LengthField
          label="Height"
          value={shared(walls, (w) => w.height)}
          onChange={(height) => set(() => ({ height, heightAssumed: false }), 'Change height')}
        />
      </Box>
      <FaceChoice
        value={face === null || core === null ? null : { alignment: face, core }}
        // Where some have their layers the other way, a core is not on one face of all.
        type={first === null ? null : type}
        firstLayer={first ?? 'left'}
        onChange={({ alignment, core }) =>
          set(
            (w) => ({
              alignment,
              inset: (type && core && coreInset(type, alignment, w.firstLayer ?? 'left')) || null,
            }),
            'Change alignment',
          )
        }
      />
      {type && (
        <Button
          sx={{ mt: 0.5 }}
          onClick={() =>
            set((w) => typedAs({ ...w, firstLayer: OTHER[w.firstLayer ?? 'left'] }, type), 'Turn the layers')
          }
        >
          {turned} first; turn the layers
        </Button>
      )}
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
