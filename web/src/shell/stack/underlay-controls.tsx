'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { ofType, setFields, storeysOf, type Underlay } from '@calque/core/model';
import { useProject, useSession } from '@/project/context';
import { dependentsOf, removalWords, removeUnderlays } from '@/project/removal';
import { boxOfUnderlay, stackOf } from '@/project/views';
import { useTable } from '@/table/context';
import { PicksTool } from '@/table/tools/picks-tool';
import { Confirm } from '@/ui/confirm';
import { duplicateOf, stepInStack } from './stack-order';
import { roleWord } from '@calque/core/planes';
import { goToPlane } from '../planes/plane-tools';

export function UnderlayControls({ underlay: u, shift }: { underlay: Underlay; shift: number }) {
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
