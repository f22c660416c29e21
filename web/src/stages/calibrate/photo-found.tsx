'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { PrintedReading } from '@calque/core/calibration';
import type { PictureReading } from '@calque/core/ink';
import type { Underlay } from '@calque/core/model';
import { formatNumber } from '@calque/core/units';
import { useTable } from '@/table/context';
import { useStraighten } from './straighten';
import { straightenFound } from './straighten-found';

/** Why a photo cannot be laid to scale at once, and what comes then. */
const WITHOUT_SCALE = {
  unit: 'Made straight, its printed dimensions agree, but do not say their unit: that is asked then.',
  bar: 'It prints no dimensions that agree. Made straight, its graphic scale can be taken.',
  none: 'Made straight it can be measured; no scale was read on it, so a known dimension is needed then.',
};
const withoutScale = ({ views: [view] }: PrintedReading): keyof typeof WITHOUT_SCALE =>
  !view ? 'none' : view.from === 'bar' ? 'bar' : 'unit';

/** A photo at a slant, whose right angles say how it was taken: one press makes it a sheet of its own, straight and, where its dimensions agree, to scale. */
export function PhotoFound({
  underlay: u,
  reading,
  picture,
}: {
  underlay: Underlay;
  reading: PrintedReading;
  picture: PictureReading;
}) {
  const table = useTable();
  const doing = useStraighten((s) => s.doing);
  const view = reading.photo?.view ?? null,
    told = view === null ? null : reading.views[view];
  return (
    <Box
      data-testid="photo-found"
      sx={{ p: 1.25, bgcolor: 'knownWash', borderLeft: 4, borderColor: 'now', mb: 1.25 }}
    >
      <Typography sx={{ fontWeight: 650 }}>
        This is a photo at a slant: a length near measures more than the same length far away.
      </Typography>
      <Typography sx={{ mt: 0.5 }}>
        Its right angles say how it was taken.{' '}
        {told
          ? `Made straight, ${told.agreeing} of its ${told.agreeing + told.outliers} printed dimensions agree on one scale, within ${formatNumber(Math.max(0.01, told.uncertainty * 100), 2)} %.`
          : WITHOUT_SCALE[withoutScale(reading)]}
      </Typography>
      {told && (
        <Typography color="text.secondary">
          Its figures were recognised from the picture: look at a few before you rely on them.
        </Typography>
      )}
      <Button
        variant="contained"
        sx={{ mt: 1 }}
        disabled={u.locked || doing !== null}
        onClick={() => void straightenFound(table, u, reading, picture)}
      >
        {told ? 'Straighten it and lay it to scale' : 'Straighten it'}
      </Button>
    </Box>
  );
}
