import { cutWalls, type CutWalls } from '@calque/core/building';
import { segmentPiece, unionBox, type Piece, type Polygon } from '@calque/core/geometry';
import {
  boxOf,
  closedLayers,
  isTraced,
  kindOf,
  looseOf,
  noteCorners,
  ofType,
  placedAt,
  piecesOf,
  rested,
  shownOf,
  withMembers,
  type Assembly,
  type Loose,
  type Model,
  type Traced,
  type TraceLayer,
  type Wall,
} from '@calque/core/model';
import type { LivePieces } from '@calque/core/snapping';
import type { FromJoins, ToJoins } from '@/workers/protocol';
import { Strokes } from './strokes';
import { TraceIndex } from './trace-index';

export interface TraceOfStorey {
  /** All that shows, dimensions with their points where they are now, placed groups with their elements. */
  elements: ReadonlyMap<string, Traced>;
  walls: readonly Wall[];
  /** Layers whose elements cannot be picked or changed. */
  locked: ReadonlySet<string>;
  layers: ReadonlyMap<string, TraceLayer>;
  cut: CutWalls;
  index: TraceIndex;
  strokes: Strokes;
  /** The united outlines once the worker has them; until then the cut bodies are painted. */
  outlines: Polygon[] | null;
}

interface Kept {
  key: number;
  given: readonly Traced[];
  layers: readonly TraceLayer[];
  assemblies: readonly Assembly[];
  trace: TraceOfStorey & { elements: Map<string, Traced> };
}

/** Walls are united only when nothing has changed for this long, milliseconds. */
const QUIET_MS = 200;
/** Beyond this share of changed elements the index is made anew, which is quicker then. */
const ANEW_SHARE = 0.3;

const sameList = <T>(a: readonly T[], b: readonly T[]) =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** What has been traced on each storey, walls cut to one another; follows the model one changed element at a time. */
export class TraceCache {
  private readonly storeys = new Map<string, Kept>();
  private worker: Worker | null = null;
  private next = 1;
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** The trace of each storey in the model seen last. */
  private last: { model: Model; traces: Map<string, TraceOfStorey> } | null = null;
  private showsDone = false;

  constructor(private readonly onOutlines: () => void) {}

  of(model: Model, planeId: string): TraceOfStorey {
    if (this.last?.model !== model) this.last = { model, traces: new Map() };
    let trace = this.last.traces.get(planeId);
    if (!trace) this.last.traces.set(planeId, (trace = this.follow(model, planeId)));
    return trace;
  }

  /** What is marked as done is part of the trace or not. */
  showDone(shows: boolean): void {
    this.showsDone = shows;
    this.last = null;
  }

  private follow(model: Model, planeId: string): TraceOfStorey {
    const layers = ofType(model, 'layer'),
      assemblies = ofType(model, 'assembly'),
      { hidden, locked } = closedLayers(model);
    const given: Traced[] = [];
    for (const e of model.values())
      if (
        isTraced(e) &&
        e.planeId === planeId &&
        !(e.layerId && hidden.has(e.layerId)) &&
        (this.showsDone || !e.done)
      )
        given.push(e);
    const known = this.storeys.get(planeId);
    // Entities are never changed in place: the same objects mean the same trace.
    const sameSettings =
      known !== undefined && sameList(known.layers, layers) && sameList(known.assemblies, assemblies);
    if (known && sameSettings && sameList(known.given, given)) return known.trace;
    const few = known && sameSettings ? fewChanged(known.given, given) : null;
    if (known && few) {
      this.change(known, model, given, few);
      return known.trace;
    }
    const elements = new Map(
      given.map((e) => [
        e.id,
        kindOf(e).rests
          ? this.sameAsBefore(known, rested(e, model))
          : withoutHidden(shownOf(e, model), hidden),
      ]),
    );
    const walls = [...drawnOf(elements.values())].filter((e): e is Wall => e.type === 'wall');
    const sameWalls = known !== undefined && sameList(known.trace.walls, walls);
    const cut = sameWalls ? known.trace.cut : cutWalls(walls);
    const index = this.index(known?.trace ?? null, elements, cut);
    const layersById = new Map(layers.map((l) => [l.id, l]));
    const strokes = known?.trace.strokes ?? new Strokes();
    strokes.follow(drawnOf(elements.values()), layersById);
    const trace: Kept['trace'] = {
      elements,
      walls,
      locked,
      layers: layersById,
      cut,
      index,
      strokes,
      outlines: sameWalls ? known.trace.outlines : null,
    };
    const key = sameWalls ? known.key : this.next++;
    this.storeys.set(planeId, { key, given, layers, assemblies, trace });
    if (!sameWalls) this.unite(key, walls);
    return trace;
  }

  /** A few elements that are no walls have been changed or added: all else stays as it is, in place. */
  private change(known: Kept, model: Model, given: readonly Traced[], changed: readonly Traced[]): void {
    const { trace } = known,
      touched = new Set(changed.map((e) => e.id));
    const resting = [...trace.elements.values()].filter(
      (e) =>
        !touched.has(e.id) &&
        kindOf(e)
          .rests?.on(e)
          .some((a) => a && touched.has(a.id)),
    );
    for (const e of [...changed, ...resting.map((d) => model.get(d.id) as Traced)]) {
      const now = rested(e, model);
      trace.elements.set(e.id, now);
      trace.index.set(e.id, foundOf(now, trace.cut));
      trace.strokes.change(now, trace.layers);
    }
    known.given = given;
    // A new object, so that whoever keeps something by it sees that there is a change.
    known.trace = { ...trace };
  }

