'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { IfcView } from '@calque/core/exchange';
import { settingsOf, type Storey } from '@calque/core/model';
import { CommandButton } from '@/commands/context';
import { useFromModel, useProject, useSession } from '@/project/context';
import { hasSolids } from '@/project/seen';
import { ModelPicture } from './pictures';
import { FORMATS, useWriting } from './writing';
import { Row } from './row';

/** The building as a model and as a workbook of its tables. */
export function BuildingRows({ storeyId, storey }: { storeyId: string | null; storey: Storey | null }) {
  const session = useSession();
  const { name } = useFromModel(settingsOf);
  const built = useFromModel(hasSolids);
  const upright = storeyId !== null && storey === null;
  const [view, setView] = useState<IfcView>('editable');
  const { writing, write, stop } = useWriting();
  const loaded = useProject((s) => s.loaded);
  const idle = !loaded || !built || upright || writing !== null,
    why = upright
      ? 'Models are made of storeys: choose one, or all.'
      : built
        ? null
        : 'Draw walls, slabs or a roof first: a model is made of them.';
  return (
    <>
      <Row
        title="Building model (IFC4)"
        words={
          why ??
          'Storeys, walls with openings, doors, windows, slabs, roofs, columns, stairs, rooms with their sides and figures, and where each measure came from. It carries no sheets, no drawn lines, no history; linings of doors are usual ones, and said to be.'
        }
      >
        {!why && (
          <Box sx={{ width: '100%' }}>
            <ModelPicture storeyId={storeyId} />
          </Box>
        )}
        <TextField
          select
          label="To be"
          value={view}
          onChange={(e) => setView(e.target.value as IfcView)}
          sx={{ width: 150 }}
        >
          <MenuItem value="editable">edited further</MenuItem>
          <MenuItem value="reference">looked at</MenuItem>
        </TextField>
        <Button
          variant="contained"
          disabled={idle}
          onClick={() =>
            write(
              {
                make: 'ifc',
                view,
                at: new Date().toISOString().slice(0, 19),
                projectKey: session.projectId,
                storeyId,
              },
              name,
            )
          }
        >
          Write IFC
        </Button>
      </Row>
      <Row
        title="Scene (glTF)"
        words={
          why ?? 'The same solids by storey and name, in metres. It carries no figures and no drawn lines.'
        }
      >
        <Button variant="contained" disabled={idle} onClick={() => write({ make: 'glb', storeyId }, name)}>
          Write glTF
        </Button>
      </Row>
      <Row
        title="Tables (XLSX)"
        words={why ?? 'Every table of the takeoff as a sheet of one workbook, figures as numbers.'}
      >
        <Button
          variant="contained"
          disabled={idle}
          onClick={() => write({ make: 'xlsx', storey: storey?.name ?? null }, `${name} takeoff`)}
        >
          Write XLSX
        </Button>
        <CommandButton id="takeoff" label="See them" />
      </Row>
      {writing && (
        <Typography
          role="status"
          color="text.secondary"
          sx={{ display: 'flex', alignItems: 'center', gap: 1 }}
        >
          The {FORMATS[writing][0]} is being written …<Button onClick={stop}>Stop</Button>
        </Typography>
      )}
    </>
  );
}
