'use client';

import Typography from '@mui/material/Typography';
import { keepsLevel, levelsOfMembers } from '@calque/core/framing';
import type { Member } from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { useFromModel, useProject } from '@/project/context';
import { lengthStyle } from '@/project/views';

/** Ends that were put at printed levels: how far the sheet's drawing is off, and whether they still lie there. */
export function LevelsList({ chosen }: { chosen: readonly Member[] }) {
  const model = useProject((s) => s.model),
    style = useFromModel(lengthStyle);
  if (!chosen.some((m) => m.levels)) return null;
  const ids = new Set(chosen.map((m) => m.id)),
    mm = (v: number) => formatLengthWithUnit(Math.abs(v), style);
  return levelsOfMembers(model)
    .filter((l) => ids.has(l.id))
    .map((l) => {
      const off = l.drawn - l.level,
        drawn = Math.abs(off) < 0.05 ? 'as drawn' : `drawn ${mm(off)} ${off > 0 ? 'higher' : 'lower'}`;
      return (
        <Typography
          key={`${l.id}${l.end}`}
          variant="caption"
          component="div"
          sx={{ mt: 0.5, ...(!keepsLevel(l) && { color: 'differs' }) }}
        >
          {l.end === 'start' ? 'Start' : 'End'} at {l.text} as printed, {drawn}
          {keepsLevel(l)
            ? '.'
            : `; it lies ${mm(l.now - l.level)} ${l.now > l.level ? 'above' : 'below'} that now.`}
        </Typography>
      );
    });
}
