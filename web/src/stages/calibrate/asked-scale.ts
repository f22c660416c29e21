import { MM_PER_POINT } from '@calque/core/geometry';
import { parseScale } from '@calque/core/units';
import { paperSize } from '@/project/views';

export type AskedScale = { ok: true; factor: number } | { ok: false; why: string };

/** Beyond these no sheet lies, true millimetres per paper millimetre. */
const LEAST = 1e-4,
  MOST = 1e7;

/**
 * Reads how a sheet is to be laid: a scale (1:100, 1/4" = 1'-0"), a factor on what it lies at now (×2, 50 %), or the paper that it was
 * drawn on (A1), where it has been printed on other. `now`: true millimetres per paper millimetre; `sheet`: the page's size in points.
 */
export function readAskedScale(
  text: string,
  now: number,
  sheet: { width: number; height: number } | null,
): AskedScale {
  const said = text.trim();
  const factor = factorOf(said, now, sheet);
  if (factor === null)
    return {
      ok: false,
      why: `"${said.slice(0, 40)}" is no scale. Write it as 1:100, 1/4" = 1'-0", a factor such as ×2 or 50 %, or the paper it was drawn on, such as A1.`,
    };
  return factor >= LEAST && factor <= MOST
    ? { ok: true, factor }
    : { ok: false, why: 'No sheet lies at such a scale.' };
}

function factorOf(said: string, now: number, sheet: { width: number; height: number } | null): number | null {
  const times = /^(?:[×x*]\s*(\d+(?:[.,]\d+)?)|(\d+(?:[.,]\d+)?)\s*(?:[×x]|times))$/i.exec(said);
  if (times) return now * Number((times[1] ?? times[2]).replace(',', '.'));
  const percent = /^(\d+(?:[.,]\d+)?)\s*%$/.exec(said);
  if (percent) return now * (Number(percent[1].replace(',', '.')) / 100);
  const paper = paperSize(said);
  // What was drawn on larger paper lies at as many times the scale that it shows.
  if (paper && sheet)
    return now * (Math.max(...paper) / (Math.max(sheet.width, sheet.height) * MM_PER_POINT));
  const scale = parseScale(said);
  return scale.ok ? scale.factor : null;
}
