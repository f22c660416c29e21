/** The 64 signs of an IFC GlobalId (ISO 16739-1, IfcGloballyUniqueId). */
const SIGNS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

/** 128 bits of a text: four FNV-1a sums, each begun otherwise. Not for secrets: alike texts give alike ids, as they should. */
function sums(text: string): number[] {
  return [0x811c9dc5, 0x1b873593, 0x9e3779b9, 0x85ebca6b].map((begin) => {
    let hash = begin;
    for (let i = 0; i < text.length; i++) {
      hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
      hash ^= hash >>> 15;
    }
    return hash >>> 0;
  });
}

/**
 * A GlobalId of 22 signs that is the same whenever the same thing is written again: of an element that is known by a UUID that UUID,
 * else made of its name.
 */
export function globalId(name: string): string {
  const hex = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(name)
    ? name.replaceAll('-', '')
    : sums(name)
        .map((n) => n.toString(16).padStart(8, '0'))
        .join('');
  let bits = BigInt(`0x${hex}`),
    out = '';
  // Twenty-one signs of six bits, and before them the two that are left.
  for (let i = 0; i < 22; i++) {
    out = SIGNS[Number(bits & 63n)] + out;
    bits >>= 6n;
  }
  return out;
}
