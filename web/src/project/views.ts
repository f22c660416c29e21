import { MM_PER_POINT, transformBox } from '@calque/core/geometry';
import { scaleFactorOf } from '@calque/core/calibration';
import { ofType, settingsOf, type Model, type ScaleDoubt, type Underlay } from '@calque/core/model';
import { describeScale, formatNumber, type LengthStyle } from '@calque/core/units';
import type { SheetInfo } from './wire';

/** What panels derive from the model, in words. */
export function lengthStyle(model: Model): LengthStyle {
  const { units, precision } = settingsOf(model);
  return { units, precision };
}

export const isImperial = (model: Model): boolean => ['ft', 'ft-in', 'in'].includes(settingsOf(model).units);

export function scaleWords(u: Underlay, imperial: boolean, doubt: ScaleDoubt | null): string {
  if (u.scaleState === 'paper') return 'not to scale yet';
  if (u.scaleState === 'own') return 'at true size, by its own units';
  const { text } = describeScale(scaleFactorOf(u.placement), imperial);
  if (doubt) return `≠ lies at ${text}, but ${doubtWords(doubt, imperial)}`;
  const fit = u.calibration?.fit;
  if (u.scaleState === 'stated')
    return fit
      ? `${text} assumed from usual sizes, within ${acrossWords(fit.across, imperial)}`
      : `${text} as stated, not checked`;
  if (!fit) return `to scale, ${text}`;
  // What one dimension says nobody has borne out.
  return `to scale${fit.fitted === 1 ? ' by one dimension alone' : fit.fitted === 2 && fit.model === 'directional' ? ' by one dimension each way' : ''}, ${text}, within ${acrossWords(fit.across, imperial)}`;
}

/** "40 printed dimensions say 1:100". */
export function doubtWords({ kind, count, factor }: ScaleDoubt, imperial: boolean): string {
  const { text } = describeScale(factor, imperial);
  if (kind === 'bar') return `its scale bar says ${text}`;
  if (kind === 'note') return `it states ${text}`;
  return count === 1 ? `a printed dimension says ${text}` : `${count} printed dimensions say ${text}`;
}

/** An error as people say it: two figures at most. */
export function acrossWords(mm: number, imperial: boolean): string {
  if (imperial)
    return mm < 25.4
      ? `${formatNumber(Math.max(mm / 25.4, 0.01), 2)} in`
      : `${formatNumber(mm / 25.4, 0)} in`;
  return mm < 1
    ? '1 mm'
    : mm < 1000
      ? `${formatNumber(Math.ceil(mm), 0)} mm`
      : `${formatNumber(mm / 1000, 1)} m`;
}

const PAPERS: [string, number, number][] = [
  ['A0', 841, 1189],
  ['A1', 594, 841],
  ['A2', 420, 594],
  ['A3', 297, 420],
  ['A4', 210, 297],
  ['A5', 148, 210],
  ['ARCH A', 229, 305],
  ['ARCH B', 305, 457],
  ['ARCH C', 457, 610],
  ['ARCH D', 610, 914],
  ['ARCH E', 914, 1219],
  ['Letter', 216, 279],
  ['Legal', 216, 356],
  ['Tabloid', 279, 432],
];
/** The size of a paper format by its name, millimetres; null where there is none of that name. */
export function paperSize(name: string): [number, number] | null {
  const found = PAPERS.find(([n]) => n.toLowerCase() === name.trim().toLowerCase());
  return found ? [found[1], found[2]] : null;
}

/** Millimetres by which a page may miss its paper format. */
const PAPER_SLACK = 2.5;

export function paperWords(sheet: Pick<SheetInfo, 'width' | 'height'>): string {
  const w = sheet.width * MM_PER_POINT,
    h = sheet.height * MM_PER_POINT;
  const [short, long] = [Math.min(w, h), Math.max(w, h)];
  const paper = PAPERS.find(
    ([, a, b]) => Math.abs(a - short) <= PAPER_SLACK && Math.abs(b - long) <= PAPER_SLACK,
  );
  const size = `${Math.round(w)} × ${Math.round(h)} mm`;
  return paper ? `${paper[0]}${w > h ? ' across' : ''}, ${size}` : size;
}

export const CONTENT_WORDS = {
  vector: 'lines to snap to',
  scan: 'a scan, no lines to snap to',
  mixed: 'a scan with lines over it',
  empty: 'nothing on this page',
};

/** The underlays of a storey, the top first. */
export const stackOf = (model: Model, planeId: string): Underlay[] =>
  ofType(model, 'underlay')
    .filter((u) => u.planeId === planeId)
    .sort((a, b) => b.order - a.order);

export const boxOfUnderlay = (u: Underlay) => transformBox(u.placement, u.crop);
