import { BARE_UNITS, type BareUnit, type Figure } from '../../units/index.ts';

/** What bare numbers are in: whole ones and those with decimals, which a sheet may mix (79 and 1.51). */
export interface Units {
  whole: BareUnit;
  decimal: BareUnit;
}

/** What a sheet says of the unit of its figures, beside how well they agree. */
export interface UnitEvidence {
  /** Said by a person: taken as it is. */
  given: BareUnit | null;
  /** Said by a note on the sheet. */
  noted: BareUnit | null;
  /** Raised halves: centimetres, and metres with a point. */
  raised: boolean;
  /** Points without a zero before them, fractions alone: inches. */
  inches: boolean;
  /** Always as many decimals, noughts at the end among them: nobody writes millimetres so. */
  fixedDecimals: boolean;
}

/** What bare numbers are in, before anything else is known. */
const WHOLE_PRIOR: Record<BareUnit, number> = { mm: 1, cm: 0.12, in: 0.08, m: 0.02, ft: 0.02 };
const DECIMAL_PRIOR: Record<BareUnit, number> = { m: 1, mm: 0.5, cm: 0.12, in: 0.12, ft: 0.1 };
const SAME_UNIT_WEIGHT = 4;
/** How much more likely what a note says makes a unit, and how the figures are written. */
const NOTED = 400,
  WRITTEN = 30,
  NOT_SO_WRITTEN = 0.1;
/** Forms that are less of the figures than this say nothing of the others' unit: numbers of rooms stand on every plan. */
const LEAST_SHARE = 0.25;

export function unitEvidence(
  figures: readonly (Figure | null)[],
  noted: BareUnit | null,
  given: BareUnit | null,
): UnitEvidence {
  const lengths = figures.filter((f): f is Figure => f !== null && f.kind !== 'angle');
  const raised = lengths.filter((f) => f.manner === 'raised').length;
  const noZero = lengths.filter((f) => f.manner === 'no-zero').length,
    zero = lengths.filter((f) => /^\D*0[.,]\d/.test(f.text)).length;
  const fractions = lengths.filter(
    (f) => /\d\s*[/⁄]\s*(?:2|4|8|16|32|64)\b|[½¼¾⅛⅜⅝⅞]/.test(f.text) && f.half > 0 && f.millimetres !== null,
  ).length;
  const decimals = lengths.flatMap((f) =>
    f.form === 'decimal' ? [/[.,](\d+)\D*$/.exec(f.text)?.[1] ?? ''] : [],
  );
  const usual = decimals.filter((d) => d.length >= 2 && d.length === decimals[0].length).length;
  return {
    given,
    noted,
    raised: raised >= 1,
    inches: (noZero > 0 && zero === 0) || fractions >= 2,
    fixedDecimals:
      decimals.length >= 3 && usual >= 0.9 * decimals.length && decimals.some((d) => d.endsWith('0')),
  };
}

/** The units that are tried, each with how likely it is before the figures are asked. */
export function unitsToTry(
  { given, noted, raised, inches, fixedDecimals }: UnitEvidence,
  counts: Record<Figure['form'], number>,
): { units: Units; prior: number }[] {
  const whole = counts.whole > 0,
    decimal = counts.decimal > 0,
    [any] = BARE_UNITS;
  const mixed = Math.min(counts.whole, counts.decimal) >= LEAST_SHARE * (counts.whole + counts.decimal);
  const wholes = given ? [given] : whole ? BARE_UNITS : [any];
  const decimals = given
    ? [given, ...(given === 'cm' && decimal ? (['m'] as const) : [])]
    : decimal
      ? BARE_UNITS
      : [any];
  return wholes.flatMap((w) =>
    decimals.map((d) => {
      let prior = 1;
      if (whole && !given)
        prior *=
          WHOLE_PRIOR[w] *
          (w === noted ? NOTED : 1) *
          (raised && w === 'cm' ? WRITTEN : 1) *
          (inches && w === 'in' ? WRITTEN : 1);
      if (decimal && !given)
        prior *=
          DECIMAL_PRIOR[d] *
          (d === noted || (noted === 'cm' && d === 'm') ? NOTED : 1) *
          (raised && d === 'm' ? WRITTEN : 1) *
          (inches && d === 'in' ? WRITTEN : 1) *
          (fixedDecimals && (d === 'mm' || d === 'cm') ? NOT_SO_WRITTEN : 1);
      if (mixed && !given && (w === d || (raised && w === 'cm' && d === 'm'))) prior *= SAME_UNIT_WEIGHT;
      return { units: { whole: w, decimal: d }, prior };
    }),
  );
}
