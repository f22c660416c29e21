'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { IconArrowDown, IconArrowUp, IconX } from '@tabler/icons-react';
import { useState } from 'react';
import { LAYER_PURPOSES, MOST_LAYERS, type WallLayer, type WallType } from '@calque/core/model';
import { useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { MarkButton } from '@/ui/icon-button';
import { LengthField } from '@/ui/length-field';
import { WordsField } from '@/ui/words-field';
import { changeWallType, removeWallType } from './wall-types';

/** Name and layers of a type: each change is a step, and all its walls follow at once. */
export function TypeEditor({ type, walls }: { type: WallType; walls: number }) {
  const session = useSession();
  const [why, setWhy] = useState<string | null>(null);
  const setLayers = (layers: WallLayer[]) => setWhy(changeWallType(session, { ...type, layers }));
  const setLayer = (at: number, fields: Partial<WallLayer>) =>
    setLayers(type.layers.map((l, i) => (i === at ? { ...l, ...fields } : l)));
  const move = (at: number, by: -1 | 1) => {
    const layers = [...type.layers];
    [layers[at], layers[at + by]] = [layers[at + by], layers[at]];
    setLayers(layers);
  };
  return (
    <Box sx={{ pt: 1.25 }}>
      <WordsField
        label="Name"
        value={type.name}
        wrong={why}
        onChange={(name) => setWhy(changeWallType(session, { ...type, name }))}
      />
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.75 }}>
        From the first face to the other: the left one of a wall as it is drawn, until its layers are turned.
      </Typography>
      {type.layers.map((layer, i) => (
        <LayerRow
          key={i}
          layer={layer}
          at={i}
          of={type.layers.length}
          onChange={(fields) => setLayer(i, fields)}
          onMove={(by) => move(i, by)}
          onRemove={() => setLayers(type.layers.filter((_, j) => j !== i))}
        />
      ))}
      <Box sx={{ display: 'flex', gap: 0.75, mt: 1 }}>
        <Button
          disabled={type.layers.length >= MOST_LAYERS}
          onClick={() =>
            setLayers([...type.layers, { material: 'Plaster', purpose: 'finish', thickness: 15 }])
          }
        >
          Add a layer
        </Button>
        <Button onClick={() => removeWallType(session, type)}>
          {walls > 0
            ? `Remove; ${count(walls, 'wall')} keep${walls === 1 ? 's' : ''} the thickness`
            : 'Remove'}
        </Button>
      </Box>
    </Box>
  );
}

function LayerRow({
  layer,
  at,
  of,
  onChange,
  onMove,
  onRemove,
}: {
  layer: WallLayer;
  at: number;
  of: number;
  onChange(fields: Partial<WallLayer>): void;
  onMove(by: -1 | 1): void;
  onRemove(): void;
}) {
  const n = at + 1;
  return (
    <Box
      role="group"
      aria-label={`Layer ${n}`}
      sx={{ display: 'flex', gap: 0.5, mt: 1.25, alignItems: 'flex-start' }}
    >
      <Box sx={{ flex: '1 1 36%' }}>
        <WordsField
          label={`${n} material`}
          value={layer.material}
          wrong={null}
          onChange={(material) => onChange({ material })}
        />
      </Box>
      <TextField
        select
        label="Purpose"
        sx={{ flex: '0 0 116px' }}
        value={layer.purpose}
        onChange={(e) => onChange({ purpose: e.target.value as WallLayer['purpose'] })}
      >
        {LAYER_PURPOSES.map((p) => (
          <MenuItem key={p} value={p}>
            {p}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ flex: '0 0 80px' }}>
        <LengthField
          label="Thick"
          value={layer.thickness}
          onChange={(thickness) => onChange({ thickness })}
        />
      </Box>
      <Box sx={{ display: 'flex', pt: 0.75 }}>
        <MarkButton word={`Layer ${n} one earlier`} disabled={at === 0} onClick={() => onMove(-1)}>
          <IconArrowUp size={15} stroke={1.7} />
        </MarkButton>
        <MarkButton word={`Layer ${n} one later`} disabled={at === of - 1} onClick={() => onMove(1)}>
          <IconArrowDown size={15} stroke={1.7} />
        </MarkButton>
        <MarkButton word={`Remove layer ${n}`} disabled={of === 1} onClick={onRemove}>
          <IconX size={15} stroke={1.7} />
        </MarkButton>
      </Box>
    </Box>
  );
}
