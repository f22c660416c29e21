import type { Part } from '@calque/core/model';
import { stockMaterial } from '@calque/core/part';

/** A part's grey where nobody has said a colour, and no table knows its material. */
const GREY = 0x9aa2a8;
export const colourOfPart = (part: Part): number =>
  part.colour ?? stockMaterial(part.material)?.colour ?? GREY;
