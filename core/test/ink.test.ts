import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  componentsOf,
  corrected,
  greyAt,
  inkLines,
  inkMask,
  meetEnds,
  pictureOffers,
  readInk,
  recogniseTexts,
  type InkLine,
  type TextImage,
} from '@calque/core/ink';
import { chanceFrom, Drafting, drawTable } from './given-plan.ts';
import { Painting } from './given-raster.ts';

type Point = [number, number];
const SIZE = 240;
/** Pixels (y down) of a sheet point of a raster at one pixel to the point. */
const pixel = ([x, y]: readonly [number, number], height = SIZE): Point => [x, height - y];
const longest = (lines: readonly InkLine[]) =>
  lines.reduce((a, b) =>
    Math.hypot(b.to[0] - b.from[0], b.to[1] - b.from[1]) >
    Math.hypot(a.to[0] - a.from[0], a.to[1] - a.from[1])
      ? b
      : a,
  );
const offLine = ([px, py]: Point, [ax, ay]: Point, [bx, by]: Point) =>
  Math.abs((bx - ax) * (py - ay) - (by - ay) * (px - ax)) / Math.hypot(bx - ax, by - ay);

describe('lines read from ink', () => {
  it('lie on the drawn ones to a small part of a pixel, at any angle, width and noise', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.double({ min: 1.4, max: 6, noNaN: true }),
        fc.integer({ min: 0, max: 40 }),
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        (angle, width, noise, shift) => {
          const c: Point = [SIZE / 2 + shift, SIZE / 2 - shift],
            dx = 90 * Math.cos(angle),
            dy = 90 * Math.sin(angle);
          const a: Point = [c[0] - dx, c[1] - dy],
            b: Point = [c[0] + dx, c[1] + dy];
          const line = longest(
            inkLines(
              new Painting(SIZE, SIZE)
                .line(a, b, width)
                .raster({ noise, chance: chanceFrom(Math.round(angle * 1e6) + noise) }),
            ),
          );
          const [p, q] = [pixel(line.from), pixel(line.to)];
          expect(Math.max(offLine(p, a, b), offLine(q, a, b))).toBeLessThan(0.15);
          expect(Math.abs(Math.hypot(q[0] - p[0], q[1] - p[1]) - 180)).toBeLessThan(3);
          expect(line.width).toBeGreaterThan(width - 1.2);
          expect(line.width).toBeLessThan(width + 1.7);
        },
      ),
      { numRuns: 120 },
    );
  });
  it('go on through the lines that cross them', () => {
    const painting = new Painting(SIZE, SIZE).line([20, 120], [220, 126], 2);
    for (let x = 40; x < 220; x += 30) painting.line([x, 60], [x + 10, 190], 2);
    const lines = inkLines(painting.raster());
    const whole = lines.filter((l) => Math.hypot(l.to[0] - l.from[0], l.to[1] - l.from[1]) > 100);
    expect(whole).toHaveLength(7);
  });
  it('are found on grey paper that darkens to one side', () => {
    const raster = new Painting(SIZE, SIZE)
      .line([20, 60], [220, 60], 2)
      .line([20, 180], [220, 180], 2)
      .raster({ paper: (x) => 230 - 0.25 * x, ink: 40 });
    const found = inkLines(raster).filter((l) => l.to[0] - l.from[0] > 190 || l.from[0] - l.to[0] > 190);
    expect(found.map((l) => Math.round(pixel(l.from)[1])).sort((a, b) => a - b)).toEqual([60, 180]);
  });
  it('thinner than a pixel and at a slant are read whole, not in the dashes that ink makes of them', () => {
    for (const degrees of [12, 24, 66, 71]) {
      const dx = 100 * Math.cos((degrees * Math.PI) / 180),
        dy = 100 * Math.sin((degrees * Math.PI) / 180);
      const raster = new Painting(SIZE, SIZE)
        .line([SIZE / 2 - dx, SIZE / 2 - dy], [SIZE / 2 + dx, SIZE / 2 + dy], 0.6)
        .raster({ ink: 40, noise: 4, chance: chanceFrom(degrees) });
      const [line] = [longest(readInk(raster, { perMillimetre: 6, marks: true, directions: [] }).lines)];
      expect(
        Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1]),
        `${degrees} degrees`,
      ).toBeGreaterThan(190);
    }
  });
  it('are not made of an empty or a wholly dark page', () => {
    expect(inkLines(new Painting(64, 64).raster())).toEqual([]);
    expect(inkMask(new Painting(64, 64).raster({ paper: () => 30 })).some((v) => v === 1)).toBe(false);
  });
});

