import { readFileSync } from 'node:fs';
import type { PrintedReading } from '@calque/core/calibration';
import type { PageTruth, Truth } from './draw/hand.ts';

export type HandsTruth = Record<string, PageTruth[]>;
export const handsFolder = (set: 'tuned' | 'apart') => new URL(`./${set}/`, import.meta.url);
export const truthOf = (set: 'tuned' | 'apart') =>
  JSON.parse(readFileSync(new URL('truth.json', handsFolder(set)), 'utf8')) as HandsTruth;

export interface Score {
  /** Dimensions of the page, and those found with kind, value and both ends right. */
  printed: number;
  found: number;
  /** Reported, but on no such dimension; or a true one said to disagree, a slip said to agree. */
  wrong: string[];
  missed: string[];
  /** Openings whose second figure was kept as their height. */
  heights: [right: number, all: number];
  /** Scales that are right to 0.02 %, of those drawn; and wrong ones that were told all the same. */
  scales: [right: number, all: number];
  wrongScales: string[];
}

export const PRACTICE = new URL('../sheets/', import.meta.url);
const RECORD = JSON.parse(readFileSync(new URL('dimensions.json', PRACTICE), 'utf8')) as Record<
  string,
  Record<
    string,
    { scales: [number, number][]; dimensions: [string, number, number, number, number, number, 0 | 1][] }
  >
>;
/** A practice sheet's truth in the form of the others'. */
export const practiceTruth = (file: string): PageTruth => ({
  views: RECORD[file]['1'].scales.map(([factor]) => ({ factor, unit: null, box: [0, 0, 0, 0] })),
  dimensions: RECORD[file]['1'].dimensions.map(([text, value, x0, y0, x1, y1, slip]) => ({
    text,
    kind: 'linear',
    value,
    from: [x0, y0],
    to: [x1, y1],
    ...(slip === 1 && { slip: true }),
  })),
});

const NEAR = 0.75,
  FACTOR_WITHIN = 2e-4;
type Dimension = PrintedReading['dimensions'][number];

/** Holds a reading against what was drawn. Sheet points have their origin at the lower left in both; `near`: how far ends may miss, sheet points. */
export function score(reading: PrintedReading, truth: PageTruth, near = NEAR, within = FACTOR_WITHIN): Score {
  const left = new Set(truth.dimensions),
    wrong: string[] = [];
  const heights: [number, number] = [0, truth.dimensions.filter((t) => t.height !== undefined).length];
  let found = 0;
  for (const d of reading.dimensions) {
    const match = [...left].find((t) => matches(d, t, near));
    if (!match) {
      wrong.push(`${d.kind} ${d.text} ${d.from.map((v) => v.toFixed(1))} ${d.to.map((v) => v.toFixed(1))}`);
      continue;
    }
    left.delete(match);
    found++;
    if (
      match.height !== undefined &&
      d.height !== undefined &&
      d.height !== null &&
      Math.abs(d.height - match.height) < 1
    )
      heights[0]++;
    if (!match.free && d.agrees === !!match.slip) wrong.push(`${d.text} ${d.agrees ? 'agrees' : 'differs'}`);
    if (match.free && !d.free) wrong.push(`${d.text} underlined`);
  }
  const right = (factor: number) => truth.views.find((v) => Math.abs(factor / v.factor - 1) < within);
  const told = reading.views.filter((v) => v.unit !== null);
  return {
    printed: truth.dimensions.length,
    found,
    wrong,
    missed: [...left].map(
      (t) => `${t.kind} ${t.text} ${t.from.map((v) => v.toFixed(1))} ${t.to.map((v) => v.toFixed(1))}`,
    ),
    heights,
    scales: [
      truth.views.filter((t) => !t.few && told.some((v) => right(v.factor) === t)).length,
      truth.views.filter((t) => !t.few).length,
    ],
    wrongScales: told.filter((v) => !right(v.factor)).map((v) => v.factor.toFixed(4)),
  };
}

function matches(d: Dimension, t: Truth, reach: number): boolean {
  if (d.kind !== t.kind) return false;
  const near = (p: readonly number[], q: readonly number[]) => Math.hypot(p[0] - q[0], p[1] - q[1]) < reach;
  const value = t.kind === 'angle' ? (d.degrees ?? NaN) : d.millimetres;
  return (
    Math.abs(value - t.value) <= Math.max(0.02, 1e-3 * t.value) &&
    ((near(d.from, t.from) && near(d.to, t.to)) || (near(d.from, t.to) && near(d.to, t.from)))
  );
}
