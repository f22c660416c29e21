import { beforeAll, describe, expect, it } from 'vitest';
import { bodyEdges, Builder, measured } from '@calque/core/forming';
import type { EdgeName } from '@calque/core/model';
import { loadKernel } from './kernel.ts';
import { PartDraft, plane } from './part-model.ts';

beforeAll(loadKernel, 60000);

const close = (a: number, b: number) =>
  expect(Math.abs(a - b) / Math.max(1, Math.abs(b)), `${a} and ${b}`).toBeLessThan(1e-9);
/** A block of 100 x 60 x 20 on the top plane, from x = 0, y = 0, z = 0. */
function block(): PartDraft {
  const d = new PartDraft();
  d.extrude('top', [d.rectangle('top', 0, 0, 100, 60)], 20, {}, 'block');
  return d;
}
const BLOCK = 100 * 60 * 20;

function good(d: PartDraft) {
  const made = d.made();
  expect(made.failed).toEqual([]);
  return made.of!;
}
/** The words of the one step that fails; all else is made. */
function refusal(d: PartDraft): string {
  const { failed, of } = d.made();
  expect(failed).toHaveLength(1);
  if (of) close(of.volume, BLOCK);
  return failed[0];
}

describe('solids of steps', () => {
  it('extrudes outlines with their holes, to one side or half to each', () => {
    const d = new PartDraft();
    d.extrude('top', [d.rectangle('top', 10, 20, 100, 60), d.arc('top', [60, 50], 12)], 20);
    const m = good(d),
      hole = Math.PI * 144 * 20;
    close(m.volume, BLOCK - hole);
    close(m.centre[2], 10);
    close(m.centre[0], (BLOCK * 60 - hole * 60) / (BLOCK - hole));
    close(m.surface, 2 * (6000 - Math.PI * 144) + 320 * 20 + 2 * Math.PI * 12 * 20);
    const both = new PartDraft();
    both.extrude('front', [both.rectangle('front', 0, 0, 10, 20)], 6, {
      reach: { kind: 'depth', depth: 6, both: true },
    });
    const b = good(both);
    close(b.volume, 1200);
    close(b.centre[1], 0);
    expect(b.box.map((v) => Number(v.toFixed(6)) + 0)).toEqual([0, -3, 0, 10, 3, 20]);
    // The front plane looks towards whoever stands before it: out of the drawing is against y.
    const one = new PartDraft();
    one.extrude('front', [one.rectangle('front', 0, 0, 10, 20)], 6);
    close(good(one).centre[1], -3);
  });

  it('extrudes lines and arcs that join, in whichever order and way they were drawn', () => {
    const d = new PartDraft(),
      r = 10;
    const curves = [
      d.line('top', [90, 0], [10, 0]),
      d.line('top', [100, 10], [100, 50]),
      d.arc('top', [90, 10], r, -Math.PI / 2, Math.PI / 2),
      d.line('top', [10, 60], [90, 60]),
      d.arc('top', [90, 50], r, 0, Math.PI / 2),
      d.line('top', [0, 50], [0, 10]),
      d.arc('top', [10, 50], r, Math.PI / 2, Math.PI / 2),
      d.arc('top', [10, 10], r, Math.PI, Math.PI / 2),
    ];
    d.extrude('top', curves, 5);
    close(good(d).volume, (6000 - (4 - Math.PI) * 100) * 5);
  });

  it('drafts, goes through, and goes up to faces, level and slanting', () => {
    const d = new PartDraft(),
      angle = (5 * Math.PI) / 180,
      h = 20,
      w = 60 - 2 * h * Math.tan(angle),
      l = 100 - 2 * h * Math.tan(angle);
    d.extrude('top', [d.rectangle('top', 0, 0, 100, 60)], h, { draft: angle });
    close(good(d).volume, (h / 6) * (6000 + w * l + 4 * ((60 + w) / 2) * ((100 + l) / 2)));

    const through = block();
    through.extrude('top', [through.arc('top', [30, 30], 8)], 1, { does: 'cut', reach: { kind: 'through' } });
    close(good(through).volume, BLOCK - Math.PI * 64 * 20);

    const level = block();
    level.add(plane('below', { origin: [0, 0, -30], across: [1, 0, 0], up: [0, 1, 0] }));
    level.extrude('below', [level.rectangle('below', 10, 10, 20, 20)], 1, {
      reach: { kind: 'face', face: 'block/start' },
    });
    close(good(level).volume, BLOCK + 400 * 30);

    // A wedge on top of the block, then a round pin up to its slope.
    const slant = new PartDraft();
    slant.extrude(
      'front',
      [
        slant.path('front', [
          [0, 0],
          [100, 0],
          [100, 50],
        ]),
      ],
      60,
      {},
      'wedge',
    );
    const side = slant.entities.find((e) => e.type === 'path')!.id;
    slant.add(plane('low', { origin: [0, 0, -10], across: [1, 0, 0], up: [0, 1, 0] }));
    slant.extrude('low', [slant.rectangle('low', 40, 20, 20, 20)], 1, {
      reach: { kind: 'face', face: `wedge/side:${side}.2` },
    });
    const wedge = (100 * 50 * 60) / 2;
    close(good(slant).volume, wedge + 400 * (10 + 25));
  });

  it('turns outlines about a line: all round and part of it', () => {
    for (const angle of [2 * Math.PI, Math.PI / 2]) {
      const d = new PartDraft(),
        axis = d.line('front', [0, -10], [0, 40]),
        ring = d.rectangle('front', 20, 0, 10, 15);
      d.feature({ kind: 'revolve', profile: { planeId: 'front', curves: [ring] }, does: 'add', axis, angle });
      close(good(d).volume, (Math.PI * (900 - 400) * 15 * angle) / (2 * Math.PI));
    }
    const torus = new PartDraft(),
      line = torus.line('front', [0, -10], [0, 40]);
    torus.feature({
      kind: 'revolve',
      profile: { planeId: 'front', curves: [torus.arc('front', [30, 0], 5)] },
      does: 'add',
      axis: line,
      angle: 2 * Math.PI,
    });
    close(good(torus).volume, 2 * Math.PI * Math.PI * 30 * 25);
  });

  it('drills: through, to depth with a tip, with counterbores and countersinks, where the drill first meets the part', () => {
    const through = block();
    through.hole(
      'top',
      [
        [20, 20],
        [80, 40],
      ],
      9,
    );
    close(good(through).volume, BLOCK - 2 * Math.PI * 4.5 ** 2 * 20);

    const blind = block(),
      tip = (118 * Math.PI) / 180,
      cone = (Math.PI * 3 ** 3) / Math.tan(tip / 2) / 3;
    blind.hole('top', [[20, 20]], 6, { depth: 10, tip });
    const m = good(blind);
    close(m.volume, BLOCK - Math.PI * 9 * 10 - cone);
    // From above: the top plane looks up, and the drill comes from there, though the plane lies below the part.
    expect(m.centre[2]).toBeLessThan(10);
    const below = block();
    below.hole('top', [[20, 20]], 6, { depth: 10, back: true });
    expect(good(below).centre[2]).toBeGreaterThan(10);

    const bore = block();
    bore.hole('top', [[20, 20]], 9, { head: { kind: 'counterbore', diameter: 15, depth: 8 } });
    close(good(bore).volume, BLOCK - Math.PI * 4.5 ** 2 * 12 - Math.PI * 7.5 ** 2 * 8);

    const sink = block(),
      sunk = (12.6 - 6.6) / 2;
    sink.hole('top', [[20, 20]], 6.6, { head: { kind: 'countersink', diameter: 12.6, angle: Math.PI / 2 } });
    close(
      good(sink).volume,
      BLOCK - Math.PI * 3.3 ** 2 * (20 - sunk) - (Math.PI * sunk * (6.3 ** 2 + 6.3 * 3.3 + 3.3 ** 2)) / 3,
    );
  });

  it('follows faces wherever they come to lie', () => {
    for (const depth of [20, 35]) {
      const d = new PartDraft();
      d.extrude('top', [d.rectangle('top', 0, 0, 100, 60)], depth, {}, 'block');
      d.add(plane('lid', { origin: [0, 0, 20], across: [1, 0, 0], up: [0, 1, 0] }, 'block/end'));
      d.extrude('lid', [d.arc('lid', [50, 30], 10)], 15);
      d.hole('lid', [[20, 20]], 8, { depth: 5 });
      const m = good(d);
      close(m.volume, 6000 * depth + Math.PI * 100 * 15 - Math.PI * 16 * 5);
      expect(m.box[5]).toBeCloseTo(depth + 15, 6);
    }
  });

  it('cuts slots, repeats and mirrors', () => {
    const slot = block(),
      id = slot.feature({
        kind: 'slot',
        planeId: 'top',
        at: [[20, 20]],
        length: 30,
        width: 10,
        angle: Math.PI / 2,
        depth: 6,
        back: false,
      });
    const one = (20 * 10 + Math.PI * 25) * 6;
    close(good(slot).volume, BLOCK - one);
    slot.feature({
      kind: 'pattern',
      of: [id],
      form: { kind: 'row', planeId: 'top', step: [20, 0], count: 4, second: null },
    });
    close(good(slot).volume, BLOCK - 4 * one);

    const circle = block(),
      hole = circle.hole('top', [[50, 50]], 6);
    circle.feature({
      kind: 'pattern',
      of: [hole],
      form: { kind: 'circle', planeId: 'top', centre: [50, 30], count: 6, angle: Math.PI / 3 },
    });
    close(good(circle).volume, BLOCK - 6 * Math.PI * 9 * 20);

    const grid = block(),
      first = grid.hole('top', [[10, 10]], 4);
    grid.feature({
      kind: 'pattern',
      of: [first],
      form: { kind: 'row', planeId: 'top', step: [10, 0], count: 9, second: { step: [0, 20], count: 3 } },
    });
    close(good(grid).volume, BLOCK - 27 * Math.PI * 4 * 20);

    const mirrored = block(),
      boss = mirrored.extrude('top', [mirrored.rectangle('top', 70, 10, 10, 10)], 40);
    mirrored.feature({ kind: 'mirror', of: [boss], planeId: 'top', line: { from: [50, 0], to: [50, 10] } });
    const m = good(mirrored);
    close(m.volume, BLOCK + 2 * 100 * 20);
    close(m.centre[0], 50);
    const whole = block();
    whole.feature({ kind: 'mirror', of: [], planeId: 'front', line: null });
    close(good(whole).volume, 2 * BLOCK);
  });

  it('rounds and cuts off edges, also after a figure has changed', () => {
    for (const depth of [20, 26]) {
      const d = new PartDraft();
      const outline = d.rectangle('top', 0, 0, 100, 60);
      d.extrude('top', [outline], depth, {}, 'block');
      const corner = (a: number, b: number): EdgeName => ({
        between: [`block/side:${outline}.${a}`, `block/side:${outline}.${b}`],
        near: null,
      });
      d.feature({
        kind: 'round',
        edges: [corner(0, 1), corner(1, 2), corner(2, 3), corner(3, 0)],
        radius: 8,
      });
      close(good(d).volume, (6000 - (4 - Math.PI) * 64) * depth);
      d.feature({
        kind: 'chamfer',
        edges: [{ between: ['block/end', `block/side:${outline}.0`], near: null }],
        distance: 2,
      });
      expect(good(d).volume).toBeLessThan((6000 - (4 - Math.PI) * 64) * depth - 1);
    }
    const chamfer = block(),
      { body } = chamfer.made(),
      top = bodyEdges(body!).filter((e) => e.between.includes('block/end'));
    expect(top).toHaveLength(4);
    chamfer.feature({ kind: 'chamfer', edges: [{ between: top[0].between, near: null }], distance: 3 });
    close(good(chamfer).volume, BLOCK - 4.5 * top[0].form.length);
  });

  it('hollows, and fills with ribs', () => {
    const hollow = block();
    hollow.feature({ kind: 'shell', open: ['block/end'], thickness: 3 });
    close(good(hollow).volume, BLOCK - 94 * 54 * 17);

    // An angle of two legs with a rib between them, as thick as 6.
    const angle = new PartDraft();
    angle.extrude(
      'front',
      [
        angle.path('front', [
          [0, 0],
          [100, 0],
          [100, 10],
          [10, 10],
          [10, 80],
          [0, 80],
        ]),
      ],
      40,
      { back: true },
    );
    angle.add(plane('middle', { origin: [0, 20, 0], across: [1, 0, 0], up: [0, 0, 1] }));
    const before = good(angle).volume;
    angle.feature({
      kind: 'rib',
      profile: { planeId: 'middle', curves: [angle.line('middle', [10, 50], [60, 10])] },
      thickness: 6,
      right: true,
    });
    close(good(angle).volume, before + (50 * 40 * 6) / 2);
  });

  it('measures moments as the formulas have them', () => {
    const { inertia, centre } = good(block());
    [50, 30, 10].forEach((v, i) => close(centre[i], v));
    close(inertia[0], (BLOCK * (60 ** 2 + 20 ** 2)) / 12);
    close(inertia[1], (BLOCK * (100 ** 2 + 20 ** 2)) / 12);
    close(inertia[2], (BLOCK * (100 ** 2 + 60 ** 2)) / 12);
    for (const product of inertia.slice(3)) expect(Math.abs(product)).toBeLessThan(1e-3);
  });

  it('makes again only what follows a change', () => {
    const d = block();
    d.hole('top', [[20, 20]], 9);
    d.hole('top', [[70, 20]], 9);
    const builder = new Builder(),
      heard: string[] = [];
    builder.rebuild(d.recipe(), (_, __, name) => heard.push(name));
    expect(heard).toEqual(['Extrude 1', 'Hole 1', 'Hole 2']);
    heard.length = 0;
    const last = d.entities.at(-1)!;
    if (last.type === 'feature' && last.form.kind === 'hole') last.form = { ...last.form, diameter: 12 };
    const { body } = builder.rebuild(d.recipe(), (_, __, name) => heard.push(name));
    expect(heard).toEqual(['Hole 2']);
    close(measured(body!).volume, BLOCK - Math.PI * (4.5 ** 2 + 36) * 20);
  });
});

