import type { Transform } from '../geometry/index.ts';
import { kindOf, type Traced } from '../kinds/index.ts';

/** A traced element where a similarity of the plane takes it. Texts, figures and hatches grow with the rest; a wall keeps its thickness and height. */
export const movedBy = <T extends Traced>(element: T, map: Transform): T =>
  kindOf(element).moved(element, map);
