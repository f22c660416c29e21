import { kindCode, type Linework, type SheetKind } from './types.ts';

/**
 * The stored form of a page's linework, little-endian:
 *   0  4 bytes  "CQLW"
 *   4  u32      version (2; 1, without objects and kinds, is read as well)
 *   8  u32      length of the JSON header in bytes
 *  12  u32      zero
 *  16  JSON     { arrays: [{ name, type, offset, length }], rest: everything that is not an array }
 *      then each array, its offset from the start of the file a multiple of 8
 * The spatial index travels with it as the array "index".
 */
const MAGIC = 0x574c5143;
export const LINEWORK_VERSION = 2;
const HEADER_BYTES = 16;

const ARRAY_NAMES = [
  'segments',
  'segmentStyle',
  'segmentObject',
  'segmentKind',
  'arcs',
  'arcStyle',
  'arcObject',
  'arcKind',
  'circles',
  'circleStyle',
  'circleObject',
  'circleKind',
  'curves',
  'curveStyle',
  'curveObject',
  'curveKind',
  'fillEdges',
  'fillEdgeStyle',
  'fillEdgeObject',
  'fillEdgeKind',
  'objects',
] as const;
type ArrayName = (typeof ARRAY_NAMES)[number];
const TYPES = { f64: Float64Array, i32: Int32Array, u8: Uint8Array } as const;
type TypeName = keyof typeof TYPES;

interface ArrayEntry {
  name: ArrayName | 'index';
  type: TypeName;
  offset: number;
  length: number;
}
interface Header {
  arrays: ArrayEntry[];
  rest: Omit<Linework, ArrayName>;
}

const typeName = (array: Linework[ArrayName]): TypeName =>
  array instanceof Float64Array ? 'f64' : array instanceof Int32Array ? 'i32' : 'u8';
const align = (n: number) => Math.ceil(n / 8) * 8;

export function encodeLinework(linework: Linework, index: ArrayBuffer): Uint8Array<ArrayBuffer> {
  const arrays = [
    ...ARRAY_NAMES.map((name) => ({
      name,
      type: typeName(linework[name]),
      data: linework[name] as Float64Array | Int32Array | Uint8Array,
    })),
    { name: 'index' as const, type: 'u8' as TypeName, data: new Uint8Array(index) },
  ];
  const rest = Object.fromEntries(
    Object.entries(linework).filter(([key]) => !(ARRAY_NAMES as readonly string[]).includes(key)),
  ) as Header['rest'];
  const describe = (start: number): Header => {
    let at = start;
    return {
      arrays: arrays.map(({ name, type, data }) => {
        const entry = { name, type, offset: at, length: data.length };
        at = align(at + data.byteLength);
        return entry;
      }),
      rest,
    };
  };
  const encode = (header: Header) => new TextEncoder().encode(JSON.stringify(header));
  // Offsets are written into the header whose length they depend on: leave room for the largest.
  const room = align(encode(describe(2 ** 40)).length + HEADER_BYTES);
  const header = describe(room);
  const json = encode(header);
  const last = header.arrays[header.arrays.length - 1];
  const bytes = new Uint8Array(last.offset + arrays[arrays.length - 1].data.byteLength);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, LINEWORK_VERSION, true);
  view.setUint32(8, json.length, true);
  bytes.set(json, HEADER_BYTES);
  arrays.forEach(({ data }, i) =>
    bytes.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), header.arrays[i].offset),
  );
  return bytes;
}

/** Reads the stored form; the arrays are views of the given buffer. Throws on anything else, saying what came. */
export function decodeLinework(buffer: ArrayBuffer): { linework: Linework; index: ArrayBuffer } {
  const view = new DataView(buffer);
  if (buffer.byteLength < HEADER_BYTES || view.getUint32(0, true) !== MAGIC)
    throw new Error('Not stored linework: the first four bytes are not CQLW.');
  const version = view.getUint32(4, true);
  if (version !== LINEWORK_VERSION && version !== 1)
    throw new Error(`Stored linework of version ${version} when ${LINEWORK_VERSION} was expected.`);
  const json = new Uint8Array(buffer, HEADER_BYTES, view.getUint32(8, true));
  const { arrays, rest } = JSON.parse(new TextDecoder().decode(json)) as Header;
  const found: Partial<Record<string, Float64Array | Int32Array | Uint8Array>> = {};
  for (const { name, type, offset, length } of arrays) found[name] = new TYPES[type](buffer, offset, length);
  const index = found.index as Uint8Array;
  delete found.index;
  const linework = { ...rest, ...found } as Linework;
  return {
    linework: version === 1 ? upgraded(linework) : linework,
    index: buffer.slice(index.byteOffset, index.byteOffset + index.byteLength),
  };
}

/** What the first version lacked: nothing is known of objects and kinds, so every item is of the plain kind of its array. */
function upgraded(l: Linework): Linework {
  const beside = (style: Int32Array, kind: SheetKind) => ({
    object: new Int32Array(style.length / 2).fill(NO_OBJECT),
    kind: new Uint8Array(style.length / 2).fill(kindCode(kind)),
  });
  const s = beside(l.segmentStyle, 'line'),
    a = beside(l.arcStyle, 'curve'),
    c = beside(l.circleStyle, 'curve'),
    v = beside(l.curveStyle, 'curve'),
    f = beside(l.fillEdgeStyle, 'fill');
  return {
    ...l,
    segmentObject: s.object,
    segmentKind: s.kind,
    arcObject: a.object,
    arcKind: a.kind,
    circleObject: c.object,
    circleKind: c.kind,
    curveObject: v.object,
    curveKind: v.kind,
    fillEdgeObject: f.object,
    fillEdgeKind: f.kind,
    objects: new Int32Array(0),
    markups: [],
    hatches: 0,
    texts: l.texts.map((t) => ({ ...t, object: NO_OBJECT, kind: kindCode('text') })),
    pictures: l.pictures.map((p) => ({ ...p, object: NO_OBJECT, layer: -1 })),
  };
}

/** Larger than any object's number: such an item is switched by its own kind, pen and layer alone. */
const NO_OBJECT = 0x7fffffff;
