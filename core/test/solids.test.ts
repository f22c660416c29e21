import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutWalls, joinWalls, ownBodies } from '@calque/core/building';
import { ringArea, volumeOfAll, type Block } from '@calque/core/geometry';
import {
  GABLE,
  groundStorey,
  kindOf,
  modelOf,
  movedBy,
  stairFigures,
  type Column,
  type Entity,
  type Pair,
  type Roof,
  type Slab,
  type Stair,
  type Wall,
  type WallOpening,
} from '@calque/core/model';
import { bodiesOf, enclosedBy, meshOf, sceneOf, wallBlocks, type Scene } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { base } from './given-elements.ts';
import { wall } from './given-walls.ts';

const opening = (id: string, from: Pair, to: Pair, sill: number, head: number): WallOpening => ({
  id,
  kind: sill > 0 ? 'window' : 'door',
  from,
  to,
  sill,
  head,
  leaves: 1,
  hung: 'from',
  opens: 'left',
  tag: '',
  assumed: [],
});
const model = (...entities: Entity[]) =>
  modelOf([
    { ...groundStorey('ground'), heightAssumed: false },
    { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 1 },
    ...entities,
  ]);
const blocksOf = (walls: Wall[]): Map<string, Block[]> => {
  const own = ownBodies(walls, cutWalls(walls));
  return new Map(walls.map((w) => [w.id, wallBlocks(w, own.get(w.id) ?? [])]));
};
const edgesIn = (blocks: readonly Block[]) => meshOf(blocks).edges.length / 6;

describe('a wall as a solid', () => {
  it('is its body less its openings, however they lie over one another', () => {
    const w = wall('w', [0, 0], [5000, 0], {
      openings: [
        opening('a', [1000, 0], [1900, 0], 0, 2100),
        opening('b', [3000, 0], [4200, 0], 900, 2100),
        // Over the window, and half of it within it.
        opening('c', [3500, 0], [4600, 0], 1500, 2400),
      ],
    });
    const blocks = blocksOf([w]).get('w')!,
      open = 900 * 2100 + 1200 * 1200 + 1100 * 900 - 700 * 600;
    expect(volumeOfAll(blocks) / (200 * (5000 * 2700 - open))).toBeCloseTo(1, 12);
    expect(enclosedBy(meshOf(blocks)) / volumeOfAll(blocks)).toBeCloseTo(1, 12);
  });
  it('has the edges of a box, and of a box with a hole where it has a window; a cut within it shows nowhere', () => {
    expect(edgesIn(blocksOf([wall('w', [0, 0], [5000, 0])]).get('w')!)).toBe(12);
    const pierced = wall('w', [0, 0], [5000, 0], {
      openings: [opening('b', [3000, 0], [4200, 0], 900, 2100)],
    });
    expect(edgesIn(blocksOf([pierced]).get('w')!)).toBe(24);
    // A door reaches the foot: two long edges less at each face are parted, three lines each way are new.
    const door = wall('w', [0, 0], [5000, 0], { openings: [opening('b', [3000, 0], [4200, 0], 0, 2100)] });
    expect(edgesIn(blocksOf([door]).get('w')!)).toBe(24);
  });
  it('mitred, teed and crossing walls are together what their outline encloses, none of it twice', () => {
    const plan = fc
      .array(
        fc.tuple(
          fc.integer({ min: 0, max: 6 }),
          fc.integer({ min: 0, max: 6 }),
          fc.integer({ min: 0, max: 6 }),
          fc.integer({ min: 0, max: 6 }),
          fc.constantFrom(100, 140, 200, 300),
          fc.constantFrom('centre', 'left', 'right'),
        ),
        { minLength: 1, maxLength: 7 },
      )
      .map((list) =>
        list
          .filter(([a, b, c, d]) => a !== c || b !== d)
          .map(([a, b, c, d, thickness, alignment], i) =>
            wall(`w${i}`, [a * 1500, b * 1500], [c * 1500, d * 1500], {
              thickness,
              alignment: alignment as 'left',
            }),
          ),
      )
      .filter((walls) => walls.length > 0);
    // The mitre of one lies along a face of another: what is left of that one hangs together by a strip of no width.
    const strip = [
      wall('w0', [4500, 9000], [3000, 1500], { thickness: 300 }),
      wall('w1', [0, 4500], [7500, 4500], { thickness: 100, alignment: 'right' }),
      wall('w2', [3000, 9000], [9000, 3000], { thickness: 100, alignment: 'left' }),
    ];
    // Two that share a line in opposite directions: the mitre of one is a spike of no width.
    const spike = [
      wall('w0', [1500, 4500], [0, 9000], { thickness: 140, alignment: 'left' }),
      wall('w1', [0, 9000], [1500, 4500], { thickness: 200 }),
    ];
    // Mitres that cross one another, at a wall shorter than they are wide.
    const short = [
      wall('w0', [7500, 3000], [0, 0], { thickness: 100 }),
      wall('w1', [7500, 3000], [9000, 3000], { thickness: 300, alignment: 'right' }),
      wall('w2', [9000, 3000], [0, 7500], { thickness: 300, alignment: 'right' }),
    ];
    // Faces of two along one line, crossed by a third: a union of all at once loses a part.
    const shared = [
      wall('w0', [3000, 9000], [7500, 0], { thickness: 100, alignment: 'right' }),
      wall('w1', [6000, 3000], [3000, 9000], { thickness: 100, alignment: 'left' }),
      wall('w2', [7500, 7500], [4500, 4500], { thickness: 100, alignment: 'left' }),
    ];
    fc.assert(
      fc.property(plan, (walls) => {
        const blocks = [...blocksOf(walls).values()].flat(),
          joined = joinWalls(walls).outlines.reduce(
            (sum, rings) =>
              sum + rings.reduce((own, r, i) => own + (i === 0 ? 1 : -1) * Math.abs(ringArea(r)), 0),
            0,
          );
        expect(volumeOfAll(blocks) / (joined * 2700)).toBeCloseTo(1, 6);
        for (const own of blocksOf(walls).values())
          expect(enclosedBy(meshOf(own))).toBeCloseTo(volumeOfAll(own), -3);
      }),
      { numRuns: 300, examples: [strip, spike, short, shared].map((walls): [Wall[]] => [walls]) },
    );
  });
});

