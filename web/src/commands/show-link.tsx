'use client';

import Button, { type ButtonProps } from '@mui/material/Button';
import { IconPlayerPlay } from '@tabler/icons-react';
import type { Command } from './command';
import { isShowable, useShown } from './shown';

/** Leads to half a minute of the tool at work. */
export function ShowLink({ command, ...more }: { command: Command } & Pick<ButtonProps, 'sx' | 'color'>) {
  const show = useShown((s) => s.show);
  if (!isShowable(command)) return null;
  return (
    <Button
      size="small"
      aria-label={`Show ${command.short ?? command.words} at work`}
      startIcon={<IconPlayerPlay size={14} stroke={1.8} />}
      onClick={() => show(command.id)}
      {...more}
    >
      Show
    </Button>
  );
}
