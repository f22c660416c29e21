'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect } from 'react';
import { setFields, type Underlay } from '@calque/core/model';
import { useSession } from '@/project/context';
import { setDoubt } from '@/project/doubts';
import { statedShare } from '@/project/known';
import { useTable } from '@/table/context';
import { contradictionWords, doubtIn, speaksAgainst, takeWitness, takeWords } from './evidence';
import { usePrinted } from '@/drawing/printed';

/** Where the sheet, as far as it has been read, says another scale than the one it lies at: both, and one press for each. */
export function DoubtCard({ underlay: u }: { underlay: Underlay }) {
  const table = useTable();
  const session = useSession();
  // What is read of the sheet comes later than the sheet.
  usePrinted();
  const found =
    u.scaleState === 'calibrated' || u.scaleState === 'stated'
      ? speaksAgainst(u, u.placement, statedShare(u.calibration?.fit))
      : null;
  const said = found && doubtIn(found),
    key = said && `${said.kind} ${said.count} ${said.factor}`;
  useEffect(() => {
    setDoubt(u.id, said);
    // What is said is the same as long as its words are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [u.id, key]);
  if (!found) return null;
  const known = u.calibration?.against ?? null,
    asked = known !== null && Math.abs(known.factor / found.witnessed - 1) < 1e-3;
  const keep = () => {
    const change =
      u.calibration && setFields(u, { calibration: { ...u.calibration, against: doubtIn(found) } });
    if (change) session.do(change, `Keep the scale of ${u.name} against what it says`);
  };
  return (
    <Box
      data-testid="doubt"
      role="alert"
      sx={{ p: 1.25, mb: 1.25, borderLeft: 4, borderColor: 'differs', bgcolor: 'action.hover' }}
    >
      <Typography sx={{ color: 'differs', fontWeight: 650 }}>
        ≠ {contradictionWords(table, found, 'The sheet lies at')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, mt: 0.75, flexWrap: 'wrap' }}>
        <Button variant="contained" disabled={u.locked} onClick={() => takeWitness(table, u, found)}>
          {takeWords(table, found)}
        </Button>
        {!asked && u.calibration && (
          <Button variant="outlined" disabled={u.locked} onClick={keep}>
            Keep mine all the same
          </Button>
        )}
      </Box>
    </Box>
  );
}
