'use client';

import { useEffect, useRef, useState } from 'react';
import type { Model } from '@calque/core/model';
import type { Scene } from '@calque/core/solids';
import { makeOfBuilding } from '@/project/building-task';

export interface Solids {
  /** While the first is made, the storeys of it that are done. */
  scene: Scene | null;
  /** How much of them is made, from 0 to 1; null while none are being made. */
  share: number | null;
  /** Why they could not be made. */
  why: string | null;
}

/** The solids of the model as it is, made by a worker; what was made before stays until they are there. */
export function useSolids(model: Model): Solids {
  const [solids, setSolids] = useState<Solids>({ scene: null, share: 0, why: null });
  const known = useRef(false);
  useEffect(() => {
    const task = makeOfBuilding(
      model,
      // What stood before stays until all of the next is there.
      { make: 'scene', partly: !known.current },
      {
        goesOn: ({ scene, more }) => {
          if (more) setSolids((s) => ({ ...s, scene: scene ?? null }));
          return more === true;
        },
        onProgress: (share) => setSolids((s) => ({ ...s, share })),
        onEnd: (end) => {
          if ('done' in end) {
            known.current = true;
            setSolids({ scene: end.done.scene ?? null, share: null, why: null });
          } else if (end.error.name !== 'Stopped')
            setSolids((s) => ({ ...s, share: null, why: end.error.message }));
        },
      },
    );
    return () => task.stop();
  }, [model]);
  return solids;
}
