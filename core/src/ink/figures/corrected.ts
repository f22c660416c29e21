import type { Components } from '../components.ts';
import type { RecognisedText } from './recognised-text.ts';
import type { TextBlock } from './text-blocks.ts';

/** Letters that recognition takes for digits, or digits for letters, where all around them are digits. */
export function corrected(text: string): string {
  const digits = (text.match(/\d/g) ?? []).length,
    others = (text.match(/[a-hj-np-z]/gi) ?? []).filter((c) => c !== 'l').length;
  if (digits < 2 || others > 2) return text;
  // Pieces of ticks and lines stand before and behind what is read.
  const bare = text
    .replace(/^[\\/|~=—_:;*«»<>{}[\]]+\s*(?=[\dØ@.])/, '')
    .replace(/(?<=[\d"'])\s*[\\|~=—_:;{}[\]]+$/, '')
    .replace(/(?<=\d)\)$/, (end) => (text.includes('(') ? end : ''));
  return (
    bare
      .replace(/@\s*(?=[\d.])/, 'Ø')
      .replace(/(?<=\d)[Oo](?=[\dOo]|$)|^[Oo](?=\d\d)/g, '0')
      .replace(/(?<=\d)[lI|](?=\d|$)|^[lI|](?=\d\d)/g, '1')
      .replace(/[‘’]/g, "'")
      .replace(/[“”]/g, '"')
      .replace(/''/g, '"')
      // A tolerance, and a one that stands apart from the feet it belongs to.
      .replace(/(?<=\d)\+(?=\.\d)/, '±')
      .replace(/^1 (?=\d'-\d)/, '1')
      // Feet lose their mark easily beside the dash: 19-0" is nothing else.
      .replace(/^(\d+)\s*[°*^]?\s*[-–]\s*(\d{1,2}(?:\s+\d+\/\d+)?)"$/, '$1\'-$2"')
  );
}

/** A raised half is taken for a degree, a quote or a star: it stands at the end, is smaller than the rest, and hangs from its top. */
const RAISED_LEAST = 0.42,
  RAISED_MOST = 0.82,
  RAISED_UP = 0.08;
export function withRaised(text: string, { list }: Components, block: TextBlock, turned: boolean): string {
  const match = /^(\d{1,3}(?:[.,]\d{2})?)\s*[°º?*'"`´’”5sS]$/.exec(
    text.replace(/^(\d{1,2}) (?=\d{2}\b)/, '$1.'),
  );
  if (!match || block.members.length < 2) return text;
  const way = turned ? -1 : 1,
    ux = way * Math.cos(block.radians),
    uy = -way * Math.sin(block.radians),
    h = block.height;
  const glyphs = block.members
    .map((m) => {
      const c = list[m],
        x = (c.x0 + c.x1) / 2 - block.x,
        y = (c.y0 + c.y1) / 2 - block.y;
      return {
        along: x * ux + y * uy,
        up: x * uy - y * ux,
        size: Math.abs(ux) > 0.7 ? c.y1 - c.y0 : c.x1 - c.x0,
      };
    })
    .filter((g) => g.size > 0.25 * h)
    .sort((a, b) => a.along - b.along);
  const last = glyphs[glyphs.length - 1];
  return last && last.size >= RAISED_LEAST * h && last.size <= RAISED_MOST * h && last.up > RAISED_UP * h
    ? `${match[1]}⁵`
    : text;
}

/** The figures of a sheet are written alike: what the most have, the others have lost. Changes the texts. */
export function alike(texts: readonly RecognisedText[]): void {
  lostPoints(texts);
  // A comma before thousands is read as a point now and then.
  const commas = texts.filter((t) => /^\d{1,3},\d{3}$/.test(t.text)).length,
    points = texts.filter((t) => /^\d{1,3}\.\d{3}$/.test(t.text));
  if (commas >= MANY && points.length < commas / 2) for (const t of points) t.text = t.text.replace('.', ',');
  // Where halves are raised, what looks like a degree or a quote behind a figure is one of them as well.
  if (texts.filter((t) => t.text.endsWith('⁵')).length >= MANY)
    for (const t of texts) t.text = t.text.replace(/^(\d{1,3}(?:[.,]\d{2})?)[°º"'*”’]$/, '$1⁵');
  doubtful(texts);
}

/** So many tell the manner of a sheet. */
const MANY = 3;
/** Where so many figures have a point, and most of all do, one without has lost it: then it can agree, but proves nothing wrong. */
const POINTED = 6,
  MOSTLY = 0.6,
  LOST_POINT_CONFIDENCE = 50;
function lostPoints(texts: readonly RecognisedText[]): void {
  const pointed = texts.filter((t) => /^\d{1,2}\.\d{2,3}$/.test(t.text)),
    lost = texts.filter((t) => /^[1-9]\d{2,4}$/.test(t.text));
  if (pointed.length < POINTED || pointed.length < MOSTLY * (pointed.length + lost.length)) return;
  const three = pointed.some((t) => /\.\d{3}$/.test(t.text)),
    two = pointed.some((t) => /\.\d{2}$/.test(t.text));
  for (const t of lost) {
    // 443 is 4.43, 4315 is 4.315 where thousandths are written and 43.15 where not.
    const decimals = t.text.length === 3 || !three ? 2 : 3;
    if (decimals === 2 && !two) continue;
    t.text = `${t.text.slice(0, -decimals)}.${t.text.slice(-decimals)}`;
    t.confidence = Math.min(t.confidence, LOST_POINT_CONFIDENCE);
    t.clear = false;
  }
}

/** Where so many whole figures end alike, one that does not is more likely misread than so drawn: it says nothing. */
const WHOLES = 8,
  ALIKE = 0.88;
function doubtful(texts: readonly RecognisedText[]): void {
  const whole = texts.flatMap((t) => {
    const text = t.text.replace(/(?<=\d),(?=\d{3}$)/, '');
    return /^[1-9]\d{2,4}$/.test(text) ? [{ t, value: Number(text) }] : [];
  });
  const step = [50, 25, 10, 5].find(
    (s) => whole.filter((w) => w.value % s === 0).length >= ALIKE * whole.length,
  );
  if (whole.length < WHOLES || !step) return;
  for (const { t, value } of whole) if (value % step !== 0) t.text = `${t.text}?`;
}
