'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import type { Underlay } from '@calque/core/model';
import { useKeyOf } from '@/commands/context';
import { EDGE_WIDTH, STRIP } from '../measures';

const LONGEST = 150,
  SHORTEST = 44,
  LETTER = 7;

/** The stack folded: the edges of its sheets, one over the other, with their names. */
export function StackEdge({
  underlays,
  currentId,
  onFold,
}: {
  underlays: readonly Underlay[];
  currentId: string | null;
  onFold(): void;
}) {
  const key = useKeyOf('stack');
  return (
    <ButtonBase
      onClick={onFold}
      aria-expanded={false}
      aria-label={`Open the stack${key}`}
      title={`Open the stack${key}`}
      sx={{
        position: 'absolute',
        top: STRIP,
        bottom: 'auto',
        left: 0,
        width: EDGE_WIDTH,
        maxHeight: 'calc(100% - 160px)',
        overflow: 'hidden',
        flexDirection: 'column',
        alignItems: 'stretch',
        minHeight: 60,
      }}
    >
      {underlays.length === 0 && <Edge name="Stack" current={false} />}
      {underlays.map((u) => (
        <Edge key={u.id} name={u.name} current={u.id === currentId} />
      ))}
    </ButtonBase>
  );
}

function Edge({ name, current }: { name: string; current: boolean }) {
  return (
    <Box
      sx={{
        writingMode: 'vertical-rl',
        transform: 'rotate(180deg)',
        height: Math.max(SHORTEST, Math.min(LONGEST, LETTER * name.length + 16)),
        bgcolor: 'slip',
        border: 1,
        borderColor: 'edge',
        borderRight: current ? 4 : 1,
        borderRightColor: current ? 'now' : 'edge',
        fontSize: 11.5,
        fontWeight: current ? 650 : 500,
        overflow: 'hidden',
        textOverflow: 'ellipsis',
        whiteSpace: 'nowrap',
        px: '5px',
        py: '6px',
        textAlign: 'right',
      }}
    >
      {name}
    </Box>
  );
}
