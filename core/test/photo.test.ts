import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { onPhoto, readPrinted } from '@calque/core/calibration';
import {
  applyHomography,
  composeHomographies,
  depthAt,
  invertHomography,
  type Homography,
  type Point,
} from '@calque/core/geometry';
import {
  addFaintLines,
  alike,
  corrected,
  firstLook,
  photoPlane,
  rightAngles,
  sheetOutline,
  straightRaster,
  type RecognisedText,
  type StraightSheet,
} from '@calque/core/ink';
import { emptyLinework } from '@calque/core/linework';
import { chanceFrom } from './given-plan.ts';
import { Painting } from './given-raster.ts';

/** A plane as a camera sees it that leans and is turned (radians), its focal length 0.8 of 1000 pixels; from the middle, pixels. */
function seenBy(across: number, up: number, turn: number): Homography {
  const f = 800,
    [ca, sa, cb, sb, ct, st] = [
      Math.cos(across),
      Math.sin(across),
      Math.cos(up),
      Math.sin(up),
      Math.cos(turn),
      Math.sin(turn),
    ];
  const at = (x: number, y: number) => {
    const u = x * ct - y * st,
      v = x * st + y * ct,
      z = v * sb;
    return [u * ca + z * sa, v * cb, -u * sa + z * ca];
  };
  const [p, q] = [at(1, 0), at(0, 1)];
  return [f * p[0], f * q[0], 0, f * p[1], f * q[1], 0, p[2], q[2], 900];
}
const grid = () => {
  const lines: [Point, Point][] = [];
  for (let k = -4; k <= 4; k++)
    lines.push(
      [
        [-420, 70 * k],
        [420, 70 * k + 0],
      ],
      [
        [100 * k, -300],
        [100 * k, 300],
      ],
    );
  return lines;
};
const lean = () =>
  fc
    .tuple(
      fc.double({ min: -0.45, max: 0.45, noNaN: true }),
      fc.double({ min: -0.45, max: 0.45, noNaN: true }),
      fc.double({ min: -0.5, max: 0.5, noNaN: true }),
    )
    .filter(([a, b]) => Math.hypot(a, b) > 0.05);

describe('the right angles of a photo', () => {
  it('say how it was taken: squared, parallels are parallel and square to the others, whatever way the camera leant and whatever else is drawn', () => {
    fc.assert(
      fc.property(lean(), fc.integer({ min: 1, max: 1e6 }), ([across, up, turn], seed) => {
        const map = seenBy(across, up, turn),
          chance = chanceFrom(seed),
          off = () => 0.4 * (chance() + chance() - 1);
        const seen = (p: Point): Point => {
          const [x, y] = applyHomography(map, p);
          return [x + off(), y + off()];
        };
        const strokes = grid().map(([a, b]) => ({ a: seen(a), b: seen(b) }));
        // Stairs, doors and leaders run as they like.
        for (let k = 0; k < 8; k++) {
          const x = 700 * chance() - 350,
            y = 500 * chance() - 250;
          strokes.push({ a: seen([x, y]), b: seen([x + 90 * chance(), y + 140 * chance()]) });
        }
        const found = rightAngles(strokes, [500, 375])!;
        expect(found).not.toBeNull();
        const straight = composeHomographies(found.squared, map),
          size =
            Math.abs(straight[0]) > Math.abs(straight[1])
              ? straight[0] / straight[8]
              : straight[1] / straight[8];
        for (const [a, b] of grid()) {
          const [p, q] = [applyHomography(straight, a), applyHomography(straight, b)];
          expect(Math.min(Math.abs(q[0] - p[0]), Math.abs(q[1] - p[1])) / Math.abs(size)).toBeLessThan(2.5);
        }
      }),
      { numRuns: 60 },
    );
  });
  it('are not made of a few lines', () => {
    expect(
      rightAngles(
        [
          { a: [0, 0], b: [300, 5] },
          { a: [0, 40], b: [300, 50] },
          { a: [0, 0], b: [4, 200] },
        ],
        [500, 375],
      ),
    ).toBeNull();
    expect(rightAngles([], [500, 375])).toBeNull();
  });
});

