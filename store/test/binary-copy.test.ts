import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { onlyFields } from '../src/binary-copy.ts';

const int = (bytes: 2 | 4, value: number) => {
  const b = Buffer.alloc(bytes);
  b.writeIntBE(value, 0, bytes);
  return b;
};
/** What the server sends for rows of one column. */
const sent = (fields: readonly Buffer[], extension: Buffer) =>
  Buffer.concat([
    Buffer.from('PGCOPY\n\xff\r\n\0', 'latin1'),
    int(4, 0),
    int(4, extension.length),
    extension,
    ...fields.flatMap((f) => [int(2, 1), int(4, f.length), f]),
    int(2, -1),
  ]);

describe('a column copied in binary', () => {
  it('gives the fields alone, however the answer is cut into pieces', async () => {
    const bytes = fc.uint8Array({ maxLength: 40 }).map((b) => Buffer.from(b));
    await fc.assert(
      fc.asyncProperty(
        fc.array(bytes, { maxLength: 6 }),
        bytes,
        fc.array(fc.nat(30), { minLength: 1 }),
        async (fields, extension, cuts) => {
          const whole = sent(fields, extension);
          const pieces = async function* () {
            for (let at = 0, k = 0; at < whole.length; k++) {
              const take = Math.max(1, cuts[k % cuts.length]);
              yield whole.subarray(at, (at += take));
            }
          };
          const got: Uint8Array[] = [];
          for await (const part of onlyFields(pieces())) got.push(part);
          expect(Buffer.concat(got).equals(Buffer.concat(fields))).toBe(true);
        },
      ),
    );
  });
});
