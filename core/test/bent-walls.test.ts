import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  areaOf,
  arcOf,
  cutWalls,
  joinWalls,
  layerBodies,
  ownBodies,
  roomsWithin,
  straightParts,
} from '@calque/core/building';
import { ringArea, volumeOfAll, type Point } from '@calque/core/geometry';
import {
  curveThrough,
  groundStorey,
  isRoundEnough,
  kindOf,
  modelOf,
  parseEntity,
  type Entity,
  type Wall,
} from '@calque/core/model';
import { wallBlocks } from '@calque/core/solids';
import { takeoff } from '@calque/core/takeoff';
import { writeIfc } from '@calque/core/exchange';
import { BOARDED, door, window } from './given-house.ts';
import { wall } from './given-walls.ts';

const modelWith = (...more: Entity[]) =>
  modelOf([
    { type: 'settings', id: 'settings', name: 'Bend', units: 'mm', precision: 0 },
    groundStorey('ground'),
    ...more,
  ]);
/** What a wall covers by itself. */
const ownOf = (w: Wall) => ownBodies([w], cutWalls([w])).get(w.id)!;

const bent = fc
  .record({
    radius: fc.double({ min: 600, max: 40000, noNaN: true }),
    turn: fc.double({ min: 0.05, max: 3.1, noNaN: true }),
    thickness: fc.double({ min: 50, max: 500, noNaN: true }),
    alignment: fc.constantFrom('centre' as const, 'left' as const, 'right' as const),
    left: fc.boolean(),
    angle: fc.double({ min: 0, max: 6.28, noNaN: true }),
  })
  .map(({ radius, turn, thickness, alignment, left, angle }) => {
    const from: [number, number] = [radius * Math.cos(angle), radius * Math.sin(angle)],
      end = angle + (left ? turn : -turn);
    return {
      w: wall('w', from, [radius * Math.cos(end), radius * Math.sin(end)], {
        thickness,
        alignment,
        height: 2700,
        curve: (left ? 1 : -1) * Math.tan(turn / 4),
      }),
      radius,
      turn,
      left,
    };
  })
  // Longer than it is thick, and not nearly closed within: what is stranger is held to by its body alone.
  .filter(
    ({ w, radius, turn }) => isRoundEnough(w) && radius > 1.5 * w.thickness && radius * turn > w.thickness,
  );

/** Radii of its two faces. */
function radiiOf({ w, radius, left }: { w: Wall; radius: number; left: boolean }): [number, number] {
  const inward =
    w.alignment === 'centre' ? w.thickness / 2 : (w.alignment === 'left') === left ? 0 : w.thickness;
  return [radius - inward, radius - inward + w.thickness];
}

