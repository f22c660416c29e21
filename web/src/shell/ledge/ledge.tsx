'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import type { SxProps } from '@mui/material/styles';
import Tooltip from '@mui/material/Tooltip';
import { useRef, type KeyboardEvent } from 'react';
import { runOrTell, type Command, type LedgePart, type MakingPart } from '@/commands/command';
import { isInHand, useRegistry } from '@/commands/context';
import { ShowLink } from '@/commands/show-link';
import { keyWords } from '@/commands/key-words';
import { useLately } from '@/commands/lately';
import { useProject, useSession } from '@/project/context';
import { useTableState } from '@/table/context';
import { RULER } from '../measures';
import { Drawn } from './drawn';
import { useLedge } from './state';

const PARTS: readonly (readonly [MakingPart | 'change', string])[] = [
  ['building', 'Building'],
  ['frame', 'Frame'],
  ['drawing', 'Drawing'],
  ['levels', 'Grid, levels'],
  ['change', 'Change'],
];
/** What the ledge holds where that is not what can be drawn. */
const HOLDS: Partial<Record<LedgePart, string>> = {
  change: 'What can be done',
  calibrate: 'What brings the sheet to scale and place',
  check: 'What can be measured',
};
/** So many of what was used lately are kept near. */
const NEAR = 3;

/** Where the instruments lie: what can be made, or what can be done with what is selected. */
export function Ledge({ part, height, small }: { part: LedgePart; height: number; small: boolean }) {
  const registry = useRegistry();
  const bar = useRef<HTMLDivElement>(null);
  const commands = registry.list
    .filter((c) => c.on?.includes(part))
    .sort((a, b) => (a.rank ?? 0) - (b.rank ?? 0));
  const isTrace = part !== 'calibrate' && part !== 'check';
  /** Arrows go from one to the next; Tab goes to the first, or to the one in hand, and on. */
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, Home: -Infinity, End: Infinity }[event.key];
    const all = [...(bar.current?.querySelectorAll<HTMLElement>('[data-instrument]') ?? [])],
      at = all.indexOf(document.activeElement as HTMLElement);
    if (step === undefined || at < 0) return;
    event.preventDefault();
    event.stopPropagation();
    all[Math.max(0, Math.min(all.length - 1, at + step))].focus();
  };
  return (
    <Box
      component="section"
      aria-label="Instruments"
      sx={{
        position: 'absolute',
        inset: `auto 0 ${RULER}px 0`,
        height,
        bgcolor: 'ledge',
        borderTop: 1,
        borderColor: 'edge',
        display: 'flex',
        alignItems: 'stretch',
      }}
    >
      {isTrace && <Parts small={small} />}
      <Box
        ref={bar}
        role="toolbar"
        aria-label={HOLDS[part] ?? 'What can be drawn'}
        onKeyDown={onKey}
        sx={{
          flex: 1,
          minWidth: 0,
          display: 'flex',
          alignItems: 'flex-end',
          overflowX: 'auto',
          overflowY: 'clip',
          overflowClipMargin: '10px',
          scrollbarWidth: 'none',
          pl: isTrace ? 0.5 : 2,
          // What stands up reaches over the ledge's edge.
          mt: '-8px',
          pt: '8px',
        }}
      >
        {commands.map((c, i) => (
          <Instrument key={c.id} command={c} small={small} first={i === 0} height={height} />
        ))}
      </Box>
      {isTrace && !small && <Lately shown={commands} />}
    </Box>
  );
}

function Parts({ small }: { small: boolean }) {
  const { open, show } = useLedge();
  return (
    <Box
      role="tablist"
      aria-label="What is being made"
      sx={{
        display: 'grid',
        gridTemplateColumns: small ? 'repeat(5, auto)' : 'repeat(3, auto)',
        gap: small ? 0.25 : 0,
        alignContent: 'center',
        px: 1,
        mr: 0.75,
        borderRight: 1,
        borderColor: 'edge',
      }}
    >
      {PARTS.map(([id, word]) => (
        <ButtonBase
          key={id}
          role="tab"
          aria-selected={open === id}
          onClick={() => show(id)}
          sx={{
            justifyContent: 'flex-start',
            fontSize: 12.5,
            fontWeight: 650,
            px: 1,
            minHeight: 26,
            whiteSpace: 'nowrap',
            color: open === id ? 'text.primary' : 'text.secondary',
            borderLeft: 3,
            borderColor: open === id ? 'now' : 'transparent',
          }}
        >
          {word}
        </ButtonBase>
      ))}
    </Box>
  );
}

