import { looseOf, ofType, ownerId, type Model, type Traced, type Wall } from '../model/index.ts';
import { Shown, sightOf, type Away, type Sight } from './shown.ts';
import { WallJoins, type WallChange } from './wall-joins.ts';

/** What became another by a change of the model: what shows otherwise or no more, and what is only cut to it otherwise. */
export interface Followed {
  /** Everything was looked at anew. */
  anew: boolean;
  elements: ReadonlySet<string>;
  /** Elements of which walls are cut otherwise now, beside those. */
  recut: ReadonlySet<string>;
}

const NOTHING: Followed = { anew: false, elements: new Set(), recut: new Set() };

/**
 * What has been traced on one plane, and what follows from it: what shows, and its walls cut to one another. Each of these hangs on the
 * one before and is told what of that has changed, so that a change costs what it touches.
 */
export class PlaneTrace {
  private readonly shown: Shown;
  private readonly joins = new WallJoins();
  private seen: { model: Model; sight: Sight } | null = null;

  constructor(planeId: string) {
    this.shown = new Shown(planeId);
  }

  get elements(): ReadonlyMap<string, Traced> {
    return this.shown.elements;
  }
  get walls(): readonly Wall[] {
    return this.joins.list;
  }
  get cut(): WallJoins['cut'] {
    return this.joins.cut;
  }

  /** Follows the model as it is now. */
  follow(model: Model, showsDone: boolean, away: Away | null = null): Followed {
    const { seen } = this;
    const isSame = seen !== null && seen.sight.showsDone === showsDone && seen.sight.away === away;
    if (isSame && seen.model === model) return NOTHING;
    const sight = isSame && sameLayers(seen.model, model) ? seen.sight : null,
      now = sight ?? sightOf(model, showsDone, away);
    this.seen = { model, sight: now };
    // What shows otherwise, and as it was: of the rest nothing is remembered.
    let were: Map<string, Traced | undefined>, elements: ReadonlySet<string>;
    if (seen && sight) {
      were = new Map();
      elements = this.shown.follow(model, model.changedSince(seen.model), now, (id) =>
        were.set(id, this.shown.elements.get(id)),
      );
    } else {
      were = new Map(this.shown.elements);
      elements = this.shown.remake(model, now);
    }
    const recut = this.joins.follow([...elements].flatMap((id) => this.wallChanges(id, were.get(id))));
    const owners = new Set<string>();
    for (const id of recut) if (!elements.has(ownerId(id))) owners.add(ownerId(id));
    return { anew: !sight, elements, recut: owners };
  }

  /** Walls of an element, also those within a placed group, that are others now than they were. */
  private wallChanges(id: string, was: Traced | undefined): WallChange[] {
    if (!hasWalls(was) && !hasWalls(this.shown.elements.get(id))) return NO_CHANGES;
    const were = new Map(wallsOf(was).map((w) => [w.id, w])),
      now = new Map(wallsOf(this.shown.elements.get(id)).map((w) => [w.id, w]));
    return [...new Set([...were.keys(), ...now.keys()])]
      .filter((wallId) => were.get(wallId) !== now.get(wallId))
      .map((wallId) => ({ id: wallId, now: now.get(wallId) }));
  }
}

const NO_CHANGES: WallChange[] = [];
const hasWalls = (e: Traced | undefined): boolean => e?.type === 'wall' || e?.type === 'placed';
const wallsOf = (e: Traced | undefined): Wall[] =>
  e ? looseOf(e).filter((m): m is Wall => m.type === 'wall') : [];

/** Layers decide what is seen. */
function sameLayers(a: Model, b: Model): boolean {
  const p = ofType(a, 'layer'),
    q = ofType(b, 'layer');
  return p.length === q.length && p.every((l, i) => l === q[i]);
}
