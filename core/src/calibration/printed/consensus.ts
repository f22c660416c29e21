import { MM_PER_POINT, type SheetPoint } from '../../geometry/index.ts';
import { lengthIn, MM_PER_BARE, roundingIn, type BareUnit, type Figure } from '../../units/index.ts';
import { alongX, alongY, fitView, lengthAt, type Sample, type ViewFit } from './fit-view.ts';
import { differentLengths, type Stretch } from './line-pairs.ts';
import { unitsToTry, type UnitEvidence, type Units } from './unit-evidence.ts';

/** A figure with the stretches that it may measure, the likeliest first. */
export interface Reading {
  figure: Figure;
  stretches: readonly Stretch[];
  /** How far the figure itself is to be trusted, 0 to 1: those that were recognised less. */ trust: number;
  recognised: boolean;
  /** How far the ends of its stretches may miss the truth beyond what files do, sheet points. */ slack?: number;
}

/** Readings that agree on one scale. `chosen`: for each agreeing reading (by its number) the stretch it agrees by. */
export interface Agreement {
  fit: ViewFit;
  units: Units;
  chosen: Map<number, Stretch>;
  /** Different lengths among them. */ distinct: number;
  /** The scale in other units that are nearly as likely: which it is must be asked. */ rivals: Rival[];
}

/** A unit that the bare figures may be in, and the scale that they say then. */
export interface Rival {
  unit: BareUnit;
  factor: number;
}

/** How much more likely a scale that people use is, and one that a note on the sheet states. */
const USUAL_WEIGHT = 8,
  NOTED_WEIGHT = 40;
/** A unit that wins by less has only just won. */
const CLEARLY = 3;
/** Hardly anything is drawn so much larger or smaller than it is. */
const SMALLEST_SCALE = 0.08,
  LARGEST_SCALE = 20000,
  UNLIKELY = 0.02;
/** Things are drawn larger than they are now and then. */
const ENLARGED = 0.9,
  SELDOM = 0.3;
const USUAL = [
  0.1, 0.2, 0.5, 1, 2, 5, 10, 12, 16, 20, 24, 25, 32, 48, 50, 64, 75, 96, 100, 120, 125, 128, 150, 192, 200,
  240, 250, 360, 384, 480, 500, 600, 1000, 1250, 2000, 2500, 5000,
];
const USUAL_WITHIN = 0.003,
  NOTED_WITHIN = 0.06;

/** Votes are gathered in steps of this (natural logarithm of the scale), and a peak is three of them wide. */
const STEP = 0.002;
const PEAKS = 10;
/** Two directions whose scales differ by no more than this are one stretched view. */
const MOST_STRETCH = 0.08;
/** A second vote for the same length says little: a table repeats itself. */
const REPEATED = 0.2;

interface Vote {
  reading: number;
  stretch: Stretch;
  log: number;
  weight: number;
}

/** The scale that most readings agree on, or null. `noted`: scales that the sheet states. */
export function agree(
  readings: ReadonlyMap<number, Reading>,
  noted: readonly number[],
  evidence: UnitEvidence,
): Agreement | null {
  const tried: { score: number; units: Units; x: number; y: number }[] = [];
  const counts = { whole: 0, decimal: 0, said: 0 };
  for (const r of readings.values()) counts[r.figure.form]++;
  for (const { units, prior } of unitsToTry(evidence, counts)) {
    for (const peak of peaks(votesOf(readings, units))) {
      const seed = directions(peak.votes, peak.near);
      const scale = Math.sqrt(seed.x * seed.y);
      const score =
        peak.support ** 3 *
        prior *
        (USUAL.some((u) => Math.abs(scale / u - 1) < USUAL_WITHIN) ? USUAL_WEIGHT : 1) *
        (scale < SMALLEST_SCALE || scale > LARGEST_SCALE ? UNLIKELY : scale < ENLARGED ? SELDOM : 1) *
        (noted.some((n) => Math.abs(Math.log(scale / n)) < NOTED_WITHIN) ? NOTED_WEIGHT : 1);
      tried.push({ score, units, ...seed });
    }
  }
  const [best] = tried.sort((a, b) => b.score - a.score);
  const agreement = best ? settle(readings, best.units, best) : null;
  return agreement && { ...agreement, rivals: rivalsOf(agreement, best, tried, readings) };
}

