import { parseMixedNumber } from './length.ts';

/** A stated scale: true millimetres per millimetre of paper (1:100 is 100). */
export type ParsedScale = { ok: true; factor: number } | { ok: false };

const straight = (text: string) =>
  text
    .replace(/[′’‘ʹ´`]/g, "'")
    .replace(/[″”“ʺ]/g, '"')
    .replace(/''/g, '"')
    .replace(
      /[½¼¾⅛⅜⅝⅞]/g,
      (c) =>
        ({ '½': ' 1/2', '¼': ' 1/4', '¾': ' 3/4', '⅛': ' 1/8', '⅜': ' 3/8', '⅝': ' 5/8', '⅞': ' 7/8' })[c] ??
        c,
    )
    .replace(/[−–—]/g, '-')
    .replace(/⁄/g, '/')
    .replace(/\s+/g, ' ');

const RATIO = /(\d+(?:\.\d+)?) ?: ?(\d[\d ,.]*)/;
const MIXED = String.raw`\d+(?:\.\d+)?(?:[ -]\d+ ?\/ ?\d+)?|\d+ ?\/ ?\d+`;
/** 1/4" = 1'-0", 1" = 20', 1 in = 8 ft 6 in */
const EQUATION = new RegExp(
  String.raw`(${MIXED}) ?(?:"|in(?:ch)?\.?) ?= ?(?:(${MIXED}) ?(?:'|ft\.?|feet|foot))? ?-? ?(?:(${MIXED}) ?(?:"|in(?:ch(?:es)?)?\.?))?`,
  'i',
);

/** Reads a scale as people state it: 1:50, 1/4" = 1'-0", 1" = 20', or a bare factor. */
export function parseScale(input: string): ParsedScale {
  const text = straight(input).trim();
  const bare = /^\d+(\.\d+)?$/.exec(text);
  const factor = bare ? Number(text) : factorIn(text)?.factor;
  return factor !== undefined && Number.isFinite(factor) && factor > 0 ? { ok: true, factor } : { ok: false };
}

function factorIn(text: string): { factor: number } | null {
  const equation = EQUATION.exec(text);
  if (equation && (equation[2] !== undefined || equation[3] !== undefined)) {
    const paper = parseMixedNumber(equation[1]);
    const feet = equation[2] === undefined ? 0 : parseMixedNumber(equation[2]);
    const inches = equation[3] === undefined ? 0 : parseMixedNumber(equation[3]);
    if (paper === null || feet === null || inches === null || paper <= 0) return null;
    // In inches, so that 1/4" = 1'-0" is 48 and not nearly 48.
    return { factor: (feet * 12 + inches) / paper };
  }
  const ratio = RATIO.exec(text);
  if (!ratio) return null;
  const right = Number(
    ratio[2]
      .replace(/[ ,](?=\d{3}\b)/g, '')
      .replace(',', '.')
      .replace(/[ ,.]+$/, '')
      .trim(),
  );
  const left = Number(ratio[1]);
  return left > 0 && Number.isFinite(right) && right > 0 ? { factor: right / left } : null;
}

/** Drawing scales that people use; a ratio on a sheet far from all of them is a time, a slope or a mix. */
const PLAUSIBLE = { smallest: 0.05, largest: 100000 };
/** A ratio with no word near it must be 1:n or n:1 to count ("2:30" is a time). */
const WORD = /\b(scale|sc\.?|ma(?:ß|ss)stab|m|echelle|échelle|escala|skala|schaal|mjerilo|mierka|měřítko)\b/i;

/** The scale that a text on a sheet states, if it states one. */
export function scaleNote(input: string): number | null {
  const text = straight(input);
  const found = factorIn(text);
  if (!found || found.factor < PLAUSIBLE.smallest || found.factor > PLAUSIBLE.largest) return null;
  if (EQUATION.test(text) || WORD.test(text)) return found.factor;
  const ratio = /(?:^|[\s(/])(\d+) ?: ?(\d[\d ]*)(?=$|[\s)@,;/])/.exec(text);
  return ratio && (ratio[1] === '1' || ratio[2].trim() === '1') ? found.factor : null;
}

const INCH_SCALES: [number, string][] = [
  [12, '1″ = 1′-0″'],
  [16, '3/4″ = 1′-0″'],
  [24, '1/2″ = 1′-0″'],
  [32, '3/8″ = 1′-0″'],
  [48, '1/4″ = 1′-0″'],
  [64, '3/16″ = 1′-0″'],
  [96, '1/8″ = 1′-0″'],
  [128, '3/32″ = 1′-0″'],
  [192, '1/16″ = 1′-0″'],
  [120, '1″ = 10′'],
  [240, '1″ = 20′'],
  [360, '1″ = 30′'],
  [480, '1″ = 40′'],
  [600, '1″ = 50′'],
];
const METRIC_SCALES = [
  1, 2, 5, 10, 20, 25, 50, 75, 100, 125, 150, 200, 250, 500, 1000, 1250, 2000, 2500, 5000, 10000,
];

/** Nearer than this (relative) to a usual scale, a measured one is that scale. */
const USUAL_WITHIN = 5e-4;

export interface ScaleWords {
  text: string;
  /** The usual scale it is, or the nearest with how far off. */ usual: boolean;
  remark: string | null;
}

/** A factor in the trade's form: 1:100 where it is a usual scale, else 1:97.3 with a remark. */
export function describeScale(factor: number, imperial: boolean): ScaleWords {
  const near = (n: number) => Math.abs(factor / n - 1) <= USUAL_WITHIN;
  const inch = INCH_SCALES.find(([n]) => near(n));
  if (imperial && inch) return { text: inch[1], usual: true, remark: null };
  const metric = METRIC_SCALES.find(near);
  if (metric) return { text: `1:${metric}`, usual: true, remark: null };
  const enlarged = METRIC_SCALES.find((n) => n > 1 && near(1 / n));
  if (enlarged) return { text: `${enlarged}:1`, usual: true, remark: null };
  if (inch) return { text: `1:${inch[0]}`, usual: true, remark: inch[1] };
  const all = [...METRIC_SCALES, ...INCH_SCALES.map(([n]) => n)];
  const nearest = all.reduce((a, b) =>
    Math.abs(Math.log(factor / b)) < Math.abs(Math.log(factor / a)) ? b : a,
  );
  const text = factor >= 1 ? `1:${trim(factor)}` : `${trim(1 / factor)}:1`;
  const percent = (nearest / factor) * 100;
  const remark =
    percent > 80 && percent < 125
      ? `not a usual scale; the paper shows ${trim(percent)} % of 1:${nearest}`
      : 'not a usual scale';
  return { text, usual: false, remark };
}

const trim = (n: number): string => (n >= 1000 ? n.toFixed(0) : n.toPrecision(4).replace(/\.?0+$/, ''));
