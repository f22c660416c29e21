'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { ncArchive, type IfcView } from '@calque/core/exchange';
import { knownSection, ofType, settingsOf, type Model, type Storey } from '@calque/core/model';
import { CommandButton } from '@/commands/context';
import { makeOfBuilding } from '@/project/building-task';
import { useFromModel, useProject, useSession } from '@/project/context';
import { hasSolids } from '@/project/seen';
import { useDelivered } from '@/project/delivered';
import { saveText } from '@/ui/save-text';
import type { BuildingTask } from '@/workers/building-protocol';
import { ModelPicture } from './pictures';
import { Row } from './row';

const TYPES = {
  ifc: ['IFC', 'application/x-step'],
  glb: ['glTF', 'model/gltf-binary'],
  xlsx: ['workbook', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
} as const;
type Format = keyof typeof TYPES;

/** Writes a file in a worker and gives it to the person; one at a time, stopped when the stage is left. */
function useWriting() {
  const session = useSession();
  const [writing, setWriting] = useState<Format | null>(null);
  const stop = useRef<() => void>(() => {});
  useEffect(() => () => stop.current(), []);
  const write = (task: BuildingTask & { make: Format }, name: string) => {
    const [word, type] = TYPES[task.make];
    setWriting(task.make);
    const running = makeOfBuilding(session.state.model, task, {
      onEnd: (end) => {
        setWriting(null);
        if ('error' in end) {
          if (end.error.name !== 'Stopped')
            session.tell(`The ${word} was not written: ${end.error.message}`, true);
          return;
        }
        const { bytes } = end.done;
        if (!bytes) {
          session.tell(`There is nothing that the ${word} could hold on this storey.`, true);
          return;
        }
        saveText(`${name}.${task.make}`, bytes, type);
        useDelivered.getState().again();
        session.tell(`The ${word} was written.`);
      },
    });
    stop.current = running.stop;
  };
  return { writing, write, stop: () => stop.current() };
}

const hasSteelMembers = (model: Model): boolean =>
  ofType(model, 'member').some((m) => knownSection(m.section)?.material === 'steel');

/** The building as a model and as a workbook of its tables. */
export function BuildingRows({ storeyId, storey }: { storeyId: string | null; storey: Storey | null }) {
  const session = useSession();
  const { name } = useFromModel(settingsOf);
  const built = useFromModel(hasSolids);
  const upright = storeyId !== null && storey === null;
  const [view, setView] = useState<IfcView>('editable');
  const { writing, write, stop } = useWriting(),
    hasSteel = useFromModel(hasSteelMembers);
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
      <Row
        title="For the saw (NC)"
        words={
          hasSteel
            ? 'A text file for each mark of steel members (DSTV): header and contours, in one archive. Ends are square; it carries no holes.'
            : 'Draw members of steel first: a file is made for each of their marks.'
        }
      >
        <Button
          variant="contained"
          disabled={!hasSteel}
          onClick={() => {
            const bytes = ncArchive(session.state.model);
            if (!bytes) return;
            saveText(`${name} nc.zip`, bytes, 'application/zip');
            useDelivered.getState().again();
          }}
        >
          Write NC
        </Button>
        <CommandButton id="mark-members" label="Mark equal pieces" />
      </Row>
      {writing && (
        <Typography
          role="status"
          color="text.secondary"
          sx={{ display: 'flex', alignItems: 'center', gap: 1 }}
        >
          The {TYPES[writing][0]} is being written …<Button onClick={stop}>Stop</Button>
        </Typography>
      )}
    </>
  );
}
