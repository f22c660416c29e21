import 'server-only';
import { listen, type Notice as StoreNotice } from '@calque/store';
import { database } from './database';

type Listener = (notice: StoreNotice) => void;
const holder = globalThis as {
  calqueListeners?: Map<string, Set<Listener>>;
  calqueListening?: Promise<unknown>;
};

/** One LISTEN connection per process serves all open pages of that process. */
export async function onNotices(projectIds: readonly string[], listener: Listener): Promise<() => void> {
  holder.calqueListeners ??= new Map();
  const all = holder.calqueListeners;
  holder.calqueListening ??= listen(database(), (notice) =>
    all.get(notice.projectId)?.forEach((l) => l(notice)),
  ).catch((error: unknown) => {
    holder.calqueListening = undefined;
    throw error;
  });
  await holder.calqueListening;
  for (const id of projectIds) all.set(id, (all.get(id) ?? new Set()).add(listener));
  return () => {
    for (const id of projectIds) {
      const listeners = all.get(id);
      listeners?.delete(listener);
      if (listeners?.size === 0) all.delete(id);
    }
  };
}