describe('a bent wall', () => {
  it('covers exactly what lies between its two circles, as body, as blocks and as volume, whichever way it is drawn by', () => {
    fc.assert(
      fc.property(bent, (given) => {
        const [inner, outer] = radiiOf(given),
          area = ((outer ** 2 - inner ** 2) / 2) * given.turn,
          own = ownOf(given.w);
        expect(Math.abs(ringArea(cutWalls([given.w]).bodies.get('w')!)) / area).toBeCloseTo(1, 9);
        expect(Math.abs(areaOf(own) / area - 1)).toBeLessThan(1e-7);
        expect(Math.abs(volumeOfAll(wallBlocks(given.w, own)) / (area * 2700) - 1)).toBeLessThan(1e-7);
        // And strays from them by little.
        for (const [x, y] of cutWalls([given.w]).bodies.get('w')!) {
          const far = Math.hypot(x, y);
          expect(Math.min(Math.abs(far - inner), Math.abs(far - outer))).toBeLessThan(1);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('has openings that are straight from edge to edge: its volume less theirs', () => {
    const r = 5000,
      at = (a: number): [number, number] => [r * Math.cos(a), r * Math.sin(a)],
      w = wall('w', at(0), at(2), {
        curve: Math.tan(0.5),
        thickness: 300,
        height: 2700,
        openings: [door('d', at(0.3), at(0.5)), window('f', at(1.2), at(1.5))],
      }),
      chord = (a: number) => 2 * r * Math.sin(a / 2),
      // By its middle, what an opening takes up is straight.
      plan = 300 * (r * (2 - 0.2 - 0.3) + chord(0.2) + chord(0.3)),
      volume = plan * 2700 - 300 * (chord(0.2) * 2100 + chord(0.3) * 1200);
    expect(areaOf(ownOf(w)) / plan).toBeCloseTo(1, 9);
    expect(volumeOfAll(wallBlocks(w, ownOf(w))) / volume).toBeCloseTo(1, 9);
    // In plan it is parted at both.
    expect(cutWalls([w]).parts.get('w')).toHaveLength(3);
    const counted = takeoff(modelWith(w));
    expect(counted.walls[0].length).toBeCloseTo(2 * r, 6);
    expect(counted.walls[0].area).toBeCloseTo((2 * r * 2700) / 1e6, 2);
    expect(counted.openings.map((o) => o.width)).toEqual([
      expect.closeTo(chord(0.2), 6),
      expect.closeTo(chord(0.3), 6),
    ]);
  });

  it('has layers that are together the wall, and joins straight walls without a gap', () => {
    const r = 6000,
      w = wall('w', [r, 0], [0, r], { curve: Math.tan(Math.PI / 8), thickness: 300, wallType: 'boarded' }),
      layers = layerBodies(w, BOARDED, ownOf(w));
    expect(layers.reduce((sum, l) => sum + areaOf(l.body), 0) / areaOf(ownOf(w))).toBeCloseTo(1, 6);
    layers.forEach(({ layer, body }) =>
      expect(areaOf(body) / layer.thickness / (r * (Math.PI / 2))).toBeCloseTo(1, 1),
    );
    // A quarter of a round tower with two straight walls to its middle: one outline with one room.
    const walls = [
        w,
        wall('a', [0, 0], [r, 0], { thickness: 300 }),
        wall('b', [0, r], [0, 0], { thickness: 300 }),
      ],
      { outlines } = joinWalls(walls);
    expect(outlines).toHaveLength(1);
    expect(outlines[0]).toHaveLength(2);
    const { rooms } = roomsWithin(walls);
    expect(rooms).toHaveLength(1);
    // A quarter of the circle within, less the two walls' inner halves.
    const inner = r - 150,
      h = 150;
    let sum = 0;
    const n = 20000;
    for (let i = 0; i < n; i++) {
      const x = h + ((Math.sqrt(inner ** 2 - h * h) - h) * (i + 0.5)) / n;
      sum += ((Math.sqrt(inner ** 2 - x * x) - h) * (Math.sqrt(inner ** 2 - h * h) - h)) / n;
    }
    expect(Math.abs(rooms[0].area / sum - 1)).toBeLessThan(2e-4);
  });

  it('goes through a point, is moved, mirrored and trimmed as what it is, and refuses what is too round', () => {
    fc.assert(
      fc.property(bent, fc.double({ min: 0.1, max: 0.9, noNaN: true }), ({ w }, share) => {
        const arc = arcOf(w)!,
          through: Point = arc.at(share * arc.length);
        expect(curveThrough(w.from, w.to, through)!).toBeCloseTo(w.curve!, 6);
        expect(arc.along(through)).toBeCloseTo(share * arc.length, 5);
        const mirrored = kindOf(w).moved(w, [-1, 0, 0, 1, 0, 0]) as Wall;
        expect(mirrored.curve).toBe(-w.curve!);
        expect(areaOf(ownOf(mirrored)) / areaOf(ownOf(w))).toBeCloseTo(1, 8);
      }),
    );
    expect(curveThrough([0, 0], [10, 0], [5, 0])).toBe(0);
    expect(curveThrough([0, 0], [10, 0], [5, 9])).toBeNull();
    for (const wrong of [{ curve: 1.2 }, { curve: 0.9, thickness: 900 }])
      expect(() => parseEntity(wall('x', [0, 0], [800, 0], wrong))).toThrow(/bends/);
    expect(parseEntity(wall('x', [0, 0], [8000, 0], { curve: 0.4 }))).toMatchObject({ curve: 0.4 });
  });

  it('is one wall in the takeoff, looks to several winds, and is written as IFC with its openings', () => {
    const r = 5000,
      at = (a: number): [number, number] => [r * Math.cos(a), r * Math.sin(a)],
      half = (id: string, from: number) =>
        wall(id, at(from), at(from + Math.PI), {
          curve: 1,
          thickness: 300,
          height: 3000,
          openings: [window(`o${id}`, at(from + 1), at(from + 1.2))],
        }),
      model = modelWith(half('a', 0), half('b', Math.PI), {
        type: 'symbol',
        id: 'n',
        planeId: 'ground',
        source: { underlayId: null, ends: 'typed', thickness: 'typed' },
        mark: 'north',
        at: [9000, 0],
        angle: Math.PI / 2,
        size: 500,
        text: 'N',
      } as Entity),
      counted = takeoff(model);
    expect(counted.walls.map((w) => w.id)).toEqual(['a', 'b']);
    expect(counted.spaces).toHaveLength(1);
    const sides = counted.spaces[0].boundaries.filter((b) => b.side === 'wall');
    expect(new Set(sides.map((b) => b.facing)).size).toBe(8);
    expect(sides.every((b) => b.beyond === 'outside')).toBe(true);
    // All of the inner face together.
    expect(sides.reduce((sum, b) => sum + b.gross, 0)).toBeCloseTo((2 * Math.PI * 4850 * 3000) / 1e6, 1);
    expect(counted.spaces[0].area).toBeCloseTo((Math.PI * 4850 ** 2) / 1e6, 1);
    const text = writeIfc(model, { view: 'editable', at: '2026-11-30T00:00:00' });
    expect(text.match(/=IFCWALL\(/g)).toHaveLength(2);
    expect(text.match(/=IFCOPENINGELEMENT\(/g)).toHaveLength(2);
    expect(straightParts(model.get('a') as Wall).length).toBeGreaterThan(20);
  });
});
