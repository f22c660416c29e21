'use client';

import Typography from '@mui/material/Typography';
import { get, type Placed } from '@calque/core/model';
import { useProject } from '@/project/context';

/** Which group it is. */
export function PlacedFields({ chosen }: { chosen: readonly Placed[] }) {
  const model = useProject((s) => s.model);
  if (chosen.length !== 1) return null;
  return (
    <Typography sx={{ fontWeight: 650 }}>{get(model, 'assembly', chosen[0].assemblyId)?.name}</Typography>
  );
}
