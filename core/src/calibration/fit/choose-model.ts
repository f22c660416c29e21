import { chi2Quantile } from './chi2.ts';
import {
  fitLengths,
  FIT_MODELS,
  lengthOf,
  PARAMETERS,
  sigmaOf,
  type FitModel,
  type FitOutcome,
  type KnownLength,
  type LengthFit,
} from './lengths.ts';

export interface ModelChoice {
  /** The simplest model that the evidence supports. */
  model: FitModel;
  fits: Record<FitModel, FitOutcome>;
  /** The length that spoils the fit, if leaving it out makes the rest agree. */
  spoiler: {
    at: number;
    model: FitModel;
    without: LengthFit;
    /** What it should be, millimetres. */ expected: number;
  } | null;
}

/** 99.9 %: a model is given up, or a length called wrong, only for good reason. */
const CLEARLY = 3.090232;
/** A length this many of its own standard deviations off, against the rest alone, spoils the fit. */
const SPOILS = 4;
const SUSPECTS = 12;

const accepted = (fit: LengthFit) => fit.freedom === 0 || fit.chi2 <= chi2Quantile(fit.freedom, CLEARLY);

/**
 * Takes the first of uniform, directional, affine that the lengths do not contradict, as long as there is more
 * evidence than the model needs, or one across and one up that disagree by what paper stretches; where one length alone contradicts the simplest, that one is named instead.
 */
export function chooseModel(known: readonly KnownLength[]): ModelChoice {
  const fits = Object.fromEntries(FIT_MODELS.map((m) => [m, fitLengths(known, m)])) as Record<
    FitModel,
    FitOutcome
  >;
  const supported = FIT_MODELS.filter((m) => fits[m].ok && (m === 'uniform' || known.length > PARAMETERS[m]));
  const fitOf = (m: FitModel) => (fits[m] as { fit: LengthFit }).fit;
  for (const model of supported) {
    if (accepted(fitOf(model))) return { model, fits, spoiler: null };
    const spoiler = findSpoiler(known, model);
    if (spoiler) return { model, fits, spoiler };
  }
  if (isStretch(known, fits)) return { model: 'directional', fits, spoiler: null };
  // Nothing explains them all: the simplest model whose fit is not much worse than the best.
  const best = supported.reduce(
    (a, b) =>
      fitOf(b).chi2 / Math.max(1, fitOf(b).freedom) < 0.5 * (fitOf(a).chi2 / Math.max(1, fitOf(a).freedom))
        ? b
        : a,
    supported[0] ?? 'uniform',
  );
  return { model: best, fits, spoiler: null };
}

/** Paper is stretched by a tenth at most; what differs more is a wrong figure. */
const MOST_STRETCH = 0.1,
  ALONG = 0.95;

/** One length across and one up the sheet that disagree: nobody knows which is right, and both are where the paper is stretched. */
function isStretch(known: readonly KnownLength[], { directional }: Record<FitModel, FitOutcome>): boolean {
  if (known.length !== 2 || !directional.ok) return false;
  const [a, b] = directional.fit.stretching,
    share = (k: KnownLength, axis: 0 | 1) =>
      Math.abs(k.to[axis] - k.from[axis]) / Math.hypot(k.to[0] - k.from[0], k.to[1] - k.from[1]);
  const across = known.findIndex((k) => share(k, 0) >= ALONG),
    up = known.findIndex((k) => share(k, 1) >= ALONG);
  return across >= 0 && up >= 0 && Math.abs(b / a - 1) <= MOST_STRETCH;
}

/** The one length without which the rest agree and from which it is far. */
function findSpoiler(known: readonly KnownLength[], model: FitModel): ModelChoice['spoiler'] {
  if (known.length < PARAMETERS[model] + 2) return null;
  const all = fitLengths(known, model);
  if (!all.ok) return null;
  let best: ModelChoice['spoiler'] = null;
  let least = Infinity;
  // The wrong one is among those that miss by most, even where it pulls the fit towards itself.
  const suspects = all.fit.residuals
    .map((r, at) => ({ at, off: Math.abs(r.sigmas) }))
    .sort((a, b) => b.off - a.off)
    .slice(0, SUSPECTS);
  suspects.forEach(({ at }) => {
    const k = known[at];
    const outcome = fitLengths(
      known.filter((_, i) => i !== at),
      model,
    );
    if (!outcome.ok || !accepted(outcome.fit) || outcome.fit.chi2 >= least) return;
    const expected = lengthOf(outcome.fit.stretching, k.from, k.to);
    if (
      Math.abs(expected - k.millimetres) <
      SPOILS * sigmaOf(k, Math.sqrt(outcome.fit.stretching[0] * outcome.fit.stretching[1]))
    )
      return;
    least = outcome.fit.chi2;
    best = { at, model, without: outcome.fit, expected };
  });
  return best;
}
