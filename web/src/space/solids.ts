'use client';

import { useEffect, useState } from 'react';
import type { Model } from '@calque/core/model';
import type { Scene } from '@calque/core/solids';
import { makeOfBuilding } from '@/project/building-task';

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
    const task = makeOfBuilding(
      model,
      { make: 'scene' },
      {
        onProgress: (share) => setSolids((s) => ({ ...s, share })),
        onEnd: (end) => {
          if ('done' in end) setSolids({ scene: end.done.scene ?? null, share: null, why: null });
          else if (end.error.name !== 'Stopped')
            setSolids((s) => ({ ...s, share: null, why: end.error.message }));
        },
      },
    );
    return () => task.stop();
  }, [model]);
  return solids;
}