/** A sheet with a grid on it as a camera sees it, on a dark table, unevenly lit; 1000 by 750 pixels. */
function photo(
  map: Homography,
  { table = 90, slope = 0.06, noise = 4 }: { table?: number; slope?: number; noise?: number } = {},
) {
  const W = 1000,
    H = 750,
    painting = new Painting(W, H),
    at = (p: Point): Point => {
      const [x, y] = applyHomography(map, p);
      return [x + W / 2, y + H / 2];
    };
  for (const [a, b] of grid()) painting.line(at(a), at(b), 2.4);
  const chance = chanceFrom(5),
    back = invertHomography(map);
  const onSheet = (x: number, y: number) => {
    const [u, v] = applyHomography(back, [x - W / 2, y - H / 2]);
    return Math.abs(u) < 450 && Math.abs(v) < 330 && depthAt(back, [x - W / 2, y - H / 2]) * back[8] > 0;
  };
  return {
    raster: painting.raster({ paper: (x, y) => (onSheet(x, y) ? 235 : table) - slope * x, noise, chance }),
    at,
  };
}

describe('a photo of a sheet', () => {
  it('is told from its table, and made straight: lengths of one direction are alike all over it', () => {
    for (const lens of [
      [0.25, 0.3, 0.05],
      [-0.3, 0.1, -0.1],
      [0.1, -0.35, 0.2],
    ] as const) {
      const map = seenBy(lens[0], lens[1], lens[2]),
        { raster, at } = photo(map);
      const outline = sheetOutline(raster)!;
      expect(outline.length).toBeGreaterThan(3);
      const plane = photoPlane(raster, firstLook(raster))!;
      expect(plane).not.toBeNull();
      const back = invertHomography(plane.photoFromPicture),
        length = (a: Point, b: Point) => {
          const [p, q] = [applyHomography(back, at(a)), applyHomography(back, at(b))];
          return Math.hypot(q[0] - p[0], q[1] - p[1]);
        };
      const rows = [-280, -70, 140, 280].map((y) => length([-400, y], [400, y])),
        columns = [-400, 0, 300].map((x) => length([x, -280], [x, 280]));
      for (const r of rows) expect(r / rows[0]).toBeCloseTo(1, 2.3);
      for (const c of columns) expect(c / columns[0]).toBeCloseTo(1, 2.3);
      // A telephone's lens tells width against height to a few in a hundred; printed dimensions tell it better.
      expect(rows[0] / 800 / (columns[0] / 560)).toBeGreaterThan(0.93);
      expect(rows[0] / 800 / (columns[0] / 560)).toBeLessThan(1.07);
      // Beyond the sheet there is paper, no table.
      const straight = straightRaster(raster, plane, 1);
      expect(
        Math.min(
          straight.grey[0],
          straight.grey[straight.width - 1],
          straight.grey[straight.grey.length - 1],
        ),
      ).toBeGreaterThan(140);
    }
  });
  it('is not seen in a scan, turned or not, nor in an empty or a dark page', () => {
    for (const turn of [0, 0.02, 0.3]) {
      const { raster } = photo(
        [Math.cos(turn), -Math.sin(turn), 0, Math.sin(turn), Math.cos(turn), 0, 0, 0, 1],
        { table: 235 },
      );
      expect(photoPlane(raster, firstLook(raster)), `${turn}`).toBeNull();
      expect(sheetOutline(raster)).toBeNull();
    }
    for (const grey of [255, 30]) {
      const raster = new Painting(800, 600).raster({ paper: () => grey });
      expect(photoPlane(raster, firstLook(raster))).toBeNull();
    }
    for (const [w, h] of [
      [1, 1],
      [3, 900],
      [60, 40],
    ]) {
      const raster = new Painting(w, h).raster();
      expect(photoPlane(raster, firstLook(raster))).toBeNull();
    }
  });
});

