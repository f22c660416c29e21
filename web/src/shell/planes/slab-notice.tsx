'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useProject } from '@/project/context';
import { slabPlane, useSeen } from '@/project/seen';
import { useTable, useTableState } from '@/table/context';

/** Words of what is shown alone, cut where they are many. */
const MOST_WORDS = 60;

/** Says that not all of the building is shown, wherever it is looked at, and takes that back. */
export function SlabNotice({ top }: { top: number }) {
  const table = useTable(),
    model = useProject((s) => s.model),
    alone = useTableState((s) => s.alone),
    slabId = useSeen((s) => s.slabId),
    slab = slabId === null ? null : slabPlane(model);
  if (!slab && !alone) return null;
  const words =
    alone && alone.words.length > MOST_WORDS ? `${alone.words.slice(0, MOST_WORDS)}…` : alone?.words;
  return (
    <Box
      role="status"
      sx={{
        position: 'absolute',
        top,
        left: '50%',
        transform: 'translateX(-50%)',
        zIndex: 3,
        bgcolor: 'slip',
        border: 1,
        borderColor: 'edge',
        pl: 1.5,
        display: 'flex',
        alignItems: 'center',
        gap: 1,
      }}
    >
      {words
        ? `Shown alone: ${words}${slab ? `, within the depth of ${slab.name}` : ''}`
        : `Only the depth of ${slab!.name} is shown`}
      <Button
        onClick={() => {
          useSeen.setState({ slabId: null });
          table.setAlone(null);
        }}
      >
        Show all
      </Button>
    </Box>
  );
}