describe('what of a page is looked at as a picture', () => {
  const page = (draw: (p: Drafting) => void) => {
    const p = new Drafting(800, 600);
    draw(p);
    return pictureOffers(p.linework());
  };
  it('nothing of a schedule whose words are texts: that it has no scale is said at once', () => {
    expect(
      page((p) =>
        drawTable(
          p,
          100,
          100,
          Array.from({ length: 20 }, () => ['D1', '900', '2100']),
        ),
      ),
    ).toBeNull();
    expect(page(() => {})).toBeNull();
  });
  it('a page of many small strokes may have its figures drawn by them', () => {
    expect(
      page((p) => {
        for (let i = 0; i < 100; i++) p.line(50 + 6 * i, 300, 53 + 6 * i, 304);
      }),
    ).toBe('outlines');
  });
});

describe('ink that hangs together', () => {
  it('is parted as by flooding, corners included', () => {
    const side = 14;
    fc.assert(
      fc.property(fc.uint8Array({ minLength: side * side, maxLength: side * side, max: 2 }), (cells) => {
        const mask = cells.map((v) => (v === 0 ? 1 : 0));
        const { runs, list } = componentsOf(mask, side, side);
        const seen = new Set<number>();
        let floods = 0;
        mask.forEach((v, start) => {
          if (!v || seen.has(start)) return;
          floods++;
          const stack = [start];
          seen.add(start);
          while (stack.length > 0) {
            const i = stack.pop()!,
              x = i % side,
              y = Math.floor(i / side);
            for (let dy = -1; dy <= 1; dy++)
              for (let dx = -1; dx <= 1; dx++) {
                const k = (y + dy) * side + x + dx;
                if (x + dx < 0 || x + dx >= side || y + dy < 0 || y + dy >= side || !mask[k] || seen.has(k))
                  continue;
                seen.add(k);
                stack.push(k);
              }
          }
        });
        expect(list).toHaveLength(floods);
        expect(list.reduce((sum, c) => sum + c.pixels, 0)).toBe(mask.reduce((a, b) => a + b, 0));
        for (const c of list)
          for (const r of c.runs)
            expect(
              runs[3 * r] >= c.y0 && runs[3 * r] < c.y1 && runs[3 * r + 1] >= c.x0 && runs[3 * r + 2] <= c.x1,
            ).toBe(true);
      }),
    );
  });
});

/** Rectangles in a row as letters would stand: 12 by 20 pixels, 4 apart, along a direction (y down). */
function letters(painting: Painting, at: Point, count: number, angle: number): void {
  const ux = Math.cos(angle),
    uy = Math.sin(angle);
  const place = (a: number, v: number): Point => [at[0] + a * ux - v * uy, at[1] + a * uy + v * ux];
  for (let k = 0; k < count; k++) {
    const a = 16 * k;
    painting
      .shape(place(a, 0), place(a + 12, 0), place(a + 12, 6), place(a, 6))
      .shape(place(a, 14), place(a + 12, 14), place(a + 12, 20), place(a, 20))
      .shape(place(a, 0), place(a + 4, 0), place(a + 4, 20), place(a, 20));
  }
}

