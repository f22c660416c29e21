import {
  anchorOf,
  chooseModel,
  measuredLength,
  placeFitted,
  statedError,
  type FitModel,
  type FitOutcome,
  type FitRefusal,
  type LengthFit,
  type ModelChoice,
  type StatedError,
} from '@calque/core/calibration';
import { meanScale, MM_PER_POINT, type Transform } from '@calque/core/geometry';
import {
  group,
  ofType,
  setFields,
  storedTransform,
  type Calibration,
  type CalibrationRecord,
  type Change,
  type Check,
  type KnownDimension,
  type Model,
  type ScaleDoubt,
  type Underlay,
} from '@calque/core/model';
import { describeScale, formatNumber } from '@calque/core/units';
import { isFitted, knownLength, knownOn } from '@/project/known';
import { whoIsIt } from '@/project/who';
import type { Table } from '@/table/table';
import { carriedChanges, showPlaced } from './place';

export type Wanted = 'auto' | FitModel;
export const MODEL_WORDS: Record<FitModel, string> = {
  uniform: 'one scale',
  directional: 'width and height apart',
  affine: 'sheared as well',
};

/** Why a model cannot be fitted, and what to do. */
export const REFUSAL_WORDS: Record<FitRefusal, string> = {
  none: 'No dimension is fitted: mark at least one as fitted.',
  'points-together': 'The two picks of one dimension lie on one another: remove it and pick it again.',
  'length-not-positive': 'One dimension has no length: remove it and enter it again.',
  'too-few': 'This needs more dimensions than there are: add another.',
  'one-direction':
    'All fitted dimensions run the same way: add one across them, to know the other direction.',
  'two-directions': 'This needs dimensions in three directions: add one at a slant.',
  wild: 'These dimensions contradict one another: no placement has them all. Look for the one that is wrong.',
};

export interface Fitted {
  choice: ModelChoice;
  /** The model in use. */ model: FitModel;
  outcome: FitOutcome;
}

const fittedCache = new WeakMap<readonly Check[], Fitted>();

/** The fit to those of an underlay's known dimensions that are marked as fitted; null where none is. */
export function fitOf(checks: readonly Check[], wanted: Wanted): Fitted | null {
  const fitted = checks.filter(isFitted);
  if (fitted.length === 0) return null;
  const cached = fittedCache.get(checks);
  const choice = cached?.choice ?? chooseModel(fitted.map(knownLength));
  const model = wanted === 'auto' ? choice.model : wanted;
  const result = { choice, model, outcome: choice.fits[model] };
  fittedCache.set(checks, result);
  return result;
}

/** A photo that was straightened carries the error of its four corners as well. */
function withStraightening(error: StatedError, u: Underlay): StatedError {
  const more = u.straightened?.across;
  if (!more) return error;
  const [x0, y0, x1, y1] = u.crop;
  const diagonal = Math.hypot(x1 - x0, y1 - y0) * meanScale(u.placement);
  const corners = error.corners.map((c) => ({
    ...c,
    major: Math.hypot(c.major, more),
    minor: Math.hypot(c.minor, more),
    radius: Math.hypot(c.radius, more),
  }));
  return {
    tenMetres: Math.hypot(error.tenMetres, (more / diagonal) * 10000),
    corners,
    across: Math.max(...corners.map((c) => c.radius)),
  };
}

const errorCache = new WeakMap<LengthFit, { crop: Underlay['crop']; error: StatedError }>();

/** How far off the fit says that the sheet may be; null where nothing is fitted. The same answer for the same evidence. */
export function errorOf(u: Underlay, checks: readonly Check[], wanted: Wanted): StatedError | null {
  const found = fitOf(checks, wanted);
  if (!found?.outcome.ok) return null;
  const { fit } = found.outcome;
  const cached = errorCache.get(fit);
  if (cached?.crop === u.crop) return cached.error;
  const error = withStraightening(
    statedError(fit, anchorOf(checks.filter(isFitted).map(knownLength)), u.crop),
    u,
  );
  errorCache.set(fit, { crop: u.crop, error });
  return error;
}

export const wantedOf = (u: Underlay): Wanted => u.calibration?.fit?.wanted ?? 'auto';

/** A scale that leaps by this much most likely comes of a wrong unit. */
const ASKS_FROM = 1000;
export const isWild = (before: Transform, after: Transform): boolean => {
  const k = meanScale(after) / meanScale(before);
  return k > ASKS_FROM || k < 1 / ASKS_FROM;
};

export interface NewFit {
  placement: Transform;
  calibration: Calibration;
}

/** Where the fit lays the sheet: turned as it is, with the first fitted pick where it lies. */
export function placedBy(u: Underlay, checks: readonly Check[], wanted: Wanted): NewFit | FitRefusal {
  const fitted = checks.filter(isFitted);
  const found = fitOf(checks, wanted);
  if (!found) return 'none';
  if (!found.outcome.ok) return found.outcome.reason;
  const { fit } = found.outcome;
  const placement = placeFitted(u.placement, fit.stretching, fitted[0].from);
  const onPaper = (c: Check) => Math.hypot(c.to[0] - c.from[0], c.to[1] - c.from[1]);
  const main = fitted.reduce((a, b) => (onPaper(b) > onPaper(a) ? b : a));
  const error = errorOf(u, checks, wanted)!;
  const oldLength = measuredLength(u.placement, main.from, main.to);
  return {
    placement,
    calibration: {
      from: main.from,
      to: main.to,
      trueLength: main.printed,
      oldLength,
      factor: main.printed / oldLength,
      typed: main.typed,
      fit: {
        model: found.model,
        wanted,
        fitted: fitted.length,
        tenMetres: error.tenMetres,
        across: error.across,
      },
    },
  };
}

