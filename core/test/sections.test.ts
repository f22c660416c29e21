import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  allSections,
  figuresOf,
  figuresOfForm,
  findSections,
  massOf,
  outlineOfForm,
  piecesOfRing,
  sectionNamed,
  whyNoSection,
  type SectionForm,
} from '@calque/core/sections';
import { flattenPiece, ringArea } from '@calque/core/geometry';

const form = (more: Partial<SectionForm>): SectionForm => ({
  shape: 'rectangle',
  h: 200,
  b: 100,
  tw: 6,
  tf: 9,
  r: 0,
  ...more,
});

describe('the figures of an outline', () => {
  it('are those of closed formulas: rectangle, circle, pipe, box, tee, angle', () => {
    const rect = figuresOfForm(form({}));
    expect(rect.area).toBeCloseTo(20000, 8);
    expect(rect.iy).toBeCloseTo((100 * 200 ** 3) / 12, 4);
    expect(rect.iz).toBeCloseTo((200 * 100 ** 3) / 12, 4);
    expect(rect.perimeter).toBeCloseTo(600, 9);
    const round = figuresOfForm(form({ shape: 'round', h: 80 }));
    expect(round.area / (Math.PI * 1600)).toBeCloseTo(1, 12);
    expect(round.iy / ((Math.PI * 80 ** 4) / 64)).toBeCloseTo(1, 12);
    const pipe = figuresOfForm(form({ shape: 'round hollow', h: 80, tw: 5 }));
    expect(pipe.iz / ((Math.PI * (80 ** 4 - 70 ** 4)) / 64)).toBeCloseTo(1, 12);
    const box = figuresOfForm(form({ shape: 'rectangular hollow', h: 200, b: 100, tw: 10 }));
    expect(box.iy / ((100 * 200 ** 3 - 80 * 180 ** 3) / 12)).toBeCloseTo(1, 12);
    // A quarter of a circle less at each corner.
    const rounded = figuresOfForm(form({ shape: 'rectangular hollow', tw: 10, r: 20, innerRadius: 10 }));
    expect(rounded.area).toBeCloseTo(200 * 100 - 180 * 80 - (4 - Math.PI) * (400 - 100), 7);
    const tee = figuresOfForm(form({ shape: 'tee', h: 100, b: 120, tw: 10, tf: 20 }));
    expect(tee.cy).toBeCloseTo((120 * 20 * 40 + 80 * 10 * -10) / (120 * 20 + 800), 9);
    const angle = figuresOfForm(form({ shape: 'angle', h: 100, b: 100, tw: 10 }));
    expect(angle.area).toBeCloseTo(1900, 9);
    expect(angle.cx).toBeCloseTo(angle.cy, 9);
    expect(angle.iyz).toBeLessThan(0);
    // A fillet between web and flange adds what a square has beside its quarter circle.
    const i = figuresOfForm(form({ shape: 'I', r: 12 }));
    expect(i.area).toBeCloseTo(2 * 900 + 182 * 6 + (4 - Math.PI) * 144, 7);
  });

  it('move and turn as second moments do: any polygon against sums over its triangles', () => {
    const points = fc.array(
      fc.tuple(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.double({ min: -500, max: 500, noNaN: true }),
      ),
      { minLength: 3, maxLength: 9 },
    );
    fc.assert(
      fc.property(points, (ring) => {
        const area = ringArea(ring);
        fc.pre(Math.abs(area) > 100);
        const f = figuresOf([{ points: ring, bulges: ring.map(() => 0) }]);
        // Each triangle with the origin: its moment about x is its area by the mean of squares (y1^2 + y2^2 + y1 y2) / 6.
        const about = ring.reduce((sum, [x0, y0], k) => {
          const [x1, y1] = ring[(k + 1) % ring.length];
          return sum + ((x0 * y1 - x1 * y0) / 12) * (y0 * y0 + y1 * y1 + y0 * y1);
        }, 0);
        expect(f.area / area).toBeCloseTo(1, 9);
        const scale = 500 ** 2 * Math.abs(area) * (1 + (500 / Math.abs(area)) * 500);
        expect(Math.abs(f.iy + f.area * f.cy ** 2 - about) / scale).toBeLessThan(1e-9);
      }),
    );
  });
});

