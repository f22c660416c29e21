import type { PageText } from '../../linework/index.ts';

const DIGITS = '⁰¹²³⁴⁵⁶⁷⁸⁹';
const BEFORE = /^\d{1,3}(?:[.,]\d{2})?$/;
/** A raised figure is this much of the height of what it stands behind, and so far above its base line and from its end, in heights of that. */
const SMALLEST = 0.35,
  LARGEST = 0.82,
  LEAST_UP = 0.12,
  MOST_UP = 0.75,
  FURTHEST = 0.4,
  OVERLAP = -0.3;

/**
 * Centimetres with the half as a small raised figure of its own (36 and a raised 5) as one text, 36⁵. Texts keep their
 * places in the list; what was joined to another becomes null.
 */
export function joinRaised<T extends PageText>(texts: readonly T[]): (T | null)[] {
  const small = texts.flatMap((t, i) => (/^\d$/.test(t.text.trim()) ? [i] : []));
  const out: (T | null)[] = [...texts];
  if (small.length === 0) return out;
  texts.forEach((whole, i) => {
    if (out[i] === null || !BEFORE.test(whole.text.trim())) return;
    const h = whole.height,
      ux = Math.cos(whole.radians),
      uy = Math.sin(whole.radians);
    const behind = small.find((k) => {
      const t = texts[k],
        dx = t.x - whole.x,
        dy = t.y - whole.y;
      const along = (dx * ux + dy * uy - whole.width) / h,
        up = (-dx * uy + dy * ux) / h,
        size = t.height / h;
      return (
        k !== i &&
        out[k] !== null &&
        Math.cos(t.radians - whole.radians) > 0.999 &&
        size >= SMALLEST &&
        size <= LARGEST &&
        along > OVERLAP &&
        along < FURTHEST &&
        up > LEAST_UP &&
        up < MOST_UP
      );
    });
    if (behind === undefined) return;
    const t = texts[behind],
      end = (t.x - whole.x) * ux + (t.y - whole.y) * uy + t.width;
    out[i] = {
      ...whole,
      text: whole.text.trim() + DIGITS[Number(t.text)],
      width: Math.max(whole.width, end),
    };
    out[behind] = null;
  });
  return out;
}
