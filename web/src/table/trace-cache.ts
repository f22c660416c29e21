import type { CutWalls, Room } from '@calque/core/building';
import { jointPieces } from '@calque/core/framing';
import { PlaneTrace, type Away, type Followed } from '@calque/core/derive';
import { segmentPiece, unionBox, type Piece, type Polygon } from '@calque/core/geometry';
import {
  boxOf,
  closedLayers,
  kindOf,
  looseOf,
  ofType,
  ownerId,
  placedAt,
  piecesOf,
  type Loose,
  type Model,
  type OpenBoundary,
  type Traced,
  type TraceLayer,
  type Wall,
} from '@calque/core/model';
import type { LivePieces } from '@calque/core/snapping';
import type { FromJoins, ToJoins } from '@/workers/protocol';
import { Painted } from './painted';
import { Strokes } from './strokes';
import { TraceIndex } from './trace-index';

export interface TraceOfPlane {
  /** All that shows, dimensions with their points where they are now, placed groups with their elements. */
  elements: ReadonlyMap<string, Traced>;
  walls: readonly Wall[];
  /** Where rooms end without walls. */
  open: readonly OpenBoundary[];
  /** Layers whose elements cannot be picked or changed. */
  locked: ReadonlySet<string>;
  layers: ReadonlyMap<string, TraceLayer>;
  cut: CutWalls;
  index: TraceIndex;
  strokes: Strokes;
  painted: Painted;
  /** The united outlines once the worker has them; until then the cut bodies are painted. */
  outlines: Polygon[] | null;
  /** What the walls enclose, once the worker has found it. */
  rooms: readonly Room[] | null;
}

/** Walls are united only when nothing has changed for this long, milliseconds. */
const QUIET_MS = 200;
/** Beyond this share of changed elements the index is made anew, which is quicker then. */
const ANEW_SHARE = 0.3;

/** What has been traced on each plane, ready to be painted and picked; follows the model by what has changed in it. */
export class TraceCache {
  private readonly planes = new Map<string, { derived: PlaneTrace; key: number; trace: TraceOfPlane }>();
  private worker: Worker | null = null;
  private next = 1;
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** The trace of each plane in the model seen last. */
  private last: { model: Model; traces: Map<string, TraceOfPlane> } | null = null;
  private showsDone = false;
  private away: Away | null = null;

  constructor(private readonly onOutlines: () => void) {}

