import { useEffect, useRef, useState } from 'react';
import { runOrTell, type Command, type StageId } from '@/commands/command';
import { chordOf } from '@/commands/keys';
import type { Registry } from '@/commands/registry';
import type { ProjectSession } from '@/project/session';
import { isTyping, looksAround } from '@/table/input';
import type { Table } from '@/table/table';
import { keysOf, useLedge } from './ledge/state';

/** A second stroke is waited for so long. */
const PATIENCE_MS = 2500;

interface Begun {
  stroke: string;
  /** What may follow. */ follow: readonly Command[];
}

/** Keys of commands, of one stroke or two; gives the first of two while the second is waited for. */
export function useCommandKeys(
  registry: Registry,
  stage: StageId,
  { table, session, search }: { table: Table; session: ProjectSession; search(): void },
): Begun | null {
  const [begun, setBegun] = useState<Begun | null>(null);
  const now = useRef<Begun | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const begin = (next: Begun | null) => {
      clearTimeout(timer);
      now.current = next;
      setBegun(next);
      if (next) timer = setTimeout(() => begin(null), PATIENCE_MS);
    };
    const stops = [
      // What the first stroke has announced comes before all else that hears keys.
      table.keys.on('second stroke', (event) => {
        const first = now.current;
        if (!first || ['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return false;
        begin(null);
        const second = first.follow.find((c) => c.key === `${first.stroke} ${chordOf(event)}`);
        if (second) runOrTell(second, session);
        return second !== undefined || event.key === 'Escape';
      }),
      table.keys.on('commands', (event) => {
        if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
          search();
          return true;
        }
        if ((isTyping(event.target) && !looksAround(event)) || event.altKey) return false;
        const chord = chordOf(event),
          part = keysOf(stage, useLedge.getState().making);
        // A tool that waits for figures takes the digits itself.
        const { field } = table.state.getState();
        if (/^[\d,]$/.test(chord) && field && !field.onTab) return false;
        const command = registry.byKey(chord, part);
        if (command) {
          runOrTell(command, session);
          return true;
        }
        const follow = registry.startingWith(chord, part);
        if (follow.length > 0) begin({ stroke: chord, follow });
        return follow.length > 0;
      }),
    ];
    return () => {
      clearTimeout(timer);
      stops.forEach((stop) => stop());
    };
  }, [registry, stage, table, session, search]);
  return begun;
}
