'use client';

import Box from '@mui/material/Box';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import {
  IconDots,
  IconEye,
  IconEyeOff,
  IconLock,
  IconLockOpen,
  IconMagnet,
  IconMagnetOff,
} from '@tabler/icons-react';
import { useState } from 'react';
import { lookOf, ofType, setFields, storeysOf, type Underlay } from '@calque/core/model';
import { roleWord } from '@calque/core/planes';
import { useProject, useSession } from '@/project/context';
import { TINTS } from '@/project/tints';
import { boxOfUnderlay } from '@/project/views';
import { useTable } from '@/table/context';
import type { Table } from '@/table/table';
import { PicksTool } from '@/table/tools/picks-tool';
import { FadeLine } from '@/ui/fade-line';
import { MarkButton } from '@/ui/icon-button';
import { goToPlane } from '../planes/plane-tools';
import { RemoveUnderlays } from './remove-underlays';
import { SLIP_WIDTH } from './slip';
import { duplicateOf, stepInStack } from './stack-order';

const ICON = { size: 17, stroke: 1.6 } as const;

/** What can be done with the current sheet: seen, locked, snapped to, faded; all else behind the dots. */
export function UnderlayControls({ underlay: u, shift }: { underlay: Underlay; shift: number }) {
  const session = useSession();
  const [name, setName] = useState<string | null>(null);
  const [removing, setRemoving] = useState(false);
  const set = (fields: Partial<Omit<Underlay, 'id' | 'type'>>, label: string) =>
    session.do(setFields(u, fields), `${label} ${u.name}`);
  const rename = () => {
    if (name?.trim()) set({ name: name.trim() }, 'Rename');
    setName(null);
  };
  return (
    <Box
      sx={{
        width: SLIP_WIDTH,
        ml: `${shift}px`,
        bgcolor: 'slip',
        border: 1,
        borderTop: 0,
        borderColor: 'edge',
        borderLeft: 4,
        borderLeftColor: 'now',
        px: 0.75,
        pb: 0.5,
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
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <MarkButton
          word={u.visible ? 'Hide' : 'Show'}
          onClick={() => set({ visible: !u.visible }, u.visible ? 'Hide' : 'Show')}
        >
          {u.visible ? <IconEye {...ICON} /> : <IconEyeOff {...ICON} />}
        </MarkButton>
        <MarkButton
          word={u.locked ? 'Unlock' : 'Lock'}
          onClick={() => set({ locked: !u.locked }, u.locked ? 'Unlock' : 'Lock')}
        >
          {u.locked ? <IconLock {...ICON} /> : <IconLockOpen {...ICON} />}
        </MarkButton>
        <MarkButton
          word={u.snap ? 'Snap off' : 'Snap on'}
          onClick={() => set({ snap: !u.snap }, u.snap ? 'Turn snap off for' : 'Turn snap on for')}
        >
          {u.snap ? <IconMagnet {...ICON} /> : <IconMagnetOff {...ICON} />}
        </MarkButton>
        <Box sx={{ flex: 1, px: 1.25, display: 'flex' }}>
          <FadeLine value={u.fade} onChange={(fade) => set({ fade }, 'Fade')} />
        </Box>
        <MoreMenu underlay={u} onRename={() => setName(u.name)} onRemove={() => setRemoving(true)} />
      </Box>
      {u.locked && (
        <Typography variant="caption" color="text.secondary" sx={{ px: 0.75 }}>
          Locked: unlock it to move, scale or remove it.
        </Typography>
      )}
      {removing && <RemoveUnderlays underlays={[u]} onDone={() => setRemoving(false)} />}
    </Box>
  );
}

/** All else that can be done with a sheet. */
function MoreMenu({
  underlay: u,
  onRename,
  onRemove,
}: {
  underlay: Underlay;
  onRename(): void;
  onRemove(): void;
}) {
  const session = useSession();
  const table = useTable();
  const model = useProject((s) => s.model);
  const [at, setAt] = useState<HTMLElement | null>(null);
  const [tinting, setTinting] = useState(false);
  const others = [...storeysOf(model), ...ofType(model, 'plane')].filter((p) => p.id !== u.planeId);
  const item = (words: string, act: () => void, disabled = false, divider = false) => (
    <MenuItem
      key={words}
      disabled={disabled}
      divider={divider}
      onClick={() => {
        setAt(null);
        act();
      }}
    >
      {words}
    </MenuItem>
  );
  const tints = TINTS.map(([words, tint]) => (
    <MenuItem
      key={words}
      role="menuitemradio"
      aria-checked={lookOf(u).tint === tint}
      selected={lookOf(u).tint === tint}
      onClick={() => {
        setAt(null);
        session.do(setFields(u, { look: { ...lookOf(u), tint } }), `Tint ${u.name}`.slice(0, 200));
      }}
    >
      <Box
        sx={{
          width: 12,
          height: 12,
          mr: 1,
          bgcolor: tint === null ? undefined : hex(tint),
          border: tint === null ? 1 : 0,
          borderColor: 'edge',
        }}
      />
      {words}
    </MenuItem>
  ));
  const duplicate = () => {
    const copy = duplicateOf(session.state.model, u);
    if (session.do({ type: 'add', entity: copy }, `Duplicate ${u.name}`)) table.setUnderlay(copy.id);
  };
  return (
    <>
      <MarkButton
        word="More"
        aria-haspopup="menu"
        onClick={(e) => {
          setTinting(false);
          setAt(e.currentTarget);
        }}
      >
        <IconDots {...ICON} />
      </MarkButton>
      {/* What is chosen may take the cursor itself, as renaming does. */}
      <Menu anchorEl={at} open={at !== null} onClose={() => setAt(null)} disableRestoreFocus>
        {tinting
          ? tints
          : [
              item('Rename', onRename),
              item('Find', () => table.show(boxOfUnderlay(u))),
              item('Move', () => table.hold(moveTool(u, table)), u.locked),
              item('Lift up', () => session.do(stepInStack(session.state.model, u, 1), `Lift up ${u.name}`)),
              item('Lower', () => session.do(stepInStack(session.state.model, u, -1), `Lower ${u.name}`)),
              item('Duplicate', duplicate),
              <MenuItem key="tint" divider={others.length > 0} onClick={() => setTinting(true)}>
                Tint …
              </MenuItem>,
              ...others.map((p) => (
                <MenuItem
                  key={p.id}
                  disabled={u.locked}
                  onClick={() => {
                    setAt(null);
                    if (
                      session.do(setFields(u, { planeId: p.id }), `Lay ${u.name} on ${p.name}`.slice(0, 200))
                    )
                      goToPlane(table, p.id, u.id);
                  }}
                >
                  Lay on {p.name}
                  <Typography component="span" variant="caption" color="text.secondary" sx={{ ml: 1 }}>
                    {roleWord(p)}
                  </Typography>
                </MenuItem>
              )),
              item('Take off the table …', onRemove, u.locked),
            ]}
      </Menu>
    </>
  );
}

const hex = (colour: number) => `#${colour.toString(16).padStart(6, '0')}`;

function moveTool(u: Underlay, table: Table): PicksTool {
  return new PicksTool({
    id: 'move-underlay',
    steps: [`Move ${u.name}: pick a point of it`, 'Pick where that point is to lie · Shift holds the axis'],
    done: ([a, b]) => {
      const { session } = table,
        now = session.state.model.get(u.id);
      table.layDown();
      if (now?.type !== 'underlay') return;
      const [ax, ay, bx, by, x, y] = now.placement;
      const placement: Underlay['placement'] = [
        ax,
        ay,
        bx,
        by,
        x + b.plane[0] - a.plane[0],
        y + b.plane[1] - a.plane[1],
      ];
      session.do(setFields(now, { placement }), `Move ${u.name}`);
    },
  });
}