describe('a wall under a roof', () => {
  const [W, D, EAVES, T] = [10000, 6000, 2500, 200];
  const pitch = Math.PI / 6;
  const saddle: Roof = {
    type: 'roof',
    ...base('roof'),
    points: [
      [0, 0],
      [W, 0],
      [W, D],
      [0, D],
    ],
    pitches: [pitch, GABLE, pitch, GABLE],
    eaves: EAVES,
    overhang: 0,
    thickness: T,
    assumed: [],
  };
  const gable = (more: Partial<Wall> = {}): Wall =>
    wall('gable', [0, D], [0, 0], {
      thickness: 300,
      alignment: 'right',
      underRoof: true,
      height: 2400,
      ...more,
    });
  it('the gable follows its planes, with an opening up to where the roof cuts it', () => {
    // Its outer face is the drawn line; the roof comes in over its thickness alike.
    const face = D * (EAVES - T) + (D / 2) * (D / 2) * Math.tan(pitch);
    const counted = takeoff(model(saddle, gable())).walls[0];
    expect(counted.area).toBeCloseTo(face / 1e6, 9);
    expect(counted.volume).toBeCloseTo((face * 300) / 1e9, 9);
    const pierced = takeoff(
      model(saddle, gable({ openings: [opening('o', [0, 3500], [0, 2500], 2000, 3000)] })),
    ).walls[0];
    expect(pierced.net).toBeCloseTo(face / 1e6 - 1, 9);
    expect(pierced.volume).toBeCloseTo((face * 300) / 1e9 - 0.3, 9);
    // A window as wide as the wall and higher than the roof at its ends takes all that is left above its sill.
    const wide = takeoff(model(saddle, gable({ openings: [opening('o', [0, D], [0, 0], 2300, 9000)] })))
      .walls[0];
    expect(wide.net).toBeCloseTo((D * 2300) / 1e6, 6);
    expect(wide.volume).toBeCloseTo((D * 2300 * 300) / 1e9, 6);
  });
  it('keeps its height where no roof is over it, and where the roof makes none', () => {
    expect(takeoff(model(gable())).walls[0].area).toBeCloseTo((D * 2400) / 1e6, 9);
    const none = { ...saddle, pitches: [GABLE, GABLE, GABLE, GABLE] };
    expect(takeoff(model(none, gable())).walls[0].area).toBeCloseTo((D * 2400) / 1e6, 9);
  });
  it('stands below the roof of a storey above as well', () => {
    const upper = { ...groundStorey('ground'), id: 'upper', name: 'Upper floor', elevation: 1000 };
    const counted = takeoff(model(upper, { ...saddle, planeId: 'upper' }, gable())).walls[0];
    expect(counted.area).toBeCloseTo((D * (EAVES - T + 1000) + (D / 2) * (D / 2) * Math.tan(pitch)) / 1e6, 9);
  });
});

