import { newWallType, ofType, retyped, withoutType, type WallType } from '@calque/core/model';
import type { ProjectSession } from '@/project/session';
import { useTraceState } from '@/drawing/state';

const label = (words: string) => words.slice(0, 190);

/** A new type, as thick as the next wall; its id, null where it could not be added. */
export function addWallType(session: ProjectSession): string | null {
  const type = newWallType(
    crypto.randomUUID(),
    ofType(session.state.model, 'wallType').map((t) => t.name),
    useTraceState.getState().thickness,
  );
  return session.do({ type: 'add', entity: type }, label(`Add the wall type ${type.name}`)) ? type.id : null;
}

/** Another name or other layers of a type, and of all its walls, in one step. What speaks against it, in words. */
export function changeWallType(session: ProjectSession, next: WallType): string | null {
  const { model } = session.state,
    name = next.name.trim();
  if (name === '') return 'Give the type a name.';
  const other = ofType(model, 'wallType').find(
    (t) => t.id !== next.id && t.name.toLowerCase() === name.toLowerCase(),
  );
  if (other) return `There is a wall type "${other.name}" already.`;
  const change = retyped(model, { ...next, name });
  if (change) session.do(change, label(`Change the wall type ${name}`));
  return null;
}

export function removeWallType(session: ProjectSession, type: WallType): void {
  session.do(withoutType(session.state.model, type), label(`Remove the wall type ${type.name}`));
}