describe('the tables', () => {
  it('have each name once, sound dimensions, and outlines that go round once', () => {
    const all = allSections();
    expect(all.length).toBeGreaterThan(900);
    expect(new Set(all.map((s) => s.name)).size).toBe(all.length);
    for (const s of all) {
      expect(whyNoSection(s), s.name).toBeNull();
      const rings = outlineOfForm(s),
        [outer, ...holes] = rings.map((r) =>
          ringArea(piecesOfRing(r).flatMap((p) => flattenPiece(p, 0.01).slice(0, -1))),
        );
      expect(outer, s.name).toBeGreaterThan(0);
      for (const hole of holes) expect(hole, s.name).toBeLessThan(0);
      expect(sectionNamed(s.name)).toBe(s);
    }
  });

  // To what a table prints: half a unit of its last figure, and half a per cent.
  const within = (value: number, print: number, name: string, last: number) =>
    expect(Math.abs(value - print), `${name}: ${value} for ${print}`).toBeLessThanOrEqual(
      0.005 * print + last,
    );

  it('print what the outlines have: area, moments and mass within half a per cent', () => {
    let count = 0;
    for (const s of allSections()) {
      const { area, iy, iz, mass } = s.published,
        figures = figuresOfForm(s);
      if (area !== undefined) within(figures.area / 100, area, `${s.name} area`, 0);
      if (iy !== undefined) within(figures.iy / 1e4, iy, `${s.name} Iy`, 0);
      // Printed for flanges whose thickness is measured elsewhere than the standard says: 0.6 % less than its dimensions have.
      const last = s.name === 'UPN 400' ? 1 : 0;
      if (iz !== undefined) within(figures.iz / 1e4, iz, `${s.name} Iz`, last);
      if (mass !== undefined) within(massOf(s), mass, `${s.name} mass`, 0);
      if (area !== undefined) count++;
    }
    expect(count).toBeGreaterThan(400);
  });

  it('named by their mass weigh it', () => {
    for (const s of allSections()) {
      if (!['UB', 'UC', 'PFC'].includes(s.family)) continue;
      within(massOf(s), Number(s.name.split('x').at(-1)), s.name, 0.6);
    }
    // Pounds per foot.
    for (const s of allSections().filter((t) => /^(W|S|C|MC)\d/.test(t.name)))
      within(massOf(s) / 1.48816394, Number(s.name.split('x').at(-1)), s.name, 0.25);
  });

  it('fillets that are worked out from an area are no larger than the rolls make them', () => {
    for (const s of allSections().filter((t) => t.standard === 'ASTM A6' && t.shape !== 'angle'))
      expect(s.r, s.name).toBeLessThan(1.6 * s.tf + 8);
  });
});

describe('a section is found', () => {
  const names = (text: string, most = 5) => findSections(text, most).map((s) => s.name);
  it('by its name as people write it', () => {
    expect(names('ipe200')[0]).toBe('IPE 200');
    expect(names('HE 200 A')[0]).toBe('HEA 200');
    expect(names('hea 2')).toContain('HEA 200');
    expect(names('254x146x31')).toEqual(['UB 254x146x31']);
    expect(names('w8x31')).toEqual(['W8x31']);
    expect(names('HSS 4x4x1/4')[0]).toBe('HSS4x4x1/4');
    expect(names('100×50×5 cold')).toEqual(['RHS 100x50x5 cold']);
    expect(names('channel upe')[0]).toBe('UPE 80');
    expect(names('no such thing')).toEqual([]);
  });
  it('by size and mass', () => {
    const [first] = findSections('nearest to 180 high, under 30 kg/m');
    expect(Math.abs(first.h - 180)).toBeLessThan(1);
    for (const s of findSections('hea under 40 kg/m')) expect(massOf(s)).toBeLessThanOrEqual(40);
    expect(names('hea under 40 kg/m', 50)).toContain('HEA 180');
    expect(names('hea over 250', 50)).toEqual(['HEA 900', 'HEA 1000']);
    expect(names('ipe 300 high', 1)).toEqual(['IPE 300']);
  });
  it('whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        expect(findSections(text, 3).length).toBeLessThanOrEqual(3);
      }),
    );
  });
});

it('dimensions that make no section are refused in words', () => {
  expect(whyNoSection(form({ h: 0 }))).toMatch(/height/);
  expect(whyNoSection(form({ shape: 'I', tf: 120 }))).toMatch(/flanges/);
  expect(whyNoSection(form({ shape: 'I', tw: 120 }))).toMatch(/web/);
  expect(whyNoSection(form({ shape: 'round hollow', h: 20, tw: 10 }))).toMatch(/wall/);
  expect(whyNoSection(form({ shape: 'rectangular hollow', tw: 50 }))).toMatch(/wall/);
  expect(whyNoSection(form({ shape: 'rectangular hollow', tw: 5, r: 60 }))).toMatch(/corners/);
  expect(whyNoSection(form({ shape: 'angle', tw: 150 }))).toMatch(/legs/);
  expect(whyNoSection(form({ shape: 'I', r: 9 }))).toBeNull();
});
