import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { edgeLines, measured, roundHoles, skinOf, TO_LOOK_AT } from '@calque/core/forming';
import type { Feature, Part, Rule } from '@calque/core/model';
import { estimatedCost, makingChecks, Rays, type SolidFacts } from '@calque/core/part';
import { loadKernel } from './kernel.ts';
import { PartDraft, plane } from './part-model.ts';

beforeAll(loadKernel, 60000);

function factsOf(d: PartDraft): SolidFacts {
  const { body, failed } = d.made();
  expect(failed).toEqual([]);
  return {
    skin: skinOf(body!, TO_LOOK_AT),
    edges: edgeLines(body!, TO_LOOK_AT),
    measures: measured(body!),
    holes: roundHoles(body!),
  };
}
const checks = (d: PartDraft, way: Part['way'], rules: Rule[] = [], limits: Part['limits'] = null) =>
  makingChecks(
    { way, limits },
    factsOf(d),
    d.entities.filter((e): e is Feature => e.type === 'feature'),
    rules,
  );
const kinds = (...of: Parameters<typeof checks>) => [...new Set(checks(...of).map((c) => c.kind))].sort();
function block(height = 20): PartDraft {
  const d = new PartDraft();
  d.extrude('top', [d.rectangle('top', 0, 0, 100, 60)], height, {}, 'block');
  d.add(plane('lid', { origin: [0, 0, height], across: [1, 0, 0], up: [0, 1, 0] }, 'block/end'));
  return d;
}
const pocket = (d: PartDraft, x: number, y: number, w: number, h: number, depth: number) =>
  d.extrude('lid', [d.rectangle('lid', x, y, w, h)], depth, { does: 'cut' });
/** A pocket with round corners. */
function roundPocket(d: PartDraft, r: number, depth: number): void {
  const k = Math.tan(Math.PI / 8);
  d.extrude(
    'lid',
    [
      d.path(
        'lid',
        [
          [20 + r, 20],
          [60 - r, 20],
          [60, 20 + r],
          [60, 40 - r],
          [60 - r, 40],
          [20 + r, 40],
          [20, 40 - r],
          [20, 20 + r],
        ],
        [0, k, 0, k, 0, k, 0, k],
      ),
    ],
    depth,
    { does: 'cut' },
  );
}

