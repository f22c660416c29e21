import { boxContains, type Box } from '../geometry/index.ts';
import type { Cover } from './covering.ts';
import type { Linework, Patch, PageText } from './types.ts';

/** More patches than this are a texture, and rings of more corners are pictures. */
const MOST_PATCHES = 3000,
  MOST_CORNERS = 24;
/** Patches that take more of the page than this are its ground, or a view's. */
const LARGEST = 0.05;
/** A clip leaves a patch whole within this, sheet points. */
const WHOLE = 0.01;

/**
 * The plain patches that look like bare paper and hide what was painted before them: what some programs lay over a wall where an opening is. Those that texts
 * stand on are grounds of words, and hide nothing that a person would not read on through.
 */
export function patchesOf(
  covers: readonly Cover[],
  texts: readonly PageText[],
  { width, height }: Pick<Linework, 'width' | 'height'>,
): Patch[] {
  const plain = covers.filter(({ paper, opaque, regions: [region], box }) => {
    const [x0, y0, x1, y1] = box;
    return (
      paper &&
      opaque &&
      region.rings.length === 1 &&
      region.rings[0].length <= MOST_CORNERS &&
      (x1 - x0) * (y1 - y0) <= LARGEST * width * height &&
      boxContains([x0 - WHOLE, y0 - WHOLE, x1 + WHOLE, y1 + WHOLE], region.box)
    );
  });
  if (plain.length > MOST_PATCHES) return [];
  return plain
    .filter(({ box }) => !texts.some((t) => isOn(box, t)))
    .map(({ order, regions: [{ rings }] }) => ({ object: order, ring: rings[0] }));
}

/** Does the middle of a text lie on a box? */
function isOn([x0, y0, x1, y1]: Box, { x, y, width, height, radians }: PageText): boolean {
  const [mx, my] = [
    x + (width / 2) * Math.cos(radians) - 0.35 * height * Math.sin(radians),
    y + (width / 2) * Math.sin(radians) + 0.35 * height * Math.cos(radians),
  ];
  return mx > x0 && mx < x1 && my > y0 && my < y1;
}
