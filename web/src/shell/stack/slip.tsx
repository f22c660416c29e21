'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';

/** A slip that others can be dropped on: they then lie just above it. */
export interface DragOver {
  over: boolean;
  onOver(on: boolean): void;
  onDrop(movedId: string): void;
}
const SLIP_TYPE = 'application/x-calque-slip';

interface SlipProps {
  title: string;
  aside: string;
  state: string;
  colour: string;
  shift: number;
  current?: boolean;
  id?: string;
  drag: DragOver;
  onClick(): void;
}

export function Slip({ title, aside, state, colour, shift, current, id, drag, onClick }: SlipProps) {
  return (
    <ButtonBase
      onClick={onClick}
      aria-pressed={current}
      draggable={id !== undefined}
      onDragStart={(e: React.DragEvent) => {
        e.dataTransfer.setData(SLIP_TYPE, id ?? '');
        e.dataTransfer.effectAllowed = 'move';
      }}
      onDragOver={(e: React.DragEvent) => {
        if (!e.dataTransfer.types.includes(SLIP_TYPE)) return;
        e.preventDefault();
        drag.onOver(true);
      }}
      onDragLeave={() => drag.onOver(false)}
      onDrop={(e: React.DragEvent) => {
        const moved = e.dataTransfer.getData(SLIP_TYPE);
        if (moved === '') return;
        e.preventDefault();
        e.stopPropagation();
        if (moved !== id) drag.onDrop(moved);
        else drag.onOver(false);
      }}
      sx={{
        borderTop: drag.over ? 3 : 1,
        borderTopColor: drag.over ? 'now' : 'edge',
        display: 'block',
        textAlign: 'left',
        width: 232,
        ml: `${shift}px`,
        bgcolor: 'slip',
        borderRight: 1,
        borderBottom: 1,
        borderRightColor: 'edge',
        borderBottomColor: 'edge',
        borderLeft: current ? 4 : 1,
        borderLeftColor: current ? 'now' : 'edge',
        px: 1.4,
        py: 0.9,
        boxShadow: '1px 2px 4px rgba(23,39,58,.10)',
        mt: '-1px',
      }}
    >
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Typography noWrap sx={{ fontWeight: 650, flex: 1, fontSize: 13.5 }}>
          {title}
        </Typography>
        <Typography variant="caption" color="text.secondary" noWrap>
          {aside}
        </Typography>
      </Box>
      <Typography variant="caption" sx={{ color: colour, display: 'block' }}>
        {state}
      </Typography>
    </ButtonBase>
  );
}
