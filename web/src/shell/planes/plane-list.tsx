'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import {
  buildingPlanes,
  ofType,
  setFields,
  storeysOf,
  withoutStorey,
  type Model,
  type Part,
  type PlaneEntity,
  type Storey,
  type WorkPlane,
} from '@calque/core/model';
import { partPlanes } from '@calque/core/part';
import { turnedRound } from '@calque/core/planes';
import { featuresOf } from '@calque/core/part';
import { CommandButton } from '@/commands/context';
import { partsOf, withoutPart } from '@/part/part-changes';
import { useProject, useSession } from '@/project/context';
import { count, traceTally, traceWords } from '@/project/trace-words';
import { hasDepth, useSeen } from '@/project/seen';
import { stackOf } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { goToPlane } from './plane-tools';

/** What lies on a plane, in words; empty for nothing. */
export function liesOn(model: Model, planeId: string): string {
  const sheets = ofType(model, 'underlay').filter((u) => u.planeId === planeId).length;
  return [sheets > 0 && count(sheets, 'sheet'), traceWords(traceTally(model, planeId))]
    .filter(Boolean)
    .join(', ');
}

/** All storeys and planes with their levels and heights. */
export function PlaneList({ onClose }: { onClose(): void }) {
  const model = useProject((s) => s.model);
  const storeys = storeysOf(model),
    planes = buildingPlanes(model),
    parts = partsOf(model);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Storeys and planes</DialogTitle>
      <DialogContent>
        <Typography variant="h3" sx={{ mb: 0.5 }}>
          Storeys, the highest first
        </Typography>
        {[...storeys].reverse().map((s) => (
          <StoreyRow key={s.id} storey={s} only={storeys.length === 1} onGo={onClose} />
        ))}
        <Box onClick={onClose}>
          <CommandButton id="add-storey" label="Add a storey above" />
        </Box>
        <Typography variant="h3" sx={{ mt: 2.5, mb: 0.5 }}>
          Upright planes
        </Typography>
        {planes.length === 0 && (
          <Typography color="text.secondary">
            None yet. Stand one up on two points of a plan, or on a grid line; then lay an elevation or a
            section sheet on it and trace it as a plan.
          </Typography>
        )}
        {planes.map((p) => (
          <PlaneRow key={p.id} plane={p} onGo={onClose} />
        ))}
        <Box sx={{ display: 'flex', gap: 1, mt: 1 }} onClick={onClose}>
          <CommandButton id="plane-elevation" label="Elevation by two points" />
          <CommandButton id="plane-section" label="Section by two points" />
          <CommandButton id="plane-grid-line" label="Section on the selected grid line" hides />
        </Box>
        <Typography variant="h3" sx={{ mt: 2.5, mb: 0.5 }}>
          Parts
        </Typography>
        {parts.length === 0 && (
          <Typography color="text.secondary">
            No part yet. A part has planes of its own, on which the views of its sheet are traced and made
            solid.
          </Typography>
        )}
        {parts.map((p) => (
          <PartRow key={p.id} part={p} onGo={onClose} />
        ))}
        <Box sx={{ mt: 1 }} onClick={onClose}>
          <CommandButton id="new-part" label="New part" />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** A part with its planes; it goes with all that is drawn on them. */
function PartRow({ part, onGo }: { part: Part; onGo(): void }) {
  const session = useSession(),
    table = useTable(),
    model = useProject((s) => s.model),
    planeId = useTableState((s) => s.planeId),
    planes = partPlanes(model, part.id),
    features = featuresOf(model, part.id).length;
  const remove = () => {
    const here = planes.some((p) => p.id === planeId),
      storey = storeysOf(model)[0];
    if (session.do(withoutPart(model, part), `Remove ${part.name}`) && here && storey)
      goToPlane(table, storey.id, stackOf(session.state.model, storey.id)[0]?.id ?? null);
  };
  return (
    <Box sx={ROW}>
      <Typography sx={{ width: 180, fontWeight: 650 }}>{part.name}</Typography>
      <Box sx={{ flex: 1, minWidth: 210 }}>
        {planes.map((p) => (
          <Button
            key={p.id}
            variant={p.id === planeId ? 'contained' : 'outlined'}
            sx={{ mr: 0.5, mb: 0.5 }}
            onClick={() => {
              goToPlane(table, p.id, stackOf(model, p.id)[0]?.id ?? null);
              onGo();
            }}
          >
            {p.name}
          </Button>
        ))}
        <Button onClick={remove}>Remove the part</Button>
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
          {count(features, 'feature')}. It goes with its planes and all that is drawn on them; undo brings it
          back.
        </Typography>
      </Box>
    </Box>
  );
}

const ROW = {
  display: 'flex',
  gap: 1,
  alignItems: 'flex-start',
  flexWrap: 'wrap',
  py: 1,
  borderTop: 1,
  borderColor: 'edge',
} as const;

function NameField({ plane }: { plane: PlaneEntity }) {
  const session = useSession();
  const [name, setName] = useState<string | null>(null);
  const keep = () => {
    if (name?.trim() && name.trim() !== plane.name)
      session.do(setFields<PlaneEntity>(plane, { name: name.trim() }), `Rename ${plane.name}`);
    setName(null);
  };
  return (
    <TextField
      label="Name"
      value={name ?? plane.name}
      slotProps={{ htmlInput: { maxLength: 200 } }}
      onChange={(e) => setName(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
      }}
      sx={{ width: 180 }}
    />
  );
}

/** Goes there, tells what lies there, and takes it away where nothing does. */
function Ending({ plane, keeps, onGo }: { plane: PlaneEntity; keeps: string | null; onGo(): void }) {
  const session = useSession();
  const remove = () =>
    session.do(
      plane.type === 'storey' ? withoutStorey(session.state.model, plane) : { type: 'remove', entity: plane },
      `Remove ${plane.name}`,
    );
  const table = useTable();
  const current = useTableState((s) => s.planeId) === plane.id;
  const words = liesOn(session.state.model, plane.id),
    why = keeps ?? (words ? `It carries ${words}: move or remove that first.` : null);
  return (
    <Box sx={{ flex: 1, minWidth: 210 }}>
      <Button
        variant={current ? 'contained' : 'outlined'}
        onClick={() => {
          goToPlane(table, plane.id, stackOf(session.state.model, plane.id)[0]?.id ?? null);
          onGo();
        }}
      >
        {current ? 'In hand' : 'Go there'}
      </Button>
      <Button disabled={why !== null} onClick={remove}>
        Remove
      </Button>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
        {why ?? 'Nothing lies on it.'}
      </Typography>
    </Box>
  );
}

function StoreyRow({ storey, only, onGo }: { storey: Storey; only: boolean; onGo(): void }) {
  const session = useSession();
  return (
    <Box sx={ROW} data-testid="storey-row">
      <NameField plane={storey} />
      <LengthField
        label="Level"
        positive={false}
        value={storey.elevation}
        onChange={(elevation) =>
          session.do(setFields(storey, { elevation }), `Set the level of ${storey.name}`)
        }
      />
      <LengthField
        label={storey.heightAssumed ? 'Height, assumed' : 'Height'}
        value={storey.height}
        onChange={(height) =>
          session.do(setFields(storey, { height, heightAssumed: false }), `Set the height of ${storey.name}`)
        }
      />
      <Ending plane={storey} keeps={only ? 'A project needs one storey at least.' : null} onGo={onGo} />
    </Box>
  );
}

function PlaneRow({ plane, onGo }: { plane: WorkPlane; onGo(): void }) {
  const session = useSession();
  const set = (fields: Partial<Omit<WorkPlane, 'id' | 'type'>>, label: string) =>
    session.do(setFields<WorkPlane>(plane, fields), `${label} ${plane.name}`);
  return (
    <Box sx={ROW} data-testid="plane-row">
      <NameField plane={plane} />
      <TextField
        select
        label="Role"
        value={plane.role}
        onChange={(e) => set({ role: e.target.value as WorkPlane['role'] }, 'Change the role of')}
        sx={{ width: 120 }}
      >
        <MenuItem value="elevation">elevation</MenuItem>
        <MenuItem value="section">section</MenuItem>
        {plane.role === 'face' && <MenuItem value="face">face</MenuItem>}
      </TextField>
      <LengthField
        label="From level"
        positive={false}
        value={plane.origin[2]}
        onChange={(z) => set({ origin: [plane.origin[0], plane.origin[1], z] }, 'Set the level of')}
      />
      <LengthField
        label="Height"
        value={plane.height}
        onChange={(height) => set({ height }, 'Set the height of')}
      />
      <ReachField
        label="Reach before"
        value={plane.depth?.before ?? null}
        empty={plane.role === 'section' ? 'none' : 'no end'}
        onChange={(before) => set({ depth: { ...plane.depth, before } }, 'Set the depth of')}
      />
      <ReachField
        label="Reach behind"
        value={plane.depth?.behind ?? null}
        empty="no end"
        onChange={(behind) => set({ depth: { ...plane.depth, behind } }, 'Set the depth of')}
      />
      <Button onClick={() => set(turnedRound(plane), 'Turn round')}>Look from the other side</Button>
      <SlabButton plane={plane} />
      <Ending plane={plane} keeps={null} onGo={onGo} />
    </Box>
  );
}

/** How far a plane reaches to one side: a length, or nothing for no end of its own. */
function ReachField({
  label,
  value,
  empty,
  onChange,
}: {
  label: string;
  value: number | null;
  empty: string;
  onChange(value: number | null): void;
}) {
  return (
    <Box sx={{ width: 130 }}>
      <LengthField
        label={label}
        value={value}
        empty={empty}
        positive={false}
        least={0}
        onChange={onChange}
        onEmptied={() => onChange(null)}
      />
    </Box>
  );
}

/** Shows the plane's depth alone, everywhere, or all of the building again. */
function SlabButton({ plane }: { plane: WorkPlane }) {
  const slabId = useSeen((s) => s.slabId),
    isShown = slabId === plane.id;
  return (
    <Button
      aria-pressed={isShown}
      disabled={!isShown && !hasDepth(plane)}
      onClick={() => useSeen.setState({ slabId: isShown ? null : plane.id })}
    >
      {isShown ? 'Show all again' : 'Show its depth alone'}
    </Button>
  );
}
