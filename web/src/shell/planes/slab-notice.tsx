'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useProject } from '@/project/context';
import { slabPlane, useSeen } from '@/project/seen';

/** Says that not all of the building is shown, wherever it is looked at, and takes that back. */
export function SlabNotice({ top }: { top: number }) {
  const model = useProject((s) => s.model),
    slabId = useSeen((s) => s.slabId),
    slab = slabId === null ? null : slabPlane(model);
  if (!slab) return null;
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
      Only the depth of {slab.name} is shown
      <Button onClick={() => useSeen.setState({ slabId: null })}>Show all</Button>
    </Box>
  );
}
