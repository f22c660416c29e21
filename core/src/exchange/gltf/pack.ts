const MAGIC = 0x46546c67,
  JSON_CHUNK = 0x4e4f534a,
  BINARY_CHUNK = 0x004e4942;

/** Both chunks of a glTF file with the header of the binary form, each padded to four bytes. */
export function packedGlb(document: object, binary: Uint8Array): Uint8Array {
  const json = new TextEncoder().encode(JSON.stringify(document)),
    whole = (n: number) => Math.ceil(n / 4) * 4,
    length = 12 + 8 + whole(json.length) + 8 + whole(binary.length),
    out = new Uint8Array(length),
    view = new DataView(out.buffer);
  [MAGIC, 2, length, whole(json.length), JSON_CHUNK].forEach((v, i) => view.setUint32(4 * i, v, true));
  out.fill(0x20, 20, 20 + whole(json.length));
  out.set(json, 20);
  const at = 20 + whole(json.length);
  view.setUint32(at, whole(binary.length), true);
  view.setUint32(at + 4, BINARY_CHUNK, true);
  out.set(binary, at + 8);
  return out;
}
