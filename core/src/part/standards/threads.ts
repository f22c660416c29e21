/** A thread by its standard; millimetres. */
export interface Thread {
  /** As the standard writes it: "M8", "M8x1", "1/4-20 UNC". */
  name: string;
  series: 'coarse' | 'fine' | 'UNC' | 'UNF';
  diameter: number;
  pitch: number;
  /** What is drilled before it is cut. */
  drill: number;
}

const INCH = 25.4;

/**
 * Metric threads: diameters and pitches of ISO 261, the selection of ISO 262 with the smallest and largest left out; drills of ISO 2306.
 * [diameter, coarse pitch, its drill, then fine pitches and their drills].
 */
const METRIC: readonly (readonly number[])[] = [
  [1.6, 0.35, 1.25],
  [2, 0.4, 1.6],
  [2.5, 0.45, 2.05],
  [3, 0.5, 2.5],
  [3.5, 0.6, 2.9],
  [4, 0.7, 3.3],
  [5, 0.8, 4.2],
  [6, 1, 5],
  [7, 1, 6],
  [8, 1.25, 6.8, 1, 7],
  [10, 1.5, 8.5, 1.25, 8.8, 1, 9],
  [12, 1.75, 10.2, 1.5, 10.5, 1.25, 10.8],
  [14, 2, 12, 1.5, 12.5],
  [16, 2, 14, 1.5, 14.5],
  [18, 2.5, 15.5, 2, 16, 1.5, 16.5],
  [20, 2.5, 17.5, 2, 18, 1.5, 18.5],
  [22, 2.5, 19.5, 2, 20, 1.5, 20.5],
  [24, 3, 21, 2, 22, 1.5, 22.5],
  [27, 3, 24, 2, 25],
  [30, 3.5, 26.5, 2, 28],
  [33, 3.5, 29.5, 2, 31],
  [36, 4, 32, 3, 33],
  [39, 4, 35, 3, 36],
  [42, 4.5, 37.5, 3, 39],
  [45, 4.5, 40.5, 3, 42],
  [48, 5, 43, 3, 45],
];

/** Inch threads (ASME B1.1) with their usual drills: [name, diameter in inches, UNC threads to an inch, drill, UNF, drill]. */
const UNIFIED: readonly (readonly [string, number, number, number, number, number])[] = [
  ['#4', 0.112, 40, 0.089, 48, 0.0935],
  ['#6', 0.138, 32, 0.1065, 40, 0.113],
  ['#8', 0.164, 32, 0.136, 36, 0.136],
  ['#10', 0.19, 24, 0.1495, 32, 0.159],
  ['1/4', 0.25, 20, 0.201, 28, 0.213],
  ['5/16', 0.3125, 18, 0.257, 24, 0.272],
  ['3/8', 0.375, 16, 0.3125, 24, 0.332],
  ['7/16', 0.4375, 14, 0.368, 20, 25 / 64],
  ['1/2', 0.5, 13, 27 / 64, 20, 29 / 64],
  ['9/16', 0.5625, 12, 31 / 64, 18, 33 / 64],
  ['5/8', 0.625, 11, 17 / 32, 18, 37 / 64],
  ['3/4', 0.75, 10, 21 / 32, 16, 11 / 16],
  ['7/8', 0.875, 9, 49 / 64, 14, 13 / 16],
  ['1', 1, 8, 7 / 8, 12, 59 / 64],
];

const metric = METRIC.flatMap(([diameter, ...rest]): Thread[] =>
  Array.from({ length: rest.length / 2 }, (_, i) => ({
    name: i === 0 ? `M${diameter}` : `M${diameter}x${rest[2 * i]}`,
    series: i === 0 ? 'coarse' : 'fine',
    diameter,
    pitch: rest[2 * i],
    drill: rest[2 * i + 1],
  })),
);
const unified = UNIFIED.flatMap(([name, d, coarse, coarseDrill, fine, fineDrill]): Thread[] =>
  (
    [
      ['UNC', coarse, coarseDrill],
      ['UNF', fine, fineDrill],
    ] as const
  ).map(([series, perInch, drill]) => ({
    name: `${name}-${perInch} ${series}`,
    series,
    diameter: d * INCH,
    pitch: INCH / perInch,
    drill: drill * INCH,
  })),
);

/** All threads that are known, metric ones first, by diameter. */
export const THREADS: readonly Thread[] = [...metric, ...unified];

const same = (a: number, b: number) => Math.abs(a - b) < 1e-6;

/**
 * The thread that a designation names, however it is spelt: "M8", "m8 x 1,25", "M8×1 - 6H", "1/4-20 UNC-2B", "1/4-20", "10-32". Null for one that no
 * table here knows.
 */
export function threadNamed(words: string): Thread | null {
  const text = words.trim().toUpperCase().replaceAll(',', '.').replace(/[×*]/g, 'X');
  const metricOne = /^M\s*(\d+(?:\.\d+)?)(?:\s*X\s*(\d*\.?\d+))?(?:\s*-\s*[0-9][A-Z0-9]*)*(?:\s*LH)?$/.exec(
    text,
  );
  if (metricOne) {
    const [d, p] = [Number(metricOne[1]), metricOne[2] === undefined ? null : Number(metricOne[2])];
    return (
      metric.find((t) => same(t.diameter, d) && (p === null ? t.series === 'coarse' : same(t.pitch, p))) ??
      null
    );
  }
  const inch =
    /^#?\s*(\d+(?:\/\d+)?|\.\d+)\s*(?:"|IN)?\s*-\s*(\d+)(?:\s*(UNC|UNF|UN))?(?:\s*-?\s*[123][AB])?(?:\s*LH)?$/.exec(
      text,
    );
  if (!inch) return null;
  const [, size, perInch, series] = inch;
  return (
    unified.find(
      (t) =>
        same(t.pitch, INCH / Number(perInch)) &&
        (t.name.split('-')[0].replace('#', '') === size || `#${size}` === t.name.split('-')[0]) &&
        (series === undefined || series === 'UN' || t.series === series),
    ) ?? null
  );
}

/** A thread's minor diameter by the profile of ISO 68-1 (the same of ASME B1.1): d - 5/8 of the height of its sharp triangle, twice. */
export const minorDiameter = ({ diameter, pitch }: Pick<Thread, 'diameter' | 'pitch'>): number =>
  diameter - 1.25 * (Math.sqrt(3) / 2) * pitch;
