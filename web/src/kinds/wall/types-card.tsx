'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { thicknessOfLayers, wallsOfType, wallTypeOf, type WallType } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { CommandButton } from '@/commands/context';
import { ShelfStanding } from '@/ui/shelf-standing';
import { TypeEditor } from './type-editor';
import { TypePicture } from './type-picture';
import { wallTypesOf } from './type-choice';
import { addWallType } from './wall-types';

/** The wall types of the project: what each is made of, how many walls are of it. */
export function WallTypesCard() {
  const session = useSession(),
    types = useFromModel(wallTypesOf);
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <Box data-testid="wall-types">
      <Typography variant="h3" sx={{ mb: 0.75, pr: 4 }}>
        {types.length === 0 ? 'Wall types: none yet' : 'Wall types'}
      </Typography>
      {types.length === 0 && (
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          A type says once of which layers its walls are: change it, and all of them follow.
        </Typography>
      )}
      {types.map((type) => (
        <TypeRow
          key={type.id}
          type={type}
          isOpen={chosen === type.id}
          onFlip={() => setChosen(chosen === type.id ? null : type.id)}
        />
      ))}
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button variant="outlined" onClick={() => setChosen(addWallType(session) ?? chosen)}>
          New wall type
        </Button>
        <CommandButton id="card-shelf" label="From the shelf" />
      </Box>
    </Box>
  );
}

function TypeRow({ type, isOpen, onFlip }: { type: WallType; isOpen: boolean; onFlip(): void }) {
  const model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    walls = wallsOfType(model, type.id).filter((w) => wallTypeOf(model, w) !== null).length;
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', py: 0.75 }}>
      <Button
        aria-expanded={isOpen}
        onClick={onFlip}
        sx={{ display: 'block', width: '100%', textAlign: 'left', px: 0.5, overflowWrap: 'anywhere' }}
      >
        {type.name}
        <Typography component="span" color="text.secondary" sx={{ display: 'block' }}>
          {formatLengthWithUnit(thicknessOfLayers(type.layers), style)}, {count(type.layers.length, 'layer')},{' '}
          {count(walls, 'wall')}
        </Typography>
      </Button>
      <TypePicture layers={type.layers} />
      <ShelfStanding thing={type} />
      {isOpen && <TypeEditor type={type} walls={walls} />}
    </Box>
  );
}
