'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import type { ComponentType } from 'react';
import {
  get,
  ofType,
  openAssembly,
  partsOf,
  setFields,
  type Assembly,
  type Change,
  type Storey,
} from '@calque/core/model';
import { ShowLink } from '@/commands/show-link';
import { CommandButton, isInHand, useKeyOf, useRegistry } from '@/commands/context';
import { waysInHand } from '@/drawing/next-way';
import { useTraceState } from '@/drawing/state';
import { NextBoltsCard } from '@/kinds/bolts/next-bolts-card';
import { NextPlateCard } from '@/kinds/plate/next-plate-card';
import { NextMemberCard } from '@/kinds/member/next-member-card';
import { NextWall } from '@/kinds/wall/next-wall-card';
import { PartPanel } from '@/part/part-panel';
import { useProject, useSession } from '@/project/context';
import { count, traceTally } from '@/project/trace-words';
import { useTable, useTableState } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { useConvert } from './convert/convert';
import { ConvertCard } from './convert/convert-card';
import { GroupsCard } from './groups/groups-card';
import { finishGroup, leaveGroup } from './groups/groups';
import { InkCard } from './ink-card';
import { SeenCard } from './seen/seen-card';
import { SelectionCard } from './selection-card';

/** What matters now while tracing: the instrument in hand, what is selected, or the next step. */
export function TracePanel() {
  const tool = useTableState((s) => s.toolId);
  const selection = useTableState((s) => s.selection);
  const converting = useConvert((s) => s.underlayId !== null);
  const open = useProject((s) => openAssembly(s.model));
  const model = useProject((s) => s.model);
  const u = get(
    model,
    'underlay',
    useTableState((s) => s.underlayId),
  );
  if (converting) return <ConvertCard />;
  return (
    <Box>
      {open && <OpenGroup group={open} />}
      {tool === 'select' && <PartPanel />}
      {tool !== 'select' && <InHand tool={tool} />}
      {u && tool !== 'select' && <InkCard underlay={u} />}
      {selection.size > 0 ? <SelectionCard /> : tool === 'select' ? <NextStep /> : null}
    </Box>
  );
}

/** The group that is being edited, and how that ends. */
function OpenGroup({ group: open }: { group: Assembly }) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const key = useKeyOf('edit-group');
  return (
    <Box
      sx={{ borderLeft: 4, borderColor: 'now', bgcolor: 'action.hover', p: 1, mb: 1 }}
      data-testid="open-group"
    >
      <Typography sx={{ fontWeight: 650 }}>Editing {open.name}</Typography>
      <Typography color="text.secondary">
        {count(partsOf(model, open).length, 'element')} now. What you draw belongs to it; on finishing, all
        that are placed follow.
      </Typography>
      <Button variant="contained" onClick={() => finishGroup(table, open)}>
        Finish{key}
      </Button>
      <Button onClick={() => leaveGroup(table, open)}>Leave it as it was</Button>
    </Box>
  );
}

/** What the ways of an instrument are about, where that is not how it is drawn. */
const WAYS_WORD: Readonly<Record<string, string>> = { take: 'Take', opening: 'Put' };

/** What instruments are told before they draw, or show in their hand. */
const CARDS: Readonly<Record<string, ComponentType | undefined>> = {
  wall: NextWall,
  'wall-rectangle': NextWall,
  'wall-arc': NextWall,
  member: NextMemberCard,
  plate: NextPlateCard,
  bolts: NextBoltsCard,
  place: GroupsCard,
  see: SeenCard,
};

