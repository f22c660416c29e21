import {
  ofType,
  settingsOf,
  type Model,
  type Part,
  type PrintedSource,
  type WorkPlane,
} from '../../model/index.ts';
import { dot3 } from '../../geometry/index.ts';
import type { SheetUnit } from '../callouts/index.ts';
import { rulesOn } from '../rules/of-plane.ts';

/** The planes of a part. */
export const partPlanes = (model: Model, partId: string): WorkPlane[] =>
  ofType(model, 'plane').filter((p) => p.partId === partId);

/** The planes from which a part is seen on its drawing: those that lie on no face of it, and others that say a figure; each way of looking once. */
export function drawnPlanes(model: Model, part: Part): WorkPlane[] {
  const all = partPlanes(model, part.id).filter(
    (p) => !p.face || rulesOn(model, p.id).some((r) => r.value !== null),
  );
  return all.filter((p, i) => all.findIndex((q) => looksAlike(p, q)) === i);
}
const looksAlike = (p: WorkPlane, q: WorkPlane): boolean =>
  [p.across, p.up].every((v, k) => dot3(v, [q.across, q.up][k]) > 1 - 1e-9);

/** The printed figures that drive on these planes. */
export const drivingSources = (model: Model, planes: readonly WorkPlane[]): PrintedSource[] =>
  planes.flatMap((p) =>
    rulesOn(model, p.id).flatMap((r) => (r.printed && r.value !== null ? [r.printed] : [])),
  );

/** What bare figures of a project's sheets are in. */
export const sheetUnitOf = (model: Model): SheetUnit => (IMPERIAL.has(settingsOf(model).units) ? 'in' : 'mm');
const IMPERIAL: ReadonlySet<string> = new Set(['ft', 'ft-in', 'in']);