describe('what cannot be made', () => {
  it('says which and why, and the last good state stays', () => {
    const cases: [(d: PartDraft) => void, RegExp][] = [
      [
        (d) => d.extrude('top', [d.line('top', [0, 0], [10, 0]), d.line('top', [10, 0], [10, 10])], 5),
        /open: there is a gap of 14.1 mm/,
      ],
      [(d) => d.extrude('top', [d.line('top', [0, 0], [10, 0])], 5), /open: a curve of it joins no other/],
      [
        (d) =>
          d.extrude(
            'top',
            [
              d.path('top', [
                [0, 0],
                [10, 10],
                [10, 0],
                [0, 10],
              ]),
            ],
            5,
          ),
        /crosses or touches itself/,
      ],
      [
        (d) => d.extrude('top', [d.rectangle('top', 0, 0, 10, 10), d.rectangle('top', 5, 5, 10, 10)], 5),
        /cross or touch one another/,
      ],
      [(d) => d.extrude('top', ['nowhere'], 5), /curve of its outline is not there/],
      [(d) => d.hole('top', [[300, 300]], 8, { depth: 5 }), /beside the part, at 300, 300/],
      [(d) => d.hole('top', [[300, 300]], 8), /takes nothing away/],
      [(d) => d.hole('top', [], 8), /no place yet/],
      [
        (d) => d.hole('top', [[20, 20]], 8, { head: { kind: 'counterbore', diameter: 7, depth: 3 } }),
        /not wider than the hole/,
      ],
      [
        (d) => d.hole('top', [[20, 20]], 8, { head: { kind: 'counterbore', diameter: 15, depth: 30 } }),
        /thinner than its counterbore/,
      ],
      [
        (d) =>
          d.hole('top', [[20, 20]], 8, { depth: 3, head: { kind: 'counterbore', diameter: 15, depth: 4 } }),
        /not deeper than its counterbore/,
      ],
      [(d) => d.hole('gone', [[20, 20]], 8), /plane on which it was drawn is not there/],
      [
        (d) =>
          d.feature({
            kind: 'round',
            edges: [{ between: ['block/end', 'block/nowhere'], near: null }],
            radius: 3,
          }),
        /None of its edges is there/,
      ],
      [
        (d) =>
          d.feature({
            kind: 'round',
            edges: [
              {
                between: ['block/end', `block/side:${d.entities.find((e) => e.type === 'path')!.id}.0`],
                near: null,
              },
            ],
            radius: 200,
          }),
        /does not allow a radius of 200 mm; \d+ mm can be made/,
      ],
      [
        (d) => d.feature({ kind: 'shell', open: ['block/end'], thickness: 40 }),
        /Walls of 40 mm cannot be made/,
      ],
      [(d) => d.feature({ kind: 'shell', open: ['block/lid'], thickness: 2 }), /not there any more/],
      [
        (d) =>
          d.feature({
            kind: 'slot',
            planeId: 'top',
            at: [[20, 20]],
            length: 8,
            width: 8,
            angle: 0,
            depth: null,
            back: false,
          }),
        /longer over all than it is wide/,
      ],
      [
        (d) =>
          d.extrude('top', [d.rectangle('top', -10, -10, 200, 200)], 5, {
            does: 'cut',
            reach: { kind: 'through' },
          }),
        /takes all of the part away/,
      ],
      [(d) => d.extrude('top', [d.rectangle('top', 10, 10, 5, 5)], 5, { does: 'cut' }), /takes nothing away/],
      [
        (d) =>
          d.extrude('top', [d.rectangle('top', 10, 10, 5, 5)], 5, {
            reach: { kind: 'face', face: 'block/nowhere' },
          }),
        /face up to which it goes is not there/,
      ],
      [
        (d) =>
          d.feature({
            kind: 'pattern',
            of: ['nothing'],
            form: { kind: 'row', planeId: 'top', step: [1, 0], count: 3, second: null },
          }),
        /not there any more/,
      ],
      [
        (d) =>
          d.feature({
            kind: 'revolve',
            profile: { planeId: 'front', curves: [d.rectangle('front', -5, 0, 10, 10)] },
            does: 'add',
            axis: d.line('front', [0, 0], [0, 9]),
            angle: 2 * Math.PI,
          }),
        /both sides of the line/,
      ],
    ];
    for (const [spoil, words] of cases) {
      const d = block();
      spoil(d);
      expect(refusal(d)).toMatch(words);
    }
  });

  it('goes on behind a step that failed', () => {
    const d = block();
    d.hole('top', [[300, 300]], 8, { depth: 5 });
    d.hole('top', [[20, 20]], 10);
    const { states, of } = d.made();
    expect(states.map((s) => s.state)).toEqual(['made', 'failed', 'made']);
    close(of!.volume, BLOCK - Math.PI * 25 * 20);
  });

  it('tells a part that fell into pieces', () => {
    const d = block();
    d.extrude('top', [d.rectangle('top', 40, -10, 5, 200)], 5, { does: 'cut', reach: { kind: 'through' } });
    const { states } = d.made();
    expect(states[1].words).toMatch(/in 2 pieces/);
  });
});