/** Changes that turn the underlay's known dimensions into the given ones. */
function knownChanges(model: Model, underlayId: string, next: readonly Check[]): (Change | null)[] {
  const now = knownOn(model, underlayId);
  const kept = new Map(next.map((c) => [c.id, c]));
  return [
    ...now.filter((c) => !kept.has(c.id)).map((entity): Change => ({ type: 'remove', entity })),
    ...next.map((c): Change | null => {
      const before = now.find((n) => n.id === c.id);
      if (!before) return { type: 'add', entity: c };
      const { id: _, type: __, ...fields } = c;
      return JSON.stringify(before) === JSON.stringify(c) ? null : setFields(before, fields);
    }),
  ];
}

/** Usual sizes prove nothing: a sheet that rests on them alone is not to scale. */
const restsOnAssumed = (checks: readonly Check[]): boolean =>
  checks.filter(isFitted).every((c) => c.origin === 'assumed');

const bare = ({ type: _, underlayId: __, ...known }: Check): KnownDimension => known;

/** A new entry of the underlay's calibrations, in order. */
export function recordOf(
  model: Model,
  u: Underlay,
  label: string,
  state: Pick<CalibrationRecord, 'placement' | 'scaleState' | 'calibration'>,
  known: readonly Check[],
): CalibrationRecord {
  const number =
    Math.max(
      0,
      ...ofType(model, 'calibration')
        .filter((r) => r.underlayId === u.id)
        .map((r) => r.number),
    ) + 1;
  return {
    type: 'calibration',
    id: crypto.randomUUID(),
    underlayId: u.id,
    number,
    at: new Date().toISOString(),
    label,
    ...(whoIsIt() && { by: whoIsIt() }),
    ...state,
    known: known.map(bare),
  };
}

/**
 * Gives an underlay these known dimensions and lays it anew by those that are fitted, in one step that also
 * keeps the calibration. `against`: what the sheet says otherwise, where a person takes this all the same. Says why where it cannot be fitted; the dimensions are kept all the same.
 */
export function refit(
  table: Table,
  u: Underlay,
  next: readonly Check[],
  label: string,
  wanted: Wanted = wantedOf(u),
  against: ScaleDoubt | null = null,
): boolean {
  const { session } = table;
  const { model } = session.state;
  const changes = knownChanges(model, u.id, next);
  const placed = placedBy(u, next, wanted);
  if (typeof placed === 'string') {
    if (placed !== 'none') session.tell(REFUSAL_WORDS[placed], true);
    // Where it rests on nothing any more, it lies as it did, but its error cannot be stated.
    const unstated =
      placed === 'none' && u.calibration?.fit
        ? setFields(u, { calibration: { ...u.calibration, fit: null } })
        : null;
    const change = group([...changes, unstated]);
    return change === null || session.do(change, label);
  }
  const state = {
    placement: storedTransform(placed.placement),
    scaleState: restsOnAssumed(next) ? ('stated' as const) : ('calibrated' as const),
    calibration: { ...placed.calibration, ...(against && { against }) },
  };
  const change = group([
    ...changes,
    setFields(u, state),
    ...carriedChanges(table, u, placed.placement),
    { type: 'add', entity: recordOf(model, u, label, state, next) },
  ]);
  if (!change || !session.do(change, label)) return false;
  if (Math.abs(meanScale(placed.placement) / meanScale(u.placement) - 1) > 0.02) showPlaced(table, u.id);
  return true;
}

/** Goes back to a calibration of before: its placement and its known dimensions. */
export function goBackTo(table: Table, u: Underlay, record: CalibrationRecord): boolean {
  const { model } = table.session.state;
  const known = record.known.map((k): Check => ({ ...k, type: 'check', underlayId: u.id }));
  const state = {
    placement: record.placement,
    scaleState: record.scaleState,
    calibration: record.calibration,
  };
  const label = `Back to calibration ${record.number} of ${u.name}`;
  const change = group([
    ...knownChanges(model, u.id, known),
    setFields(u, state),
    ...carriedChanges(table, u, record.placement),
    { type: 'add', entity: recordOf(model, u, label, state, known) },
  ]);
  if (!change || !table.session.do(change, label)) return false;
  showPlaced(table, u.id);
  return true;
}

/** What the evidence says about the paper, in words; null where one scale explains it. */
export function stretchWords(
  { choice, model, outcome }: Fitted,
  count: number,
  imperial: boolean,
): string | null {
  const shown = model !== 'uniform' ? outcome : choice.model !== 'uniform' ? choice.fits[choice.model] : null;
  if (!shown?.ok) return null;
  const {
    stretching: [a, b, c],
    residuals,
  } = shown.fit;
  const scale = (perPoint: number) => describeScale(perPoint / MM_PER_POINT, imperial).text,
    ways = `${scale(a)} across, ${scale(b)} up`;
  if (count === 2)
    return `The paper is stretched: ${ways}. Each rests on one dimension: hold another against each.`;
  const worst = Math.max(...residuals.map((r) => Math.abs(r.millimetres)));
  const agreeing = residuals.filter((r) => Math.abs(r.sigmas) < 4).length;
  const stretch = `${shown.fit.model === 'directional' ? `${ways}: ` : ''}${agreeing} of ${count} agree within ${formatNumber(worst, worst < 10 ? 1 : 0)} mm if the height is scaled by ${formatNumber(b / a, 4)} against the width`;
  return shown.fit.model === 'affine'
    ? `${stretch}, with a shear of ${formatNumber((Math.asin(Math.max(-1, Math.min(1, (2 * c) / (a + b)))) * 180) / Math.PI, 2)}°.`
    : `${stretch}.`;
}
