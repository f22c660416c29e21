import type { TellLook } from './protocol';
import type { Pdfium } from './pdfium-exports';

/** What has been switched off on a loaded page, to be switched on again. */
export interface PageSwitches {
  objects: number[];
  annotations: Map<number, number>;
}

const FORM = 5;
/** As deep as the reader goes: both must count objects alike. */
const DEEPEST_FORM = 100;
const HIDDEN = 2;

/** Makes a loaded page show a look: objects by their number in paint order, forms counted with what is in them. */
export function switchPage(
  pdfium: Pdfium,
  page: number,
  before: PageSwitches | null,
  look: TellLook | null,
): PageSwitches {
  for (const object of before?.objects ?? []) pdfium.FPDFPageObj_SetIsActive(object, 1);
  const off = look?.objects;
  const objects: number[] = [];
  let n = 0;
  const visit = (object: number, depth: number) => {
    if (off?.[n++]) {
      pdfium.FPDFPageObj_SetIsActive(object, 0);
      objects.push(object);
    }
    if (pdfium.FPDFPageObj_GetType(object) !== FORM || depth >= DEEPEST_FORM) return;
    const inside = pdfium.FPDFFormObj_CountObjects(object);
    for (let i = 0; i < inside; i++) visit(pdfium.FPDFFormObj_GetObject(object, i), depth + 1);
  };
  if (off?.some((v) => v === 1)) {
    const count = pdfium.FPDFPage_CountObjects(page);
    for (let i = 0; i < count; i++) visit(pdfium.FPDFPage_GetObject(page, i), 0);
  }
  return {
    objects,
    annotations: hideAnnotations(pdfium, page, before?.annotations ?? new Map(), look?.annotations ?? []),
  };
}

function hideAnnotations(
  pdfium: Pdfium,
  page: number,
  before: ReadonlyMap<number, number>,
  off: readonly number[],
): Map<number, number> {
  const setFlags = (index: number, flags: (now: number) => number): number => {
    const annotation = pdfium.FPDFPage_GetAnnot(page, index);
    if (annotation === 0) return 0;
    const now = pdfium.FPDFAnnot_GetFlags(annotation);
    pdfium.FPDFAnnot_SetFlags(annotation, flags(now));
    pdfium.FPDFPage_CloseAnnot(annotation);
    return now;
  };
  for (const [index, flags] of before) setFlags(index, () => flags);
  return new Map(off.map((index) => [index, setFlags(index, (now) => now | HIDDEN)]));
}
