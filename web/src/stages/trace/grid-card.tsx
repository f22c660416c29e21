'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { formatNumber } from '@calque/core/units';
import { useProject } from '@/project/context';
import { useTable, useTableState } from '@/table/context';
import { useKeyOf } from '@/commands/context';
import { LengthField } from '@/ui/length-field';
import { flipGrid, gridHere, hasOwnGrid, setGrid, setOwnGrid, takeGridTool } from './grid';

/** The grid that picks find, with its spacing each way. */
export function GridCard() {
  const table = useTable();
  const tool = useTableState((s) => s.toolId);
  useProject((s) => s.model);
  useTableState((s) => s.planeId);
  const key = useKeyOf('grid');
  const own = hasOwnGrid(table);
  const grid = gridHere(table),
    {
      origin: [x, y],
      angle,
    } = grid,
    moved = x !== 0 || y !== 0 || angle !== 0;
  return (
    <Box data-testid="grid">
      <Button aria-pressed={grid.shown} onClick={() => flipGrid(table)}>
        {grid.shown ? `Grid is on${key}` : `Grid is off${key}`}
      </Button>
      {grid.shown && (
        <>
          <Box sx={{ display: 'flex', gap: 1, my: 1, alignItems: 'flex-start' }}>
            <LengthField
              label="Across"
              value={grid.across}
              onChange={(across) => setGrid(table, { across }, 'Change the spacing of the grid')}
            />
            <LengthField
              label="Up"
              value={grid.up}
              onChange={(up) => setGrid(table, { up }, 'Change the spacing of the grid')}
            />
          </Box>
          <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', alignItems: 'center' }}>
            <Button
              variant={tool === 'grid' ? 'contained' : 'outlined'}
              aria-pressed={tool === 'grid'}
              onClick={() => takeGridTool(table)}
            >
              Place by two picks
            </Button>
            <Button aria-pressed={own} onClick={() => setOwnGrid(table, !own)}>
              {own ? "Use the project's grid here" : 'A grid of its own here'}
            </Button>
            {moved && (
              <Button
                onClick={() =>
                  setGrid(table, { origin: [0, 0], angle: 0 }, 'Put the grid back to the origin')
                }
              >
                Back to the origin
              </Button>
            )}
          </Box>
          <Typography variant="caption" color="text.secondary">
            {own ? 'Of this plane alone. ' : ''}
            {moved
              ? `Placed on the drawing, turned by ${formatNumber((angle * 180) / Math.PI, 1)}°.`
              : 'Begins at the origin.'}
          </Typography>
        </>
      )}
    </Box>
  );
}
