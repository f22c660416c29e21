import type { Model } from '@calque/core/model';
import { runTask, type Asked, type Task } from '@/workers/task';
import type { BuildingTask, FromBuilding, ToBuilding } from '@/workers/building-protocol';
import { buildingEntities } from './building-entities';

type Done = Extract<FromBuilding, { type: 'done' }>;

/** Has something made of the building by a worker of its own. */
export function makeOfBuilding(
  model: Model,
  task: BuildingTask,
  asked: Omit<Asked<ToBuilding, Done>, 'broken'>,
): Task<Done> {
  const worker = new Worker(new URL('../workers/building.worker.ts', import.meta.url), { type: 'module' });
  return runTask<ToBuilding, FromBuilding>(
    worker,
    { ...task, entities: buildingEntities(model) },
    { ...asked, broken: 'The building could not be worked out. Try again, or reload the page.' },
  );
}
