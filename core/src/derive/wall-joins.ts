import RBush from 'rbush';
import { cutWalls, JOIN_TOLERANCE, plainOutline, type CutWalls } from '../building/index.ts';
import { boxOfPoints } from '../geometry/index.ts';
import type { Wall } from '../model/index.ts';

interface Entry {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
  id: string;
}

/** Ends that meet lie no farther from one another than this. */
const NEAR = 2 * JOIN_TOLERANCE;
/** Where more than this share of the walls is another, all are cut anew, which is quicker then. */
const ANEW_SHARE = 0.3;

/** A wall that is another now; `now` is absent where it is gone. */
export interface WallChange {
  id: string;
  now: Wall | undefined;
}

/**
 * Walls cut to one another, following them one by one: a changed wall costs what stands near it. What follow gives stands until it is
 * called again.
 */
export class WallJoins {
  private readonly walls = new Map<string, Wall>();
  private readonly entries = new Map<string, Entry>();
  /** Which came first: a wall that changes keeps its place. */
  private readonly order = new Map<string, number>();
  private next = 0;
  private tree = new RBush<Entry>();
  /** A new object whenever something of it is another. */
  cut: CutWalls = {
    bodies: new Map(),
    parts: new Map(),
    wedges: new Map(),
    meets: new Map(),
    faces: new Map(),
  };

  get list(): readonly Wall[] {
    return [...this.walls.values()];
  }

  /** Takes walls over that have changed, come or gone; gives the ids of those that are cut otherwise now, without those that are gone. */
  follow(changes: readonly WallChange[]): ReadonlySet<string> {
    if (changes.length === 0) return new Set();
    if (changes.length > ANEW_SHARE * this.walls.size) return this.anew(changes);
    const touched = new Set<string>();
    const near = (entry: Entry | undefined) => {
      if (entry) for (const e of this.tree.search(entry)) touched.add(e.id);
    };
    // What stood near them where they were, and what stands near them where they are.
    for (const { id } of changes) near(this.entries.get(id));
    for (const { id, now } of changes) {
      this.drop(id);
      if (now) this.put(now);
      else this.forget(id);
    }
    for (const { id } of changes) near(this.entries.get(id));
    this.cutAgain([...touched].filter((id) => this.walls.has(id)));
    return new Set([...touched].filter((id) => this.walls.has(id)));
  }

  /** Cuts walls again among all that stand near them. */
  private cutAgain(ids: readonly string[]): void {
    const around = new Set<string>();
    for (const id of ids) for (const e of this.tree.search(this.entries.get(id)!)) around.add(e.id);
    for (const id of ids) around.add(id);
    // In the order of all, so that ends which lie close meet at the same of them as ever.
    const cut = cutWalls(
      [...around].sort((a, b) => this.order.get(a)! - this.order.get(b)!).map((id) => this.walls.get(id)!),
    );
    const { bodies, parts, wedges, meets, faces } = this.cut;
    for (const id of ids) {
      replace(bodies, id, cut.bodies.get(id));
      replace(parts, id, cut.parts.get(id));
      replace(wedges, id, cut.wedges.get(id));
      replace(meets, id, cut.meets.get(id));
      replace(faces, id, cut.faces.get(id));
    }
    this.cut = { bodies, parts, wedges, meets, faces };
  }

  private anew(changes: readonly WallChange[]): ReadonlySet<string> {
    for (const { id, now } of changes)
      if (now) this.keep(now);
      else this.forget(id);
    this.entries.clear();
    for (const w of this.walls.values()) this.entries.set(w.id, entryOf(w));
    this.tree = new RBush<Entry>().load([...this.entries.values()]);
    this.cut = cutWalls([...this.walls.values()]);
    return new Set(this.walls.keys());
  }

  private drop(id: string): void {
    const entry = this.entries.get(id);
    if (entry) this.tree.remove(entry);
    this.entries.delete(id);
  }

  private put(wall: Wall): void {
    this.keep(wall);
    const entry = entryOf(wall);
    this.entries.set(wall.id, entry);
    this.tree.insert(entry);
  }

  private keep(wall: Wall): void {
    if (!this.order.has(wall.id)) this.order.set(wall.id, this.next++);
    this.walls.set(wall.id, wall);
  }

  private forget(id: string): void {
    this.walls.delete(id);
    this.order.delete(id);
    const { bodies, parts, wedges, meets, faces } = this.cut;
    for (const map of [bodies, parts, wedges, meets, faces]) map.delete(id);
  }
}

function replace<V>(map: Map<string, V>, id: string, value: V | undefined): void {
  if (value === undefined) map.delete(id);
  else map.set(id, value);
}

function entryOf(wall: Wall): Entry {
  const [minX, minY, maxX, maxY] = boxOfPoints(
    wall.from[0] === wall.to[0] && wall.from[1] === wall.to[1] ? [wall.from] : plainOutline(wall),
  );
  return { minX: minX - NEAR, minY: minY - NEAR, maxX: maxX + NEAR, maxY: maxY + NEAR, id: wall.id };
}
