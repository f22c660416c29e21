/** Sizes of bolts with their nuts and washers, millimetres. */
export interface BoltSize {
  name: string;
  /** Nominal diameter, pitch of the thread. */
  d: number;
  pitch: number;
  /** Height of the head and of the nut, and the width of both across flats. */
  head: number;
  nut: number;
  flats: number;
  /** Thickness and outer diameter of a washer. */
  washer: number;
  washerOut: number;
  /** Of the hole for it. */
  hole: number;
  standard: string;
  grade: string;
}

const METRIC_STANDARD = 'ISO 4014, nut ISO 4032, washers ISO 7089',
  INCH_STANDARD = 'ASTM F3125 A325, nut ASTM A563, washers ASTM F436';

const metric = (
  d: number,
  pitch: number,
  head: number,
  nut: number,
  flats: number,
  washer: number,
  washerOut: number,
): BoltSize => ({
  name: `M${d}`,
  d,
  pitch,
  head,
  nut,
  flats,
  washer,
  washerOut,
  // Normal round holes: EN 1090-2, table 11.
  hole: d + (d <= 14 ? 1 : d <= 24 ? 2 : 3),
  standard: METRIC_STANDARD,
  grade: '8.8',
});

const IN = 25.4;
/** Heavy hex structural bolts (ASME B18.2.6), thread UNC, the thickest washer of F436; inches. */
const inch = (
  name: string,
  d: number,
  threads: number,
  head: number,
  nut: number,
  flats: number,
  washerOut: number,
): BoltSize => ({
  name,
  d: d * IN,
  pitch: IN / threads,
  head: head * IN,
  nut: nut * IN,
  flats: flats * IN,
  washer: 0.177 * IN,
  washerOut: washerOut * IN,
  // Standard holes: a sixteenth more, an eighth from one inch on.
  hole: (d + (d < 1 ? 1 / 16 : 1 / 8)) * IN,
  standard: INCH_STANDARD,
  grade: 'A325',
});

/** ISO 4014 (heads), 4032 (nuts), 7089 (washers); and the inch series. */
export const BOLT_SIZES: readonly BoltSize[] = [
  metric(10, 1.5, 6.4, 8.4, 16, 2, 20),
  metric(12, 1.75, 7.5, 10.8, 18, 2.5, 24),
  metric(16, 2, 10, 14.8, 24, 3, 30),
  metric(20, 2.5, 12.5, 18, 30, 3, 37),
  metric(22, 2.5, 14, 19.4, 34, 3, 39),
  metric(24, 3, 15, 21.5, 36, 4, 44),
  metric(27, 3, 17, 23.8, 41, 4, 50),
  metric(30, 3.5, 18.7, 25.6, 46, 4, 56),
  metric(36, 4, 22.5, 31, 55, 5, 66),
  inch('1/2"', 1 / 2, 13, 5 / 16, 31 / 64, 7 / 8, 17 / 16),
  inch('5/8"', 5 / 8, 11, 25 / 64, 39 / 64, 17 / 16, 21 / 16),
  inch('3/4"', 3 / 4, 10, 15 / 32, 47 / 64, 5 / 4, 47 / 32),
  inch('7/8"', 7 / 8, 9, 35 / 64, 55 / 64, 23 / 16, 7 / 4),
  inch('1"', 1, 8, 39 / 64, 63 / 64, 13 / 8, 2),
  inch('1 1/8"', 9 / 8, 7, 11 / 16, 71 / 64, 29 / 16, 9 / 4),
  inch('1 1/4"', 5 / 4, 7, 25 / 32, 39 / 32, 2, 5 / 2),
];

/** Nominal lengths of ISO 4014, millimetres. */
const LENGTHS = [
  25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80, 90, 100, 110, 120, 130, 140, 150, 160, 180, 200, 220, 240, 260,
  280, 300, 320, 340, 360, 380, 400, 420, 440, 460, 480, 500,
];
const QUARTER_INCH = IN / 4;

/** The size whose diameter is nearest. */
export const boltOf = (d: number): BoltSize =>
  BOLT_SIZES.reduce((a, b) => (Math.abs(b.d - d) < Math.abs(a.d - d) ? b : a));

/** A bolt of a grip with both its washers and its nut, two threads beyond: the next length there is; null where none is so long. */
export function boltLength(size: BoltSize, grip: number): number | null {
  const least = grip + 2 * size.washer + size.nut + 2 * size.pitch;
  if (size.grade === 'A325') return Math.ceil(least / QUARTER_INCH - 1e-9) * QUARTER_INCH;
  return LENGTHS.find((l) => l >= least - 1e-9) ?? null;
}

/** A regular hexagon by its width across flats, square millimetres. */
const hexagon = (flats: number): number => (Math.sqrt(3) / 2) * flats ** 2;
const disc = (d: number): number => (Math.PI / 4) * d ** 2;
const STEEL = 7850;

/** Mass of a plain rod of steel, kg. */
export const rodMass = (d: number, length: number): number => (disc(d) * length * STEEL) / 1e9;

/** Mass of a bolt with nut and two washers, kg: by their volumes, threads as full cylinders. */
export const boltMass = (s: BoltSize, length: number): number =>
  ((disc(s.d) * length +
    hexagon(s.flats) * s.head +
    (hexagon(s.flats) - disc(s.d)) * s.nut +
    2 * (disc(s.washerOut) - disc(s.d)) * s.washer) *
    STEEL) /
  1e9;
