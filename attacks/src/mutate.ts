import type { Random } from './random.ts';

/** Values that programs stumble over, as texts. */
const NUMBERS = [
  '0',
  '-1',
  '1e999',
  '-1e300',
  'NaN',
  '2147483647',
  '2147483648',
  '-2147483649',
  '4294967296',
  '9007199254740993',
  '1e-320',
  '0.0000000000001',
  '99999999999999999999',
  '65535',
  '1000000',
];
const WORDS = [
  'null',
  'true',
  '[',
  ']',
  '<<',
  '>>',
  '{',
  '}',
  '(',
  ')',
  '\0',
  '\ud83d',
  '%%EOF',
  'endstream',
  'endobj',
  '/Length',
  '/Filter',
  '/FlateDecode',
  '/Kids',
  '/Parent',
  '/MediaBox',
  '/UserUnit',
  '/Matrix',
  'q',
  'Q',
  'cm',
  'Do',
  'BDC',
  'EMC',
  'W n',
  're',
  'BLOCK',
  'INSERT',
  'ENDBLK',
  'SPLINE',
  'HATCH',
  '<use href="#a"/>',
  '<!--',
  ']]>',
  'transform="scale(1e99)"',
];

/** A copy of bytes with a few things wrong: bits turned, pieces cut out, doubled, exchanged or cut off, figures and words replaced. */
export function mutated(bytes: Uint8Array, random: Random): Uint8Array {
  let out: Buffer = Buffer.from(bytes);
  for (let n = 1 + random.below(6); n > 0 && out.length > 0; n--)
    out = ONCE[random.below(ONCE.length)](out, random);
  return new Uint8Array(out);
}

const piece = (b: Buffer, random: Random): [number, number] => {
  const from = random.below(b.length);
  return [from, Math.min(b.length, from + 1 + random.below(Math.max(2, Math.min(b.length / 4, 4000))))];
};

const ONCE: ((b: Buffer, random: Random) => Buffer)[] = [
  (b, random) => {
    for (let n = 1 + random.below(12); n > 0; n--) b[random.below(b.length)] ^= 1 << random.below(8);
    return b;
  },
  (b, random) => {
    for (let n = 1 + random.below(6); n > 0; n--)
      b[random.below(b.length)] = random.pick([0, 255, 127, 128, 10, 32, 60, 62, 47]);
    return b;
  },
  (b, random) => b.subarray(0, random.below(b.length)),
  (b, random) => {
    const [from, to] = piece(b, random);
    return Buffer.concat([b.subarray(0, from), b.subarray(to)]);
  },
  (b, random) => {
    const [from, to] = piece(b, random),
      times = 1 + random.below(30),
      at = random.below(b.length);
    return Buffer.concat([
      b.subarray(0, at),
      ...Array.from({ length: times }, () => b.subarray(from, to)),
      b.subarray(at),
    ]);
  },
  (b, random) => {
    const [from, to] = piece(b, random),
      at = random.below(b.length);
    return Buffer.concat([
      b.subarray(0, at),
      b.subarray(from, to),
      b.subarray(Math.min(b.length, at + to - from)),
    ]);
  },
  (b, random) => replaceNear(b, random, /-?\d+(\.\d+)?/g, random.pick(NUMBERS)),
  (b, random) => replaceNear(b, random, /-?\d+(\.\d+)?/g, random.pick(NUMBERS)),
  (b, random) => replaceNear(b, random, /[A-Za-z/]{2,}/g, random.pick(WORDS)),
  (b, random) => {
    const at = random.below(b.length);
    return Buffer.concat([b.subarray(0, at), Buffer.from(random.pick(WORDS)), b.subarray(at)]);
  },
];

/** Replaces a match near a random place; where there is none, all stays. */
function replaceNear(b: Buffer, random: Random, what: RegExp, by: string): Buffer {
  const from = random.below(b.length),
    window = b.subarray(from, from + 2000).toString('latin1'),
    found = [...window.matchAll(what)];
  if (found.length === 0) return b;
  const match = random.pick(found),
    at = from + match.index;
  return Buffer.concat([b.subarray(0, at), Buffer.from(by), b.subarray(at + match[0].length)]);
}