  /** A dimension that has not moved stays the same object, so that nothing of it is made again. */
  private sameAsBefore(known: Kept | undefined, now: Traced): Traced {
    const before = known?.trace.elements.get(now.id);
    return before?.type === 'dimension' &&
      now.type === 'dimension' &&
      before.at === now.at &&
      before.on === now.on &&
      before.measures === now.measures &&
      before.height === now.height &&
      before.layerId === now.layerId &&
      before.points.every((p, i) => p[0] === now.points[i][0] && p[1] === now.points[i][1])
      ? before
      : now;
  }

  private index(
    known: TraceOfStorey | null,
    elements: ReadonlyMap<string, Traced>,
    cut: CutWalls,
  ): TraceIndex {
    const anew = () =>
      new TraceIndex(
        () => [...elements.values()].map((e) => [e.id, foundOf(e, cut)] as const),
        () => (elements.size > 0 ? [...elements.values()].map(boxOf).reduce(unionBox) : null),
      );
    if (!known?.index.isMade) return anew();
    const changed: Traced[] = [],
      gone: string[] = [];
    for (const e of elements.values())
      if (
        known.elements.get(e.id) !== e ||
        (e.type === 'wall' && known.cut !== cut && !sameFaces(known.cut, cut, e.id)) ||
        (e.type === 'placed' && known.cut !== cut && looseOf(e).some((m) => !sameFaces(known.cut, cut, m.id)))
      )
        changed.push(e);
    for (const id of known.elements.keys()) if (!elements.has(id)) gone.push(id);
    if (changed.length + gone.length > ANEW_SHARE * elements.size) return anew();
    for (const id of gone) known.index.items.remove(id);
    for (const e of changed) known.index.set(e.id, foundOf(e, cut));
    return known.index;
  }

  private unite(key: number, walls: Wall[]): void {
    if (this.timer) clearTimeout(this.timer);
    if (walls.length === 0) return;
    this.timer = setTimeout(() => {
      this.worker ??= this.start();
      this.worker.postMessage({ key, walls } satisfies ToJoins);
    }, QUIET_MS);
  }

  private start(): Worker {
    const worker = new Worker(new URL('../workers/joins.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromJoins>) => {
      for (const storey of this.storeys.values())
        if (storey.key === data.key) storey.trace.outlines = data.outlines;
      this.onOutlines();
    };
    return worker;
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.worker?.terminate();
  }
}

/** More than these are followed as a whole. */
const FEW = 200;

/** What has changed or been added at the end between two lists of elements; null where it is much, walls, groups, or something is gone. */
function fewChanged(before: readonly Traced[], now: readonly Traced[]): Traced[] | null {
  if (now.length < before.length || now.length - before.length > FEW) return null;
  const out: Traced[] = [];
  for (let i = 0; i < now.length; i++) {
    const e = now[i];
    if (i < before.length && before[i] === e) continue;
    if (
      (i < before.length && before[i].id !== e.id) ||
      e.type === 'wall' ||
      e.type === 'placed' ||
      (i < before.length && before[i].type === 'wall') ||
      out.length >= FEW
    )
      return null;
    out.push(e);
  }
  return out;
}

/** What is drawn by itself: placed groups as their elements. */
export function* drawnOf(elements: Iterable<Traced>): Generator<Loose> {
  for (const e of elements) {
    if (e.type === 'placed') yield* looseOf(e);
    else yield e;
  }
}

/** A placed group without those of its elements that lie on hidden layers. */
function withoutHidden(e: Traced, hidden: ReadonlySet<string>): Traced {
  if (e.type !== 'placed' || hidden.size === 0) return e;
  const members = looseOf(e),
    seen = members.filter((m) => !m.layerId || !hidden.has(m.layerId));
  return seen.length === members.length ? e : withMembers(e, seen);
}

function sameFaces(a: CutWalls, b: CutWalls, id: string): boolean {
  const p = a.faces.get(id) ?? [],
    q = b.faces.get(id) ?? [];
  return p.length === q.length && p.every((f, i) => f.every((v, k) => v === q[i][k]));
}

/** What a pick finds of an element: its lines, of a wall its faces as well, of a text its corners. */
function foundOf(e: Traced, cut: CutWalls): LivePieces {
  if (e.type === 'placed') {
    const members = looseOf(e).map((m) => foundOf(m, cut));
    return {
      pieces: members.flatMap((m) => m.pieces),
      bases: [placedAt(e), ...members.flatMap((m) => m.bases ?? [])],
    };
  }
  if (e.type === 'text') return { pieces: [], bases: noteCorners(e) };
  const pieces = piecesOf(e);
  if (e.type !== 'wall') return { pieces };
  return {
    pieces: [
      ...pieces,
      ...(cut.faces.get(e.id) ?? []).map(([x0, y0, x1, y1]): Piece => segmentPiece([x0, y0], [x1, y1])),
    ],
  };
}
