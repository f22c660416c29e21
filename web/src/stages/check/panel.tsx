'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { ofType } from '@calque/core/model';
import { formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { useTable, useTableState } from '@/table/context';
import { ChecksTable } from '@/ui/checks-table';
import { Figure } from '@/ui/figure';
import { takeMeasureTool, useMeasure } from './measure';

/** Measure, compare with the printed figures, list what is assumed. */
export function CheckPanel() {
  const table = useTable();
  const session = useSession();
  const tool = useTableState((s) => s.toolId);
  const model = useProject((s) => s.model);
  const style = useFromModel(lengthStyle);
  const last = useMeasure((s) => s.last);
  const checks = ofType(model, 'check');
  const assumed = ofType(model, 'wall').filter((w) => w.heightAssumed);
  const storeys = ofType(model, 'storey').filter((s) => s.heightAssumed);
  const dx = last ? Math.abs(last.to[0] - last.from[0]) : 0, dy = last ? Math.abs(last.to[1] - last.from[1]) : 0;
  return (
    <Box>
      <Typography variant="h2">Check</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>Measure again, and hold the sheet against its printed figures.</Typography>
      <Button variant={tool === 'measure' ? 'outlined' : 'contained'} onClick={() => takeMeasureTool(table)}>Measure a distance (M)</Button>
      {last && (
        <Box data-testid="measured" sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', rowGap: 1, mt: 1.5 }}>
          <Figure label="Straight" value={formatLengthWithUnit(Math.hypot(dx, dy), style)} />
          <Figure label="Angle" value={`${formatNumber((Math.atan2(last.to[1] - last.from[1], last.to[0] - last.from[0]) * 180) / Math.PI, 2)}°`} />
          <Figure label="Horizontal" value={formatLengthWithUnit(dx, style)} />
          <Figure label="Vertical" value={formatLengthWithUnit(dy, style)} />
        </Box>
      )}
      <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>Printed against measured</Typography>
      {checks.length === 0 ? <Typography color="text.secondary">No known dimensions yet. Enter some with K.</Typography> : <ChecksTable checks={checks} onRemove={(c) => session.do({ type: 'remove', entity: c }, 'Remove a known dimension')} />}
      <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>Assumed, until someone confirms it</Typography>
      {storeys.map((s) => <Typography key={s.id} sx={{ color: 'assumed' }}>Height of {s.name}: {formatLengthWithUnit(s.height, style)}</Typography>)}
      {assumed.length > 0
        ? <Button onClick={() => table.setSelection(assumed.map((w) => w.id))}>{assumed.length === 1 ? 'The height of one wall' : `The heights of ${assumed.length} walls`}: select them</Button>
        : storeys.length === 0 && <Typography color="text.secondary">Nothing is assumed.</Typography>}
    </Box>
  );
}
