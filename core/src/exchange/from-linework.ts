import { convertRegion } from '../conversion/index.ts';
import { boxRing, makeRegion, type Box, type Transform } from '../geometry/index.ts';
import { ITEM_KINDS_OF_SHEET, NO_SWITCHES, type Linework, type SheetKind } from '../linework/index.ts';
import { kindOf, type Traced } from '../model/index.ts';
import type { Drawing, DrawingLayer } from './drawing.ts';
import { nearestDxfColour } from './dxf/colours.ts';

export type LineworkPart = 'lines' | 'curves' | 'texts' | 'fills';
export const LINEWORK_PARTS: readonly LineworkPart[] = ['lines', 'curves', 'texts', 'fills'];
/** Kinds of a sheet that belong to a part; the figures of dimensions are texts. */
const KINDS_OF_PART: Record<LineworkPart, readonly SheetKind[]> = {
  lines: ['line', 'hatch', 'dimension'],
  curves: ['curve', 'hatch', 'dimension'],
  texts: ['text', 'dimension'],
  fills: ['fill'],
};

export interface ConvertOptions {
  /** planeFromSheet, a similarity: circles stay circles. */
  placement: Transform;
  crop?: Box;
  only: ReadonlySet<LineworkPart>;
}

/** Which part an element that came out of a conversion belongs to. */
function partOf(e: Traced, kind: SheetKind): LineworkPart {
  if (e.type === 'text') return 'texts';
  if (kind === 'fill') return 'fills';
  return e.type === 'arc' || e.type === 'spline' ? 'curves' : 'lines';
}

/** A page's linework at true size as an editable drawing, by the same conversion as in the application: on the file's own layers, or by kind. */
export function drawingOfLinework(l: Linework, { placement, crop, only }: ConvertOptions): Drawing {
  const on = new Set([...only].flatMap((part) => KINDS_OF_PART[part]));
  const {
    layers,
    elements,
    layerOf,
    kindOf: sheetKindOf,
  } = convertRegion(l, {
    region: makeRegion([boxRing(crop ?? [0, 0, l.width, l.height])], 'nonzero'),
    placement,
    layering: 'file',
    planeId: '',
    source: { underlayId: null, ends: 'snapped', thickness: 'typed' },
    switches: { ...NO_SWITCHES, kinds: ITEM_KINDS_OF_SHEET.filter((kind) => !on.has(kind)) },
  });
  const kept = elements.flatMap((e, i) =>
    only.has(partOf(e, sheetKindOf[i])) ? [{ e, layer: layers[layerOf[i]] }] : [],
  );
  const used = new Map(kept.map(({ layer }) => [layer.name, layer]));
  return {
    layers: [...used.values()].map(({ name, colour, weight }): DrawingLayer => ({
      name,
      colour,
      weight,
      index: nearestDxfColour(colour),
    })),
    shapes: kept.flatMap(({ e, layer }) => kindOf(e).shapes(e, layer.name, { units: 'mm', precision: 0 })),
  };
}
