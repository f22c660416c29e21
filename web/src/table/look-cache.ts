import { makeRegion, regionContains } from '@calque/core/geometry';
import { visibility, type Linework, type Visibility } from '@calque/core/linework';
import { cropRingOf, lookOf, PLAIN_LOOK, type SheetLook, type Underlay } from '@calque/core/model';

/** A look as the picture and the snap need it. */
export interface ShownLook {
  /** Empty for the sheet as it came; equal looks of one page have equal keys. */
  key: string;
  linesOnly: boolean;
  /** What is off; null while nothing is. */
  visibility: Visibility | null;
}

const PLAIN: ShownLook = { key: '', linesOnly: false, visibility: null };

/** What each look takes away from each page, computed once. */
export class LookCache {
  private readonly known = new WeakMap<Linework, Map<string, ShownLook>>();
  private next = 1;

  /** Null while the linework that decides is not there yet. */
  of(u: Underlay, linework: Linework | null, layered: boolean): ShownLook | null {
    const look = lookOf(u);
    const { linesOnly } = look;
    if (!layered && !switchesAnything(look)) return linesOnly ? { ...PLAIN, linesOnly } : PLAIN;
    if (!linework) return null;
    const key = JSON.stringify(look.switches);
    let looks = this.known.get(linework);
    if (!looks) this.known.set(linework, (looks = new Map()));
    let found = looks.get(key);
    if (!found)
      looks.set(
        key,
        (found = { key: `look-${this.next++}`, linesOnly, visibility: visibility(linework, look.switches) }),
      );
    return { ...found, linesOnly };
  }
}

const switchesAnything = ({ switches: s }: SheetLook) =>
  Object.keys(s.layers).length + s.kinds.length + s.pens.length + s.authors.length + s.markupKinds.length > 0;

export const isPlainLook = (look: SheetLook): boolean => JSON.stringify(look) === JSON.stringify(PLAIN_LOOK);

export { cropRingOf as cropRing };

/** Does a point of the sheet lie within what is laid? Undefined where the crop's box says it all. */
export function withinOutline(u: Underlay): ((x: number, y: number) => boolean) | undefined {
  if (!u.outline) return undefined;
  const region = makeRegion([u.outline], 'nonzero');
  return (x, y) => regionContains(region, x, y);
}
