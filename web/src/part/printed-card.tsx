'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { type Part } from '@calque/core/model';
import { exactStyle, formatLength, formatNumber } from '@calque/core/units';
import { useFromModel, useProject } from '@/project/context';
import { count } from '@/project/trace-words';
import { lengthStyle } from '@/project/views';
import { isToScale, laidOn, useHeldFigures } from './held';
import { usePartSolid } from './part-solid';

interface Row {
  text: string;
  agrees: boolean;
  /** What it is instead; empty where it agrees. */
  words: string;
}

/** More rows than anybody reads in a card. */
const MOST = 60;

/** All that is printed on the sheets of a part, each held against the solid: what drives, and what does not. */
export function PrintedCard({ part }: { part: Part }) {
  const printed = usePartSolid((s) => s.solid?.printed ?? null),
    isOld = usePartSolid((s) => s.making !== null || s.why !== null),
    style = useFromModel(lengthStyle),
    laid = useProject((s) => s.model),
    { held, reading } = useHeldFigures(part);
  const sheets = laidOn(laid, part.id),
    unscaled = sheets.filter((u) => !isToScale(u)).length;
  if (!printed || (printed.length === 0 && sheets.length === 0)) return null;
  const said = (v: number) => formatLength(v, exactStyle(v, style)),
    instead = (model: number | null, words: string) =>
      words !== '' ? words : model === null ? 'not in the solid' : `the solid has ${said(model)}`;
  const rows: Row[] = [
    ...printed.map((p) => ({ text: p.text, agrees: p.agrees, words: p.agrees ? '' : instead(p.model, '') })),
    ...(held?.figures ?? []).map((p) => ({
      text: p.text,
      agrees: p.agrees,
      words: p.agrees ? '' : instead(p.model, p.words),
    })),
  ];
  const bad = rows.filter((r) => !r.agrees).length;
  return (
    <Box sx={{ mt: 1.5 }} data-testid="part-printed">
      <Typography variant="h3">Printed figures</Typography>
      <Typography
        role="status"
        sx={{ color: bad > 0 ? 'differs' : rows.length > 0 ? 'known' : 'text.secondary' }}
      >
        {reading
          ? 'The sheets are being read …'
          : rows.length === 0
            ? 'Nothing that these sheets print can be held against the solid.'
            : bad === 0
              ? `All ${rows.length} agree with the solid: ${printed.length} drive, ${rows.length - printed.length} are measured.`
              : `${bad} of ${rows.length} do not agree with the solid.`}
      </Typography>
      {[...rows]
        .sort((a, b) => Number(a.agrees) - Number(b.agrees))
        .slice(0, MOST)
        .map((r, i) => (
          <Box key={i} sx={{ display: 'flex', gap: 1 }}>
            <Typography sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>{r.text}</Typography>
            <Typography sx={{ flex: 1, textAlign: 'right', color: r.agrees ? 'known' : 'differs' }}>
              {r.agrees ? 'agrees' : r.words}
            </Typography>
          </Box>
        ))}
      {rows.length > MOST && (
        <Typography variant="caption">and {formatNumber(rows.length - MOST, 0)} more</Typography>
      )}
      {isOld && <Typography sx={{ color: 'assumed' }}>Of the part as it was made last.</Typography>}
      {unscaled > 0 && (
        <Typography sx={{ color: 'assumed' }}>
          {count(unscaled, 'sheet')} {unscaled === 1 ? 'is' : 'are'} not to scale yet: what{' '}
          {unscaled === 1 ? 'it prints' : 'they print'} is held against nothing.
        </Typography>
      )}
      {held !== null && held.left > 0 && (
        <Typography variant="caption" color="text.secondary">
          {held.left} more stand beside no view of this part, or are angles: nothing is said of them.
        </Typography>
      )}
    </Box>
  );
}
