'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import {
  lookOf,
  ofType,
  planeOf,
  setFields,
  storeysOf,
  type Underlay,
  type ScaleDoubt,
} from '@calque/core/model';
import { traceTally, traceWords } from '@/project/trace-words';
import { useProject, useSession } from '@/project/context';
import { dependentsOf, removalWords, removeUnderlays } from '@/project/removal';
import { doubtOf, useDoubts } from '@/project/doubts';
import { boxOfUnderlay, CONTENT_WORDS, isImperial, scaleWords, stackOf } from '@/project/views';
import type { FileInfo } from '@/project/wire';
import { useTable, useTableState } from '@/table/context';
import { PicksTool } from '@/table/tools/picks-tool';
import { Confirm } from '@/ui/confirm';
import { duplicateOf, moveInStack, stepInStack, TRACE } from './stack-order';
import { runOrTell, type StageId } from '@/commands/command';
import { useCommand } from '@/commands/context';
import { roleWord } from '@calque/core/planes';
import { goToPlane } from './planes/plane-tools';

const SHIFTS = [0, 5, 11, 3, 8];

/** What lies on the table as paper slips, the top first. */
export function StackColumn({
  open,
  onFold,
  onStage,
}: {
  open: boolean;
  onFold(): void;
  onStage(stage: StageId): void;
}) {
  const table = useTable();
  const model = useProject((s) => s.model);
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
  const traced = traceTally(model, planeId),
    words = traceWords(traced);
  const { assumed } = traced;
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  if (!open) {
    return (
      <Button
        onClick={onFold}
        aria-expanded={false}
        sx={{ position: 'absolute', top: 64, left: 8, bgcolor: 'slip', border: 1, borderColor: 'edge' }}
      >
        Stack ([)
      </Button>
    );
  }
  return (
    <Box
      component="aside"
      aria-label="On the table"
      sx={{
        position: 'absolute',
        top: 60,
        left: 14,
        width: 250,
        maxHeight: 'calc(100% - 120px)',
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
          width: 246,
          bgcolor: 'slip',
          border: 1,
          borderColor: 'edge',
          px: 1,
          py: 0.25,
        }}
      >
        <ButtonBase
          onClick={(e) => setMenu(e.currentTarget)}
          aria-haspopup="menu"
          sx={{ fontSize: 12.5, fontWeight: 650, flex: 1, justifyContent: 'flex-start' }}
        >
          {plane?.name ?? 'Storey'}, top first ▾
        </ButtonBase>
        <Button onClick={onFold} aria-expanded sx={{ color: 'text.secondary', fontWeight: 500, px: 0.5 }}>
          Fold ([)
        </Button>
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
      {front.map((u, i) => (
        <UnderlaySlip
          key={u.id}
          underlay={u}
          file={files.find((f) => f.id === u.fileId) ?? null}
          current={u.id === currentId}
          shift={SHIFTS[i % SHIFTS.length]}
          imperial={isImperial(model)}
          drag={drag(u.id)}
        />
      ))}
      <Slip
        drag={drag(TRACE)}
        shift={6}
        title={`Trace, ${(plane?.name ?? '').toLowerCase()}`}
        aside={traced.total > 0 && front.length === 0 ? 'on top' : ''}
        state={
          traced.total === 0
            ? 'nothing traced yet'
            : `${words}${assumed ? `, ${assumed} heights assumed` : ''}`
        }
        colour={assumed ? 'assumed' : 'text.secondary'}
        onClick={() => onStage('trace')}
      />
      {behind.map((u, i) => (
        <UnderlaySlip
          key={u.id}
          underlay={u}
          file={files.find((f) => f.id === u.fileId) ?? null}
          current={u.id === currentId}
          shift={SHIFTS[i % SHIFTS.length]}
          imperial={isImperial(model)}
          drag={drag(u.id)}
        />
      ))}
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
          width: 216,
          bgcolor: 'slip',
        }}
      >
        {underlays.length === 0 ? 'Drop a sheet, or choose a file' : 'Lay another sheet down'}
      </ButtonBase>
    </Box>
  );
}

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

/** A slip that others can be dropped on: they then lie just above it. */
interface DragOver {
  over: boolean;
  onOver(on: boolean): void;
  onDrop(movedId: string): void;
}
const SLIP_TYPE = 'application/x-calque-slip';

interface SlipProps {
  title: string;
  aside: string;
  state: string;
  colour: string;
  shift: number;
  current?: boolean;
  id?: string;
  drag: DragOver;
  onClick(): void;
}

