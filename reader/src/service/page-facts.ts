import { soundValue } from '@calque/core/texts';
import { kindCode, scaleNotes, titleOf } from '@calque/core/linework';
import type { ReadPage } from '../read-file.ts';
import type { PageFacts } from './protocol.ts';

/** Words of one page that are kept for finding it. */
const MOST_WORDS = 200_000;
const DIMENSION = kindCode('dimension');

/** What the list of pages needs to know of a page, beside its linework. */
export function pageFacts({ page, linework, milliseconds, whole, unknown, pixels }: ReadPage): PageFacts {
  const { width, height, content, counts, leftOut, layers, hatches, markups, texts, reference } = linework;
  return soundValue({
    page,
    width,
    height,
    content,
    counts,
    leftOut,
    layers,
    hatches,
    milliseconds,
    whole,
    markups: markups.length,
    dimensions: texts.filter((t) => t.kind === DIMENSION).length,
    scaleNotes: scaleNotes(texts),
    title: titleOf(linework),
    words: texts
      .map((t) => t.text)
      .join(' ')
      .slice(0, MOST_WORDS),
    reference: reference ?? null,
    unknown: unknown && Object.keys(unknown).length > 0 ? unknown : null,
    pixels: pixels ?? null,
  });
}
