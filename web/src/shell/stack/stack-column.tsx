'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { lookOf, ofType, planeOf, storeysOf } from '@calque/core/model';
import { traceTally, traceWords } from '@/project/trace-words';
import { useProject, useSession } from '@/project/context';
import { isImperial, stackOf } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { moveInStack, TRACE } from './stack-order';
import { runOrTell, type StageId } from '@/commands/command';
import { useCommand } from '@/commands/context';
import { roleWord } from '@calque/core/planes';
import { goToPlane } from '../planes/plane-tools';
import { Slip, type DragOver } from './slip';
import { UnderlaySlip } from './underlay-slip';

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
