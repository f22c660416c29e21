import { useEffect } from 'react';
import { get } from '@calque/core/model';
import { makeOfBuilding } from '@/project/building-task';
import { useProject } from '@/project/context';
import { hasSolids, useSeen } from '@/project/seen';
import { useTable, useTableState } from '@/table/context';

/** So long after the last change the building is looked at anew, milliseconds. */
const CALM = 250;

/** Keeps what is seen of the building from the upright plane in hand, made by a worker whenever either has changed. */
export function useSeenFromHere(): void {
  const table = useTable(),
    model = useProject((s) => s.model),
    planeId = useTableState((s) => s.planeId);
  const isWanted = useSeen((s) => s.isWanted),
    slabId = useSeen((s) => s.slabId),
    plane = get(model, 'plane', planeId),
    wanted = isWanted && plane !== null && !plane.partId && hasSolids(model);
  useEffect(() => {
    const known = useSeen.getState();
    // On plans, where most steps are made, there is nothing to put away.
    if (known.seen && (!wanted || known.planeId !== planeId)) {
      useSeen.setState({ seen: null });
      table.repaint('trace');
    }
    if (!wanted) return;
    let stop = () => {};
    const soon = setTimeout(() => {
      const task = makeOfBuilding(
        model,
        { make: 'seen', planeId },
        {
          onEnd: (end) => {
            // One that was stopped is followed by another, or is wanted no more.
            if ('done' in end) useSeen.setState({ planeId, seen: end.done.seen ?? null });
            else if (end.error.name !== 'Stopped') useSeen.setState({ seen: null });
            table.repaint('trace');
          },
        },
      );
      stop = task.stop;
    }, CALM);
    return () => {
      clearTimeout(soon);
      stop();
    };
  }, [table, model, planeId, wanted]);
  useEffect(() => table.repaint('trace', 'overlay'), [table, slabId]);
  // Another project begins with all of it in sight.
  useEffect(() => () => useSeen.setState(useSeen.getInitialState()), []);
}
