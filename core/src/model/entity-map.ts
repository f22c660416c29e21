import type { Entity, EntityType } from './entities.ts';

/** So many entities lie in one chunk: a changed one costs the copy of one chunk and of the list of chunks. */
const CHUNK = 256;
/** Ids are looked up in so many small maps, of which an added or removed id costs the copy of one. */
const BUCKETS = 1024;

type Slot = Entity | undefined;
type Bucket = Map<string, number>;

/** What lies in a chunk, gathered when it is first asked for; a chunk is never changed once it can be seen. */
interface Summary {
  byType: Map<EntityType, Entity[]>;
  byPlane: Map<string, Entity[]>;
}
interface Chunk {
  slots: Slot[];
  summary: Summary | null;
  tallies: Map<TallyKey, Map<string, number>> | null;
}

/** What an entity counts as; null for nothing. One function for each question, made once: what it said of a chunk is kept. */
export type TallyKey = (e: Entity) => string | null;

const NONE: readonly never[] = [];
const NO_BUCKETS: readonly (Bucket | undefined)[] = Array.from({ length: BUCKETS }, () => undefined);

/** Spreads ids over the buckets (FNV-1a, 32 bits). */
function bucketOf(id: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193);
  return (hash ^ (hash >>> 15)) & (BUCKETS - 1);
}

function summaryOf(chunk: Chunk): Summary {
  if (chunk.summary) return chunk.summary;
  const byType: Summary['byType'] = new Map(),
    byPlane: Summary['byPlane'] = new Map();
  const put = <K>(lists: Map<K, Entity[]>, key: K, e: Entity) => {
    const list = lists.get(key);
    if (list) list.push(e);
    else lists.set(key, [e]);
  };
  for (const e of chunk.slots) {
    if (!e) continue;
    put(byType, e.type, e);
    if ('planeId' in e) put(byPlane, e.planeId, e);
  }
  return (chunk.summary = { byType, byPlane });
}

function tallyOf(chunk: Chunk, key: TallyKey): ReadonlyMap<string, number> {
  chunk.tallies ??= new Map();
  let tally = chunk.tallies.get(key);
  if (tally) return tally;
  chunk.tallies.set(key, (tally = new Map()));
  for (const e of chunk.slots) {
    const counts = e && key(e);
    if (typeof counts === 'string') tally.set(counts, (tally.get(counts) ?? 0) + 1);
  }
  return tally;
}

/** An entity as it was and as it is; one of both is absent where it came or went. */
export interface Changed {
  before: Entity | undefined;
  now: Entity | undefined;
}

/**
 * Entities by id in the order in which they came, never changed in place. The next one shares all that has not changed with it: a
 * change costs what it touches, and what differs between two of them is found by what they do not share. What lies on a plane, or is
 * of a type, is found without looking at the rest.
 */
export class EntityMap implements ReadonlyMap<string, Entity> {
  static readonly EMPTY = new EntityMap([], NO_BUCKETS, 0);

  private constructor(
    private readonly chunks: readonly Chunk[],
    private readonly buckets: readonly (Bucket | undefined)[],
    readonly size: number,
  ) {}

  static of(entities: Iterable<Entity>): EntityMap {
    const next = new EntityMapEdit(EntityMap.EMPTY);
    for (const e of entities) next.set(e.id, e);
    return next.done();
  }

  get(id: string): Entity | undefined {
    const at = this.buckets[bucketOf(id)]?.get(id);
    return at === undefined ? undefined : this.chunks[Math.floor(at / CHUNK)].slots[at % CHUNK];
  }

  has(id: string): boolean {
    return this.buckets[bucketOf(id)]?.has(id) ?? false;
  }

  /** All of a type, in the order in which they came. */
  ofType(type: EntityType): Entity[] {
    return this.gathered((s) => s.byType.get(type));
  }

  /** All that lies on a plane, sheets and traced elements, in the order in which they came. */
  onPlane(planeId: string): Entity[] {
    return this.gathered((s) => s.byPlane.get(planeId));
  }

  hasType(type: EntityType): boolean {
    return this.chunks.some((c) => summaryOf(c).byType.has(type));
  }

  /** How many entities count as what: only what has changed is counted anew. */
  tally(key: TallyKey): Map<string, number> {
    const out = new Map<string, number>();
    for (const chunk of this.chunks)
      for (const [name, n] of tallyOf(chunk, key)) out.set(name, (out.get(name) ?? 0) + n);
    return out;
  }

  private gathered(of: (summary: Summary) => readonly Entity[] | undefined): Entity[] {
    const out: Entity[] = [];
    for (const chunk of this.chunks) for (const e of of(summaryOf(chunk)) ?? NONE) out.push(e);
    return out;
  }