/** The same figures in other units, where those are nearly as likely. */
function rivalsOf(
  { units, chosen, fit }: Agreement,
  best: { score: number },
  tried: readonly { score: number; units: Units; x: number; y: number }[],
  readings: ReadonlyMap<number, Reading>,
): Rival[] {
  const forms = [...chosen.keys()].map((i) => readings.get(i)!.figure.form);
  if (forms.includes('said')) return [];
  const form = forms.filter((f) => f === 'whole').length * 2 >= forms.length ? 'whole' : 'decimal',
    factor = Math.sqrt(fit.x * fit.y);
  const out: Rival[] = [];
  for (const t of tried) {
    const unit = t.units[form],
      other = factor * (MM_PER_BARE[unit] / MM_PER_BARE[units[form]]);
    if (
      unit === units[form] ||
      t.score * CLEARLY < best.score ||
      out.some((r) => r.unit === unit) ||
      Math.abs(Math.sqrt(t.x * t.y) / other - 1) > USUAL_WITHIN
    )
      continue;
    out.push({ unit, factor: other });
  }
  return out;
}

function votesOf(readings: ReadonlyMap<number, Reading>, units: Units): Vote[] {
  const votes: Vote[] = [];
  for (const [reading, { figure, stretches, trust }] of readings) {
    const mm = lengthIn(figure, units.whole, units.decimal);
    for (const stretch of stretches)
      votes.push({
        reading,
        stretch,
        log: Math.log(mm / (stretch.points * MM_PER_POINT)),
        weight: trust * stretch.score * (stretch.sure ? 1 : 0.4),
      });
  }
  return votes;
}

interface Peak {
  support: number;
  votes: Vote[];
  /** All votes that a stretched sheet may add. */ near: Vote[];
}

/** Scales on which votes lie close together. */
function peaks(votes: readonly Vote[]): Peak[] {
  const bins = new Map<number, number>();
  for (const v of votes) {
    const k = Math.round(v.log / STEP);
    bins.set(k, (bins.get(k) ?? 0) + v.weight);
  }
  const at = (k: number) => bins.get(k) ?? 0;
  const around = (k: number) => at(k - 1) + at(k) + at(k + 1);
  const tops = [...bins.keys()]
    .filter((k) => at(k) >= at(k - 1) && at(k) >= at(k + 1))
    .sort((a, b) => around(b) - around(a))
    .slice(0, PEAKS);
  return tops.map((k) => {
    const inside = votes.filter((v) => Math.abs(v.log - k * STEP) <= 1.5 * STEP);
    const near = votes.filter((v) => Math.abs(v.log - k * STEP) <= MOST_STRETCH);
    return { support: supportOf(inside), votes: inside, near };
  });
}

/** Each reading once, with its best vote; the same length again counts for little. */
function supportOf(votes: readonly Vote[]): number {
  const byReading = new Map<number, Vote>();
  for (const v of votes) if ((byReading.get(v.reading)?.weight ?? 0) < v.weight) byReading.set(v.reading, v);
  const seen = new Set<string>();
  let sum = 0;
  for (const v of [...byReading.values()].sort((a, b) => b.weight - a.weight)) {
    const key = v.stretch.points.toPrecision(3);
    sum += v.weight * (seen.has(key) ? REPEATED : 1);
    seen.add(key);
  }
  return sum;
}

