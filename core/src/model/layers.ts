import { KINDS, type Traced } from '../kinds/index.ts';
import type { TraceLayer } from './entities.ts';
import { get, ofType, type Model } from './model.ts';

/** How what is on no layer is drawn, by its kind; also the layer that it is delivered on. */
export const layerOfKind = (type: Traced['type']) => KINDS[type].layer;

export const layerOf = (model: Model, e: Traced): TraceLayer | null => get(model, 'layer', e.layerId);

/** Layers that are out of sight, and those whose elements cannot be picked or changed. */
export function closedLayers(model: Model): { hidden: ReadonlySet<string>; locked: ReadonlySet<string> } {
  const layers = ofType(model, 'layer');
  return {
    hidden: new Set(layers.filter((l) => !l.visible).map((l) => l.id)),
    locked: new Set(layers.filter((l) => l.locked || !l.visible).map((l) => l.id)),
  };
}

/** Dashes and gaps of a line type, in shares of a dash; the shortest that every program draws alike. */
export const LINE_TYPES = {
  solid: [],
  dashed: [1, 0.5],
  dotted: [0.1, 0.5],
  'dash-dot': [1, 0.4, 0.1, 0.4],
} as const satisfies Record<TraceLayer['lineType'], readonly number[]>;

/** Colours for new layers in turn, so that neighbours can be told apart. */
export const LAYER_COLOURS: readonly number[] = [
  0x17273a, 0xb3321a, 0x1f7a3d, 0x1d4fa3, 0x8a2b69, 0x0b7f8c, 0x8a5a12, 0x55616d,
];

export const newLayer = (id: string, name: string, number: number): TraceLayer => ({
  type: 'layer',
  id,
  name,
  colour: LAYER_COLOURS[number % LAYER_COLOURS.length],
  lineType: 'solid',
  weight: 0.25,
  visible: true,
  locked: false,
  fade: 0,
});