describe('slabs, columns and stairs', () => {
  const slab: Slab = {
    type: 'slab',
    ...base('slab'),
    rings: [
      {
        points: [
          [0, 0],
          [0, 6000],
          [9000, 6000],
          [9000, 0],
        ],
        bulges: [0, 0, 0, 0],
      },
      {
        points: [
          [1000, 1000],
          [2000, 1000],
          [2000, 3000],
          [1000, 3000],
        ],
        bulges: [0, 0, 0, 0],
      },
    ],
    thickness: 250,
    top: -20,
    assumed: ['thickness'],
  };
  const column = (section: Column['section']): Column => ({
    type: 'column',
    ...base('column'),
    at: [500, 500],
    angle: 0.4,
    section,
    foot: 0,
    height: 3000,
    heightAssumed: true,
  });
  const stair: Stair = {
    type: 'stair',
    ...base('stair'),
    from: [0, 0],
    to: [2520, 0],
    width: 1000,
    risers: 10,
    rise: 2700,
    riseAssumed: false,
    thickness: 150,
    back: { risers: 6, side: 'left', gap: 100, landing: 1000 },
  };
  const volume = (e: Slab | Column | Stair) => volumeOfAll(kindOf(e).blocks(e as never));

  it('a slab has its holes, whichever way its rings run', () => {
    expect(volume(slab)).toBeCloseTo((54e6 - 2e6) * 250, 3);
    expect(takeoff(model(slab)).slabs).toMatchObject([
      { area: 52, volume: 13, top: -20, assumed: ['thickness'] },
    ]);
    expect(enclosedBy(meshOf(kindOf(slab).blocks(slab)))).toBeCloseTo(52e6 * 250, 3);
  });
  it('a column has the volume of its section times its height', () => {
    expect(volume(column({ form: 'rectangle', width: 300, depth: 400 }))).toBeCloseTo(300 * 400 * 3000, 3);
    // A circle is made of chords within a fifth of a millimetre.
    expect(volume(column({ form: 'round', diameter: 400 })) / (Math.PI * 200 ** 2 * 3000)).toBeCloseTo(1, 2);
  });
  it('a stair that turns back climbs its rise, riser by riser, and stands on the floor', () => {
    const figures = stairFigures(stair);
    expect(figures).toMatchObject({ risers: 16, rise: 168.75, going: 280, stride: 617.5, doubts: [] });
    const blocks = kindOf(stair).blocks(stair);
    // Nine treads, the landing, five treads.
    expect(blocks).toHaveLength(15);
    expect(Math.max(...blocks.map((b) => b.high as number))).toBeCloseTo(2700 - 168.75, 9);
    expect(Math.min(...blocks.map((b) => b.low as number))).toBe(0);
    const [first, second] = blocks;
    expect([first.high, second.high]).toEqual([168.75, 337.5]);
    // The landing spans both flights.
    expect(ringArea(blocks[9].outline[0])).toBeCloseTo(1000 * 2100, 6);
  });
  it('a stair that is steep or out of step says so', () => {
    expect(stairFigures({ ...stair, rise: 3600 }).doubts.join()).toMatch(/steep/);
    expect(stairFigures({ ...stair, to: [4000, 0] }).doubts.join()).toMatch(/more than 660/);
    expect(stairFigures({ ...stair, to: [1800, 0] }).doubts.join()).toMatch(/less than 600/);
  });
  it('mirrored a stair comes back on its other side, and all keep their volume', () => {
    const mirrored = movedBy(stair, [-1, 0, 0, 1, 0, 0]);
    expect(mirrored.back!.side).toBe('right');
    for (const e of [slab, column({ form: 'rectangle', width: 300, depth: 400 }), stair])
      expect(volume(movedBy(e, [-1, 0, 0, 1, 500, 0])) / volume(e)).toBeCloseTo(1, 9);
  });
});

describe('a building', () => {
  it('is its elements as solids, storey by storey; what is only drawn is none', () => {
    const bodies = bodiesOf(
      model(wall('w', [0, 0], [5000, 0]), {
        type: 'line',
        ...base('l'),
        from: [0, 0],
        to: [1, 1],
      }),
    );
    expect(bodies.map((b) => [b.element.id, b.on.name, b.blocks.length])).toEqual([
      ['w', groundStorey('ground').name, 1],
    ]);
  });
});

describe('a scene that is made storey by storey', () => {
  it('tells of those that are done, each of them as it is at the end', () => {
    const model = modelOf(
        [0, 1, 2].flatMap((n) => [
          { ...groundStorey(`s${n}`), elevation: n * 3000 },
          { ...wall(`w${n}`, [0, 0], [5000, 0]), planeId: `s${n}` },
        ]),
      ),
      some: Scene[] = [],
      shares: number[] = [],
      all = sceneOf(model, { onSome: (make) => some.push(make()), onShare: (s) => shares.push(s) });
    expect(some.map((s) => s.groups.map((g) => g.storeyId))).toEqual([['s0'], ['s0', 's1']]);
    expect(all.groups.map((g) => g.elements.map((e) => e.id))).toEqual([['w0'], ['w1'], ['w2']]);
    // Each about its own origin.
    const placed = ({ origin, groups }: Scene) =>
      groups.map((g) => [...g.triangles].map((v, i) => v + origin[i % 3]));
    for (const [i, part] of some.entries()) expect(placed(part)).toEqual(placed(all).slice(0, i + 1));
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
  });
});