describe('can it be made', () => {
  it('says nothing of a plain block, in any way of milling or sheet', () => {
    expect(checks(block(), 'milling')).toEqual([]);
    expect(checks(block(), 'drilling')).toEqual([]);
    expect(checks(block(8), 'cutting')).toEqual([]);
    expect(checks(block(4), 'bending')).toEqual([]);
  });

  it('finds sharp inner corners, and lets those be that a cutter reaches from an open side', () => {
    const sharp = block();
    pocket(sharp, 20, 20, 40, 20, 10);
    const found = checks(sharp, 'milling');
    expect(found.map((c) => c.kind)).toEqual(['corner', 'corner', 'corner', 'corner']);
    expect(found[0].words).toMatch(/sharp inner corner, 10 mm long.*radius of 1.5 mm/);
    const at = found.map((c) => c.at.map((v) => Math.round(v)).join()).sort();
    expect(at).toEqual(['20,20,15', '20,40,15', '60,20,15', '60,40,15']);
    // A step that is open to one side: the cutter stands on its floor.
    const step = block();
    pocket(step, -10, -10, 200, 30, 10);
    expect(checks(step, 'milling')).toEqual([]);
  });

  it('finds corners that are too tight or too deep for what fits in, by limits that can be set', () => {
    const tight = block();
    roundPocket(tight, 1, 10);
    expect(kinds(tight, 'milling')).toEqual(['corner']);
    expect(checks(tight, 'milling', [], { toolRadius: 0.5, toolDepth: 20 })).toEqual([]);
    const deep = block(40);
    roundPocket(deep, 2, 30);
    expect(checks(deep, 'milling')[0].words).toMatch(
      /radius 2 mm is 30 mm deep: a cutter that fits reaches 16 mm/,
    );
    const fine = block();
    roundPocket(fine, 3, 10);
    expect(checks(fine, 'milling')).toEqual([]);
  });

  it('finds thin walls, undercuts and holes that no drill makes', () => {
    const thin = block();
    roundPocket(thin, 3, 19.4);
    expect(checks(thin, 'milling')[0]).toMatchObject({ kind: 'wall' });
    expect(checks(thin, 'milling')[0].words).toMatch(/wall of 0.6 mm/);
    const groove = block();
    groove.add(plane('middle', { origin: [0, 30, 0], across: [1, 0, 0], up: [0, 0, 1] }));
    groove.extrude(
      'middle',
      [
        groove.path('middle', [
          [40, 10],
          [60, 10],
          [60, 14],
          [52, 14],
          [52, 20],
          [48, 20],
          [48, 14],
          [40, 14],
        ]),
      ],
      20,
      { does: 'cut', reach: { kind: 'depth', depth: 20, both: true } },
    );
    expect(kinds(groove, 'milling')).toContain('undercut');
    const holes = block(60);
    holes.hole('top', [[50, 30]], 4);
    holes.hole('top', [[3, 30]], 5, { depth: 10 });
    holes.hole('top', [[80, 30]], 0.5, { depth: 4 });
    const words = checks(holes, 'milling')
      .map((c) => c.words)
      .join('\n');
    expect(words).toMatch(/⌀ 4 mm is 60 mm deep/);
    expect(words).toMatch(/Beside a hole of ⌀ 5 mm stay 0.5 mm: 2.5 mm/);
    expect(words).toMatch(/A hole of ⌀ 0.5 mm: the smallest has 1 mm/);
  });

  it('finds holes that enter a slope, and passes those that are square', () => {
    const d = new PartDraft();
    d.extrude(
      'front',
      [
        d.path('front', [
          [0, 0],
          [100, 0],
          [100, 40],
          [0, 20],
        ]),
      ],
      60,
      {},
      'wedge',
    );
    d.hole('top', [[50, -30]], 8, { depth: 10 });
    expect(kinds(d, 'drilling')).toEqual(['entry']);
    const square = block();
    square.hole('top', [[50, 30]], 8, { depth: 10, head: { kind: 'counterbore', diameter: 14, depth: 4 } });
    expect(checks(square, 'drilling')).toEqual([]);
  });

  it('knows threads, and tolerances finer than the way of making', () => {
    const d = block();
    d.hole('top', [[20, 20]], 6.8, { depth: 16, thread: { name: 'M8', depth: 16 } });
    d.hole('top', [[50, 20]], 8, { thread: { name: 'M9x0.6', depth: null } });
    const rule: Rule = {
      type: 'rule',
      id: 'r',
      planeId: 'top',
      kind: 'length',
      of: [{ id: 'x', grip: null }],
      value: 10,
      tolerance: { plus: 0.01, minus: 0.01 },
    };
    const words = checks(d, 'milling', [rule]).map((c) => c.words);
    expect(words.some((w) => /M8 is cut 16 mm deep in a hole of 16 mm/.test(w))).toBe(true);
    expect(words.some((w) => /No table here knows the thread M9x0.6/.test(w))).toBe(true);
    expect(words.some((w) => /allows 0.02 mm in all: milling holds 0.04 mm/.test(w))).toBe(true);
    const good = block();
    good.hole('top', [[20, 20]], 6.8, { depth: 19, thread: { name: 'M8', depth: 16 } });
    expect(checks(good, 'milling', [{ ...rule, tolerance: { plus: 0.1, minus: 0 } }])).toEqual([]);
  });

  it('knows what is turned, cut and bent', () => {
    const shaft = new PartDraft(),
      axis = shaft.line('front', [0, 0], [80, 0]);
    shaft.feature({
      kind: 'revolve',
      profile: {
        planeId: 'front',
        curves: [
          shaft.path('front', [
            [0, 0],
            [80, 0],
            [80, 10],
            [30, 10],
            [30, 15],
            [0, 15],
          ]),
        ],
      },
      does: 'add',
      axis,
      angle: 2 * Math.PI,
    });
    expect(checks(shaft, 'turning')).toEqual([]);
    shaft.extrude('top', [shaft.rectangle('top', 60, -20, 30, 40)], 1, {
      does: 'common',
      reach: { kind: 'through' },
    });
    const keyed = block();
    expect(kinds(keyed, 'turning')).toEqual(['turning']);

    const sheet = block(8);
    sheet.hole('top', [[20, 20]], 3);
    sheet.hole('top', [[60, 20]], 10, { head: { kind: 'counterbore', diameter: 16, depth: 3 } });
    expect(kinds(sheet, 'cutting')).toEqual(['hole', 'sheet']);

    const bent = new PartDraft(),
      t = 3,
      angle = (inner: number) => {
        const d = new PartDraft(),
          k = Math.tan(Math.PI / 8),
          o = inner + t;
        d.extrude(
          'front',
          [
            d.path(
              'front',
              [
                [o, 0],
                [60, 0],
                [60, t],
                [o, t],
                [t, o],
                [t, 50],
                [0, 50],
                [0, o],
              ],
              [0, 0, 0, -k, 0, 0, 0, k],
            ),
          ],
          40,
        );
        return d;
      };
    void bent;
    expect(checks(angle(3), 'bending')).toEqual([]);
    expect(checks(angle(1), 'bending').map((c) => c.words)[0]).toMatch(
      /inner radius 1 mm: 3 mm is the smallest/,
    );
  });
});

