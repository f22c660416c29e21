import {
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFNumber,
  PDFRawStream,
  PDFRef,
  PDFString,
  PDFHexString,
  decodePDFRawStream,
  type PDFObject,
} from '@cantoo/pdf-lib';
import type { PageLayer } from '@calque/core/linework';
import { LAYER_KEY, NO_LAYERS, OFF_KEY, type LayerTable } from './layer-table.ts';

/**
 * Reads what PDFium does not expose: which optional-content groups exist, which are off by default,
 * which content belongs to them, and UserUnit (ISO 32000-1, 8.11 and 14.11). A file whose structure
 * cannot be read is used without layers.
 */
export async function parseLayers(
  bytes: Uint8Array,
  password?: string,
): Promise<Omit<LayerTable, 'patterns'>> {
  try {
    const document = await PDFDocument.load(bytes, {
      password: password ?? '',
      updateMetadata: false,
      throwOnInvalidObject: false,
    });
    const userUnits = document.getPages().map((page) => {
      const unit = page.node.lookup(PDFName.of('UserUnit'));
      return unit instanceof PDFNumber && unit.asNumber() > 0 ? unit.asNumber() : 1;
    });
    const layers = markLayers(document);
    if (layers.length === 0) return { layers, userUnits, bytes: null };
    switchAllOn(document);
    return {
      layers,
      userUnits,
      bytes: await document.save({ useObjectStreams: false, updateFieldAppearances: false }),
    };
  } catch {
    return NO_LAYERS;
  }
}

const name = (text: string) => PDFName.of(text);

function markLayers(document: PDFDocument): PageLayer[] {
  const { context } = document;
  const properties = document.catalog.lookup(name('OCProperties'));
  if (!(properties instanceof PDFDict)) return [];
  const groups = properties.lookup(name('OCGs'));
  if (!(groups instanceof PDFArray)) return [];
  const refs = groups.asArray().filter((r): r is PDFRef => r instanceof PDFRef);
  const isOn = defaultStates(properties.lookup(name('D')));
  const places = placesOf(document, properties.lookup(name('D')));
  const layers = refs.map((ref): PageLayer => ({
    name: textOf(dictOf(document, ref)?.lookup(name('Name'))),
    on: isOn(ref),
    ...places(ref),
  }));
  const indexOf = new Map(refs.map((ref, i) => [ref.toString(), i]));
  refs.forEach((ref, i) => mark(dictOf(document, ref), i, !layers[i].on));
  for (const [, object] of context.enumerateIndirectObjects()) {
    if (object instanceof PDFDict && object.get(name('Type')) === name('OCMD')) {
      const { layer, visible } = membership(document, object, indexOf, layers);
      mark(object, layer, !visible);
    }
  }
  for (const [ref, object] of context.enumerateIndirectObjects())
    if (object instanceof PDFRawStream) wrapForm(document, ref, object);
  return layers;
}

/** In the copy that is read and drawn all layers are on: what is off is switched off object by object. */
function switchAllOn(document: PDFDocument): void {
  const properties = document.catalog.lookup(name('OCProperties'));
  const config = properties instanceof PDFDict ? properties.lookup(name('D')) : undefined;
  if (!(config instanceof PDFDict)) return;
  config.set(name('BaseState'), name('ON'));
  for (const key of ['OFF', 'ON', 'AS']) config.delete(name(key));
}

function mark(dict: PDFDict | undefined, layer: number, off: boolean): void {
  dict?.set(name(LAYER_KEY), PDFNumber.of(layer));
  dict?.set(name(OFF_KEY), PDFNumber.of(off ? 1 : 0));
}

function dictOf(document: PDFDocument, object: PDFObject | undefined): PDFDict | undefined {
  const found = object instanceof PDFRef ? document.context.lookup(object) : object;
  return found instanceof PDFDict ? found : undefined;
}

function textOf(object: unknown): string {
  return object instanceof PDFString || object instanceof PDFHexString ? object.decodeText() : '';
}

function defaultStates(config: unknown): (ref: PDFRef) => boolean {
  if (!(config instanceof PDFDict)) return () => true;
  const listed = (key: string) => {
    const array = config.lookup(name(key));
    return new Set(array instanceof PDFArray ? array.asArray().map((r) => r.toString()) : []);
  };
  const on = listed('ON'),
    off = listed('OFF');
  const base = config.lookup(name('BaseState'));
  const baseOff = base === name('OFF');
  return (ref) => (baseOff ? on.has(ref.toString()) : !off.has(ref.toString()));
}

const DEEPEST_ORDER = 20;

