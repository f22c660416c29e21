import type { PageText } from './types.ts';

/** Pieces whose base lines differ by less than this share of the height stand on one line. */
const SAME_LINE = 0.15;
/** A gap up to this many heights belongs to the same text; more is another text. */
const WIDEST_GAP = 0.36;
const LARGEST_OVERLAP = -0.35;
/** From this gap on a space stood between the pieces. */
const SPACE_GAP = 0.18;

/**
 * Joins neighbours in paint order into whole texts: producers cut a line at kerns, and a figure
 * like 11'-4" must be one text before it can be read.
 */
export function joinTexts(pieces: readonly PageText[]): PageText[] {
  const out: PageText[] = [];
  for (const piece of pieces) {
    const last = out[out.length - 1];
    const gap = last ? gapAfter(last, piece) : null;
    if (last && gap !== null) {
      const space = gap > SPACE_GAP && !last.text.endsWith(' ') && !piece.text.startsWith(' ') ? ' ' : '';
      last.text += space + piece.text;
      last.width += gap * last.height + piece.width;
    } else
      out.push({
        text: piece.text,
        object: piece.object,
        kind: piece.kind,
        x: piece.x,
        y: piece.y,
        height: piece.height,
        radians: piece.radians,
        layer: piece.layer,
        width: piece.width,
      });
  }
  for (const text of out) text.text = text.text.trim();
  return out;
}

/** Gap between two pieces in heights, or null when they are not parts of one line. */
function gapAfter(a: PageText, b: PageText): number | null {
  if (a.layer !== b.layer || Math.abs(a.height - b.height) > 0.02 * a.height) return null;
  if (Math.abs(Math.sin(a.radians - b.radians)) > 0.01 || Math.cos(a.radians - b.radians) < 0) return null;
  const dx = b.x - a.x,
    dy = b.y - a.y;
  const along = dx * Math.cos(a.radians) + dy * Math.sin(a.radians);
  const off = -dx * Math.sin(a.radians) + dy * Math.cos(a.radians);
  if (Math.abs(off) > SAME_LINE * a.height) return null;
  const gap = (along - a.width) / a.height;
  return gap > LARGEST_OVERLAP && gap < WIDEST_GAP ? gap : null;
}