/** A dimension line at 8 pixels to the millimetre, from x 60 to 340 at y 100, with four letters above it. */
function dimensionPainting(ends: (painting: Painting, x: number, inward: 1 | -1) => void): Painting {
  const painting = new Painting(400, 200).line([60, 100], [340, 100], 2);
  for (const [x, inward] of [
    [60, 1],
    [340, -1],
  ] as const) {
    painting.line([x, 70], [x, 170], 2);
    ends(painting, x, inward);
  }
  letters(painting, [170, 70], 4, 0);
  return painting;
}

describe('marks that end a dimension', () => {
  const read = (ends: Parameters<typeof dimensionPainting>[0]) =>
    readInk(dimensionPainting(ends).raster(), { perMillimetre: 8, marks: true, directions: [] });
  const places = (points: readonly (readonly [number, number])[]) =>
    [...new Set(points.map((p) => Math.round(p[0])))].sort((a, b) => a - b);

  it('ticks are found where the lines meet', () => {
    const { marks, dots } = read((p, x) => p.line([x - 8, 108], [x + 8, 92], 3));
    expect(places(marks.map((m) => [(m.from[0] + m.to[0]) / 2, 0]))).toEqual([60, 340]);
    expect(dots).toEqual([]);
  });
  it('filled and open arrows are found with their tips there', () => {
    const filled = read((p, x, inward) =>
      inward > 0
        ? p.shape([x, 100], [x + 22, 95], [x + 22, 105])
        : p.shape([x, 100], [x - 22, 105], [x - 22, 95]),
    );
    expect(places(filled.marks.map((m) => m.from))).toEqual([60, 340]);
    const open = read((p, x, inward) =>
      p.line([x, 100], [x + inward * 20, 92], 2).line([x, 100], [x + inward * 20, 108], 2),
    );
    for (const x of places(open.marks.map((m) => m.from)))
      expect(Math.min(Math.abs(x - 60), Math.abs(x - 340))).toBeLessThan(3);
    expect(places(open.marks.map((m) => m.from))).toEqual(expect.arrayContaining([60, 340]));
  });
  it('dots are found with their middles', () => {
    const { dots } = read((p, x) => p.dot([x, 100], 5));
    expect(dots.map((d) => Math.round(d.at[0])).sort((a, b) => a - b)).toEqual([60, 340]);
    for (const d of dots) expect(Math.abs(d.r - 5)).toBeLessThan(1);
  });
  it('where lines just cross there is none', () => {
    expect(read(() => {})).toMatchObject({ marks: [], dots: [] });
  });
});

describe('what may be texts', () => {
  it('is found as rows of letters in any direction', () => {
    for (const angle of [0, -Math.PI / 2, -0.42]) {
      const painting = new Painting(400, 400);
      letters(painting, [150, 240], 5, angle);
      const { blocks } = readInk(painting.raster(), { perMillimetre: 8, marks: true, directions: [] });
      expect(blocks).toHaveLength(1);
      expect(blocks[0].glyphs).toBeGreaterThanOrEqual(5);
      expect(Math.abs(Math.sin(blocks[0].radians + angle))).toBeLessThan(0.05);
      expect(Math.abs(blocks[0].length - 76)).toBeLessThan(10);
    }
  });
  it('keeps lines of writing apart, and takes a letter that touches a line', () => {
    const painting = new Painting(400, 300);
    letters(painting, [100, 100], 6, 0);
    letters(painting, [100, 132], 6, 0);
    expect(
      readInk(painting.raster(), { perMillimetre: 8, marks: true, directions: [] }).blocks.map((b) =>
        Math.round(b.y),
      ),
    ).toEqual([110, 142]);
    const touched = new Painting(400, 300).line([103, 40], [103, 280], 2);
    letters(touched, [102, 100], 4, 0);
    expect(
      readInk(touched.raster(), { perMillimetre: 8, marks: true, directions: [] }).blocks[0].glyphs,
    ).toBeGreaterThanOrEqual(3);
  });
});

