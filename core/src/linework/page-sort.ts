import type { PageSummary } from './page-summary.ts';

/** What a page is good for, as far as its title and what is drawn on it tell. */
export type PageSort = 'plan' | 'elevation' | 'section' | 'detail' | 'table' | 'cover' | 'drawing';

/** Words by which offices of some languages call their sheets, the surer ones first. */
const BY_TITLE: readonly (readonly [PageSort, RegExp])[] = [
  [
    'table',
    /\b(schedules?|legends?|index|list of|cutting list|raumbuch|stückliste|türliste|fensterliste|legende|liste|nomenclature)\b/i,
  ],
  ['elevation', /\b(elevations?|fa[cç]ades?|ansicht\w*|gevel\w*|élévations?|prospetto|alzado)\b/i],
  ['section', /\b(sections?|schnitt\w*|coupes?|doorsnede\w*|sezione|sección)\b/i],
  ['detail', /\b(details?|detailed|einzelheit\w*)\b/i],
  [
    'plan',
    /\b(plans?|floors?|grundriss\w*|lageplan|plattegrond\w*|pianta|planta|layouts?|storey|geschoss|erdgeschoss|obergeschoss|rez-de-chauss[ée]e)\b/i,
  ],
];
/** A page of so many texts for each stroke, or more, is written rather than drawn; one with next to nothing is a cover. */
const WRITTEN = 0.6,
  LEAST_TEXTS = 25,
  NEXT_TO_NOTHING = 40;

/** The title says it where it names one; else what is drawn: written pages and covers are told from drawings. */
export function pageSortOf({
  title,
  counts,
  dimensions,
  scaleNotes,
}: Pick<PageSummary, 'title' | 'counts' | 'dimensions' | 'scaleNotes'>): PageSort {
  const strokes = counts.segments + counts.arcs + counts.circles + counts.curves;
  const isDrawn = dimensions > 2 || scaleNotes.length > 0 || strokes > 20 * NEXT_TO_NOTHING;
  const named = BY_TITLE.find(([, words]) => words.test(title?.title ?? ''))?.[0];
  if (named && (isDrawn || named === 'table' || strokes > NEXT_TO_NOTHING)) return named;
  if (isDrawn) return 'drawing';
  if (counts.texts >= LEAST_TEXTS && counts.texts > WRITTEN * strokes) return 'table';
  return strokes <= NEXT_TO_NOTHING ? 'cover' : 'drawing';
}