function Slip({ title, aside, state, colour, shift, current, id, drag, onClick }: SlipProps) {
  return (
    <ButtonBase
      onClick={onClick}
      aria-pressed={current}
      draggable={id !== undefined}
      onDragStart={(e: React.DragEvent) => {
        e.dataTransfer.setData(SLIP_TYPE, id ?? '');
        e.dataTransfer.effectAllowed = 'move';
      }}
      onDragOver={(e: React.DragEvent) => {
        if (!e.dataTransfer.types.includes(SLIP_TYPE)) return;
        e.preventDefault();
        drag.onOver(true);
      }}
      onDragLeave={() => drag.onOver(false)}
      onDrop={(e: React.DragEvent) => {
        const moved = e.dataTransfer.getData(SLIP_TYPE);
        if (moved === '') return;
        e.preventDefault();
        e.stopPropagation();
        if (moved !== id) drag.onDrop(moved);
        else drag.onOver(false);
      }}
      sx={{
        borderTop: drag.over ? 3 : 1,
        borderTopColor: drag.over ? 'now' : 'edge',
        display: 'block',
        textAlign: 'left',
        width: 232,
        ml: `${shift}px`,
        bgcolor: 'slip',
        borderRight: 1,
        borderBottom: 1,
        borderRightColor: 'edge',
        borderBottomColor: 'edge',
        borderLeft: current ? 4 : 1,
        borderLeftColor: current ? 'now' : 'edge',
        px: 1.4,
        py: 0.9,
        boxShadow: '1px 2px 4px rgba(23,39,58,.10)',
        mt: '-1px',
      }}
    >
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Typography noWrap sx={{ fontWeight: 650, flex: 1, fontSize: 13.5 }}>
          {title}
        </Typography>
        <Typography variant="caption" color="text.secondary" noWrap>
          {aside}
        </Typography>
      </Box>
      <Typography variant="caption" sx={{ color: colour, display: 'block' }}>
        {state}
      </Typography>
    </ButtonBase>
  );
}

function stateOf(
  u: Underlay,
  file: FileInfo | null,
  imperial: boolean,
  doubt: ScaleDoubt | null,
): { words: string; colour: string } {
  const sheet = file?.sheets.find((s) => s.page === u.page);
  if (!file) return { words: 'its file is missing', colour: 'differs' };
  if (!sheet) {
    if (
      file.status === 'failed' ||
      file.status === 'password' ||
      file.status === 'units' ||
      file.status === 'cancelled'
    )
      return { words: `cannot be read: ${file.message ?? file.status}`, colour: 'differs' };
    return { words: 'being read …', colour: 'text.secondary' };
  }
  const parts = [scaleWords(u, imperial, doubt)];
  if (sheet.content !== 'vector') parts.push(CONTENT_WORDS[sheet.content]);
  if (u.locked) parts.push('locked');
  if (!u.snap) parts.push('snap off');
  return {
    words: parts.join(', '),
    colour: doubt
      ? 'differs'
      : u.scaleState === 'calibrated' || u.scaleState === 'own'
        ? 'known'
        : u.scaleState === 'stated'
          ? 'assumed'
          : 'now',
  };
}

function UnderlaySlip({
  underlay: u,
  file,
  current,
  shift,
  imperial,
  drag,
}: {
  underlay: Underlay;
  file: FileInfo | null;
  current: boolean;
  shift: number;
  imperial: boolean;
  drag: DragOver;
}) {
  const table = useTable();
  const { words, colour } = stateOf(
    u,
    file,
    imperial,
    useDoubts((s) => doubtOf(u, s)),
  );
  const aside = !u.visible ? 'hidden' : u.fade > 0 ? `${Math.round((1 - u.fade) * 100)} %` : '';
  return (
    <>
      <Slip
        id={u.id}
        drag={drag}
        title={u.name}
        aside={aside}
        state={words}
        colour={colour}
        shift={shift}
        current={current}
        onClick={() => table.setUnderlay(current ? null : u.id)}
      />
      {current && <UnderlayControls underlay={u} shift={shift} />}
    </>
  );
}