/** Titles that a layer stands under, and the group of which only one layer may be on (ISO 32000-1, 8.11.4.3). Arrays that hold one another in a ring are left at the second visit. */
function placesOf(
  document: PDFDocument,
  config: unknown,
): (ref: PDFRef) => Pick<PageLayer, 'under' | 'oneOf'> {
  if (!(config instanceof PDFDict)) return () => ({});
  const under = new Map<string, string[]>(),
    oneOf = new Map<string, number>();
  const seen = new Set<PDFArray>();
  const visit = (array: unknown, path: readonly string[]): void => {
    if (!(array instanceof PDFArray) || seen.has(array) || path.length > DEEPEST_ORDER) return;
    seen.add(array);
    let inside = path;
    array.asArray().forEach((item, i) => {
      const value = item instanceof PDFRef ? document.context.lookup(item) : item;
      if (value instanceof PDFArray) visit(value, inside);
      else if (value instanceof PDFString || value instanceof PDFHexString)
        inside = i === 0 ? [...path, textOf(value)] : inside;
      else if (value instanceof PDFDict && item instanceof PDFRef) {
        if (inside.length > 0 && !under.has(item.toString())) under.set(item.toString(), [...inside]);
        // What is nested behind a layer stands under it.
        const following = array.asArray()[i + 1];
        const nested = following instanceof PDFRef ? document.context.lookup(following) : following;
        if (nested instanceof PDFArray && !(nested.asArray()[0] instanceof PDFString))
          visit(nested, [...inside, textOf(value.lookup(name('Name')))]);
      }
    });
  };
  visit(config.lookup(name('Order')), []);
  const groups = config.lookup(name('RBGroups'));
  if (groups instanceof PDFArray)
    groups.asArray().forEach((item, i) => {
      const members = item instanceof PDFRef ? document.context.lookup(item) : item;
      if (members instanceof PDFArray) for (const ref of members.asArray()) oneOf.set(ref.toString(), i);
    });
  return (ref) => {
    const key = ref.toString();
    return {
      ...(under.has(key) && { under: under.get(key) }),
      ...(oneOf.has(key) && { oneOf: oneOf.get(key) }),
    };
  };
}

/** Optional-content membership: the first group names it, its policy decides whether it shows. */
function membership(
  document: PDFDocument,
  dict: PDFDict,
  indexOf: Map<string, number>,
  layers: readonly PageLayer[],
): { layer: number; visible: boolean } {
  const groups = dict.get(name('OCGs'));
  const list =
    groups instanceof PDFRef && indexOf.has(groups.toString())
      ? [groups]
      : ((g) => (g instanceof PDFArray ? g.asArray() : []))(
          groups instanceof PDFRef ? document.context.lookup(groups) : groups,
        );
  const members = list.map((r) => indexOf.get(r.toString())).filter((i): i is number => i !== undefined);
  const states = members.map((i) => layers[i].on);
  const policy = dict.lookup(name('P'))?.toString() ?? '/AnyOn';
  const visible =
    states.length === 0
      ? true
      : policy === '/AllOn'
        ? states.every(Boolean)
        : policy === '/AnyOff'
          ? states.some((s) => !s)
          : policy === '/AllOff'
            ? states.every((s) => !s)
            : states.some(Boolean);
  return { layer: members[0] ?? -1, visible };
}

/** A form that is optional as a whole says so in its dictionary, which the engine does not expose: mark its content. */
function wrapForm(document: PDFDocument, ref: PDFRef, stream: PDFRawStream): void {
  const { dict } = stream;
  const group = dict.get(name('OC'));
  if (!group || dict.get(name('Subtype')) !== name('Form')) return;
  const { context } = document;
  let resources = dict.lookup(name('Resources'));
  if (!(resources instanceof PDFDict)) {
    resources = context.obj({});
    dict.set(name('Resources'), resources);
  }
  let properties = (resources as PDFDict).lookup(name('Properties'));
  if (!(properties instanceof PDFDict)) {
    properties = context.obj({});
    (resources as PDFDict).set(name('Properties'), properties);
  }
  (properties as PDFDict).set(name('CalqueOC'), group);
  const content = decodePDFRawStream(stream).decode();
  const marked = Buffer.concat([Buffer.from('/OC /CalqueOC BDC\n'), content, Buffer.from('\nEMC\n')]);
  const replacement = context.flateStream(new Uint8Array(marked));
  for (const [key, value] of dict.entries()) {
    if (!['/Length', '/Filter', '/DecodeParms'].includes(key.toString())) replacement.dict.set(key, value);
  }
  context.assign(ref, replacement);
}
