'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
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
import { WallHeights } from './heights';
import { OpeningsOfWalls } from './openings-list';
import { TypeChoice } from './type-choice';

const OTHER = { left: 'right', right: 'left' } as const;

/** How far the middle of a wall's line lies off the straight way between its ends, millimetres. */
const riseOf = (w: Wall): number => (Math.abs(w.curve ?? 0) * chordOf(w)) / 2;
const chordOf = ({ from, to }: Wall) => Math.hypot(to[0] - from[0], to[1] - from[1]);
const curveOfRise = (w: Wall, rise: number): number => ((w.curve ?? 0) < 0 ? -2 : 2) * (rise / chordOf(w));

/** What walls are of, how they stand, and where their drawn lines lie. */
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
      <Box sx={{ display: 'flex', gap: 1, mb: 1.25, alignItems: 'flex-start' }}>
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
      </Box>
      <WallHeights chosen={walls} />
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
      <OpeningsOfWalls walls={walls} />
    </Box>
  );
}
