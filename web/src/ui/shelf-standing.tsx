'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect } from 'react';
import type { Shelved } from '@calque/core/model';
import { useSession } from '@/project/context';
import { followShelf, putOnShelf, standingOf, useShelf } from '@/project/shelf';

const small = { py: 0, px: 0.75, minWidth: 0 } as const;

/** How a wall type or a group stands to the shelf that is kept for all projects, and what can be done about it. */
export function ShelfStanding({ thing }: { thing: Shelved }) {
  const session = useSession(),
    { things, isKnown, state, fetch } = useShelf();
  useEffect(() => {
    if (state === 'unknown') void fetch();
  }, [state, fetch]);
  // Nothing is said of a shelf that is not known.
  if (!isKnown || state === 'failed') return null;
  const standing = standingOf(thing, things);
  if (standing === 'same')
    return (
      <Typography variant="caption" color="text.secondary" sx={{ px: 0.75 }}>
        as on the shelf
      </Typography>
    );
  const put = () => void putOnShelf(session, thing);
  if (standing === 'differs')
    return (
      <Box>
        <Typography variant="caption" sx={{ color: 'differs', px: 0.75 }}>
          ≠ differs from the shelf
        </Typography>
        <Button sx={small} onClick={() => followShelf(session, thing)}>
          Make it as there
        </Button>
        <Button sx={small} onClick={put}>
          Put this there
        </Button>
      </Box>
    );
  return (
    <Button sx={small} onClick={put}>
      {standing === 'gone' ? 'Not on this shelf: put it there' : 'Put on the shelf'}
    </Button>
  );
}
