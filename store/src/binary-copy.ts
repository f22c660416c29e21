/**
 * The contents of the one column that a COPY in binary sends, without what frames them: a signature, flags
 * and extension, then for each row the number of its fields and the length of each, and −1 at the end
 * (PostgreSQL documentation, COPY, "Binary Format").
 */
export async function* onlyFields(stream: AsyncIterable<Buffer>): AsyncGenerator<Uint8Array> {
  const SIGNATURE_AND_FLAGS = 15,
    ROW = 6;
  /** Bytes of a frame that came in pieces. */
  let frame: Buffer = Buffer.alloc(0);
  let state: 'header' | 'extension' | 'row' | 'field' | 'end' = 'header';
  /** Bytes of the extension or the field that are still to come. */
  let left = 0;
  for await (let part of stream) {
    while (part.length > 0 && state !== 'end') {
      if (state === 'field' || state === 'extension') {
        const take = part.subarray(0, left);
        if (state === 'field' && take.length > 0) yield take;
        part = part.subarray(take.length);
        left -= take.length;
        if (left === 0) state = 'row';
        continue;
      }
      const length = state === 'header' ? SIGNATURE_AND_FLAGS + 4 : ROW;
      const missing = length - frame.length;
      frame = Buffer.concat([frame, part.subarray(0, missing)]);
      part = part.subarray(missing);
      if (state === 'row' && frame.length >= 2 && frame.readInt16BE(0) === -1) state = 'end';
      if (frame.length < length) continue;
      if (state === 'header') [state, left] = ['extension', frame.readInt32BE(SIGNATURE_AND_FLAGS)];
      else if (state === 'row') [state, left] = ['field', frame.readInt32BE(2)];
      if (left === 0 && state !== 'end') state = 'row';
      frame = Buffer.alloc(0);
    }
  }
}