/** A peak's scale in each direction: on stretched paper the other direction has a peak of its own beside it. */
function directions(votes: readonly Vote[], near: readonly Vote[]): { x: number; y: number } {
  const middle = (list: readonly Vote[]) =>
    [...list].sort((a, b) => a.log - b.log)[Math.floor(list.length / 2)]?.log;
  const whole = middle(votes)!;
  const one = (along: (from: SheetPoint, to: SheetPoint) => boolean) => {
    const own = votes.filter((v) => along(v.stretch.from, v.stretch.to)),
      all = near.filter((v) => along(v.stretch.from, v.stretch.to));
    const top = peakOf(all);
    return top && top.weight > 1.8 * own.reduce((sum, v) => sum + v.weight, 0) && top.weight >= 1.6
      ? top.log
      : whole;
  };
  return { x: Math.exp(one(alongX)), y: Math.exp(one(alongY)) };
}

function peakOf(votes: readonly Vote[]): { log: number; weight: number } | null {
  const sorted = [...votes].sort((a, b) => a.log - b.log);
  let best: { log: number; weight: number } | null = null;
  for (let i = 0, j = 0, sum = 0; i < sorted.length; i++) {
    sum += sorted[i].weight;
    while (sorted[i].log - sorted[j].log > 3 * STEP) sum -= sorted[j++].weight;
    if (!best || sum > best.weight) best = { log: sorted[Math.floor((i + j) / 2)].log, weight: sum };
  }
  return best;
}

/** Lines of a drawing agree with their figures within this on the paper, at best and at worst. */
const FINEST = 0.06,
  COARSEST = 0.6;
/** What files round their coordinates to, as a share of the length. */
const RELATIVE = 0.0004;
/** A stretch may be chosen against a likelier one only if it is not much less likely. */
const LEAST_LIKELY = 0.3;
/** Of a picture marks are missed, and the likeliest stretch is one too long. */
const LEAST_LIKELY_SEEN = 0.12;

/** How far a length may be off and still agree, millimetres. */
export const tolerance = (fit: ViewFit, half: number, millimetres: number, slack = 0): number =>
  half * 1.02 +
  Math.min(Math.max(COARSEST, slack), Math.max(FINEST, slack, 4 * fit.noise)) *
    MM_PER_POINT *
    Math.sqrt(fit.x * fit.y) +
  RELATIVE * millimetres;

/** Fits to those that agree, in turns, until the same ones agree. */
function settle(
  readings: ReadonlyMap<number, Reading>,
  units: Units,
  seed: { x: number; y: number },
): Agreement | null {
  let fit: ViewFit = { ...seed, stretched: false, uncertainty: 1, noise: 0.12 };
  let chosen = new Map<number, Stretch>();
  for (let round = 0; round < 6; round++) {
    const next = new Map<number, Stretch>();
    for (const [i, { figure, stretches, recognised, slack }] of readings) {
      const mm = lengthIn(figure, units.whole, units.decimal),
        half = roundingIn(figure, units.whole, units.decimal);
      const fitting = stretches.filter(
        (s) =>
          Math.abs(lengthAt(fit, s.from, s.to) - mm) <= tolerance(fit, half, mm, slack) &&
          s.score >= (recognised ? LEAST_LIKELY_SEEN : LEAST_LIKELY) * stretches[0].score,
      );
      if (fitting.length > 0) next.set(i, fitting[0]);
    }
    if (next.size < 1) return null;
    const same = next.size === chosen.size && [...next].every(([i, s]) => chosen.get(i) === s);
    chosen = next;
    if (same) break;
    fit = fitView(samplesOf(readings, units, chosen), fit);
  }
  return { fit, units, chosen, distinct: differentLengths(chosen.values()), rivals: [] };
}

/** The scale that is left by those still chosen. */
export const refitted = (a: Agreement, readings: ReadonlyMap<number, Reading>): Agreement => ({
  ...a,
  fit: fitView(samplesOf(readings, a.units, a.chosen), a.fit),
  distinct: differentLengths(a.chosen.values()),
});

const samplesOf = (
  readings: ReadonlyMap<number, Reading>,
  { whole, decimal }: Units,
  chosen: ReadonlyMap<number, Stretch>,
): Sample[] =>
  [...chosen].map(([i, s]) => ({
    from: s.from,
    to: s.to,
    millimetres: lengthIn(readings.get(i)!.figure, whole, decimal),
    half: roundingIn(readings.get(i)!.figure, whole, decimal),
  }));
