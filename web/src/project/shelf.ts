import { create } from 'zustand';
import {
  forShelf,
  fromShelf,
  intoProject,
  isSameThing,
  retyped,
  setFields,
  type Change,
  type Model,
  type Shelved,
  type ShelfThing,
} from '@calque/core/model';
import { api, ApiError } from './api';
import type { ProjectSession } from './session';
import type { OnShelf } from './wire';

/** What is kept for all projects, as it was fetched last. */
interface ShelfState {
  things: readonly OnShelf[];
  /** Has it been fetched once? Before that nothing is known of what is on it. */
  isKnown: boolean;
  state: 'unknown' | 'fetching' | 'there' | 'failed';
  why: string | null;
  fetch(): Promise<void>;
}

export const useShelf = create<ShelfState>((set, get) => ({
  things: [],
  isKnown: false,
  state: 'unknown',
  why: null,
  fetch: async () => {
    if (get().state === 'fetching') return;
    set({ state: 'fetching' });
    try {
      const things = await api.shelf();
      things.sort((a, b) => a.thing.name.localeCompare(b.thing.name));
      set({ things, isKnown: true, state: 'there', why: null });
    } catch (error) {
      set({ state: 'failed', why: error instanceof Error ? error.message : String(error) });
    }
  },
}));

const label = (words: string) => words.slice(0, 190);
const placeOf = (id: string | null | undefined): OnShelf | null =>
  (id && useShelf.getState().things.find((t) => t.thing.id === id)) || null;

/** How what a project has stands to the shelf. */
export type Standing = 'not there' | 'same' | 'differs' | 'gone';

/** Only where the shelf is known. */
export function standingOf(thing: Shelved, things: readonly OnShelf[]): Standing {
  if (!thing.shelfId) return 'not there';
  const there = things.find((t) => t.thing.id === thing.shelfId);
  if (!there) return 'gone';
  return isSameThing(thing, there.thing) ? 'same' : 'differs';
}

/** Tells what went wrong, and looks at the shelf again. */
async function changing(session: ProjectSession, work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    session.tell(error instanceof ApiError ? error.message : String(error), true);
    return false;
  } finally {
    await useShelf.getState().fetch();
  }
}

/** Puts what a project has on the shelf, in the place from which it came where it did. */
export async function putOnShelf(session: ProjectSession, thing: Shelved): Promise<void> {
  const there = placeOf(thing.shelfId),
    kept = forShelf(there ? thing : { ...thing, shelfId: null }, crypto.randomUUID());
  const done = await changing(session, () => api.putOnShelf(kept, there?.version ?? 0));
  if (!done || there) return;
  const now = session.state.model.get(thing.id);
  if (now?.type === thing.type)
    session.do(
      setFields<Shelved>(now as Shelved, { shelfId: kept.id }),
      label(`Keep ${thing.name} on the shelf`),
    );
}

/** Puts a thing that no project has on the shelf. */
export const putNewOnShelf = (session: ProjectSession, thing: ShelfThing): Promise<boolean> =>
  changing(session, () => api.putOnShelf(thing, 0));

export const renameOnShelf = (session: ProjectSession, { thing, version }: OnShelf, name: string) =>
  changing(session, () => api.putOnShelf({ ...thing, name }, version));

export const takeOffShelf = (session: ProjectSession, { thing, version }: OnShelf) =>
  changing(session, () => api.takeOffShelf(thing.id, version));

/** What the shelf has in a project: what came from there before, or a copy that is made now; null where it could not be added. */
export function takeFromShelf(session: ProjectSession, thing: Shelved): Shelved | null {
  const { model } = session.state,
    known = fromShelf(model, thing);
  if (known) return known;
  const own = intoProject(model, thing, crypto.randomUUID());
  return session.do({ type: 'add', entity: own }, label(`Take ${own.name} from the shelf`)) ? own : null;
}

/** Is there anything of a project that came from a place of the shelf? */
export const isTaken = (model: Model, thing: ShelfThing): boolean => fromShelf(model, thing) !== null;

/** Makes what a project has the same as on the shelf, in one step: all walls of a type follow, and all places of a group. */
export function followShelf(session: ProjectSession, thing: Shelved): void {
  const there = placeOf(thing.shelfId)?.thing,
    { model } = session.state;
  if (!there) return;
  const change = asThere();
  if (change) session.do(change, label(`Make ${thing.name} as on the shelf`));

  function asThere(): Change | null {
    if (thing.type === 'wallType' && there?.type === 'wallType')
      return retyped(model, { ...thing, layers: there.layers });
    return thing.type === 'assembly' && there?.type === 'assembly'
      ? setFields(thing, { elements: there.elements })
      : null;
  }
}