  /** What has changed since another state of the same project: looks at nothing that both share. */
  changedSince(before: EntityMap): Changed[] {
    const out: Changed[] = [];
    const chunks = Math.max(this.chunks.length, before.chunks.length);
    const differing: [readonly Slot[], readonly Slot[]][] = [];
    for (let i = 0; i < chunks; i++)
      if (this.chunks[i] !== before.chunks[i])
        differing.push([before.chunks[i]?.slots ?? NONE, this.chunks[i]?.slots ?? NONE]);
    for (const [was, is] of differing)
      for (let k = 0; k < Math.max(was.length, is.length); k++) {
        if (was[k] === is[k]) continue;
        // An entity may lie elsewhere now: it is told once, where it is now, or where it was if it is gone.
        if (is[k]) {
          const former = before.get(is[k]!.id);
          if (former !== is[k]) out.push({ before: former, now: is[k] });
        }
        if (was[k] && !this.has(was[k]!.id)) out.push({ before: was[k], now: undefined });
      }
    return out;
  }

  *values(): Generator<Entity, undefined> {
    for (const { slots } of this.chunks) for (const e of slots) if (e) yield e;
  }
  *keys(): Generator<string, undefined> {
    for (const e of this.values()) yield e.id;
  }
  *entries(): Generator<[string, Entity], undefined> {
    for (const e of this.values()) yield [e.id, e];
  }
  [Symbol.iterator](): Generator<[string, Entity], undefined> {
    return this.entries();
  }
  forEach(each: (e: Entity, id: string, map: ReadonlyMap<string, Entity>) => void): void {
    for (const e of this.values()) each(e, e.id, this);
  }
  get [Symbol.toStringTag](): string {
    return 'EntityMap';
  }

  /** A copy to be changed in place by one owner, which then becomes the next state. */
  edit(): EntityMapEdit {
    return new EntityMapEdit(this);
  }

  /** For the edit alone: what this consists of. */
  parts(): { chunks: readonly Chunk[]; buckets: readonly (Bucket | undefined)[] } {
    return { chunks: this.chunks, buckets: this.buckets };
  }

  /** For the edit alone. */
  static ofParts(
    chunks: readonly Chunk[],
    buckets: readonly (Bucket | undefined)[],
    size: number,
  ): EntityMap {
    return size === 0 ? EntityMap.EMPTY : new EntityMap(chunks, buckets, size);
  }
}

/** A state of entities that is being changed: copies each chunk and bucket when it first touches it. */
export class EntityMapEdit {
  private readonly chunks: Chunk[];
  private buckets: (Bucket | undefined)[];
  private readonly ownChunks = new Set<number>();
  private readonly ownBuckets = new Set<number>();
  private sharesBuckets = true;
  private count: number;

  constructor(from: EntityMap) {
    const { chunks, buckets } = from.parts();
    this.chunks = [...chunks];
    this.buckets = buckets as (Bucket | undefined)[];
    this.count = from.size;
  }

  get size(): number {
    return this.count;
  }

  get(id: string): Entity | undefined {
    const at = this.buckets[bucketOf(id)]?.get(id);
    return at === undefined ? undefined : this.chunks[Math.floor(at / CHUNK)].slots[at % CHUNK];
  }

  has(id: string): boolean {
    return this.buckets[bucketOf(id)]?.has(id) ?? false;
  }

  set(id: string, e: Entity): void {
    const at = this.buckets[bucketOf(id)]?.get(id);
    if (at !== undefined) {
      this.ownChunk(Math.floor(at / CHUNK)).slots[at % CHUNK] = e;
      return;
    }
    let last = this.chunks.length - 1;
    if (last < 0 || this.chunks[last].slots.length >= CHUNK) {
      this.chunks.push({ slots: [], summary: null, tallies: null });
      this.ownChunks.add(++last);
    }
    const { slots } = this.ownChunk(last);
    slots.push(e);
    this.ownBucket(bucketOf(id)).set(id, last * CHUNK + slots.length - 1);
    this.count++;
  }

  delete(id: string): void {
    const bucket = bucketOf(id),
      at = this.buckets[bucket]?.get(id);
    if (at === undefined) return;
    this.ownChunk(Math.floor(at / CHUNK)).slots[at % CHUNK] = undefined;
    this.ownBucket(bucket).delete(id);
    this.count--;
  }

  /** The next state; the edit is of no more use. Where most of it would be holes it is made anew. */
  done(): EntityMap {
    if (this.chunks.length > 8 && this.count * 2 < this.chunks.length * CHUNK && !this.remade) {
      const anew = new EntityMapEdit(EntityMap.EMPTY);
      anew.remade = true;
      for (const { slots } of this.chunks) for (const e of slots) if (e) anew.set(e.id, e);
      return anew.done();
    }
    return EntityMap.ofParts(this.chunks, this.buckets, this.count);
  }
  private remade = false;

  private ownChunk(i: number): Chunk {
    if (!this.ownChunks.has(i)) {
      this.chunks[i] = { slots: this.chunks[i].slots.slice(), summary: null, tallies: null };
      this.ownChunks.add(i);
    }
    return this.chunks[i];
  }

  private ownBucket(i: number): Bucket {
    if (this.sharesBuckets) {
      this.buckets = [...this.buckets];
      this.sharesBuckets = false;
    }
    if (!this.ownBuckets.has(i)) {
      this.buckets[i] = new Map(this.buckets[i]);
      this.ownBuckets.add(i);
    }
    return this.buckets[i]!;
  }
}