describe('what is read on a photo made straight', () => {
  it('is told where it lies on the photo, its scale as it is in the middle, and no stated scale', () => {
    const straight: StraightSheet = {
      width: 400,
      height: 300,
      pageFromStraight: [2, 0.1, 30, 0.05, 1.8, 10, 2e-4, 3e-4, 1],
      sigma: 0.2,
      pixels: [1600, 1200],
      photoScale: 2,
    };
    const flat = readPrinted(emptyLinework(400, 300));
    const told = onPhoto(
      {
        ...flat,
        views: [
          {
            x: 100,
            y: 100,
            factor: 100,
            stretched: false,
            uncertainty: 1e-3,
            noise: 0.1,
            region: [0, 0, 400, 300],
            from: 'dimensions',
            unit: 'mm',
            rivals: [],
            agreeing: 1,
            outliers: 0,
            confidence: 1,
          },
        ],
        notes: [{ text: '1:100', factor: 100, view: 0, bar: false }],
        dimensions: [
          {
            index: 0,
            text: '3528',
            kind: 'linear',
            millimetres: 3528,
            half: 0,
            from: [100, 150],
            to: [200, 150],
            figure: { x: 140, y: 152, width: 20, height: 6, radians: 0 },
            points: 100,
            factor: 100,
            view: 0,
            agrees: true,
            measured: 3528,
            recognised: true,
          },
        ],
      },
      straight,
    );
    const [d] = told.dimensions,
      mm = (p: readonly [number, number]) => applyHomography(told.photo!.millimetresFromPage!, p);
    expect(d.from).toEqual(applyHomography(straight.pageFromStraight, [100, 150]));
    const [a, b] = [mm(d.from), mm(d.to)];
    expect(Math.hypot(b[0] - a[0], b[1] - a[1])).toBeCloseTo((100 * 25.4 * 100) / 72, 6);
    // In the middle the page is as much larger than the straight sheet as its scale is smaller.
    const [p, q] = [
        applyHomography(straight.pageFromStraight, [200, 150]),
        applyHomography(straight.pageFromStraight, [200.01, 150]),
      ],
      [, r] = [p, applyHomography(straight.pageFromStraight, [200, 150.01])];
    const area = Math.abs((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])) / 1e-4;
    expect(told.views[0].factor).toBeCloseTo(100 / Math.sqrt(area), 2);
    expect(told.notes).toEqual([]);
  });
  it('by a scale whose unit must be asked, or by none, no millimetres are told; of several views one that is known speaks', () => {
    const straight: StraightSheet = {
      width: 400,
      height: 300,
      pageFromStraight: [2, 0, 0, 0, 2, 0, 1e-4, 0, 1],
      sigma: 0.2,
      pixels: [1600, 1200],
      photoScale: 2,
    };
    const flat = readPrinted(emptyLinework(400, 300)),
      view = {
        x: 100,
        y: 100,
        factor: 100,
        stretched: false,
        uncertainty: 1e-3,
        noise: 0.1,
        region: [0, 0, 400, 300] as [number, number, number, number],
        from: 'dimensions' as const,
        rivals: [],
        agreeing: 3,
        outliers: 0,
        confidence: 1,
      };
    expect(onPhoto(flat, straight).photo).toMatchObject({
      view: null,
      factor: null,
      millimetresFromPage: null,
    });
    expect(onPhoto({ ...flat, views: [{ ...view, unit: null }] }, straight).photo).toMatchObject({
      view: null,
      factor: null,
      millimetresFromPage: null,
    });
    expect(
      onPhoto(
        {
          ...flat,
          views: [
            { ...view, unit: null },
            { ...view, unit: 'mm', factor: 50, x: 50, y: 50 },
          ],
        },
        straight,
      ).photo,
    ).toMatchObject({ view: 1, factor: 50 });
  });
});

