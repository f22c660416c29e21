import { evaluateCheck, type CheckResult, type KnownLength } from '@calque/core/calibration';
import { ofType, type Check, type KnownDimension, type Model, type Underlay } from '@calque/core/model';
import { MM_PER, readFigure } from '@calque/core/units';

/** Picks of which nothing is recorded: as good as a line's width. */
const USUAL_SIGMA = 0.1;
/** A figure whose rounding cannot be told is good to half a millimetre either way. */
const USUAL_HALF = 0.5;

export const knownOn = (model: Model, underlayId: string): Check[] =>
  ofType(model, 'check').filter((c) => c.underlayId === underlayId);
export const isFitted = (c: Pick<KnownDimension, 'use'>): boolean => c.use === 'fit';

/** A figure is evenly spread over its rounding: its standard deviation, millimetres. */
export function spreadOf(typed: string, mm: number): number {
  const figure = readFigure(typed);
  if (!figure) return USUAL_HALF / Math.sqrt(3);
  const unit = figure.millimetres !== null ? 1 : mm / figure.bare!;
  // Whole inches are seldom rounded to inches.
  const half = Math.min(figure.half * unit, MM_PER.in / 4, 0.01 * mm);
  return half / Math.sqrt(3);
}

export const knownLength = (c: KnownDimension): KnownLength => ({
  from: c.from,
  to: c.to,
  millimetres: c.printed,
  sigma: c.sigma ?? [USUAL_SIGMA, USUAL_SIGMA],
  lengthSigma: c.spread ?? spreadOf(c.typed, c.printed),
});

/** By how much of a length a sheet says that it may be off, 95 %; a stated scale says nothing of that. */
export const statedShare = (fit: { tenMetres: number } | null | undefined): number =>
  fit ? fit.tenMetres / 10000 : 0;

/** A known dimension held against where its sheet lies. */
export const checked = (u: Underlay, c: Check): CheckResult =>
  evaluateCheck(u.placement, knownLength(c), statedShare(u.calibration?.fit));
