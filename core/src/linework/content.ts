import type { Content, Counts, PagePicture } from './types.ts';

/** A picture over this share of the page makes it a scan (or a mixed page, when there is linework too). */
const PICTURE_SHARE = 0.25;
/** Up to this many lines around a scan are its frame or stamp, not a drawing. */
const FRAME_LINES = 4;

/** In one word what a page holds. `fillEdges`: numbers in the array of edges of fills. */
export function contentOf(
  counts: Counts,
  pictures: readonly PagePicture[],
  pageArea: number,
  fillEdges: number,
): Content {
  const lines = counts.segments + counts.arcs + counts.circles + counts.curves + fillEdges / 4;
  const share = pictures.reduce((s, p) => s + p.area, 0) / pageArea;
  if (share >= PICTURE_SHARE) return lines > FRAME_LINES ? 'mixed' : 'scan';
  if (lines > 0 || counts.texts > 0 || counts.fills > 0) return 'vector';
  return counts.images > 0 ? 'scan' : 'empty';
}
