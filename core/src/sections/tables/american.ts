import { outlineOfForm, type SectionForm, type TableSection } from '../section.ts';
import { figuresOf } from '../properties.ts';
import { printed, rowsOf } from './rows.ts';

/**
 * American sections (ASTM A6 dimensions, A500 and A53 for tubes), inches: depth, web, flange width, flange thickness, area in2. Fillets are
 * not printed as radii there: each is worked out from the printed area. The mean thickness of a sloped flange (1 in 6) is that halfway out.
 */
const W = `
W4x13 4.16 .280 4.06 .345 3.83
W5x16 5.01 .240 5.00 .360 4.71
W5x19 5.15 .270 5.03 .430 5.56
W6x9 5.90 .170 3.94 .215 2.68
W6x12 6.03 .230 4.00 .280 3.55
W6x15 5.99 .230 5.99 .260 4.43
W6x16 6.28 .260 4.03 .405 4.74
W6x20 6.20 .260 6.02 .365 5.87
W6x25 6.38 .320 6.08 .455 7.34
W8x10 7.89 .170 3.94 .205 2.96
W8x13 7.99 .230 4.00 .255 3.84
W8x15 8.11 .245 4.02 .315 4.44
W8x18 8.14 .230 5.25 .330 5.26
W8x21 8.28 .250 5.27 .400 6.16
W8x24 7.93 .245 6.50 .400 7.08
W8x28 8.06 .285 6.54 .465 8.25
W8x31 8.00 .285 8.00 .435 9.13
W8x35 8.12 .310 8.02 .495 10.3
W8x40 8.25 .360 8.07 .560 11.7
W8x48 8.50 .400 8.11 .685 14.1
W8x58 8.75 .510 8.22 .810 17.1
W8x67 9.00 .570 8.28 .935 19.7
W10x12 9.87 .190 3.96 .210 3.54
W10x15 9.99 .230 4.00 .270 4.41
W10x17 10.11 .240 4.01 .330 4.99
W10x19 10.24 .250 4.02 .395 5.62
W10x22 10.17 .240 5.75 .360 6.49
W10x26 10.33 .260 5.77 .440 7.61
W10x30 10.47 .300 5.81 .510 8.84
W10x33 9.73 .290 7.96 .435 9.71
W10x39 9.92 .315 7.99 .530 11.5
W10x45 10.10 .350 8.02 .620 13.3
W10x49 9.98 .340 10.0 .560 14.4
W10x54 10.09 .370 10.0 .615 15.8
W10x60 10.22 .420 10.1 .680 17.7
W10x68 10.40 .470 10.1 .770 19.9
W10x77 10.60 .530 10.2 .870 22.7
W10x88 10.84 .605 10.3 .990 26.0
W10x100 11.10 .680 10.3 1.12 29.3
W10x112 11.36 .755 10.4 1.25 32.9
W12x14 11.91 .200 3.97 .225 4.16
W12x16 11.99 .220 3.99 .265 4.71
W12x19 12.16 .235 4.01 .350 5.57
W12x22 12.31 .260 4.03 .425 6.48
W12x26 12.22 .230 6.49 .380 7.65
W12x30 12.34 .260 6.52 .440 8.79
W12x35 12.50 .300 6.56 .520 10.3
W12x40 11.94 .295 8.01 .515 11.7
W12x45 12.06 .335 8.05 .575 13.1
W12x50 12.19 .370 8.08 .640 14.6
W12x53 12.06 .345 10.0 .575 15.6
W12x58 12.19 .360 10.0 .640 17.0
W12x65 12.12 .390 12.0 .605 19.1
W12x72 12.25 .430 12.0 .670 21.1
W12x79 12.38 .470 12.1 .735 23.2
W12x87 12.53 .515 12.1 .810 25.6
W12x96 12.71 .550 12.2 .900 28.2
W12x106 12.89 .610 12.2 .990 31.2
W12x120 13.12 .710 12.3 1.11 35.2
W14x22 13.74 .230 5.00 .335 6.49
W14x26 13.91 .255 5.03 .420 7.69
W14x30 13.84 .270 6.73 .385 8.85
W14x34 13.98 .285 6.75 .455 10.0
W14x38 14.10 .310 6.77 .515 11.2
W14x43 13.66 .305 8.00 .530 12.6
W14x48 13.79 .340 8.03 .595 14.1
W14x53 13.92 .370 8.06 .660 15.6
W14x61 13.89 .375 10.0 .645 17.9
W14x68 14.04 .415 10.0 .720 20.0
W14x74 14.17 .450 10.1 .785 21.8
W14x82 14.31 .510 10.1 .855 24.0
W14x90 14.02 .440 14.5 .710 26.5
W14x99 14.16 .485 14.6 .780 29.1
W14x109 14.32 .525 14.6 .860 32.0
W14x120 14.48 .590 14.7 .940 35.3
W14x132 14.66 .645 14.7 1.03 38.8
W16x26 15.69 .250 5.50 .345 7.68
W16x31 15.88 .275 5.53 .440 9.13
W16x36 15.86 .295 6.99 .430 10.6
W16x40 16.01 .305 7.00 .505 11.8
W16x45 16.13 .345 7.04 .565 13.3
W16x50 16.26 .380 7.07 .630 14.7
W16x57 16.43 .430 7.12 .715 16.8
W16x67 16.33 .395 10.2 .665 19.6
W16x77 16.52 .455 10.3 .760 22.6
W18x35 17.70 .300 6.00 .425 10.3
W18x40 17.90 .315 6.02 .525 11.8
W18x46 18.06 .360 6.06 .605 13.5
W18x50 17.99 .355 7.50 .570 14.7
W18x55 18.11 .390 7.53 .630 16.2
W18x60 18.24 .415 7.56 .695 17.6
W18x65 18.35 .450 7.59 .750 19.1
W18x71 18.47 .495 7.64 .810 20.9
W18x76 18.21 .425 11.0 .680 22.3
W18x86 18.39 .480 11.1 .770 25.3
W18x97 18.59 .535 11.1 .870 28.5
W21x44 20.66 .350 6.50 .450 13.0
W21x50 20.83 .380 6.53 .535 14.7
W21x57 21.06 .405 6.56 .650 16.7
W21x62 20.99 .400 8.24 .615 18.3
W21x68 21.13 .430 8.27 .685 20.0
W21x73 21.24 .455 8.30 .740 21.5
W21x83 21.43 .515 8.36 .835 24.4
W21x93 21.62 .580 8.42 .930 27.3
W21x101 21.36 .500 12.3 .800 29.8
W24x55 23.57 .395 7.01 .505 16.2
W24x62 23.74 .430 7.04 .590 18.2
W24x68 23.73 .415 8.97 .585 20.1
W24x76 23.92 .440 8.99 .680 22.4
W24x84 24.10 .470 9.02 .770 24.7
W24x94 24.31 .515 9.07 .875 27.7
W24x104 24.06 .500 12.8 .750 30.7
W27x84 26.71 .460 10.0 .640 24.7
W27x94 26.92 .490 10.0 .745 27.6
W30x90 29.53 .470 10.4 .610 26.3
W30x99 29.65 .520 10.5 .670 29.0
W30x108 29.83 .545 10.5 .760 31.7
W30x116 30.01 .565 10.5 .850 34.2
W33x118 32.86 .550 11.5 .740 34.7
W33x130 33.09 .580 11.5 .855 38.3
W36x135 35.55 .600 12.0 .790 39.9
W36x150 35.85 .625 12.0 .940 44.3
`;
const S = `
S3x5.7 3.00 .170 2.33 .260 1.66
S4x7.7 4.00 .193 2.66 .293 2.26
S5x10 5.00 .214 3.00 .326 2.93
S6x12.5 6.00 .232 3.33 .359 3.66
S6x17.25 6.00 .465 3.57 .359 5.05
S8x18.4 8.00 .271 4.00 .425 5.40
S8x23 8.00 .441 4.17 .425 6.76
S10x25.4 10.0 .311 4.66 .491 7.45
S10x35 10.0 .594 4.94 .491 10.3
S12x31.8 12.0 .350 5.00 .544 9.31
S12x35 12.0 .428 5.08 .544 10.2
S12x40.8 12.0 .462 5.25 .659 11.9
S12x50 12.0 .687 5.48 .659 14.6
S15x42.9 15.0 .411 5.50 .622 12.6
S15x50 15.0 .550 5.64 .622 14.7
S18x54.7 18.0 .461 6.00 .691 16.0
S18x70 18.0 .711 6.25 .691 20.5
S20x66 20.0 .505 6.26 .795 19.4
S20x75 20.0 .635 6.39 .795 22.0
S20x86 20.3 .660 7.06 .920 25.3
S24x80 24.0 .500 7.00 .870 23.5
S24x90 24.0 .625 7.13 .870 26.5
S24x100 24.0 .745 7.25 .870 29.3
S24x106 24.5 .620 7.87 1.09 31.1
S24x121 24.5 .800 8.05 1.09 35.5
`;
const C = `
C3x4.1 3.00 .170 1.41 .273 1.20
C3x5 3.00 .258 1.50 .273 1.47
C3x6 3.00 .356 1.60 .273 1.76
C4x5.4 4.00 .184 1.58 .296 1.58
C4x7.25 4.00 .321 1.72 .296 2.13
C5x6.7 5.00 .190 1.75 .320 1.97
C5x9 5.00 .325 1.89 .320 2.64
C6x8.2 6.00 .200 1.92 .343 2.39
C6x10.5 6.00 .314 2.03 .343 3.08
C6x13 6.00 .437 2.16 .343 3.82
C7x9.8 7.00 .210 2.09 .366 2.87
C7x12.25 7.00 .314 2.19 .366 3.60
C7x14.75 7.00 .419 2.30 .366 4.33
C8x11.5 8.00 .220 2.26 .390 3.37
C8x13.75 8.00 .303 2.34 .390 4.03
C8x18.75 8.00 .487 2.53 .390 5.51
C9x13.4 9.00 .233 2.43 .413 3.94
C9x15 9.00 .285 2.49 .413 4.41
C9x20 9.00 .448 2.65 .413 5.87
C10x15.3 10.0 .240 2.60 .436 4.48
C10x20 10.0 .379 2.74 .436 5.87
C10x25 10.0 .526 2.89 .436 7.35
C10x30 10.0 .673 3.03 .436 8.81
C12x20.7 12.0 .282 2.94 .501 6.08
C12x25 12.0 .387 3.05 .501 7.34
C12x30 12.0 .510 3.17 .501 8.81
C15x33.9 15.0 .400 3.40 .650 9.96
C15x40 15.0 .520 3.52 .650 11.8
C15x50 15.0 .716 3.72 .650 14.7
MC6x12 6.00 .310 2.50 .375 3.53
MC8x20 8.00 .400 3.03 .500 5.87
MC10x22 10.0 .290 3.32 .575 6.45
MC10x25 10.0 .380 3.41 .575 7.34
MC12x31 12.0 .370 3.67 .700 9.12
MC12x35 12.0 .465 3.77 .700 10.3
MC18x42.7 18.0 .450 3.95 .625 12.6
MC18x45.8 18.0 .500 4.00 .625 13.5
MC18x51.9 18.0 .600 4.10 .625 15.3
MC18x58 18.0 .700 4.20 .625 17.1
`;
/** Legs and thickness in sixteenths of an inch. The weights of the standard count square corners: so they are drawn. */
const ANGLES: readonly [number, number, readonly number[]][] = [
  [2, 2, [2, 3, 4, 5, 6]],
  [2.5, 2, [3, 4, 5, 6]],
  [2.5, 2.5, [3, 4, 5, 6, 8]],
  [3, 2, [3, 4, 5, 6, 8]],
  [3, 2.5, [3, 4, 5, 6, 8]],
  [3, 3, [3, 4, 5, 6, 8]],
  [3.5, 2.5, [4, 5, 6, 8]],
  [3.5, 3, [4, 5, 6, 8]],
  [3.5, 3.5, [4, 5, 6, 8]],
  [4, 3, [4, 5, 6, 8, 10]],
  [4, 3.5, [4, 5, 6, 8]],
  [4, 4, [4, 5, 6, 8, 10, 12]],
  [5, 3, [4, 5, 6, 8]],
  [5, 3.5, [4, 5, 6, 8, 10, 12]],
  [5, 5, [5, 6, 8, 10, 12, 14]],
  [6, 3.5, [5, 6, 8]],
  [6, 4, [5, 6, 8, 10, 12, 14]],
  [6, 6, [5, 6, 8, 10, 12, 14, 16]],
  [7, 4, [6, 8, 10, 12]],
  [8, 4, [8, 10, 12, 14, 16]],
  [8, 6, [8, 10, 12, 14, 16]],
  [8, 8, [8, 10, 12, 14, 16, 18]],
];
/** Square and rectangular tubes (ASTM A500): nominal walls in sixteenths, of which 93 % count; outer corners of twice the wall that counts. */
const TUBES: readonly [number, number, readonly number[]][] = [
  [2, 2, [2, 3, 4]],
  [2.5, 2.5, [2, 3, 4, 5]],
  [3, 2, [2, 3, 4]],
  [3, 3, [2, 3, 4, 5, 6]],
  [3.5, 3.5, [2, 3, 4, 5, 6]],
  [4, 2, [2, 3, 4, 5, 6]],
  [4, 3, [2, 3, 4, 5, 6]],
  [4, 4, [2, 3, 4, 5, 6, 8]],
  [5, 3, [2, 3, 4, 5, 6, 8]],
  [5, 5, [3, 4, 5, 6, 8]],
  [6, 2, [2, 3, 4, 5, 6]],
  [6, 4, [2, 3, 4, 5, 6, 8]],
  [6, 6, [3, 4, 5, 6, 8, 10]],
  [8, 4, [3, 4, 5, 6, 8, 10]],
  [8, 6, [3, 4, 5, 6, 8, 10]],
  [8, 8, [3, 4, 5, 6, 8, 10]],
  [10, 6, [3, 4, 5, 6, 8, 10]],
  [10, 10, [3, 4, 5, 6, 8, 10]],
  [12, 6, [3, 4, 5, 6, 8, 10]],
  [12, 8, [4, 5, 6, 8, 10]],
  [12, 12, [4, 5, 6, 8, 10]],
];
/** Standard weight pipe (ASTM A53): name, outer diameter, nominal wall; of the wall 93 % counts. */
const PIPES: readonly [string, number, number][] = [
  ['1/2', 0.84, 0.109],
  ['3/4', 1.05, 0.113],
  ['1', 1.315, 0.133],
  ['1-1/4', 1.66, 0.14],
  ['1-1/2', 1.9, 0.145],
  ['2', 2.375, 0.154],
  ['2-1/2', 2.875, 0.203],
  ['3', 3.5, 0.216],
  ['3-1/2', 4, 0.226],
  ['4', 4.5, 0.237],
  ['5', 5.563, 0.258],
  ['6', 6.625, 0.28],
  ['8', 8.625, 0.322],
  ['10', 10.75, 0.365],
  ['12', 12.75, 0.375],
];
/** Areas and moments that the tables print, in2 and in4: by these the sections are checked. */
const CHECKS: Readonly<Record<string, { area?: number; ix?: number; iy?: number }>> = {
  W8x31: { ix: 110, iy: 37.1 },
  W10x49: { ix: 272, iy: 93.4 },
  W12x26: { ix: 204, iy: 17.3 },
  W12x65: { ix: 533, iy: 174 },
  W14x90: { ix: 999, iy: 362 },
  W16x36: { ix: 448, iy: 24.5 },
  W18x50: { ix: 800, iy: 40.1 },
  W21x44: { ix: 843, iy: 20.7 },
  W24x76: { ix: 2100, iy: 82.5 },
  'S12x31.8': { ix: 218 },
  'C10x15.3': { ix: 67.3 },
  'C15x33.9': { ix: 315 },
  'L4x4x1/4': { area: 1.94 },
  'L6x4x1/2': { area: 4.75 },
  'HSS4x4x1/4': { area: 3.37 },
  'HSS6x6x3/8': { area: 7.58 },
  'HSS8x4x1/4': { area: 5.24 },
  'HSS6x4x1/4': { area: 4.3 },
};

