'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { get, type Loose, type Model } from '@calque/core/model';
import type { Scene } from '@calque/core/solids';
import { turnOver, useSpaceState } from './state';

/** Kinds by the word for several of them. */
const MANY: Partial<Record<Loose['type'], string>> = {
  wall: 'Walls',
  slab: 'Slabs',
  column: 'Columns',
  roof: 'Roofs',
  stair: 'Stairs',
  member: 'Members',
};

const Choice = ({ words, on, onTurn }: { words: string; on: boolean; onTurn(): void }) => (
  <FormControlLabel
    control={<Checkbox size="small" checked={on} onChange={onTurn} sx={{ py: 0.25, pl: 0.5 }} />}
    label={words}
    sx={{
      display: 'flex',
      mx: 0,
      '& .MuiFormControlLabel-label': { overflow: 'hidden', textOverflow: 'ellipsis' },
    }}
  />
);

/** What is shown of the model: by storey and plane, by kind, by layer. */
export function ShownCard({
  model,
  scene,
  planes,
}: {
  model: Model;
  scene: Scene | null;
  planes: readonly { id: string; name: string }[];
}) {
  const { hidden } = useSpaceState();
  const types = [...new Set(scene?.groups.map((g) => g.type))],
    layers = [...new Set(scene?.groups.map((g) => g.layerId ?? ''))].filter((id) => id !== '');
  return (
    <Box component="section" aria-label="What is shown">
      <Typography variant="h3">Shown</Typography>
      {planes.map((p) => (
        <Choice
          key={p.id}
          words={p.name}
          on={!hidden.storeys.includes(p.id)}
          onTurn={() => turnOver('storeys', p.id)}
        />
      ))}
      <Choice
        words="Sheets"
        on={!hidden.sheets}
        onTurn={() => useSpaceState.setState({ hidden: { ...hidden, sheets: !hidden.sheets } })}
      />
      {types.length > 0 && (
        <Typography variant="h3" sx={{ mt: 1 }}>
          Kinds
        </Typography>
      )}
      {types.map((t) => (
        <Choice
          key={t}
          words={MANY[t] ?? t}
          on={!hidden.types.includes(t)}
          onTurn={() => turnOver('types', t)}
        />
      ))}
      {layers.length > 0 && (
        <Typography variant="h3" sx={{ mt: 1 }}>
          Layers
        </Typography>
      )}
      {layers.map((id) => (
        <Choice
          key={id}
          words={get(model, 'layer', id)?.name ?? 'no layer any more'}
          on={!hidden.layers.includes(id)}
          onTurn={() => turnOver('layers', id)}
        />
      ))}
    </Box>
  );
}