describe('recognition', () => {
  const painting = () => {
    const p = new Painting(400, 400);
    letters(p, [150, 240], 4, -Math.PI / 2);
    return p.raster();
  };
  const recognised = async (
    answers: (image: TextImage, only: string | null) => { text: string; confidence: number },
  ) => {
    const raster = painting(),
      { components, blocks } = readInk(raster, { perMillimetre: 8, marks: true, directions: [] });
    return recogniseTexts(raster, components, blocks, async (image, only) => answers(image, only));
  };
  it('is handed upright letters, dark on white, and lays the text where it stands', async () => {
    let seen: TextImage | null = null;
    const [text] = await recognised((image) => {
      seen = image;
      return { text: '4250\n', confidence: 95 };
    });
    expect(seen!.width).toBeGreaterThan(seen!.height);
    const grey = (x: number, y: number) => greyAt({ ...seen!, scale: 1 }, x, y);
    expect([grey(2, 2), grey(seen!.width - 2, seen!.height - 2)]).toEqual([255, 255]);
    expect(Math.min(...seen!.grey)).toBeLessThan(30);
    expect(text).toMatchObject({ text: '4250', clear: true });
    expect(Math.abs(text.radians - Math.PI / 2)).toBeLessThan(0.03);
    expect(Math.abs(text.width - 60)).toBeLessThan(6);
  });
  it('tries the other way up, then figures alone; what proves nothing is not clear', async () => {
    const turned = await recognised((image) => ({
      text: '900',
      confidence: image.grey.indexOf(0) % 2 === 0 ? 40 : 41,
    }));
    expect(turned).toHaveLength(1);
    expect(turned[0].clear).toBe(false);
    const asked: (string | null)[] = [];
    const none = await recognised((_, only) => {
      asked.push(only);
      return { text: only ? 'x' : 'Hall', confidence: 30 };
    });
    expect(none).toEqual([]);
    expect(asked.slice(0, 2)).toEqual([null, null]);
    expect(asked.at(-1)).toContain('0123456789');
  });
  it('is corrected where only one reading makes sense', () => {
    expect(corrected('4O5O')).toBe('4050');
    expect(corrected('l200')).toBe('1200');
    expect(corrected('19-0"')).toBe(`19'-0"`);
    expect(corrected('13-4 1/2"')).toBe(`13'-4 1/2"`);
    expect(corrected('Oil store')).toBe('Oil store');
    expect(corrected('Room 12')).toBe('Room 12');
  });
});

describe('ends of lines read from ink', () => {
  const line = (from: Point, to: Point): InkLine => ({ from, to, width: 2, rms: 0.1 });
  it('meet where the strokes cross, whether they ran through or stopped short', () => {
    const [a, b, c] = meetEnds([line([0, 0], [101, 0]), line([100, -1], [100, 80]), line([20, 3], [20, 60])]);
    expect(a.to).toEqual([100, 0]);
    expect(b.from).toEqual([100, 0]);
    expect(c.from[1]).toBeCloseTo(0, 9);
    expect([a.from, b.to, c.to]).toEqual([
      [0, 0],
      [100, 80],
      [20, 60],
    ]);
  });
  it('stay where nothing is near, where the other runs alongside, and where they would move too far', () => {
    const lines = [line([0, 0], [100, 0]), line([0, 2], [100, 3]), line([50, 12], [50, 60])];
    expect(meetEnds(lines)).toEqual(lines);
    // A short stroke is not pulled out to twice its length.
    const short = line([104.1, 1.5], [104.1, 3]);
    expect(meetEnds([lines[0], short])[1].to).toEqual([104.1, 3]);
    expect(meetEnds([])).toEqual([]);
  });
  it('of a drawn corner lie on it to a third of a pixel', () => {
    const lines = meetEnds(
      inkLines(new Painting(SIZE, SIZE).line([40, 60], [200, 60], 3).line([200, 60], [190, 200], 3).raster()),
    );
    const nearest = Math.min(
      ...lines.flatMap((l) => [l.from, l.to]).map((p) => Math.hypot(pixel(p)[0] - 200, pixel(p)[1] - 60)),
    );
    expect(nearest).toBeLessThan(0.33);
  });
});
