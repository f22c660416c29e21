'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { ofType, openAssembly, partsOf, placedOf, type Assembly, type Model } from '@calque/core/model';
import { useFromModel, useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { useTable, useTableState } from '@/table/context';
import { PlaceTool } from '@/kinds/placed/place-tool';
import { finishGroup, leaveGroup, removeGroup, renameGroup, takePlaceTool } from './groups';

const assembliesOf = (model: Model) => ofType(model, 'assembly');

/** The groups of the project, to be placed; or what is being edited, and how to end that. */
export function GroupsCard() {
  const table = useTable();
  const model = useProject((s) => s.model);
  const assemblies = useFromModel(assembliesOf);
  const [shown, setShown] = useState(false);
  const open = openAssembly(model);
  if (assemblies.length === 0) return null;
  return (
    <Box data-testid="groups" sx={{ borderTop: 1, borderColor: 'edge', pt: 1, mt: 1.5 }}>
      {open && (
        <Box sx={{ borderLeft: 4, borderColor: 'now', bgcolor: 'action.hover', p: 1, mb: 0.75 }}>
          <Typography sx={{ fontWeight: 650 }}>Editing {open.name}</Typography>
          <Typography color="text.secondary">
            {count(partsOf(model, open).length, 'element')} now. What you draw belongs to it; on finishing,
            all that are placed follow.
          </Typography>
          <Button variant="contained" onClick={() => finishGroup(table, open)}>
            Finish (Shift Z)
          </Button>
          <Button onClick={() => leaveGroup(table, open)}>Leave it as it was</Button>
        </Box>
      )}
      <Button aria-expanded={shown} onClick={() => setShown(!shown)}>
        Groups: {assemblies.length}
      </Button>
      {shown &&
        assemblies.map((a) => (
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
