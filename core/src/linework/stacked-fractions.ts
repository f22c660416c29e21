import type { PageText } from './types.ts';

/** Figures of a fraction that is set one over the other are this much of the height beside them. */
const SMALLEST = 0.35,
  LARGEST = 0.85;
/** How far the fraction may stand from what it belongs to, and how far its figures lie apart, in heights of the whole figure. */
const NEXT = 0.7,
  APART = 1.3;

const ENDS_OPEN = /(?:^|['’′]\s*-?\s*|^[-−]?)\d+$/;
const DIGITS = /^\d{1,2}$/;
const BOTTOMS = new Set(['2', '4', '8', '16', '32', '64']);
const CLOSING = /^["”″]|^''$/;

/** A text by where it stands beside another: in heights of that from its end, and above its base line. */
interface Placed {
  t: PageText;
  along: number;
  up: number;
  size: number;
  same: boolean;
}

/** Feet and inches whose fraction is set in small figures, one over the other, as one text: 11'-4 and 1 over 2 become 11'-4 1/2". */
export function joinStackedFractions(texts: readonly PageText[]): PageText[] {
  const small = texts.filter((t) => DIGITS.test(t.text));
  if (small.length < 2) return [...texts];
  const gone = new Set<PageText>();
  const joined = texts.map((whole): PageText => {
    if (!ENDS_OPEN.test(whole.text)) return whole;
    const at = (t: PageText): Placed => {
      const dx = t.x - whole.x,
        dy = t.y - whole.y,
        ux = Math.cos(whole.radians),
        uy = Math.sin(whole.radians);
      return {
        t,
        along: (dx * ux + dy * uy - whole.width) / whole.height,
        up: (-dx * uy + dy * ux) / whole.height,
        size: t.height / whole.height,
        same: Math.cos(t.radians - whole.radians) > 0.999,
      };
    };
    const beside = small
      .filter((t) => t !== whole && !gone.has(t))
      .map(at)
      .filter(
        (p) =>
          p.same &&
          p.size >= SMALLEST &&
          p.size <= LARGEST &&
          p.along > -0.2 &&
          p.along < NEXT &&
          Math.abs(p.up) < APART,
      );
    const bottom = beside.filter((p) => BOTTOMS.has(p.t.text)).sort((a, b) => a.up - b.up)[0];
    const top =
      bottom &&
      beside
        .filter(
          (p) =>
            p.t !== bottom.t &&
            p.up > bottom.up + 0.3 * bottom.size &&
            p.up < bottom.up + APART &&
            Number(p.t.text) < Number(bottom.t.text),
        )
        .sort((a, b) => b.up - a.up)[0];
    if (!top || overlapAlong(top, bottom) < 0.3) return whole;
    const end = Math.max(...[top, bottom].map((p) => p.along + p.t.width / whole.height));
    const closing = texts
      .map(at)
      .find(
        (p) =>
          p.same &&
          CLOSING.test(p.t.text) &&
          p.t.text.length <= 2 &&
          p.along > end - 0.3 &&
          p.along < end + NEXT &&
          Math.abs(p.up) < APART,
      );
    for (const p of [top, bottom, ...(closing ? [closing] : [])]) gone.add(p.t);
    const right = closing ? closing.along + closing.t.width / whole.height : end;
    return {
      ...whole,
      text: `${whole.text} ${top.t.text}/${bottom.t.text}${closing ? '"' : /['’′]/.test(whole.text) ? '"' : ''}`,
      width: whole.width + right * whole.height,
    };
  });
  return joined.filter((_, i) => !gone.has(texts[i]));
}

/** Share of the narrower figure that the two have in common along the line. */
function overlapAlong(a: Placed, b: Placed): number {
  const reach = (p: Placed) => [p.along, p.along + (p.t.width / p.t.height) * p.size] as const;
  const [a0, a1] = reach(a),
    [b0, b1] = reach(b);
  return (Math.min(a1, b1) - Math.max(a0, b0)) / Math.max(1e-9, Math.min(a1 - a0, b1 - b0));
}