/** What is in hand stands up, dark; what cannot be used now is dimmed. */
const instrumentLook = (
  width: number,
  height: number,
  { inHand, small, can }: { inHand: boolean; small: boolean; can: boolean },
): SxProps => ({
  position: 'relative',
  flex: 'none',
  width,
  height: inHand ? height + 6 : height - 1,
  flexDirection: 'column',
  justifyContent: 'flex-end',
  pb: small ? 0.5 : 0.75,
  color: inHand ? 'primary.contrastText' : 'text.primary',
  bgcolor: inHand ? 'primary.main' : undefined,
  '&:hover': { bgcolor: inHand ? 'primary.main' : 'action.hover' },
  '& > *': { opacity: can ? 1 : 0.55 },
});

function CornerKey({ of: key, inHand }: { of: string; inHand: boolean }) {
  return (
    <Box
      component="span"
      aria-hidden
      sx={{
        position: 'absolute',
        top: 3,
        right: 'max(4px, calc(50% - 26px))',
        fontSize: 10.5,
        color: inHand ? 'inherit' : 'text.secondary',
      }}
    >
      {keyWords(key).replace('Shift ', '⇧').replace('Delete', 'Del')}
    </Box>
  );
}

function Instrument({
  command: c,
  small,
  first,
  height,
}: {
  command: Command;
  small: boolean;
  first: boolean;
  height: number;
}) {
  const session = useSession();
  const tool = useTableState((s) => s.toolId);
  // Whether it can be used follows these.
  useTableState((s) => s.selection);
  useTableState((s) => s.underlayId);
  useTableState((s) => s.planeId);
  useTableState((s) => s.toolWords);
  useProject((s) => s.model);
  const why = c.why?.() ?? null,
    inHand = isInHand(c, tool),
    word = c.short ?? c.words;
  const width = small ? 44 : Math.max(44, 10 + 6.1 * word.length);
  return (
    <Tooltip
      title={
        <>
          {why ?? `${c.words}${c.key ? ` (${keyWords(c.key)})` : ''}`}
          <ShowLink command={c} color="inherit" sx={{ display: 'flex', py: 0, mt: 0.25, minHeight: 24 }} />
        </>
      }
      describeChild
      placement="top"
      enterDelay={500}
      enterNextDelay={200}
    >
      <ButtonBase
        data-instrument
        aria-label={word}
        aria-keyshortcuts={c.key?.includes(' ') ? undefined : c.key}
        aria-disabled={why !== null || undefined}
        {...(c.tool !== undefined && { 'aria-pressed': inHand })}
        tabIndex={inHand || first ? 0 : -1}
        onClick={() => runOrTell(c, session)}
        sx={instrumentLook(width, height, { inHand, small, can: why === null })}
      >
        {c.key && !small && <CornerKey of={c.key} inHand={inHand} />}
        {c.picture && <Drawn picture={c.picture} size={small ? 32 : 34} />}
        {!small && (
          <Box
            component="span"
            sx={{ fontSize: 11.5, fontWeight: 600, lineHeight: 1.35, whiteSpace: 'nowrap' }}
          >
            {word}
          </Box>
        )}
      </ButtonBase>
    </Tooltip>
  );
}

/** What was used a minute ago and does not lie open now. */
function Lately({ shown }: { shown: readonly Command[] }) {
  const registry = useRegistry();
  const session = useSession();
  const ids = useLately((s) => s.ids);
  const near = ids
    .filter((id) => !shown.some((c) => c.id === id))
    .slice(0, NEAR)
    .map((id) => registry.get(id))
    .filter((c) => c.on?.some((p) => p !== 'calibrate' && p !== 'check'));
  if (near.length === 0) return null;
  return (
    <Box
      role="group"
      aria-label="Used lately"
      sx={{
        flex: 'none',
        display: 'flex',
        alignItems: 'flex-end',
        borderLeft: 1,
        borderColor: 'edge',
        px: 0.75,
        position: 'relative',
      }}
    >
      <Box
        component="span"
        aria-hidden
        sx={{ position: 'absolute', top: 3, left: 10, fontSize: 10.5, color: 'text.secondary' }}
      >
        lately
      </Box>
      {near.map((c) => (
        <ButtonBase
          key={c.id}
          onClick={() => runOrTell(c, session)}
          sx={{ flexDirection: 'column', px: 0.75, pb: 0.75, minHeight: 44, fontSize: 11.5, fontWeight: 600 }}
        >
          {c.picture && <Drawn picture={c.picture} size={30} />}
          {c.short}
        </ButtonBase>
      ))}
    </Box>
  );
}
