'use client';

import Box from '@mui/material/Box';
import { IconX } from '@tabler/icons-react';
import { useEffect } from 'react';
import { useFloating, type FloatingCard } from '@/commands/floating';
import { AlongCard } from '@/kinds/member/along-card';
import { ScheduleCard } from '@/kinds/wall/schedule-card';
import { WallTypesCard } from '@/kinds/wall/types-card';
import { AloneCard } from '@/stages/trace/alone-card';
import { GridCard } from '@/stages/trace/grid-card';
import { GroupsCard } from '@/stages/trace/groups/groups-card';
import { LayersCard } from '@/stages/trace/layers-card';
import { ShelfCard } from '@/stages/trace/shelf/shelf-card';
import { SnapCard } from '@/stages/trace/snap-card';
import { MarkButton } from '@/ui/icon-button';
import { STRIP } from './measures';

const NAMES: Record<FloatingCard, string> = {
  picks: 'What picks find, and the grid',
  layers: 'Layers of the trace',
  groups: 'Groups',
  wallTypes: 'Wall types',
  shelf: 'The shelf, for all projects',
  schedule: 'Openings from a schedule',
  along: 'Copy a frame along',
  alone: 'Show some elements alone',
};

/** What was opened from the ruler or the stack, beside it, while work on the drawing goes on. `left`, `bottom`: what stands there, CSS pixels. */
export function FloatingCards({ left, bottom }: { left: number; bottom: number }) {
  const { open, show } = useFloating();
  // Another project begins with none.
  useEffect(() => () => show(null), [show]);
  if (open === null) return null;
  return (
    <Box
      role="dialog"
      aria-modal={false}
      aria-label={NAMES[open]}
      onKeyDown={(event) => {
        if (event.key === 'Escape') show(null);
      }}
      sx={{
        position: 'absolute',
        left: left + 8,
        ...(open === 'picks' ? { bottom: bottom + 10 } : { top: STRIP + 14 }),
        width: open === 'wallTypes' ? 420 : 322,
        maxHeight: `calc(100% - ${STRIP + bottom + 28}px)`,
        overflowY: 'auto',
        bgcolor: 'slip',
        border: 1,
        borderColor: 'edge',
        boxShadow: '0 4px 18px rgba(23,39,58,.14)',
        p: 1.5,
      }}
    >
      <MarkButton
        word="Close"
        onClick={() => show(null)}
        sx={{ position: 'absolute', top: 6, right: 6, color: 'text.secondary' }}
      >
        <IconX size={16} stroke={1.7} />
      </MarkButton>
      {open === 'layers' && <LayersCard />}
      {open === 'groups' && <GroupsCard />}
      {open === 'wallTypes' && <WallTypesCard />}
      {open === 'shelf' && <ShelfCard />}
      {open === 'schedule' && <ScheduleCard />}
      {open === 'along' && <AlongCard />}
      {open === 'alone' && <AloneCard />}
      {open === 'picks' && (
        <>
          <SnapCard />
          <Box sx={{ borderTop: 1, borderColor: 'edge', mt: 1, pt: 0.75 }}>
            <GridCard />
          </Box>
        </>
      )}
    </Box>
  );
}
