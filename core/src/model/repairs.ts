import { group, setFields, type Change } from './changes/index.ts';
import type { Traced } from '../kinds/index.ts';
import { isTraced, type Entity, type Storey, type Underlay } from './entities.ts';
import { get, ofType, planeOf, storeysOf, type Model } from './model.ts';

/**
 * What puts a project in order whose entities name things that are missing, as projects could before references were held: what lies
 * on no plane goes to the lowest storey, what is on no layer stands on none, what hangs on a missing sheet, group or file goes. Null where
 * all is in order. The project must have a storey.
 */
export function repairsOf(model: Model, hasFile: (id: string) => boolean): Change | null {
  const [lowest] = storeysOf(model);
  const gone = new Set<string>();
  for (const u of ofType(model, 'underlay')) if (!hasFile(u.fileId)) gone.add(u.id);
  for (const p of ofType(model, 'placed')) if (!get(model, 'assembly', p.assemblyId)) gone.add(p.id);
  for (const c of [...ofType(model, 'check'), ...ofType(model, 'calibration')])
    if (!get(model, 'underlay', c.underlayId) || gone.has(c.underlayId)) gone.add(c.id);
  return group(
    [...model.values()].map((e) =>
      gone.has(e.id) ? { type: 'remove', entity: e } : mended(e, model, lowest),
    ),
  );
}

function mended(e: Entity, model: Model, lowest: Storey): Change | null {
  if (!isTraced(e) && e.type !== 'underlay') return null;
  const planeId = planeOf(model, e.planeId) ? e.planeId : lowest.id;
  if (e.type === 'underlay') return setFields<Underlay>(e, { planeId });
  return setFields<Traced>(e, {
    planeId,
    ...(e.layerId && !get(model, 'layer', e.layerId) && { layerId: null }),
  });
}