const IN = 25.4,
  IN2 = 6.4516,
  IN4 = 41.6231426;
/** A slope of one in six. */
const SLOPE = 1 / 6;
/** Of a nominal wall so much counts. */
const COUNTS = 0.93;

const base = { material: 'steel', family: '' } as const;

function figuresIn(name: string, area = NaN): TableSection['published'] {
  const check = CHECKS[name] ?? {};
  return printed({
    area: (check.area ?? area) * IN2,
    iy: (check.ix ?? NaN) * IN4,
    iz: (check.iy ?? NaN) * IN4,
  });
}

/** The fillet with which a section has its printed area: halved until it does. Areas are printed to three figures: it may come out as none. */
function filleted(form: SectionForm, area: number): SectionForm {
  const areaWith = (r: number) => figuresOf(outlineOfForm({ ...form, r })).area,
    most =
      Math.min(form.h / 2 - form.tf, form.shape === 'I' ? (form.b - form.tw) / 2 : form.b - form.tw) * 0.6;
  let [low, high] = [0, most];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (areaWith(middle) < area) low = middle;
    else high = middle;
  }
  return { ...form, r: low };
}

const rolled = (text: string, shape: 'I' | 'channel', slope: number): TableSection[] =>
  rowsOf(text).map(({ name, figures: [d, tw, bf, tf, area] }) => {
    const form = filleted(
      { shape, h: d * IN, tw: tw * IN, b: bf * IN, tf: tf * IN, r: 0, ...(slope > 0 && { slope }) },
      area * IN2 * 100,
    );
    return {
      ...base,
      ...form,
      name,
      family: /^[A-Z]+/.exec(name)![0],
      standard: 'ASTM A6',
      published: figuresIn(name, area),
    };
  });