describe('faint lines', () => {
  it('are found whole along the directions that are given, and nothing in the grain of the paper', () => {
    const W = 320,
      H = 200,
      chance = chanceFrom(11),
      painting = new Painting(W, H).line([20, 60], [300, 66], 0.9).line([150, 20], [145.6, 180], 0.9);
    const relative = painting.raster({ paper: () => 240, ink: 175, noise: 8, chance }).grey,
      mask = new Uint8Array(W * H);
    addFaintLines(mask, relative, { width: W, height: H }, [-Math.atan2(6, 280)]);
    const near = (x: number, y: number) => [-1, 0, 1].some((d) => mask[(y + d) * W + x]);
    let along = 0,
      off = 0;
    for (let x = 24; x < 296; x++) if (near(x, Math.floor(60 + ((x - 20) * 6) / 280))) along++;
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++)
        if (
          mask[y * W + x] &&
          Math.abs(y - (60 + ((x - 20) * 6) / 280)) > 3 &&
          Math.abs(x - (150 - ((y - 20) * 4.4) / 160)) > 3
        )
          off++;
    expect(along / 272).toBeGreaterThan(0.97);
    expect(off).toBeLessThan(40);
    const blank = new Uint8Array(W * H);
    addFaintLines(
      blank,
      new Painting(W, H).raster({ paper: () => 240, noise: 8, chance }).grey,
      { width: W, height: H },
      [0, 0.4],
    );
    expect(blank.reduce((a, b) => a + b, 0)).toBeLessThan(60);
  });
});

describe('figures that were recognised', () => {
  it('lose what pieces of ticks and lines add to them', () => {
    const cases: [string, string][] = [
      ['\\5,675', '5,675'],
      ['~15-5"', '15\'-5"'],
      ['1 8\'-9"', '18\'-9"'],
      ['2725)', '2725'],
      ['(2725)', '(2725)'],
      ['@.500', 'Ø.500'],
      ['4.000+.005', '4.000±.005'],
      ['| 1450', '1450'],
      ['Wardrobe |', 'Wardrobe |'],
    ];
    for (const [read, meant] of cases) expect(corrected(read)).toBe(meant);
  });
  const texts = (...all: string[]): RecognisedText[] =>
    all.map((text) => ({
      text,
      object: 0,
      kind: 0,
      x: 0,
      y: 0,
      height: 7,
      radians: 0,
      layer: -1,
      width: 20,
      confidence: 90,
      clear: true,
    }));
  const made = (...all: string[]) => {
    const list = texts(...all);
    alike(list);
    return list;
  };
  it('are written alike on one sheet: a lost point comes back, and proves nothing', () => {
    const [lost] = made('4315', '3.11', '4.315', '2.94', '1.50', '7.20', '3.625');
    expect(lost).toMatchObject({ text: '4.315', clear: false });
    expect(lost.confidence).toBeLessThanOrEqual(50);
    expect(made('443', '3.11', '4.31', '2.94', '1.50', '7.20', '3.62')[0].text).toBe('4.43');
    expect(made('4315', '3110', '2.94')[0].text).toBe('4315');
    expect(made('13.000', '3,975', '5,850', '4,400', '6,125')[0].text).toBe('13,000');
    expect(made('2.38"', '36⁵', '2.13⁵', '88⁵')[0].text).toBe('2.38⁵');
  });
  it('one that alone does not end as all others do says nothing', () => {
    const all = made('2754', '1000', '1600', '1800', '2050', '1200', '2550', '1500', '3350', '900');
    expect(all[0].text).toBe('2754?');
    expect(made('2754', '1003', '1601', '1800', '2057', '1200', '2550', '1500', '3352', '900')[0].text).toBe(
      '2754',
    );
  });
});
