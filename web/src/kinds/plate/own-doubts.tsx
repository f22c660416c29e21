'use client';

import Typography from '@mui/material/Typography';
import { joinedFrame } from '@calque/core/framing';
import { useProject } from '@/project/context';

/** What of plates or bolts that are drawn by themselves does not come out. */
export function OwnDoubts({ ids }: { ids: readonly string[] }) {
  const model = useProject((s) => s.model),
    words = joinedFrame(model)
      .doubts.filter((d) => ids.includes(d.id))
      .map((d) => `${d.words.replace(/^./, (c) => c.toUpperCase())}.`);
  return [...new Set(words)].map((w) => (
    <Typography key={w} variant="caption" component="div" sx={{ mt: 0.5, color: 'differs' }}>
      {w}
    </Typography>
  ));
}
