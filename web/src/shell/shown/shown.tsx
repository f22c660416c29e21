'use client';

import dynamic from 'next/dynamic';
import { isInHand, useRegistry } from '@/commands/context';
import { runOrTell } from '@/commands/command';
import { IN_HAND, isShowable, useShown } from '@/commands/shown';
import { useSession } from '@/project/context';
import { useTable } from '@/table/context';

// What few need in a day is fetched when it is asked for.
const ShowTool = dynamic(() => import('./show-tool').then((m) => m.ShowTool), { ssr: false });

/** The tool that is shown at work, if one is. */
export function Shown() {
  const { id, show } = useShown();
  const registry = useRegistry();
  const session = useSession();
  const table = useTable();
  const command = registry.list.find((c) =>
    id === IN_HAND ? isShowable(c) && isInHand(c, table.currentTool.id) : c.id === id,
  );
  if (!command) return null;
  const pace = Number(new URLSearchParams(location.search).get('pace')) || 1;
  return (
    <ShowTool
      key={command.id}
      command={command}
      pace={Math.min(100, Math.max(0.25, pace))}
      onClose={() => show(null)}
      onUse={() => {
        show(null);
        // What it remembers is put back before it is taken in hand.
        setTimeout(() => runOrTell(command, session));
      }}
    />
  );
}
