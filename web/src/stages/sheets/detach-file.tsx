'use client';

import { group, ofType, type Change } from '@calque/core/model';
import { api } from '@/project/api';
import { useSession } from '@/project/context';
import { dependentsOf, removalWords, removeUnderlays } from '@/project/removal';
import { count } from '@/project/trace-words';
import type { FileInfo } from '@/project/wire';
import { Confirm } from '@/ui/confirm';

const detachWords = (laid: number, solids: number): string => {
  if (laid > 0) return 'Take them off and detach';
  return solids > 0 ? 'Remove these and detach' : 'Detach it';
};

/** Says what hangs on a file before it is detached; its underlays go with it. */
export function DetachFile({ file, onDone }: { file: FileInfo; onDone(): void }) {
  const session = useSession();
  const { model } = session.state;
  const laid = ofType(model, 'underlay').filter((u) => u.fileId === file.id),
    solids = ofType(model, 'feature').filter((f) => f.fileId === file.id);
  const detach = async () => {
    onDone();
    const goes = group([
      removeUnderlays(model, laid),
      ...solids.map((entity): Change => ({ type: 'remove', entity })),
    ]);
    if (goes && !session.do(goes, `Detach ${file.name}`)) return;
    try {
      // The server lets a file go only when nothing lies on the table from it any more.
      await session.allSent();
      await api.removeFile(session.projectId, file.id);
    } catch (error) {
      session.tell(error instanceof Error ? error.message : String(error), true);
    }
    await session.refreshFiles();
  };
  return (
    <Confirm
      title={`Detach ${file.name}?`}
      action={detachWords(laid.length, solids.length)}
      onNo={onDone}
      onYes={() => void detach()}
    >
      {laid.length === 0 && file.pages > 0 && 'None of its pages lies on the table. '}
      {laid.length > 0 && (
        <>
          {laid.length === 1 ? 'One sheet lies' : `${laid.length} sheets lie`} on the table from it (
          {laid.map((u) => u.name).join(', ')}) and {laid.length === 1 ? 'is' : 'are'} taken off.{' '}
          {removalWords(dependentsOf(model, laid))}
        </>
      )}
      {solids.length > 0 &&
        `${count(solids.length, 'feature')} of parts ${solids.length === 1 ? 'takes' : 'take'} its solid and ${solids.length === 1 ? 'is' : 'are'} removed. `}
      The file itself is removed from the project and cannot be brought back by undo; attach it again when you
      need it.
    </Confirm>
  );
}
