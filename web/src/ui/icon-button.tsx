'use client';

import IconButton, { type IconButtonProps } from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import type { ReactNode } from 'react';

/** A small mark whose word comes on hover and focus, and for screen readers. */
export function MarkButton({
  word,
  name = word,
  children,
  sx,
  ...more
}: {
  word: string;
  /** What it is called where its word says more than that. */ name?: string;
  children: ReactNode;
} & Omit<IconButtonProps, 'aria-label' | 'title' | 'name'>) {
  return (
    <Tooltip title={word} enterDelay={300}>
      <span>
        <IconButton
          aria-label={name}
          {...more}
          sx={[{ width: 26, height: 26, color: 'text.primary' }, ...[sx ?? {}].flat()]}
        >
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
