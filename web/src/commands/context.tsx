'use client';

import Button, { type ButtonProps } from '@mui/material/Button';
import { createContext, useContext } from 'react';
import { useSession } from '@/project/context';
import { useTableState } from '@/table/context';
import { runOrTell, type Command } from './command';
import { keyWords } from './key-words';
import type { Registry } from './registry';

export const RegistryContext = createContext<Registry | null>(null);

export function useRegistry(): Registry {
  const registry = useContext(RegistryContext);
  if (!registry) throw new Error('There are no commands around this.');
  return registry;
}

export const useCommand = (id: string): Command => useRegistry().get(id);

/** Those of all commands that are of some sort. */
export function useCommands(are: (command: Command) => boolean): readonly Command[] {
  return useRegistry().list.filter(are);
}

/** Is the tool in hand the command's? */
export const isInHand = (command: Command, tool: string): boolean =>
  command.tool !== undefined && tool === command.tool && (command.inHand?.() ?? true);

/** The key of a command as it is shown behind its words; nothing where it has none. */
export function useKeyOf(id: string): string {
  const { key } = useCommand(id);
  return key ? ` (${keyWords(key)})` : '';
}

/** A command as a button: what it says, its key, whether its tool is in hand, and why it cannot be run. */
export function CommandButton({
  id,
  label,
  hides,
  ...more
}: {
  id: string;
  /** Instead of its short word and key. */
  label?: string;
  /** Not shown at all where it cannot be run. */
  hides?: boolean;
} & Pick<ButtonProps, 'sx'>) {
  const session = useSession();
  const command = useCommand(id);
  const tool = useTableState((s) => s.toolId);
  // What a command works on changes with the selection.
  useTableState((s) => s.selection);
  const why = command.why?.() ?? null;
  if (hides && why !== null) return null;
  const inHand = isInHand(command, tool);
  const key = command.key ? ` (${keyWords(command.key)})` : '';
  return (
    <Button
      variant={inHand ? 'contained' : 'outlined'}
      {...(command.tool !== undefined && { 'aria-pressed': inHand })}
      title={why ?? undefined}
      aria-disabled={why !== null || undefined}
      onClick={() => runOrTell(command, session)}
      {...more}
      sx={[why !== null && { color: 'text.secondary', borderStyle: 'dotted' }, ...[more.sx ?? {}].flat()]}
    >
      {label ?? `${command.short ?? command.words}${key}`}
    </Button>
  );
}