/** Sixteenths as they are written: 3/16, 1/4, 1-1/8. */
function sixteenths(n: number): string {
  const whole = Math.floor(n / 16),
    rest = n % 16;
  let [top, bottom] = [rest, 16];
  while (top > 0 && top % 2 === 0) [top, bottom] = [top / 2, bottom / 2];
  return rest === 0 ? `${whole}` : whole > 0 ? `${whole}-${top}/${bottom}` : `${top}/${bottom}`;
}
/** Halves as they are written: 3-1/2. */
const inches = (v: number): string => sixteenths(v * 16);

const angles = (): TableSection[] =>
  ANGLES.flatMap(([h, b, all]) =>
    all.map((t): TableSection => {
      const name = `L${inches(h)}x${inches(b)}x${sixteenths(t)}`,
        thick = (t / 16) * IN;
      return {
        ...base,
        name,
        family: 'L (inch)',
        standard: 'ASTM A6',
        shape: 'angle',
        h: h * IN,
        b: b * IN,
        tw: thick,
        tf: thick,
        r: 0,
        published: figuresIn(name),
      };
    }),
  );

const tubes = (): TableSection[] =>
  TUBES.flatMap(([h, b, all]) =>
    all.map((t): TableSection => {
      const name = `HSS${inches(h)}x${inches(b)}x${sixteenths(t)}`,
        wall = (t / 16) * IN * COUNTS;
      return {
        ...base,
        name,
        family: 'HSS',
        standard: 'ASTM A500',
        shape: 'rectangular hollow',
        h: h * IN,
        b: b * IN,
        tw: wall,
        tf: wall,
        r: 2 * wall,
        innerRadius: wall,
        published: figuresIn(name),
      };
    }),
  );

const pipes = (): TableSection[] =>
  PIPES.map(([size, d, t]): TableSection => {
    const wall = t * IN * COUNTS;
    return {
      ...base,
      name: `Pipe ${size} std`,
      family: 'Pipe',
      standard: 'ASTM A53',
      shape: 'round hollow',
      h: d * IN,
      b: d * IN,
      tw: wall,
      tf: wall,
      r: 0,
      published: {},
    };
  });

export const american = (): readonly TableSection[] => [
  ...rolled(W, 'I', 0),
  ...rolled(S, 'I', SLOPE),
  ...rolled(C, 'channel', SLOPE),
  ...angles(),
  ...tubes(),
  ...pipes(),
];
