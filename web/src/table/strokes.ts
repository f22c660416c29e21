import { painterOf } from '@/kinds/painters';
import {
  layerOfKind,
  LINE_TYPES,
  looseOf,
  piecesOf,
  type Loose,
  type Traced,
  type TraceLayer,
} from '@calque/core/model';
import { PlanePath } from './painters/plane-path';

/** How the lines of elements are drawn. `typeDash` in shares of a dash on the screen, `dash` in millimetres of the plane. */
export interface StrokeLook {
  colour: number;
  weight: number;
  fade: number;
  typeDash: readonly number[];
  dash: readonly number[];
}

interface Chunk {
  look: StrokeLook;
  members: Map<string, Traced>;
  path: PlanePath | null;
}

/** So many elements share a path: a changed element costs this many lines to be drawn anew. */
const CHUNK = 400;
/** Weight of what is on no layer, millimetres of paper. */
const USUAL_WEIGHT = 0.25;

/**
 * The lines of what has been traced, gathered into paths of those that look alike. A path is made again only when one of its
 * own elements has changed, so that thousands of others cost nothing.
 */
export class Strokes {
  private readonly chunks = new Map<string, Chunk[]>();
  private readonly places = new Map<string, { chunk: Chunk; key: string }>();

  /** Elements of placed groups by the group's id. */
  private readonly members = new Map<string, ReadonlySet<string>>();

  /** Takes over what there is now. */
  follow(elements: Iterable<Traced>, layers: ReadonlyMap<string, TraceLayer>): void {
    const seen = new Set<string>(),
      keys = new Map<TraceLayer | undefined, string>();
    for (const e of elements) {
      for (const m of looseOf(e)) seen.add(m.id);
      this.change(e, layers, keys);
    }
    for (const id of [...this.places.keys()]) if (!seen.has(id)) this.dropOne(id);
  }

  /** Takes one element over as it is now, a placed group with its elements. `keys`: what layers look like, where many are taken over. */
  change(
    e: Traced,
    layers: ReadonlyMap<string, TraceLayer>,
    keys = new Map<TraceLayer | undefined, string>(),
  ): void {
    const members = looseOf(e),
      had = this.members.get(e.id);
    if (had || e.type === 'placed') {
      const now = new Set(members.map((m) => m.id));
      for (const id of had ?? []) if (!now.has(id)) this.dropOne(id);
      this.members.set(e.id, now);
    }
    for (const m of members) this.changeOne(m, layers, keys);
  }

  /** Lets go of an element, a placed group with its elements. */
  drop(id: string): void {
    for (const member of this.members.get(id) ?? []) this.dropOne(member);
    this.members.delete(id);
    this.dropOne(id);
  }

  private changeOne(
    e: Loose,
    layers: ReadonlyMap<string, TraceLayer>,
    keys: Map<TraceLayer | undefined, string>,
  ): void {
    if (!painterOf(e).strokes) {
      this.dropOne(e.id);
      return;
    }
    const layer = e.layerId ? layers.get(e.layerId) : undefined;
    let layerKey = keys.get(layer);
    if (layerKey === undefined)
      keys.set(
        layer,
        (layerKey = layer
          ? `${layer.id} ${layer.colour} ${layer.weight} ${layer.lineType} ${layer.fade}`
          : ''),
      );
    const dash = 'dash' in e && e.dash ? e.dash : NO_DASH;
    const key = `${layerKey}|${layer ? '' : `${layerOfKind(e.type).colour} ${layerOfKind(e.type).lineType}`}|${dash.join()}`;
    const place = this.places.get(e.id);
    if (place && place.key === key) {
      if (place.chunk.members.get(e.id) === e) return;
      place.chunk.members.set(e.id, e);
      place.chunk.path = null;
      return;
    }
    if (place) this.dropOne(e.id);
    this.put(e, key, layer, dash);
  }

  private put(e: Traced, key: string, layer: TraceLayer | undefined, dash: readonly number[]): void {
    let list = this.chunks.get(key);
    if (!list) this.chunks.set(key, (list = []));
    let chunk = list.at(-1);
    if (!chunk || chunk.members.size >= CHUNK) {
      const look: StrokeLook = layer
        ? {
            colour: layer.colour,
            weight: layer.weight,
            fade: layer.fade,
            typeDash: LINE_TYPES[layer.lineType],
            dash,
          }
        : {
            colour: layerOfKind(e.type).colour,
            weight: USUAL_WEIGHT,
            fade: 0,
            typeDash: LINE_TYPES[layerOfKind(e.type).lineType],
            dash,
          };
      list.push((chunk = { look, members: new Map(), path: null }));
    }
    chunk.members.set(e.id, e);
    chunk.path = null;
    this.places.set(e.id, { chunk, key });
  }

  private dropOne(id: string): void {
    const place = this.places.get(id);
    if (!place) return;
    place.chunk.members.delete(id);
    place.chunk.path = null;
    this.places.delete(id);
    if (place.chunk.members.size === 0)
      this.chunks.set(
        place.key,
        (this.chunks.get(place.key) ?? []).filter((c) => c !== place.chunk),
      );
  }

  /** The paths with their looks, in the order in which they came. */
  *paths(): Generator<{ look: StrokeLook; path: PlanePath }> {
    for (const list of this.chunks.values()) {
      for (const chunk of list) {
        if (!chunk.path) {
          chunk.path = new PlanePath();
          for (const e of chunk.members.values()) for (const piece of piecesOf(e)) chunk.path.piece(piece);
        }
        yield { look: chunk.look, path: chunk.path };
      }
    }
  }
}

const NO_DASH: readonly number[] = [];
