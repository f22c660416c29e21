'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useColorScheme } from '@mui/material/styles';
import useMediaQuery from '@mui/material/useMediaQuery';
import { IconPlayerPause, IconPlayerPlay } from '@tabler/icons-react';
import { useEffect, useRef, useState } from 'react';
import type { Command } from '@/commands/command';
import { keyWords } from '@/commands/key-words';
import { makeRegistry } from '@/commands/registry';
import { useTraceState } from '@/drawing/state';
import { lengthStyle } from '@/project/views';
import { useMeasure } from '@/stages/check/measure';
import { Table } from '@/table/table';
import { SelectTool } from '@/table/tools/select-tool';
import { allCommands } from '../commands';
import { asItWas } from './as-it-was';
import { fileOf, LineTiles, planSheets } from './plan-sheet';
import { Player, type Seen } from './player';
import { GivenSheets, practiceSession } from './practice';
import { SHOWINGS } from './showings';

const NOTHING = () => {};
/** What is shown is not the page around it: nothing of it opens. */
const NOWHERE = {
  foldStack: NOTHING,
  foldCard: NOTHING,
  help: NOTHING,
  show: NOTHING,
  openList: NOTHING,
  openSpace: NOTHING,
  openTakeoff: NOTHING,
};

function stage(container: HTMLDivElement, dark: boolean) {
  const linework = planSheets();
  const session = practiceSession(Object.entries(linework).map(([id, l]) => fileOf(id, l)));
  const sheets = new GivenSheets(linework);
  const table = new Table(
    container,
    session,
    sheets,
    (t) => new SelectTool(t, () => lengthStyle(session.state.model)),
    new LineTiles(sheets),
  );
  // The keys of the page are not for it.
  table.keys.close();
  table.setInsets({ left: 0, right: 0, top: 0, bottom: 0 });
  table.setDark(dark);
  const registry = makeRegistry(allCommands(NOWHERE), { table, session, goTo: NOTHING });
  return { table, registry };
}

/** A tool shown at work: half a minute of it, drawn by the program itself on a sheet of its own. */
export function ShowTool({
  command,
  onClose,
  onUse,
  pace = 1,
}: {
  command: Command;
  onClose(): void;
  onUse(): void;
  pace?: number;
}) {
  const [surface, setSurface] = useState<HTMLDivElement | null>(null);
  const [seen, setSeen] = useState<Seen | null>(null);
  const calm = useMediaQuery('(prefers-reduced-motion: reduce)', { noSsr: true });
  const [paused, setPaused] = useState(calm);
  const [done, setDone] = useState({ rounds: 0, did: 0 });
  const player = useRef<Player | null>(null);
  const { mode, systemMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';

  useEffect(() => {
    if (!surface) return;
    const restore = asItWas();
    const { table, registry } = stage(surface, dark);
    const first = new Player(table, registry, SHOWINGS[command.id], setSeen, pace);
    const did = () => setDone(({ did: n }) => ({ rounds: first.rounds, did: n + 1 }));
    const stops = [
      // A round begins with a model of its own; what comes after it are steps.
      table.session.store.subscribe((now, before) => {
        if (now.history !== before.history) did();
        else setDone((d) => ({ ...d, rounds: first.rounds }));
      }),
      // Some tools change nothing of the model: they measure, find a thickness, or select.
      useMeasure.subscribe((now, before) => now.last !== before.last && did()),
      useTraceState.subscribe(did),
      table.state.subscribe((now, before) => now.selection !== before.selection && did()),
    ];
    player.current = first;
    first.pause(calm);
    void first.play();
    return () => {
      stops.forEach((stop) => stop());
      first.stop();
      table.destroy();
      restore();
    };
  }, [surface, command.id, dark, calm, pace]);

  return (
    <Dialog open onClose={onClose} maxWidth={false} aria-labelledby="shown-tool">
      <DialogTitle id="shown-tool" sx={{ pb: 0.5 }}>
        {command.short ?? command.words}
        <Typography component="div" color="text.secondary">
          {command.words}
        </Typography>
      </DialogTitle>
      <DialogContent sx={{ pb: 0 }}>
        <Box
          role="img"
          aria-label={`${command.short ?? command.words}, shown at work. ${seen?.words ?? ''}`}
          data-testid="shown"
          data-rounds={done.rounds}
          data-did={done.did}
          sx={{
            position: 'relative',
            width: 'min(620px, 76vw)',
            height: 'min(430px, 52vh)',
            border: 1,
            borderColor: 'edge',
            overflow: 'hidden',
          }}
        >
          <Box ref={setSurface} sx={{ position: 'absolute', inset: 0 }} />
          {/* The pointer of whoever watches is not the one that is shown. */}
          <Box sx={{ position: 'absolute', inset: 0 }} />
          {seen && <Hand seen={seen} />}
        </Box>
        <Typography role="status" sx={{ minHeight: 44, pt: 1, maxWidth: 620 }}>
          {seen?.words}
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button
          startIcon={paused ? <IconPlayerPlay size={16} /> : <IconPlayerPause size={16} />}
          onClick={() => {
            player.current?.pause(!paused);
            setPaused(!paused);
          }}
        >
          {paused ? 'Play' : 'Pause'}
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" onClick={onUse}>
          Use it now{command.key ? ` (${keyWords(command.key)})` : ''}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The pointer that is shown, and what is typed. */
function Hand({ seen: { pointer, pressed, typed } }: { seen: Seen }) {
  return (
    <Box
      aria-hidden
      sx={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}
      style={{ transform: `translate(${pointer[0]}px, ${pointer[1]}px)` }}
    >
      <svg width="22" height="26" viewBox="-2 -2 20 24" style={{ position: 'absolute', left: -2, top: -2 }}>
        <path
          d="M0 0L0 16L4.5 12L7.5 19L10.5 17.6L7.6 11L13 11Z"
          fill="#17273a"
          stroke="#fffefa"
          strokeWidth="1.4"
        />
      </svg>
      {pressed && (
        <Box
          sx={{
            position: 'absolute',
            left: -13,
            top: -13,
            width: 26,
            height: 26,
            borderRadius: '50%',
            border: 2,
            borderColor: 'now',
          }}
        />
      )}
      {typed && (
        <Box
          sx={{
            position: 'absolute',
            left: 18,
            top: 16,
            whiteSpace: 'nowrap',
            bgcolor: 'primary.main',
            color: 'primary.contrastText',
            px: 1,
            py: 0.25,
            fontWeight: 650,
          }}
        >
          {keyWords(typed)}
        </Box>
      )}
    </Box>
  );
}
