import {
  group,
  isTraced,
  newLayer,
  ofType,
  setFields,
  type Change,
  type Model,
  type Traced,
  type TraceLayer,
} from '@calque/core/model';
import type { ProjectSession } from '@/project/session';
import { useTraceState } from '@/drawing/state';

/** Adds a layer and makes it the current one; words where the name does not do. */
export function addLayer(session: ProjectSession, name: string): string | null {
  const { model } = session.state,
    layers = ofType(model, 'layer'),
    wanted = name.trim();
  if (wanted === '') return 'Give the layer a name.';
  if (layers.some((l) => l.name.toLowerCase() === wanted.toLowerCase()))
    return `There is a layer "${wanted}" already.`;
  const layer = newLayer(crypto.randomUUID(), wanted, layers.length);
  if (session.do({ type: 'add', entity: layer }, `Add the layer ${wanted}`.slice(0, 190)))
    useTraceState.getState().setLayer(layer.id);
  return null;
}

/** Shows one layer and hides all others, in one step. */
export function showLayerAlone(session: ProjectSession, alone: TraceLayer): void {
  session.do(
    group(ofType(session.state.model, 'layer').map((l) => setFields(l, { visible: l.id === alone.id }))),
    `Show ${alone.name} alone`.slice(0, 190),
  );
}

export function showAllLayers(session: ProjectSession): void {
  session.do(
    group(ofType(session.state.model, 'layer').map((l) => setFields(l, { visible: true }))),
    'Show all layers',
  );
}

/** Elements that lie on a layer. */
export const onLayer = (model: Model, layerId: string): Traced[] =>
  [...model.values()].filter((e): e is Traced => isTraced(e) && e.layerId === layerId);

/** Takes a layer away; what lies on it stays, on none. */
export function removeLayer(session: ProjectSession, layer: TraceLayer): void {
  const elements = onLayer(session.state.model, layer.id);
  session.do(
    group([
      ...elements.map((e) => setFields<Traced>(e, { layerId: null })),
      { type: 'remove', entity: layer } satisfies Change,
    ]),
    `Remove the layer ${layer.name}`.slice(0, 190),
  );
}
