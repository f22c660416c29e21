'use client';

import { useEffect, useState } from 'react';
import { KINDS, ofType, TRACED_TYPES, type Entity, type Model } from '@calque/core/model';
import type { Scene } from '@calque/core/solids';
import { runTask } from '@/workers/task';
import type { FromSolids, ToSolids } from '@/workers/solids-protocol';

/** Types of which solids are made, or by which they are placed. */
const NEEDED = [
  'settings',
  'storey',
  'layer',
  'assembly',
  ...TRACED_TYPES.filter((t) => ['wall', 'slab', 'column', 'roof', 'stair', 'placed'].includes(t)),
] as const;

/** Whatever kind of element is added later and has solids is sent as well: see the test. */
export const SOLID_TYPES: readonly string[] = NEEDED.filter((t) => t in KINDS);

export interface Solids {
  scene: Scene | null;
  /** How much of them is made, from 0 to 1; null while none are being made. */
  share: number | null;
  /** Why they could not be made. */
  why: string | null;
}

/** The solids of the model as it is, made by a worker; what was made before stays until they are there. */
export function useSolids(model: Model): Solids {
  const [solids, setSolids] = useState<Solids>({ scene: null, share: 0, why: null });
  useEffect(() => {
    const worker = new Worker(new URL('../workers/solids.worker.ts', import.meta.url), { type: 'module' });
    const entities = NEEDED.flatMap((t): readonly Entity[] => ofType(model, t));
    const task = runTask<ToSolids, FromSolids>(
      worker,
      { entities },
      {
        broken: 'The solids could not be made. Close this view and open it again.',
        onProgress: (share) => setSolids((s) => ({ ...s, share })),
        onEnd: (end) => {
          if ('done' in end) setSolids({ scene: end.done.scene, share: null, why: null });
          else if (end.error.name !== 'Stopped')
            setSolids((s) => ({ ...s, share: null, why: end.error.message }));
        },
      },
    );
    return () => task.stop();
  }, [model]);
  return solids;
}
