import type { HoleHead } from '../../model/index.ts';

/** How much room a screw has in its hole. */
export type Fit = 'fine' | 'medium' | 'coarse';
export const FITS: readonly Fit[] = ['fine', 'medium', 'coarse'];

/** What belongs to screws of a size; millimetres. */
export interface ScrewSize {
  /** "M8", "1/4". */
  name: string;
  diameter: number;
  /** Clearance holes. */
  clearance: Readonly<Record<Fit, number>>;
  /** For a cylinder head with a hexagon socket. */
  counterbore: { diameter: number; depth: number } | null;
  /** For a countersunk head. */
  countersink: { diameter: number; angle: number } | null;
}

const INCH = 25.4;
const DEGREE = Math.PI / 180;

/** Clearance holes of ISO 273: [screw, fine, medium, coarse]. */
const ISO_273: readonly (readonly [number, number, number, number])[] = [
  [1.6, 1.7, 1.8, 2],
  [2, 2.2, 2.4, 2.6],
  [2.5, 2.7, 2.9, 3.1],
  [3, 3.2, 3.4, 3.6],
  [3.5, 3.7, 3.9, 4.2],
  [4, 4.3, 4.5, 4.8],
  [5, 5.3, 5.5, 5.8],
  [6, 6.4, 6.6, 7],
  [7, 7.4, 7.6, 8],
  [8, 8.4, 9, 10],
  [10, 10.5, 11, 12],
  [12, 13, 13.5, 14.5],
  [14, 15, 15.5, 16.5],
  [16, 17, 17.5, 18.5],
  [18, 19, 20, 21],
  [20, 21, 22, 24],
  [22, 23, 24, 26],
  [24, 25, 26, 28],
  [27, 28, 30, 32],
  [30, 31, 33, 35],
  [33, 34, 36, 38],
  [36, 37, 39, 42],
  [39, 40, 42, 45],
  [42, 43, 45, 48],
  [45, 46, 48, 52],
  [48, 50, 52, 56],
];
/** Counterbores of DIN 974-1, row 1, for heads of ISO 4762 (as high as the screw is thick). */
const DIN_974_1: ReadonlyMap<number, number> = new Map([
  [3, 6.5],
  [4, 8],
  [5, 10],
  [6, 11],
  [8, 15],
  [10, 18],
  [12, 20],
  [14, 24],
  [16, 26],
  [18, 30],
  [20, 33],
  [22, 36],
  [24, 40],
  [27, 46],
  [30, 50],
  [33, 54],
  [36, 58],
]);
/** By how much the head lies below the face: DIN 974-1, by the screw's diameter. */
const below = (d: number): number => (d <= 1.4 ? 0.2 : d <= 6 ? 0.4 : d <= 20 ? 0.6 : d <= 27 ? 0.8 : 1);
/** Countersinks of 90 degrees for heads of ISO 7721: ISO 15065. */
const ISO_15065: ReadonlyMap<number, number> = new Map([
  [1.6, 3.6],
  [2, 4.4],
  [2.5, 5.5],
  [3, 6.3],
  [3.5, 8.2],
  [4, 9.4],
  [5, 10.4],
  [6, 12.6],
  [8, 17.3],
  [10, 20],
]);

/**
 * Inch screws: [name, diameter, clearance close, normal, loose (ASME B18.2.8), counterbore for a socket
 * head (as deep as the screw is thick) and sharp diameter of a countersink of 82 degrees (both ASME B18.3)], inches.
 */
const UNIFIED: readonly (readonly [string, number, number, number, number, number, number])[] = [
  ['#4', 0.112, 0.12, 0.1285, 0.144, 7 / 32, 0.255],
  ['#6', 0.138, 0.154, 0.1695, 0.185, 9 / 32, 0.307],
  ['#8', 0.164, 0.18, 0.196, 0.213, 5 / 16, 0.359],
  ['#10', 0.19, 0.2055, 0.221, 0.238, 3 / 8, 0.411],
  ['1/4', 0.25, 17 / 64, 9 / 32, 19 / 64, 7 / 16, 0.531],
  ['5/16', 0.3125, 21 / 64, 11 / 32, 23 / 64, 17 / 32, 0.656],
  ['3/8', 0.375, 25 / 64, 13 / 32, 27 / 64, 5 / 8, 0.781],
  ['7/16', 0.4375, 29 / 64, 15 / 32, 31 / 64, 23 / 32, 0.844],
  ['1/2', 0.5, 17 / 32, 9 / 16, 39 / 64, 13 / 16, 0.938],
  ['5/8', 0.625, 21 / 32, 11 / 16, 47 / 64, 1, 1.188],
  ['3/4', 0.75, 25 / 32, 13 / 16, 29 / 32, 19 / 16, 1.438],
  ['7/8', 0.875, 29 / 32, 15 / 16, 33 / 32, 11 / 8, 1.688],
  ['1', 1, 33 / 32, 35 / 32, 37 / 32, 13 / 8, 1.938],
];

const metric = ISO_273.map(([diameter, fine, medium, coarse]): ScrewSize => {
  const bore = DIN_974_1.get(diameter),
    sink = ISO_15065.get(diameter);
  return {
    name: `M${diameter}`,
    diameter,
    clearance: { fine, medium, coarse },
    counterbore: bore === undefined ? null : { diameter: bore, depth: diameter + below(diameter) },
    countersink: sink === undefined ? null : { diameter: sink, angle: 90 * DEGREE },
  };
});
const unified = UNIFIED.map(([name, d, fine, medium, coarse, bore, sink]): ScrewSize => ({
  name,
  diameter: d * INCH,
  clearance: { fine: fine * INCH, medium: medium * INCH, coarse: coarse * INCH },
  counterbore: { diameter: bore * INCH, depth: d * INCH },
  countersink: { diameter: sink * INCH, angle: 82 * DEGREE },
}));

/** Sizes of screws that are known, metric ones first, by diameter. */
export const SCREW_SIZES: readonly ScrewSize[] = [...metric, ...unified];

export const screwSize = (name: string): ScrewSize | null =>
  SCREW_SIZES.find((s) => s.name.toUpperCase() === name.trim().toUpperCase()) ?? null;

/** How the holes for a screw's head begin; null where no table here gives it. */
export function headFor(size: ScrewSize, kind: HoleHead['kind']): HoleHead | null {
  const found = size[kind];
  return found === null ? null : ({ kind, ...found } as HoleHead);
}

/** The drill point that is usual where nobody says another (ISO 5419, type N), radians. */
export const USUAL_TIP = 118 * DEGREE;
