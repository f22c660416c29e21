'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo } from 'react';
import { ofType, planeOf, type Part, type Underlay } from '@calque/core/model';
import { featuresOf, planeState, rulesOn, ruleWords, waysToMove, type PlaneState } from '@calque/core/part';
import { CommandButton } from '@/commands/context';
import { useFromModel, useProject, useSession } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { useTableState } from '@/table/context';
import { FeatureList } from './feature-list';
import { HeldCard } from './held-card';
import { HoleTableCard } from './hole-table-card';
import { OfferedCard } from './offered-card';
import { showWay, useOnPlane } from './on-plane';
import { addedFeature, partOf } from './part-changes';
import { partWorker } from './part-solid';
import { RuleCard } from './rule-card';

/** What matters of a part while one of its planes is drawn on; nothing on any other plane. */
export function PartPanel() {
  const model = useProject((s) => s.model),
    planeId = useTableState((s) => s.planeId),
    { projectId } = useSession(),
    part = partOf(planeOf(model, planeId), model);
  useEffect(() => {
    if (part) partWorker.follow(model, part.id, projectId);
  }, [model, part, projectId]);
  if (!part) return null;
  return (
    <Box data-testid="part-panel" sx={{ mb: 1 }}>
      <Typography variant="h2">{part.name}</Typography>
      <LaySheet planeId={planeId} />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, my: 1 }}>
        <CommandButton id="part-extrude" label="Extrude" />
        <CommandButton id="part-cut" label="Cut" />
        <CommandButton id="part-revolve" label="Revolve" />
        <CommandButton id="part-hole" label="Holes" />
        <CommandButton id="part-rib" label="Rib" />
      </Box>
      <GivenSolid part={part} />
      <FeatureList part={part} />
      <HeldCard part={part} planeId={planeId} />
      <OfferedCard part={part} planeId={planeId} />
      <HoleTableCard part={part} planeId={planeId} />
      <PlaneRules planeId={planeId} />
      <CommandButton id="space" label="See it in space" />
    </Box>
  );
}

