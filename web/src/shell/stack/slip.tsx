'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { LEFT_WIDTH } from '../measures';

/** A slip that others can be dropped on: they then lie just above it. */
export interface DragOver {
  over: boolean;
  onOver(on: boolean): void;
  onDrop(movedId: string): void;
}
const SLIP_TYPE = 'application/x-calque-slip';
/** Slips lie a little askew, as sheets do; so much is left for that. */
export const SLIP_WIDTH = LEFT_WIDTH - 14;

interface SlipProps {
  title: string;
  aside: string;
  state: string;
  colour: string;
  shift: number;
  current?: boolean;
  /** Chosen together with others, by Ctrl or Shift and a click. */
  marked?: boolean;
  id?: string;
  /** A mark lies over the end of its second line. */
  marksOver?: boolean;
  drag: DragOver;
  onClick(event: React.MouseEvent): void;
}

/** A sheet of the stack in two lines: its name, and its state in words. */
export function Slip({
  title,
  aside,
  state,
  colour,
  shift,
  current,
  marked,
  marksOver,
  id,
  drag,
  onClick,
}: SlipProps) {
  return (
    <ButtonBase
      onClick={onClick}
      aria-pressed={current || marked}
      title={state}
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
        width: SLIP_WIDTH,
        ml: `${shift}px`,
        bgcolor: marked ? 'knownWash' : 'slip',
        borderRight: 1,
        borderBottom: 1,
        borderRightColor: 'edge',
        borderBottomColor: 'edge',
        borderLeft: current || marked ? 4 : 1,
        borderLeftColor: current ? 'now' : marked ? 'found' : 'edge',
        px: 1.25,
        py: 0.75,
        boxShadow: '1px 2px 4px rgba(23,39,58,.10)',
        mt: '-1px',
      }}
    >
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Typography noWrap sx={{ fontWeight: 650, flex: 1, fontSize: 13 }}>
          {title}
        </Typography>
        <Typography variant="caption" color="text.secondary" noWrap>
          {aside}
        </Typography>
      </Box>
      <Typography variant="caption" noWrap sx={{ color: colour, display: 'block', pr: marksOver ? 3 : 0 }}>
        {state}
      </Typography>
    </ButtonBase>
  );
}
