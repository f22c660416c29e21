'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import { IconChevronDown, IconChevronRight } from '@tabler/icons-react';
import { useState, type ReactNode } from 'react';

/** Something that is seldom needed, behind its words. */
export function Unfold({ words, children }: { words: string; children: ReactNode }) {
  const [open, setOpen] = useState(false),
    Icon = open ? IconChevronDown : IconChevronRight;
  return (
    <Box sx={{ mt: 0.5 }}>
      <ButtonBase aria-expanded={open} onClick={() => setOpen(!open)} sx={{ gap: 0.5, py: 0.25 }}>
        <Icon size={14} stroke={1.8} /> {words}
      </ButtonBase>
      {open && children}
    </Box>
  );
}