describe('rays', () => {
  it('meet what all triangles one by one would', () => {
    const facts = factsOf(block()),
      { corners, triangles } = facts.skin,
      rays = new Rays(corners, triangles);
    expect(rays.first([50, 30, 100], [0, 0, -1])!.distance).toBeCloseTo(80, 6);
    expect(rays.first([50, 30, 100], [0, 0, 1])).toBeNull();
    expect(rays.first([50, 30, 10], [1, 0, 0])!.distance).toBeCloseTo(50, 6);
    expect(rays.first([500, 30, 10], [0, 1, 0])).toBeNull();
    expect(new Rays([], []).first([0, 0, 0], [1, 0, 0])).toBeNull();
  });

  it('meet among thousands of triangles of all sizes what each of them by itself is met at', () => {
    const share = fc.double({ min: -0.5, max: 0.5, noNaN: true, noDefaultInfinity: true }),
      places = fc.sample(fc.tuple(share, share, share), { numRuns: 12400, seed: 7 }),
      some = (wide: number) => places.pop()!.map((v) => wide * v),
      corners: number[] = [];
    for (let t = 0; t < 3000; t++) {
      const at = some(100),
        // Every tenth is a long one, and every hundredth lies where another does.
        size = t % 10 === 0 ? 60 : 2;
      if (t % 100 === 99) corners.push(...corners.slice(-9));
      else for (let c = 0; c < 3; c++) corners.push(...some(size).map((v, k) => at[k] + v));
    }
    const all = new Rays(corners, [...Array(9000).keys()]),
      alone = Array.from({ length: 3000 }, (_, t) => new Rays(corners.slice(9 * t, 9 * t + 9), [0, 1, 2]));
    let met = 0;
    for (let i = 0; i < 200; i++) {
      const [x, y, z] = some(120),
        way = some(1),
        n = i % 3 === 0 ? 0 : Math.hypot(...way),
        // Along an axis, and any way.
        along: [number, number, number] = n === 0 ? [0, 0, 1] : [way[0] / n, way[1] / n, way[2] / n],
        one = Math.min(...alone.map((r) => r.first([x, y, z], along)?.distance ?? Infinity));
      expect(all.first([x, y, z], along)?.distance ?? Infinity).toBe(one);
      if (one < Infinity) met++;
    }
    expect(met).toBeGreaterThan(50);
  });
});

describe('what it may cost', () => {
  const part = {
    material: 'Steel S235JR',
    density: 7850,
    pieces: 10,
    rates: {
      kilogram: 2,
      hour: 60,
      setUp: 30,
      setUps: 2,
      removal: 10,
      hole: 1,
      thread: 1,
      finishing: 3,
      allowance: 0,
    },
  };
  it('adds up by hand', () => {
    const { lines, each, all, guessed } = estimatedCost(part, {
      volume: 90000,
      box: [0, 0, 0, 100, 50, 20],
      holes: 4,
      threads: 2,
    });
    expect(lines.map((l) => Number(l.amount.toFixed(6)))).toEqual([1.57, 6, 1, 6, 3]);
    expect(each).toBeCloseTo(17.57, 9);
    expect(all).toBeCloseTo(175.7, 9);
    expect(guessed).toEqual([]);
  });
  it('says which rates nobody has said', () => {
    const { guessed } = estimatedCost(
      { ...part, rates: { hour: 80 } },
      { volume: 1, box: [0, 0, 0, 1, 1, 1], holes: 0, threads: 0 },
    );
    expect(guessed).toContain('kilogram');
    expect(guessed).not.toContain('hour');
  });
});
