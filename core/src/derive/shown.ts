import { asCut } from '../framing/index.ts';
import {
  closedLayers,
  isTraced,
  kindOf,
  looseOf,
  rested,
  shownOf,
  tracedOn,
  withMembers,
  type Changed,
  type Model,
  type Traced,
} from '../model/index.ts';

/** What is put away for the moment: elements by their ids, and all construction lines. One is never changed: another is given. */
export interface Away {
  ids: ReadonlySet<string>;
  construction: boolean;
}

/** Is what is marked as done part of what shows? Layers out of sight are not. */
export interface Sight {
  showsDone: boolean;
  away: Away | null;
  hidden: ReadonlySet<string>;
}

/** Ids by the ids on which they hang; both ways, so that one that changes is let go of. */
class Hanging {
  private readonly by = new Map<string, Set<string>>();
  private readonly on = new Map<string, readonly string[]>();

  hang(id: string, on: readonly string[]): void {
    for (const was of this.on.get(id) ?? []) this.by.get(was)?.delete(id);
    if (on.length === 0) this.on.delete(id);
    else this.on.set(id, on);
    for (const now of on) {
      const set = this.by.get(now);
      if (set) set.add(id);
      else this.by.set(now, new Set([id]));
    }
  }

  of(id: string): Iterable<string> {
    return this.by.get(id) ?? [];
  }
}

/**
 * What shows of what has been traced on a plane: dimensions with their points where what they rest on is now, placed groups with
 * their elements, without what is out of sight. Follows the model by what has changed in it.
 */
export class Shown {
  readonly elements = new Map<string, Traced>();
  /** What rests on other elements, and what is placed of a group. */
  private readonly hanging = new Hanging();

  constructor(private readonly planeId: string) {}

  /** Everything anew; gives the ids of what came and what went. */
  remake(model: Model, sight: Sight): ReadonlySet<string> {
    const before = new Map(this.elements);
    this.elements.clear();
    for (const id of before.keys()) this.hanging.hang(id, []);
    for (const e of tracedOn(model, this.planeId)) this.put(e, model, sight, before.get(e.id));
    const touched = new Set<string>();
    for (const [id, e] of this.elements) if (before.get(id) !== e) touched.add(id);
    for (const id of before.keys()) if (!this.elements.has(id)) touched.add(id);
    return touched;
  }

  /** Follows what has changed in the model; gives the ids of what shows otherwise now, or no more. */
  follow(
    model: Model,
    changes: readonly Changed[],
    sight: Sight,
    /** Told of each that may show otherwise, before it does. */
    before: (id: string) => void = () => {},
  ): ReadonlySet<string> {
    const wanted = new Set<string>();
    for (const { before, now } of changes) {
      const { id } = (now ?? before)!;
      if ([before, now].some((e) => e && isTraced(e) && e.planeId === this.planeId)) wanted.add(id);
      for (const hung of this.hanging.of(id)) wanted.add(hung);
      for (const e of [before, now]) for (const met of metBy(e)) wanted.add(met);
    }
    const touched = new Set<string>();
    for (const id of wanted) {
      before(id);
      const was = this.elements.get(id),
        e = model.get(id);
      if (e && isTraced(e) && e.planeId === this.planeId) this.put(e, model, sight, was);
      else this.drop(id);
      if (this.elements.get(id) !== was) touched.add(id);
    }
    return touched;
  }

  private put(e: Traced, model: Model, { hidden, showsDone, away }: Sight, was: Traced | undefined): void {
    if ((e.layerId && hidden.has(e.layerId)) || (e.done && !showsDone) || (away && isAway(e, away))) {
      this.drop(e.id);
      return;
    }
    const { rests } = kindOf(e);
    this.hanging.hang(
      e.id,
      e.type === 'placed' ? [e.assemblyId] : (rests?.on(e).flatMap((a) => (a ? [a.id] : [])) ?? []),
    );
    this.elements.set(
      e.id,
      rests
        ? sameAsBefore(was, e.type === 'member' ? asCut(model, e) : rested(e, model))
        : withoutHidden(membersCut(shownOf(e, model), model), hidden),
    );
  }

  private drop(id: string): void {
    this.elements.delete(id);
    this.hanging.hang(id, []);
  }
}

const isAway = (e: Traced, { ids, construction }: Away): boolean =>
  ids.has(e.id) || (construction && e.type === 'constructionLine');

export const sightOf = (model: Model, showsDone: boolean, away: Away | null = null): Sight => ({
  showsDone,
  away,
  hidden: closedLayers(model).hidden,
});

/** What rests on others and has not moved stays the same object, so that nothing of it is made again. */
function sameAsBefore(was: Traced | undefined, now: Traced): Traced {
  if (!was || was.type !== now.type) return now;
  const [a, b] = [was, now] as unknown as [Record<string, unknown>, Record<string, unknown>];
  const keys = Object.keys(b);
  return keys.length === Object.keys(a).length && keys.every((k) => sameEnough(a[k], b[k])) ? was : now;
}

/** The same, or pairs of the same numbers. */
const sameEnough = (a: unknown, b: unknown): boolean =>
  a === b ||
  (Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((v, i) => sameEnough(v, b[i])));

/** Members that one meets: a mitre or a splice cuts both. */
const metBy = (e: Changed['now']): string[] =>
  e?.type === 'member' ? (e.joints ?? []).flatMap((j) => j.to ?? []) : [];

/** A placed group with its members as they are cut. */
function membersCut(e: Traced, model: Model): Traced {
  if (e.type !== 'placed' || !looseOf(e).some((m) => m.type === 'member' && m.joints)) return e;
  return withMembers(
    e,
    looseOf(e).map((m) => asCut(model, m)),
  );
}

/** A placed group without those of its elements that lie on hidden layers. */
function withoutHidden(e: Traced, hidden: ReadonlySet<string>): Traced {
  if (e.type !== 'placed' || hidden.size === 0) return e;
  const members = looseOf(e),
    seen = members.filter((m) => !m.layerId || !hidden.has(m.layerId));
  return seen.length === members.length ? e : withMembers(e, seen);
}
