import type { Linework, PageText } from './types.ts';

/** What a title block calls its sheet; empty where nothing could be read. */
export interface SheetTitle {
  number: string;
  title: string;
}

const BEFORE_NUMBER = /^(?:drawing|sheet|dwg|drg|plan|blatt|no)\b\.?\s*(?:no|nr|number)?\.?\s*:?\s*/i;
const NUMBER = /^(?:[A-Z]{1,4}[-.\s]?\d{1,4}(?:[-.]\d{1,4}){0,2}[A-Za-z]?|\d{1,3}[-.]\d{1,4}[A-Za-z]?)$/;
/** A bare number is one only where nothing better stands in the corner. */
const BARE_NUMBER = /^\d{2,4}$/;
const LABEL =
  /^(?:drawing|sheet|dwg|drg|plan|project|client|date|scale|drawn|checked|revision|rev|title|no|number|blatt|status|size)\b.{0,12}:?$/i;
const NO_TITLE =
  /^(?:scales?\b.*|1\s*:\s*\d.*|.*@\s*A\d|\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|[\d\s.,:/'"-]+|rev.{0,6}|page\b.*|sheet \d+ of \d+)$/i;
/** Words that name a drawing rather than a project: such a line is the title even where the project stands larger. */
const DRAWING_WORD =
  /\b(?:plans?|floors?|elevations?|sections?|details?|layouts?|roof|foundations?|ceilings?|site|levels?|frames?|framing|schedules?|general arrangement|parts?|assembly|stairs?|storey|basement)\b/i;
const NAMED_AS_DRAWING = 3;
/** The share of the page, at its right and lower edges, where title blocks stand. */
const EDGE = 0.33;
const LONGEST = 80;

/**
 * Sheet number and title from the corner of a page, as offices lay their title blocks out: lower right, or along
 * the right or the lower edge. The number is a short code; the title the largest words that are neither label nor scale.
 */
export function titleOf(l: Pick<Linework, 'width' | 'height' | 'texts'>): SheetTitle {
  const near = l.texts.filter(
    (t) => t.text.length <= LONGEST && corner(l, t) > 0 && Math.abs(Math.sin(2 * t.radians)) < 0.04,
  );
  const byWeight = (a: PageText, b: PageText) => corner(l, b) * b.height - corner(l, a) * a.height;
  const code = (t: PageText) => t.text.trim().replace(BEFORE_NUMBER, '');
  const number =
    near.filter((t) => NUMBER.test(code(t))).sort(byWeight)[0] ??
    near.filter((t) => BARE_NUMBER.test(t.text.trim()) && corner(l, t) > 1.5).sort(byWeight)[0];
  const asTitle = (t: PageText) =>
    corner(l, t) * t.height * (DRAWING_WORD.test(t.text) ? NAMED_AS_DRAWING : 1);
  const title = near
    .filter(
      (t) =>
        t !== number &&
        /\p{L}{3}/u.test(t.text) &&
        !LABEL.test(t.text.trim()) &&
        !NO_TITLE.test(t.text.trim()),
    )
    .sort((a, b) => asTitle(b) - asTitle(a))[0];
  return { number: number ? code(number) : '', title: title?.text.trim() ?? '' };
}

/** How much a place counts as title block: most in the lower right corner, nothing in the middle of the page. */
function corner(l: Pick<Linework, 'width' | 'height'>, t: PageText): number {
  const right = Math.max(0, (t.x + t.width / 2) / l.width - (1 - EDGE)) / EDGE,
    low = Math.max(0, 1 - EDGE - t.y / l.height + (2 * EDGE - 1)) / EDGE;
  const lower = Math.max(0, Math.min(1, low));
  return right > 0 && lower > 0 ? 1 + right + lower : right > 0.6 || lower > 0.75 ? 0.5 : 0;
}
