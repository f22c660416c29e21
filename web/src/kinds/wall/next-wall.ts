import { fieldsOfType, get, type Model, type TypedFields, type WallType } from '@calque/core/model';
import { useTraceState } from '@/drawing/state';

/** The type of the next wall; null for one with a thickness of its own. */
export const nextWallType = (model: Model): WallType | null =>
  get(model, 'wallType', useTraceState.getState().wallType);

/** How thick the next wall is, of what, and by which face it is drawn. */
export function nextWall(model: Model): Pick<TypedFields, 'thickness' | 'alignment'> & Partial<TypedFields> {
  const { thickness, alignment, core } = useTraceState.getState(),
    type = nextWallType(model);
  return type ? fieldsOfType(type, { alignment, core }) : { thickness, alignment };
}

/** Whether its thickness was typed or measured on the plan. */
export const nextThicknessFrom = (model: Model): 'typed' | 'measured' =>
  nextWallType(model) ? 'typed' : useTraceState.getState().thicknessFrom;
