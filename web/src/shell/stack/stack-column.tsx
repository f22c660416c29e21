'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Typography from '@mui/material/Typography';
import { IconChevronDown, IconChevronLeft } from '@tabler/icons-react';
import { useState } from 'react';
import { lookOf, ofType, planeOf, storeysOf, type Underlay } from '@calque/core/model';
import { formatLength, type LengthStyle } from '@calque/core/units';
import { traceTally } from '@/project/trace-words';
import { useFromModel, useProject, useSession } from '@/project/context';
import { isImperial, lengthStyle, stackOf } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { moveInStack, TRACE } from './stack-order';
import { runOrTell, type StageId } from '@/commands/command';
import { useCommand, useKeyOf } from '@/commands/context';
import { MarkButton } from '@/ui/icon-button';
import { roleWord } from '@calque/core/planes';
import { goToPlane } from '../planes/plane-tools';
import { LEFT_WIDTH, STRIP } from '../measures';
import { MarkedControls } from './marked-controls';
import { SLIP_WIDTH, type DragOver } from './slip';
import { StackEdge } from './stack-edge';
import { TraceSlip } from './trace-slip';
import { UnderlaySlip } from './underlay-slip';

const SHIFTS = [0, 5, 11, 3, 8];

/** What lies on the table as paper slips, the top first. */
export function StackColumn({
  open,
  bottom,
  onFold,
  onStage,
}: {
  open: boolean;
  /** What stands below it, CSS pixels. */ bottom: number;
  onFold(): void;
  onStage(stage: StageId): void;
}) {
  const table = useTable();
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const foldKey = useKeyOf('stack');
  const files = useProject((s) => s.files);
  const planeId = useTableState((s) => s.planeId);
  const currentId = useTableState((s) => s.underlayId);
  const storeys = storeysOf(model),
    planes = ofType(model, 'plane');
  const plane = planeOf(model, planeId);
  const underlays = stackOf(model, planeId);
  const front = underlays.filter((u) => lookOf(u).inFront),
    behind = underlays.filter((u) => !lookOf(u).inFront);
  const [over, setOver] = useState<string | null>(null);
  const session = useSession();
  const drag = (id: string): DragOver => ({
    over: over === id,
    onOver: (on) => setOver(on ? id : null),
    onDrop: (moved) => {
      setOver(null);
      session.do(moveInStack(session.state.model, planeId, moved, id), 'Put sheets in order');
    },
  });
  const alone = useTableState((s) => s.aloneId);
  const ghosts = useTableState((s) => s.ghosts);
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const chosen = underlays.filter((u) => marked.has(u.id));
  /** Ctrl or Shift and a click choose several; the current sheet is one of them then. */
  const press = (u: Underlay, event: React.MouseEvent) => {
    if (!event.ctrlKey && !event.metaKey && !event.shiftKey) {
      setMarked(new Set());
      table.setUnderlay(u.id === currentId ? null : u.id);
      return;
    }
    const next = new Set(chosen.length === 0 && currentId ? [currentId] : marked);
    if (event.shiftKey) {
      const [a, b] = [currentId, u.id].map((id) => underlays.findIndex((o) => o.id === id));
      underlays.slice(Math.min(a < 0 ? b : a, b), Math.max(a, b) + 1).forEach((o) => next.add(o.id));
    } else if (!next.delete(u.id)) next.add(u.id);
    setMarked(next);
  };
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  if (!open) return <StackEdge underlays={underlays} currentId={currentId} onFold={onFold} />;
  const slipOf = (u: Underlay, i: number) => (
    <UnderlaySlip
      key={u.id}
      underlay={u}
      file={files.find((f) => f.id === u.fileId) ?? null}
      current={u.id === currentId}
      marked={chosen.length > 1 && marked.has(u.id)}
      opens={chosen.length < 2}
      shift={SHIFTS[i % SHIFTS.length]}
      imperial={isImperial(model)}
      drag={drag(u.id)}
      onPress={(event) => press(u, event)}
    />
  );
  return (
    <Box
      component="aside"
      aria-label="On the table"
      sx={{
        position: 'absolute',
        top: STRIP + 14,
        left: 12,
        width: LEFT_WIDTH + 2,
        maxHeight: `calc(100% - ${STRIP + bottom + 26}px)`,
        overflowY: 'auto',
        pb: 1,
        pr: 0.5,
      }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          mb: 0.75,
          width: SLIP_WIDTH + 6,
          bgcolor: 'slip',
          border: 1,
          borderColor: 'edge',
          pl: 1.25,
        }}
      >
        <ButtonBase
          onClick={(e) => setMenu(e.currentTarget)}
          aria-haspopup="menu"
          aria-label={`${plane?.name ?? 'Storey'}, top first`}
          sx={{
            fontSize: 13,
            fontWeight: 650,
            flex: 1,
            justifyContent: 'flex-start',
            minHeight: 28,
            minWidth: 0,
          }}
        >
          <Typography noWrap sx={{ fontWeight: 650, minWidth: 0 }}>
            {plane?.name ?? 'Storey'}
          </Typography>
          <IconChevronDown size={15} stroke={1.8} />
          <Box
            component="span"
            sx={{ flex: 1, textAlign: 'right', fontWeight: 500, color: 'text.secondary', fontSize: 12 }}
          >
            {plane?.type === 'storey' ? levelWords(plane.elevation, style) : plane ? roleWord(plane) : ''}
          </Box>
        </ButtonBase>
        <MarkButton word={`Fold the stack${foldKey}`} aria-expanded onClick={onFold}>
          <IconChevronLeft size={16} stroke={1.8} />
        </MarkButton>
      </Box>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        {[...[...storeys].reverse(), ...planes].map((p) => (
          <MenuItem
            key={p.id}
            selected={p.id === planeId}
            onClick={() => {
              goToPlane(table, p.id, stackOf(model, p.id)[0]?.id ?? null);
              setMenu(null);
            }}
          >
            {p.name}
            <Typography component="span" variant="caption" color="text.secondary" sx={{ ml: 1 }}>
              {roleWord(p)}
            </Typography>
          </MenuItem>
        ))}
        {MORE.map(([id, words]) => (
          <MenuCommand key={id} id={id} words={words} onDone={() => setMenu(null)} />
        ))}
      </Menu>
      {front.map(slipOf)}
      <TraceSlip drag={drag(TRACE)} onTop={front.length === 0} onClick={() => onStage('trace')} />
      {behind.map(slipOf)}
      {chosen.length > 1 && <MarkedControls underlays={chosen} onDone={() => setMarked(new Set())} />}
      {(plane?.type === 'storey' ? storeys : [])
        .filter((s) => s.id !== planeId && (ghosts.has(s.id) || traceTally(model, s.id).total > 0))
        .map((s) => (
          <Button
            key={s.id}
            aria-pressed={ghosts.has(s.id)}
            onClick={() => table.setGhost(s.id, !ghosts.has(s.id))}
            sx={{
              display: 'block',
              ml: 1.5,
              mt: 0.5,
              bgcolor: 'slip',
              color: ghosts.has(s.id) ? 'now' : 'text.secondary',
            }}
          >
            {ghosts.has(s.id) ? `${s.name} shows through: hide it` : `Let ${s.name} show through`}
          </Button>
        ))}
      {alone && (
        <Button onClick={() => table.showAlone(null)} sx={{ ml: 1.5, mt: 0.5, color: 'now' }}>
          Shown alone: show all again
        </Button>
      )}
      <ButtonBase
        onClick={() => onStage('sheets')}
        sx={{
          mt: 1,
          ml: 1.5,
          px: 1.5,
          py: 1,
          border: 1,
          borderStyle: 'dashed',
          borderColor: 'text.secondary',
          fontSize: 12.5,
          width: SLIP_WIDTH - 14,
          bgcolor: 'slip',
        }}
      >
        {underlays.length === 0 ? 'Drop a sheet, or choose a file' : 'Lay another sheet down'}
      </ButtonBase>
    </Box>
  );
}

/** A storey's level as it is written on drawings. */
const levelWords = (mm: number, style: LengthStyle): string =>
  mm === 0 ? '±0' : `${mm > 0 ? '+' : ''}${formatLength(mm, style)}`;

/** What else the head of the stack leads to. */
const MORE = [
  ['add-storey', 'Add a storey above'],
  ['plane-elevation', 'Stand an elevation up …'],
  ['plane-section', 'Stand a section up …'],
  ['planes', 'Storeys and planes …'],
  ['space', 'See them in space'],
] as const;

function MenuCommand({ id, words, onDone }: { id: string; words: string; onDone(): void }) {
  const session = useSession();
  const command = useCommand(id);
  return (
    <MenuItem
      divider={id === 'plane-section'}
      onClick={() => {
        onDone();
        runOrTell(command, session);
      }}
    >
      {words}
    </MenuItem>
  );
}
