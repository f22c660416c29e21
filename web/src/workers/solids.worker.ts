/// <reference lib="webworker" />
import { modelOf } from '@calque/core/model';
import { sceneOf } from '@calque/core/solids';
import type { FromSolids, ToSolids } from './solids-protocol';

/** Makes the solids of a building away from the page. */
declare const self: DedicatedWorkerGlobalScope;

self.onmessage = ({ data: { entities } }: MessageEvent<ToSolids>) => {
  const say = (message: FromSolids, handed: Transferable[] = []) => self.postMessage(message, handed);
  try {
    const scene = sceneOf(modelOf([...entities]), (share) => say({ type: 'progress', share }));
    say(
      { type: 'done', scene },
      scene.groups.flatMap((g) => [g.triangles.buffer, g.edges.buffer]),
    );
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
