'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { ofType, placedOf, type Assembly, type Model } from '@calque/core/model';
import { useFromModel, useProject } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { ShelfStanding } from '@/ui/shelf-standing';
import { PlaceTool } from '@/kinds/placed/place-tool';
import { removeGroup, renameGroup, takePlaceTool } from './groups';

const assembliesOf = (model: Model) => ofType(model, 'assembly');

/** The groups of the project, to be placed. */
export function GroupsCard() {
  const model = useProject((s) => s.model);
  const assemblies = useFromModel(assembliesOf);
  return (
    <Box data-testid="groups">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        Groups: {assemblies.length === 0 ? 'none yet' : assemblies.length}
      </Typography>
      {assemblies.length === 0 && (
        <Typography color="text.secondary">
          Select what belongs together and make a group of it: it can be placed many times, and changed in all
          places at once.
        </Typography>
      )}
      {assemblies.map((a) => (
        <GroupRow key={`${a.id} ${a.name}`} assembly={a} placed={placedOf(model, a).length} />
      ))}
    </Box>
  );
}

const small = { py: 0, px: 0.75, minWidth: 0 } as const;

function GroupRow({ assembly, placed }: { assembly: Assembly; placed: number }) {
  const table = useTable();
  useTableState((s) => s.toolId);
  useTableState((s) => s.toolWords);
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    const message =
      name === null || name.trim() === assembly.name ? null : renameGroup(table, assembly, name);
    setProblem(message);
    if (message === null) setName(null);
  };
  const inHand = table.currentTool instanceof PlaceTool && table.currentTool.assembly.id === assembly.id;
  return (
    <Box sx={{ py: 0.4 }}>
      <Typography sx={{ overflowWrap: 'anywhere' }}>
        {assembly.name}{' '}
        <Typography component="span" color="text.secondary">
          {placed === 0
            ? 'not placed'
            : `placed ${placed === 1 ? 'once' : placed === 2 ? 'twice' : `${placed} times`}`}
        </Typography>
      </Typography>
      {name === null ? (
        <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
          <Button
            sx={small}
            disabled={!!assembly.open}
            aria-pressed={inHand}
            variant={inHand ? 'contained' : 'text'}
            onClick={() => takePlaceTool(table, assembly.id)}
          >
            Place
          </Button>
          <Button sx={small} onClick={() => setName(assembly.name)}>
            Rename
          </Button>
          <Button sx={small} disabled={!!assembly.open} onClick={() => removeGroup(table, assembly)}>
            {placed > 0 ? 'Remove, all taken apart' : 'Remove'}
          </Button>
          {!assembly.open && <ShelfStanding thing={assembly} />}
        </Box>
      ) : (
        <TextField
          fullWidth
          autoFocus
          label="Name"
          value={name}
          error={problem !== null}
          helperText={problem}
          onChange={(e) => setName(e.target.value)}
          onBlur={keep}
          onKeyDown={(e) => {
            if (e.key === 'Enter') keep();
            if (e.key === 'Escape') {
              setName(null);
              setProblem(null);
            }
          }}
        />
      )}
    </Box>
  );
}