  of(model: Model, planeId: string): TraceOfPlane {
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

  /** What is put away for the moment is no part of it. */
  putAway(away: Away | null): void {
    this.away = away;
    this.last = null;
  }

  private follow(model: Model, planeId: string): TraceOfPlane {
    const known = this.planes.get(planeId) ?? null,
      derived = known?.derived ?? new PlaneTrace(planeId),
      cutBefore = derived.cut;
    const followed = derived.follow(model, this.showsDone, this.away),
      { elements, cut } = derived;
    if (known && !followed.anew && followed.elements.size === 0 && followed.recut.size === 0)
      return known.trace;
    const layers =
      known && !followed.anew ? known.trace.layers : new Map(ofType(model, 'layer').map((l) => [l.id, l]));
    const index = this.indexed(model, known?.trace ?? null, derived, followed);
    const strokes = known?.trace.strokes ?? new Strokes(),
      painted = known?.trace.painted ?? new Painted();
    if (!known || followed.anew) {
      strokes.follow(elements.values(), layers);
      painted.follow(elements.values());
    } else
      for (const id of followed.elements) {
        const e = elements.get(id);
        if (e) {
          strokes.change(e, layers);
          painted.change(e);
        } else {
          strokes.drop(id);
          painted.drop(id);
        }
      }
    const sameWalls = known !== null && cut === cutBefore,
      open = followed.anew || !known ? null : this.sameOpen(known.trace, elements, followed),
      sameRooms = sameWalls && open !== null;
    const key = sameRooms ? known.key : this.next++;
    // A new object, so that whoever keeps something by it sees that there is a change.
    const trace: TraceOfPlane = {
      elements,
      walls: sameWalls ? known.trace.walls : derived.walls,
      open: open ?? [...drawnOf(elements.values())].filter((e) => e.type === 'openBoundary'),
      locked: closedLayers(model).locked,
      layers,
      cut,
      index,
      strokes,
      painted,
      outlines: sameWalls ? known.trace.outlines : null,
      rooms: sameRooms ? known.trace.rooms : null,
    };
    this.planes.set(planeId, { derived, key, trace });
    if (!sameRooms) this.unite(key, trace);
    return trace;
  }

  private indexed(
    model: Model,
    known: TraceOfPlane | null,
    { elements, cut }: PlaneTrace,
    followed: Followed,
  ): TraceIndex {
    const anew = () =>
      new TraceIndex(
        () => [...elements.values()].map((e) => [e.id, foundOf(e, cut, model)] as const),
        () => (elements.size > 0 ? [...elements.values()].map(boxOf).reduce(unionBox) : null),
      );
    if (!known?.index.isMade) return anew();
    const changed = [...followed.elements, ...followed.recut];
    if (changed.length > ANEW_SHARE * elements.size) return anew();
    for (const id of changed) {
      const e = elements.get(id);
      if (e) known.index.set(id, foundOf(e, cut, model));
      else known.index.items.remove(id);
    }
    return known.index;
  }

  /** The open boundaries that were there, where none has come, gone or changed. */
  private sameOpen(
    { open }: TraceOfPlane,
    elements: ReadonlyMap<string, Traced>,
    followed: Followed,
  ): readonly OpenBoundary[] | null {
    const holdsOpen = (e: Traced | undefined) =>
      e !== undefined && [...drawnOf([e])].some((member) => member.type === 'openBoundary');
    const were = new Set(open.map((b) => ownerId(b.id)));
    for (const id of followed.elements) if (were.has(id) || holdsOpen(elements.get(id))) return null;
    return open;
  }

  private unite(key: number, { walls, open }: TraceOfPlane): void {
    if (this.timer) clearTimeout(this.timer);
    if (walls.length === 0) return;
    this.timer = setTimeout(() => {
      this.worker ??= this.start();
      this.worker.postMessage({ key, walls: [...walls], open: [...open] } satisfies ToJoins);
    }, QUIET_MS);
  }

  private start(): Worker {
    const worker = new Worker(new URL('../workers/joins.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromJoins>) => {
      for (const plane of this.planes.values())
        if (plane.key === data.key) {
          plane.trace.outlines = data.outlines ?? plane.trace.outlines;
          plane.trace.rooms = data.rooms ?? plane.trace.rooms;
        }
      this.onOutlines();
    };
    return worker;
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.worker?.terminate();
  }
}

/** What is drawn by itself: placed groups as their elements. */
export function* drawnOf(elements: Iterable<Traced>): Generator<Loose> {
  for (const e of elements) {
    if (e.type === 'placed') yield* looseOf(e);
    else yield e;
  }
}

/** What a pick finds of an element: its lines, of a wall its faces as well, of a member its plates and bolts, of a text its corners. */
function foundOf(e: Traced, cut: CutWalls, model: Model): LivePieces {
  if (e.type !== 'placed') return foundOfLoose(e, cut, model);
  const members = looseOf(e).map((m) => foundOfLoose(m, cut, model));
  return {
    pieces: members.flatMap((m) => m.pieces),
    bases: [placedAt(e), ...members.flatMap((m) => m.bases ?? [])],
  };
}

function foundOfLoose(e: Loose, cut: CutWalls, model: Model): LivePieces {
  const faces = cut.faces.get(e.id),
    frame = kindOf(e).frame(e);
  const pieces = piecesOf(e);
  return {
    pieces: faces
      ? [...pieces, ...faces.map(([x0, y0, x1, y1]): Piece => segmentPiece([x0, y0], [x1, y1]))]
      : e.type === 'member'
        ? [...pieces, ...jointPieces(model, e.id)]
        : pieces,
    ...(frame && { bases: frame }),
  };
}
