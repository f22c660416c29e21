import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** One thing that can be delivered: what it holds, and how it is written. */
export function Row({ title, words, children }: { title: string; words: string; children: ReactNode }) {
  return (
    <Box sx={{ borderTop: 1, borderColor: 'edge', py: 1.25 }}>
      <Typography variant="h3">{title}</Typography>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block', mb: 0.75 }}>
        {words}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1, rowGap: 0.25, alignItems: 'center' }}>
        {children}
      </Box>
    </Box>
  );
}
