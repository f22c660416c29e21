import type { Traced } from '../kinds/index.ts';
import { isTraced, SETTINGS_ID } from './entities.ts';
import type {
  DrawingGrid,
  Entity,
  EntityType,
  PlaneEntity,
  Settings,
  Storey,
  WorkPlane,
} from './entities.ts';
import { EntityMap } from './entity-map.ts';

/** A project's entities by id. Never changed in place: applying a change gives the next model. */
export type Model = EntityMap;

export const EMPTY_MODEL: Model = EntityMap.EMPTY;

export const modelOf = (entities: Iterable<Entity>): Model => EntityMap.of(entities);

export const ofType = <T extends EntityType>(model: Model, type: T) =>
  model.ofType(type) as Extract<Entity, { type: T }>[];

/** All that has been traced on a plane, in the order in which it came. */
export const tracedOn = (model: Model, planeId: string): Traced[] => model.onPlane(planeId).filter(isTraced);
/** All that has been traced. */
export const allTraced = (model: Model): Traced[] => [...model.values()].filter(isTraced);

export function get<T extends EntityType>(
  model: Model,
  type: T,
  id: string | null | undefined,
): Extract<Entity, { type: T }> | null {
  const e = id ? model.get(id) : undefined;
  return e && e.type === type ? (e as Extract<Entity, { type: T }>) : null;
}

/** Planes of the building that are no storey's floor: those of parts are in a space of their own. */
export const buildingPlanes = (model: Model): WorkPlane[] => ofType(model, 'plane').filter((p) => !p.partId);

/** The plane of an id: a storey or a plane of its own; null where there is none. */
export const planeOf = (model: Model, id: string | null | undefined): PlaneEntity | null =>
  get(model, 'storey', id) ?? get(model, 'plane', id);

/** The grid of a plane: its own, else the project's; null where neither has been set. */
export const gridOn = (model: Model, planeId: string): DrawingGrid | null =>
  planeOf(model, planeId)?.grid ?? settingsOf(model).grid ?? null;

/** Storeys, the lowest first. */
export const storeysOf = (model: Model): Storey[] =>
  ofType(model, 'storey').sort((a, b) => a.elevation - b.elevation);

export function settingsOf(model: Model): Settings {
  return (
    get(model, 'settings', SETTINGS_ID) ?? {
      type: 'settings',
      id: SETTINGS_ID,
      name: '',
      units: 'mm',
      precision: 0,
    }
  );
}

/** Height that a new storey takes until a person states it, millimetres. */
export const USUAL_STOREY_HEIGHT = 2700;

export const groundStorey = (id: string): Storey => ({
  type: 'storey',
  id,
  name: 'Ground floor',
  elevation: 0,
  height: USUAL_STOREY_HEIGHT,
  heightAssumed: true,
});
