import type { Linework } from '@calque/core/linework';
import { soundBody, withoutBroken } from '@calque/core/texts';
import { ReadFailure } from './failure.ts';

/** A page's sides, points: a drawing of a country at true size is still within. */
const LARGEST_SIDE = 1e10;
/** Lines, edges and curves of one page; more could neither be kept nor drawn. */
const MOST_ITEMS = 6e6;
/** More pages, layers and texts than a set of plans has. */
export const MOST_PAGES = 5000;
const MOST_LAYERS = 20000,
  MOST_TEXTS = 1e6;
/** As entities keep the names of what is switched. */
const LONGEST_NAME = 500,
  LONGEST_WORDS = 5000;

/** A page as it may be kept: of a size that is one, not beyond bounds, its names and texts sound, the same wherever they are kept. */
export function soundPage(l: Linework): Linework {
  for (const side of [l.width, l.height]) {
    if (!(side > 0 && side <= LARGEST_SIDE))
      throw new ReadFailure(
        'damaged',
        `This page states a size of ${l.width} × ${l.height} points, which is none. Export the sheet again.`,
      );
  }
  const items =
    (l.segments.length + l.fillEdges.length) / 4 +
    l.arcs.length / 5 +
    l.circles.length / 3 +
    l.curves.length / 8;
  if (items > MOST_ITEMS || l.layers.length > MOST_LAYERS || l.texts.length > MOST_TEXTS) {
    throw new ReadFailure(
      'too-large',
      `This page holds ${items > MOST_ITEMS ? `${Math.round(items / 1e6)} million lines` : l.texts.length > MOST_TEXTS ? `${l.texts.length} texts` : `${l.layers.length} layers`}, more than can be worked with. Export a part of it.`,
    );
  }
  return {
    ...l,
    layers: l.layers.map((layer) => ({
      ...layer,
      name: soundBody(layer.name, LONGEST_NAME),
      ...(layer.under && { under: layer.under.map((t) => soundBody(t, LONGEST_NAME)) }),
    })),
    texts: l.texts.map((t) => ({ ...t, text: soundBody(t.text, LONGEST_WORDS) })),
    markups: l.markups.map((m) => ({
      ...m,
      author: soundBody(m.author, LONGEST_NAME),
      comment: withoutBroken(m.comment).slice(0, LONGEST_WORDS),
    })),
  };
}

/** Refuses a file that claims more pages than any set has. */
export function mayHavePages(pages: number): number {
  if (!(pages >= 0 && pages <= MOST_PAGES))
    throw new ReadFailure(
      'too-large',
      `This file claims ${pages} pages; up to ${MOST_PAGES} are read. Split it, and attach the parts that are needed.`,
    );
  return pages;
}
