import { get, planeOf, type Model } from '@calque/core/model';
import type { Table } from '@/table/table';

/** What of the view a browser keeps of a project: the storey in hand, and the others that show through. */
const keyOf = (projectId: string) => `calque-view-${projectId}`;

function kept(projectId: string): { planeId?: unknown; storeyId?: unknown; ghosts?: unknown } {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(keyOf(projectId)) ?? '{}');
    return typeof value === 'object' && value !== null ? value : {};
  } catch {
    return {};
  }
}

/** Takes up the storey and the ghosts as they were; what is gone since is left out. */
export function recallView(table: Table, projectId: string, model: Model): void {
  const { planeId, storeyId, ghosts } = kept(projectId),
    isStorey = (id: unknown): id is string => typeof id === 'string' && get(model, 'storey', id) !== null;
  // Kept before there were planes, it was called by the storey's name.
  const place = planeId ?? storeyId;
  if (typeof place === 'string' && planeOf(model, place)) table.setPlane(place);
  for (const id of Array.isArray(ghosts) ? ghosts.filter(isStorey) : []) table.setGhost(id, true);
}

/** Keeps storey and ghosts whenever they change; gives what ends that. */
export function keepView(table: Table, projectId: string): () => void {
  return table.state.subscribe(({ planeId, ghosts }, before) => {
    if (planeId === before.planeId && ghosts === before.ghosts) return;
    try {
      localStorage.setItem(keyOf(projectId), JSON.stringify({ planeId, ghosts: [...ghosts] }));
    } catch {
      // A browser that keeps nothing forgets this too.
    }
  });
}