/** The instrument in hand, with its few choices. */
function InHand({ tool }: { tool: string }) {
  const table = useTable();
  const registry = useRegistry();
  // The ways follow the words.
  useTableState((s) => s.toolWords);
  const model = useProject((s) => s.model);
  const layerId = useTraceState((s) => s.layerId);
  const Card = CARDS[tool];
  const command = registry.list.find((c) => isInHand(c, tool)),
    ways = waysInHand(table),
    layer = get(model, 'layer', layerId),
    draws = command?.on?.some((p) => p === 'building' || p === 'frame' || p === 'drawing') ?? false;
  return (
    <Box data-testid="in-hand">
      <Typography variant="h2">{command?.short ?? 'In hand'}</Typography>
      {command && (
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          {command.words} <ShowLink command={command} sx={{ py: 0, minHeight: 24 }} />
        </Typography>
      )}
      {Card && <Card />}
      {ways && (
        <>
          <Typography variant="h3" id="ways-of-the-tool" sx={{ mb: 0.5 }}>
            {WAYS_WORD[command?.id ?? ''] ?? 'Drawn'}
          </Typography>
          <ToggleButtonGroup
            exclusive
            orientation="vertical"
            size="small"
            value={ways.at}
            aria-labelledby="ways-of-the-tool"
            onChange={(_, at: number | null) => {
              if (at === null) return;
              ways.choose(at);
              table.showTool();
            }}
            sx={{ width: '100%', mb: 1 }}
          >
            {ways.words.map((words, i) => (
              <ToggleButton key={words} value={i} sx={{ justifyContent: 'flex-start' }}>
                {words}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          <Typography variant="caption" color="text.secondary">
            F takes the next of them, also in the middle of it.
          </Typography>
        </>
      )}
      {draws && layer && (
        <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mt: 0.75 }}>
          Comes on the layer {layer.name}.
        </Typography>
      )}
    </Box>
  );
}

/** Nothing in hand and nothing selected: what Calque knows, and what comes next, each one press away. */
function NextStep() {
  const model = useProject((s) => s.model);
  const planeId = useTableState((s) => s.planeId);
  const u = get(
    model,
    'underlay',
    useTableState((s) => s.underlayId),
  );
  const storey = get(model, 'storey', planeId);
  const traced = traceTally(model, planeId).total;
  const hasLines = useProject((s) =>
    ['vector', 'mixed'].includes(
      s.files.find((f) => f.id === u?.fileId)?.sheets.find((x) => x.page === u?.page)?.content ?? '',
    ),
  );
  return (
    <Box>
      <Typography variant="h2">Trace</Typography>
      {u?.scaleState === 'paper' ? (
        <Box sx={{ p: 1, my: 1, borderLeft: 4, borderColor: 'now', bgcolor: 'action.hover' }}>
          <Typography sx={{ mb: 0.75 }}>
            {u.name} is not to scale yet: what is traced on it would be as long as on the paper.
          </Typography>
          <CommandButton id="stage-calibrate" label="Bring it to scale" sx={{ bgcolor: 'slip' }} />
        </Box>
      ) : (
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          {traced > 0
            ? 'Take up an instrument, or click something to change it.'
            : u
              ? 'Nothing is traced on this plane yet.'
              : 'No sheet is chosen. Press one in the stack, or draw by figures.'}
        </Typography>
      )}
      {u && <InkCard underlay={u} />}
      {storey && traced === 0 && u && u.scaleState !== 'paper' && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75, mb: 1 }}>
          <CommandButton id="wall" label="Trace the first wall" />
          {hasLines && <CommandButton id="see" label="See what the plan shows" />}
          {hasLines && <CommandButton id="take" label="Take walls one by one" />}
        </Box>
      )}
      {storey && traced > 0 && <StoreyHeight storey={storey} />}
    </Box>
  );
}

/** The storey's height goes to its walls that only assumed it. */
function StoreyHeight({ storey }: { storey: Storey }) {
  const session = useSession();
  const model = useProject((s) => s.model);
  const setHeight = (height: number) => {
    const walls = ofType(model, 'wall').filter((w) => w.planeId === storey.id && w.heightAssumed);
    const changes = [
      setFields(storey, { height, heightAssumed: false }),
      ...walls.map((w) => setFields(w, { height, heightAssumed: false })),
    ].filter((c): c is Change => c !== null);
    session.do({ type: 'group', changes }, `Set the height of ${storey.name}`);
  };
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', pt: 1.25 }}>
      <Typography variant="h3" sx={{ mb: 1 }}>
        {storey.name}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
        <LengthField label="Height of its walls" value={storey.height} onChange={setHeight} />
        {storey.heightAssumed && (
          <Button variant="outlined" onClick={() => setHeight(storey.height)}>
            Confirm
          </Button>
        )}
      </Box>
      {storey.heightAssumed && (
        <Typography variant="caption" sx={{ color: 'assumed' }}>
          assumed: no plan gives it. Type it, or confirm it.
        </Typography>
      )}
    </Box>
  );
}