function UnderlayControls({ underlay: u, shift }: { underlay: Underlay; shift: number }) {
  const session = useSession();
  const table = useTable();
  const [name, setName] = useState<string | null>(null);
  const [fade, setFade] = useState<number | null>(null);
  const [removing, setRemoving] = useState(false);
  const [laying, setLaying] = useState<HTMLElement | null>(null);
  const model = useProject((s) => s.model);
  const others = [...storeysOf(model), ...ofType(model, 'plane')].filter((p) => p.id !== u.planeId);
  const set = (fields: Partial<Omit<Underlay, 'id' | 'type'>>, label: string) =>
    session.do(setFields(u, fields), `${label} ${u.name}`);
  const rename = () => {
    if (name?.trim()) set({ name: name.trim() }, 'Rename');
    setName(null);
  };
  const button = (text: string, act: () => void, disabled = false) => (
    <Button onClick={act} disabled={disabled} sx={{ px: 0.75, fontSize: 12.5 }}>
      {text}
    </Button>
  );
  return (
    <Box
      sx={{
        width: 232,
        ml: `${shift}px`,
        bgcolor: 'slip',
        border: 1,
        borderTop: 0,
        borderColor: 'edge',
        borderLeft: 4,
        borderLeftColor: 'now',
        px: 0.75,
        pb: 0.75,
      }}
    >
      {name !== null && (
        <TextField
          autoFocus
          fullWidth
          value={name}
          slotProps={{ htmlInput: { 'aria-label': 'Name of the underlay', maxLength: 200 } }}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => {
            if (e.key === 'Enter') rename();
            if (e.key === 'Escape') setName(null);
          }}
          sx={{ mb: 0.5 }}
        />
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', px: 0.75, gap: 1.25 }}>
        <Typography variant="caption">Faded</Typography>
        <Slider
          size="small"
          min={0}
          max={0.9}
          step={0.1}
          value={fade ?? u.fade}
          aria-label="Faded"
          onChange={(_, v) => setFade(v as number)}
          onChangeCommitted={(_, v) => {
            set({ fade: v as number }, 'Fade');
            setFade(null);
          }}
        />
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        {button('Find', () => table.show(boxOfUnderlay(u)))}
        {button(u.visible ? 'Hide' : 'Show', () => set({ visible: !u.visible }, u.visible ? 'Hide' : 'Show'))}
        {button(u.locked ? 'Unlock' : 'Lock', () => set({ locked: !u.locked }, u.locked ? 'Unlock' : 'Lock'))}
        {button(u.snap ? 'Snap off' : 'Snap on', () =>
          set({ snap: !u.snap }, u.snap ? 'Turn snap off for' : 'Turn snap on for'),
        )}
        {button('Rename', () => setName(u.name))}
        {button(
          'Move',
          () =>
            table.take(
              moveTool(u, (dx, dy) =>
                set(
                  {
                    placement: [
                      u.placement[0],
                      u.placement[1],
                      u.placement[2],
                      u.placement[3],
                      u.placement[4] + dx,
                      u.placement[5] + dy,
                    ],
                  },
                  'Move',
                ),
              ),
            ),
          u.locked,
        )}
        {button('Lift up', () => session.do(stepInStack(session.state.model, u, 1), `Lift up ${u.name}`))}
        {button('Lower', () => session.do(stepInStack(session.state.model, u, -1), `Lower ${u.name}`))}
        {button('Duplicate', () => {
          const copy = duplicateOf(session.state.model, u);
          if (session.do({ type: 'add', entity: copy }, `Duplicate ${u.name}`)) table.setUnderlay(copy.id);
        })}
        {others.length > 0 && (
          <Button
            disabled={u.locked}
            aria-haspopup="menu"
            onClick={(e) => setLaying(e.currentTarget)}
            sx={{ px: 0.75, fontSize: 12.5 }}
          >
            Lay on …
          </Button>
        )}
        {button('Remove', () => setRemoving(true), u.locked)}
      </Box>
      <Menu anchorEl={laying} open={laying !== null} onClose={() => setLaying(null)}>
        {others.map((p) => (
          <MenuItem
            key={p.id}
            onClick={() => {
              setLaying(null);
              if (session.do(setFields(u, { planeId: p.id }), `Lay ${u.name} on ${p.name}`.slice(0, 200)))
                goToPlane(table, p.id, u.id);
            }}
          >
            {p.name}
            <Typography component="span" variant="caption" color="text.secondary" sx={{ ml: 1 }}>
              {roleWord(p)}
            </Typography>
          </MenuItem>
        ))}
      </Menu>
      {u.locked && (
        <Typography variant="caption" color="text.secondary" sx={{ px: 0.75 }}>
          Locked: unlock it to move, scale or remove it.
        </Typography>
      )}
      {removing && <RemoveUnderlay underlay={u} onDone={() => setRemoving(false)} />}
    </Box>
  );

  function moveTool(underlay: Underlay, done: (dx: number, dy: number) => void) {
    return new PicksTool({
      id: 'move-underlay',
      steps: [
        `Move ${underlay.name}: pick a point of it`,
        'Pick where that point is to lie · Shift holds the axis',
      ],
      done: ([a, b]) => {
        done(b.plane[0] - a.plane[0], b.plane[1] - a.plane[1]);
        table.layDown();
      },
    });
  }
}

function RemoveUnderlay({ underlay: u, onDone }: { underlay: Underlay; onDone(): void }) {
  const session = useSession();
  const table = useTable();
  const model = session.state.model;
  const remove = () => {
    const stack = stackOf(model, u.planeId),
      at = stack.findIndex((o) => o.id === u.id),
      next = stack[at + 1] ?? stack[at - 1];
    // The next one in the stack is the current one then: what is done goes on with it.
    if (session.do(removeUnderlays(model, [u]), `Remove ${u.name}`)) table.setUnderlay(next?.id ?? null);
    onDone();
  };
  return (
    <Confirm title={`Take ${u.name} off the table?`} action="Take it off" onNo={onDone} onYes={remove}>
      {removalWords(dependentsOf(model, [u]))}The file stays attached, and undo brings the sheet back.
    </Confirm>
  );
}