/** The solid of an attached STEP file is taken into the part, where the project has one. */
function GivenSolid({ part }: { part: Part }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    files = useProject((s) => s.files),
    taken = new Set(featuresOf(model, part.id).map((f) => f.fileId)),
    solids = files.filter((f) => f.kind === 'step' && f.status === 'ready' && !taken.has(f.id));
  if (solids.length === 0) return null;
  const take = (fileId: string) => {
    const file = solids.find((f) => f.id === fileId);
    if (!file) return;
    const feature = addedFeature(
      model,
      part.id,
      { kind: 'given', does: 'add' },
      () => crypto.randomUUID(),
      file.name.replace(/\.[A-Za-z0-9]{2,5}$/, '').slice(0, 100),
    );
    session.do({ type: 'add', entity: { ...feature, fileId } }, `Take the solid of ${file.name}`);
  };
  return (
    <TextField
      select
      fullWidth
      label="Take the solid of a STEP file"
      value=""
      onChange={(e) => take(e.target.value)}
      sx={{ mb: 1 }}
    >
      {solids.map((f) => (
        <MenuItem key={f.id} value={f.id}>
          {f.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** A sheet of the project is laid on the plane as it lies elsewhere: a view of the part is traced from it. */
function LaySheet({ planeId }: { planeId: string }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    all = ofType(model, 'underlay'),
    here = all.filter((u) => u.planeId === planeId),
    others = [
      ...new Map(all.filter((u) => u.planeId !== planeId).map((u) => [`${u.fileId} ${u.page}`, u])).values(),
    ];
  if (here.length > 0 || others.length === 0) return null;
  const lay = (u: Underlay) =>
    session.do(
      { type: 'add', entity: { ...u, id: crypto.randomUUID(), planeId, order: 0, visible: true } },
      `Lay ${u.name} on the plane`,
    );
  return (
    <TextField
      select
      fullWidth
      label="Lay a sheet of the project here"
      value=""
      onChange={(e) => {
        const u = others.find((x) => x.id === e.target.value);
        if (u) lay(u);
      }}
      sx={{ my: 1 }}
    >
      {others.map((u) => (
        <MenuItem key={u.id} value={u.id}>
          {u.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** More rules than anybody reads in a card. */
const MOST = 40;

/** What holds on the plane, whether it is fixed, and what contradicts what. */
function PlaneRules({ planeId }: { planeId: string }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle),
    selection = useTableState((s) => s.selection),
    rules = rulesOn(model, planeId);
  const state = useMemo(
      () => (rulesOn(model, planeId).length > 0 ? planeState(model, planeId) : null),
      [model, planeId],
    ),
    shown = selection.size > 0 ? rules.filter((r) => r.of.some((p) => selection.has(p.id))) : rules;
  return (
    <Box data-testid="plane-rules" sx={{ mt: 1.5 }}>
      <Typography variant="h3">Rules of this plane</Typography>
      {state ? (
        <Typography
          role="status"
          data-testid="plane-state"
          sx={{
            color:
              state.contradictory.length > 0 ? 'differs' : state.freedom === 0 ? 'known' : 'text.secondary',
          }}
        >
          {state.contradictory.length > 0
            ? 'Figures contradict one another.'
            : state.freedom === 0
              ? 'Everything is fixed.'
              : `It can still move in ${count(state.freedom, 'way')}.`}
        </Typography>
      ) : (
        <Typography color="text.secondary">
          None yet. Select linework, and let Calque find what is level, upright, joined or touching.
        </Typography>
      )}
      <Ways planeId={planeId} state={state} />
      {state?.contradictory.map((c) => (
        <Box key={c.rule.id} sx={{ borderLeft: 4, borderColor: 'differs', pl: 1, my: 0.5 }}>
          <Typography>Without one of these it holds:</Typography>
          {[c.rule, ...c.with].map((r) => (
            <RuleRow
              key={r.id}
              words={ruleWords(model, r, style)}
              onRemove={() => session.do({ type: 'remove', entity: r }, 'Remove a rule')}
            />
          ))}
        </Box>
      ))}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, my: 0.5 }}>
        <CommandButton id="part-rules" label="Find rules" />
      </Box>
      <RuleCard planeId={planeId} />
      {shown.slice(0, MOST).map((r) => (
        <RuleRow
          key={r.id}
          words={ruleWords(model, r, style)}
          onRemove={() => session.do({ type: 'remove', entity: r }, 'Remove a rule')}
        />
      ))}
      {shown.length > MOST && (
        <Typography variant="caption" color="text.secondary">
          and {shown.length - MOST} more: select linework to see its own.
        </Typography>
      )}
    </Box>
  );
}

/** Shows over the drawing how what is not fixed can move, one way after the other. */
function Ways({ planeId, state }: { planeId: string; state: PlaneState | null }) {
  const model = useProject((s) => s.model),
    way = useOnPlane((s) => s.way),
    ways = useMemo(() => (way === null ? 0 : waysToMove(model, planeId).length), [model, planeId, way]);
  if (!state || state.freedom === 0 || state.contradictory.length > 0) return null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 0.5, my: 0.5 }}>
      <Button variant="outlined" onClick={() => showWay(way === null ? 0 : way + 1)}>
        {way === null ? 'Show what can move' : 'The next way'}
      </Button>
      {way !== null && <Button onClick={() => showWay(null)}>Done</Button>}
      {way !== null && (
        <Typography color="text.secondary" role="status">
          {ways === 0 ? 'Only what no rule names: it moves freely.' : `way ${(way % ways) + 1} of ${ways}`}
        </Typography>
      )}
    </Box>
  );
}

function RuleRow({ words, onRemove }: { words: string; onRemove(): void }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center' }}>
      <Typography sx={{ flex: 1 }}>{words}</Typography>
      <Button onClick={onRemove} aria-label={`Remove: ${words}`} sx={{ minWidth: 0, py: 0 }}>
        Remove
      </Button>
    </Box>
  );
}
