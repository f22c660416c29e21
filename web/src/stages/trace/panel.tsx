'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { get, setFields, type Change, type WallAlignment, ofType } from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { LengthField } from '@/ui/length-field';
import { useConvert } from './convert/convert';
import { ConvertCard } from './convert/convert-card';
import { DoneLine } from './done-line';
import { GridCard } from './grid-card';
import { GroupsCard } from './groups/groups-card';
import { InkCard } from './ink-card';
import { LayersCard } from './layers-card';
import { SnapCard } from './snap-card';
import { SelectionCard } from './selection-card';
import { CommandButton, useCommands } from '@/commands/context';
import { useTraceState } from '@/drawing/state';
import { ALIGNMENT_WORDS, takeThicknessTool } from '@/kinds/wall/wall-tool';

/** So many tools stand close together, so that what follows them is in sight. */
const COMPACT = { px: 1, py: 0.35, minWidth: 0 } as const;

/** Draw walls and lines; edit what is selected. */
export function TracePanel() {
  const table = useTable();
  const selection = useTableState((s) => s.selection);
  const lookThrough = useTableState((s) => s.lookThrough);
  const underlayId = useTableState((s) => s.underlayId);
  const model = useProject((s) => s.model);
  const u = get(model, 'underlay', underlayId);
  const converting = useConvert((s) => s.underlayId !== null);
  const hasLines = useProject((s) =>
    ['vector', 'mixed'].includes(
      s.files.find((f) => f.id === u?.fileId)?.sheets.find((x) => x.page === u?.page)?.content ?? '',
    ),
  );
  if (converting) return <ConvertCard />;
  return (
    <Box>
      <Typography variant="h2">Trace</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        Click along the plan; ends, crossings and lines of the sheet light up.
      </Typography>
      {u?.scaleState === 'paper' && (
        <Typography sx={{ p: 1, mb: 1, borderLeft: 4, borderColor: 'now', bgcolor: 'action.hover' }}>
          {u.name} is not to scale yet. Calibrate it (2) before you trace, or lengths will be those of the
          paper.
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 0.75, flexWrap: 'wrap', mb: 1.5 }}>
        {['wall', 'wall-rectangle', 'line', 'select'].map((id) => (
          <CommandButton key={id} id={id} sx={COMPACT} />
        ))}
        <Button
          variant="outlined"
          sx={COMPACT}
          aria-pressed={lookThrough}
          onPointerDown={() => table.setLookThrough(true)}
          onPointerUp={() => table.setLookThrough(false)}
          onPointerLeave={() => table.setLookThrough(false)}
        >
          Look through (hold X)
        </Button>
      </Box>
      <Typography color="text.secondary">Draw (Shift and a letter)</Typography>
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mb: 1 }}>
        <DrawButtons />
      </Box>
      <Typography color="text.secondary">Change</Typography>
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mb: 1.5 }}>
        {['trim', 'corner', 'offset', 'split', 'stretch', 'outline'].map((id) => (
          <CommandButton key={id} id={id} sx={COMPACT} />
        ))}
      </Box>
      {u && <InkCard underlay={u} />}
      {u && hasLines && (
        <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mb: 1.5 }}>
          <CommandButton id="take" sx={COMPACT} />
          <CommandButton id="convert" sx={COMPACT} />
        </Box>
      )}
      {selection.size > 0 ? <SelectionCard /> : <NextWall />}
      <GroupsCard />
      <LayersCard />
      <DoneLine />
      <SnapCard />
      <GridCard />
      <StoreyHeight />
    </Box>
  );
}

/** What draws other things than walls and lines; under a head that says Shift. */
function DrawButtons() {
  return useCommands((c) => c.draws === true).map(({ id, short, key }) => (
    <CommandButton
      key={id}
      id={id}
      label={key ? `${short} (${key.at(-1)!.toUpperCase()})` : short}
      sx={COMPACT}
    />
  ));
}

function NextWall() {
  const table = useTable();
  const { thickness, thicknessFrom, alignment, setThickness, setAlignment } = useTraceState();
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', pt: 1.25 }}>
      <Typography variant="h3" sx={{ mb: 1 }}>
        The next wall
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', mb: 1.25 }}>
        <LengthField
          label="Thickness"
          value={thickness}
          onChange={(mm) => {
            setThickness(mm, 'typed');
            table.showTool();
          }}
        />
        <Button variant="outlined" onClick={() => takeThicknessTool(table)}>
          Measure (T)
        </Button>
      </Box>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mb: 1 }}>
        {thicknessFrom === 'measured' ? 'Measured on the plan.' : 'Typed.'} The line that you draw is the
        wall&apos;s
      </Typography>
      <AlignmentChoice
        value={alignment}
        onChange={(a) => {
          setAlignment(a);
          table.showTool();
        }}
      />
    </Box>
  );
}

function AlignmentChoice({
  value,
  onChange,
}: {
  value: WallAlignment;
  onChange(alignment: WallAlignment): void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={value}
      onChange={(_, v: WallAlignment | null) => {
        if (v) onChange(v);
      }}
      aria-label="Alignment"
    >
      {(['centre', 'left', 'right'] as const).map((a) => (
        <ToggleButton key={a} value={a}>
          {ALIGNMENT_WORDS[a]}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

/** The storey's height goes to its walls that only assumed it. */
function StoreyHeight() {
  const session = useSession();
  const model = useProject((s) => s.model);
  const planeId = useTableState((s) => s.planeId);
  const storey = get(model, 'storey', planeId);
  if (!storey) return null;
  const setHeight = (height: number) => {
    const walls = ofType(model, 'wall').filter((w) => w.planeId === planeId && w.heightAssumed);
    const changes = [
      setFields(storey, { height, heightAssumed: false }),
      ...walls.map((w) => setFields(w, { height, heightAssumed: false })),
    ].filter((c): c is Change => c !== null);
    session.do({ type: 'group', changes }, `Set the height of ${storey.name}`);
  };
  const confirm = () => setHeight(storey.height);
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', pt: 1.25, mt: 1.5 }}>
      <Typography variant="h3" sx={{ mb: 1 }}>
        {storey.name}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
        <LengthField label="Height of its walls" value={storey.height} onChange={setHeight} />
        {storey.heightAssumed && (
          <Button variant="outlined" onClick={confirm}>
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
