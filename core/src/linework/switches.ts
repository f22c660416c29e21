import { penKey } from './pens.ts';
import { ITEM_KINDS_OF_SHEET, kindCode, type Linework, type SheetKind, type SheetLayer } from './types.ts';

/** What of a sheet is switched, by names that mean the same on other sheets. What is not named is as the file has it. */
export interface Switches {
  /** Layers by key (see layerKey) whose state differs from the file's own. */
  layers: Readonly<Record<string, boolean>>;
  /** Kinds that are off. */
  kinds: readonly SheetKind[];
  /** Pens that are off, by penKey. */
  pens: readonly string[];
  /** Authors and kinds of mark-ups that are off. */
  authors: readonly string[];
  markupKinds: readonly string[];
}

export const NO_SWITCHES: Switches = { layers: {}, kinds: [], pens: [], authors: [], markupKinds: [] };

/** A layer's name; layers of one name are told apart by their turn. */
export function layerKeys(layers: readonly Pick<SheetLayer, 'name'>[]): string[] {
  const seen = new Map<string, number>();
  return layers.map(({ name }) => {
    const turn = (seen.get(name) ?? 0) + 1;
    seen.set(name, turn);
    return turn === 1 ? name : `${name} (${turn})`;
  });
}

/** Is each layer on? A layer of a group of which only one may be on is off when another of them has been switched on. */
export function layerStates(layers: readonly SheetLayer[], switches: Pick<Switches, 'layers'>): boolean[] {
  const keys = layerKeys(layers);
  return layers.map((l, i) => switches.layers[keys[i]] ?? l.on);
}

/** Layers as they are to be after one has been switched; in an exclusive group the others go off. */
export function switchLayer(
  layers: readonly SheetLayer[],
  switches: Switches,
  index: number,
  on: boolean,
): Switches {
  const keys = layerKeys(layers);
  const next: Record<string, boolean> = { ...switches.layers };
  const put = (i: number, state: boolean) => {
    if (layers[i].on === state) delete next[keys[i]];
    else next[keys[i]] = state;
  };
  put(index, on);
  const { oneOf } = layers[index];
  if (on && oneOf !== undefined)
    layers.forEach((l, i) => {
      if (i !== index && l.oneOf === oneOf) put(i, false);
    });
  return { ...switches, layers: next };
}

export interface Visibility {
  /** 1 for each item of the spatial index that is off, in its order; null when nothing is. */
  items: Uint8Array | null;
  /** 1 for each page object that is off. */
  objects: Uint8Array;
  /** Annotations that are off, by their number on the page. */
  annotations: number[];
}

const MARKUP = kindCode('markup');

/** What the switches take away from a page. */
export function visibility(l: Linework, switches: Switches): Visibility {
  const layerOff = layerStates(l.layers, switches).map((on) => !on);
  const kindOff = ITEM_KINDS_OF_SHEET.map((k) => switches.kinds.includes(k));
  const gone = new Set(switches.pens);
  const penOff = l.pens.map((pen) => gone.has(penKey(pen)));
  const authors = new Set(switches.authors),
    markupKinds = new Set(switches.markupKinds);
  const markupOff = l.markups.map((m) => kindOff[MARKUP] || authors.has(m.author) || markupKinds.has(m.kind));
  const objects = new Uint8Array(l.objects.length / 3);
  for (let i = 0; i < objects.length; i++) {
    const layer = l.objects[3 * i],
      pen = l.objects[3 * i + 1],
      kind = l.objects[3 * i + 2];
    objects[i] =
      kind === HIDDEN_BY_OTHERS ||
      (layer >= 0 && layerOff[layer]) ||
      (pen >= 0 && penOff[pen]) ||
      (kind >= 0 && kindOff[kind])
        ? 1
        : 0;
  }
  const parts = [
    [l.segmentStyle, l.segmentObject, l.segmentKind],
    [l.fillEdgeStyle, l.fillEdgeObject, l.fillEdgeKind],
    [l.arcStyle, l.arcObject, l.arcKind],
    [l.circleStyle, l.circleObject, l.circleKind],
    [l.curveStyle, l.curveObject, l.curveKind],
    [l.arcStyle, l.arcObject, l.arcKind],
    [l.circleStyle, l.circleObject, l.circleKind],
    [l.texts.flatMap((t) => [t.layer, -1]), l.texts.map((t) => t.object), l.texts.map((t) => t.kind)],
  ] as const;
  const items = new Uint8Array(parts.reduce((n, [, object]) => n + object.length, 0));
  let at = 0,
    any = false;
  for (const [style, object, kind] of parts) {
    for (let i = 0; i < object.length; i++, at++) {
      const layer = style[2 * i],
        pen = style[2 * i + 1];
      const off =
        object[i] < 0
          ? markupOff[-1 - object[i]]
          : (layer >= 0 && layerOff[layer]) || (pen >= 0 && penOff[pen]) || kindOff[kind[i]];
      if (!off) continue;
      items[at] = 1;
      any = true;
    }
  }
  return {
    items: any ? items : null,
    objects,
    annotations: l.markups.filter((_, i) => markupOff[i]).map((m) => m.index),
  };
}

/** Kind of an object that something else than its own layer hides: never shown, whatever is switched. */
export const HIDDEN_BY_OTHERS = -2;

/** Is a text to be found and shown? */
export function textShows(l: Linework, switches: Switches, text: Linework['texts'][number]): boolean {
  return (
    (text.layer < 0 || layerStates(l.layers, switches)[text.layer]) &&
    !switches.kinds.includes(ITEM_KINDS_OF_SHEET[text.kind])
  );
}
