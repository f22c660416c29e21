import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  facing,
  isFrame,
  planeFromWorld,
  rayToPlane,
  worldFromPlane,
  type Frame,
} from '@calque/core/geometry';
import { brokenBy, entitiesOf, groundStorey, modelOf, parseEntity, type WorkPlane } from '@calque/core/model';
import {
  buildingHeight,
  cornersOf,
  frameOf,
  freePlaneName,
  isUpright,
  lineInPlan,
  nearness,
  planeInView,
  turnedRound,
  uprightPlane,
  viewFrame,
} from '@calque/core/planes';
import { drawingOfModel, dxfOfModel } from '@calque/core/exchange';
import { wall } from './any-entity.ts';

const number = fc.double({ min: -1e5, max: 1e5, noNaN: true });
const place = fc.tuple(number, number, number);
const point = fc.tuple(number, number);
/** A frame turned at will: a direction, and one square to it. */
const frame = fc
  .tuple(
    place,
    fc.double({ min: 0, max: 6.28, noNaN: true }),
    fc.double({ min: -1.5, max: 1.5, noNaN: true }),
  )
  .map(([origin, a, b]): Frame => ({
    origin,
    across: [Math.cos(a), Math.sin(a), 0],
    up: [-Math.sin(a) * Math.sin(b), Math.cos(a) * Math.sin(b), Math.cos(b)],
  }));
const upright = (more: Partial<Parameters<typeof uprightPlane>[1]> = {}): WorkPlane =>
  uprightPlane('p', {
    from: [0, 0],
    to: [4000, 0],
    height: 3000,
    name: 'South',
    role: 'elevation',
    ...more,
  })!;

describe('a frame', () => {
  it('takes a point into the model and back, and tells how far before it another lies', () => {
    fc.assert(
      fc.property(frame, point, number, (f, [x, y], before) => {
        expect(isFrame(f)).toBe(true);
        const on = worldFromPlane(f, [x, y]),
          n = facing(f);
        const off = planeFromWorld(f, [on[0] + n[0] * before, on[1] + n[1] * before, on[2] + n[2] * before]);
        expect(off.point[0]).toBeCloseTo(x, 6);
        expect(off.point[1]).toBeCloseTo(y, 6);
        expect(off.before).toBeCloseTo(before, 6);
      }),
    );
  });

  it('is met by a ray where the ray goes through its point, and never behind the eye or along it', () => {
    fc.assert(
      fc.property(frame, point, point, (f, p, q) => {
        const n = facing(f),
          at = worldFromPlane(f, p),
          // An eye before the plane, off to a side.
          foot = worldFromPlane(f, q),
          eye = [foot[0] + n[0] * 500, foot[1] + n[1] * 500, foot[2] + n[2] * 500] as const;
        const ray = [at[0] - eye[0], at[1] - eye[1], at[2] - eye[2]] as const;
        const met = rayToPlane(f, eye, ray)!;
        expect(met[0]).toBeCloseTo(p[0], 3);
        expect(met[1]).toBeCloseTo(p[1], 3);
        expect(rayToPlane(f, eye, [-ray[0], -ray[1], -ray[2]])).toBeNull();
        expect(rayToPlane(f, eye, f.across)).toBeNull();
      }),
    );
  });
});

describe('an upright plane', () => {
  it('is seen with its first point at the left, and its y is the height in the model', () => {
    const south = upright();
    expect(parseEntity(south)).toBe(south);
    // Drawn from west to east it is looked at from the south.
    expect(facing(frameOf(south))[1]).toBe(-1);
    expect(worldFromPlane(frameOf(south), [1000, 2700])).toEqual([1000, 0, 2700]);
    expect(lineInPlan(south)).toEqual([
      [0, 0],
      [4000, 0],
    ]);
    expect(isUpright(south)).toBe(true);
    expect(isUpright(groundStorey('g'))).toBe(false);
  });

  it('covers the same stretch of the plan from its other side', () => {
    const seen = upright({ from: [100, 200], to: [3100, 4200] }),
      turned = { ...seen, ...turnedRound(seen) };
    expect(parseEntity(turned)).toBe(turned);
    expect(facing(frameOf(turned))).toEqual(facing(frameOf(seen)).map((n) => -n || 0));
    const [a, b] = lineInPlan(turned)!;
    expect(a[0]).toBeCloseTo(3100, 9);
    expect(b[1]).toBeCloseTo(200, 9);
  });

  it('is none where its two points are one, and none that is askew is stored', () => {
    expect(uprightPlane('p', { from: [5, 5], to: [5, 5], height: 1, name: 'N', role: 'section' })).toBeNull();
    expect(() => parseEntity({ ...upright(), up: [0.1, 0, 1] })).toThrow(/square/);
    expect(() => parseEntity({ ...upright(), across: [NaN, 0, 0] })).toThrow();
    expect(() => parseEntity({ ...upright(), across: null })).toThrow();
  });

  it('is what walls and sheets stand on: it does not go from under them', () => {
    const plane = upright(),
      on = { ...wall('w'), planeId: 'p' };
    const before = modelOf([groundStorey('ground'), plane, on]);
    const gone = { type: 'remove', entity: plane } as const;
    expect(brokenBy(gone, before, entitiesOf(modelOf([groundStorey('ground'), on])))).toBe(
      'something still needs the storey or plane that it removes',
    );
    expect(brokenBy(gone, before, entitiesOf(modelOf([groundStorey('ground')])))).toBeNull();
    expect(
      brokenBy({ type: 'add', entity: on }, modelOf([]), entitiesOf(modelOf([groundStorey('ground'), on]))),
    ).toBe('the storey or plane that it needs is not there');
  });

  it('gets a name that is free, and shows what is built', () => {
    const model = modelOf([
      groundStorey('g'),
      { ...upright(), name: 'Elevation 1' },
      { ...upright(), id: 's', name: 'Section A', role: 'section' },
    ]);
    expect(freePlaneName(model, 'elevation')).toBe('Elevation 2');
    expect(freePlaneName(model, 'section')).toBe('Section B');
    expect(buildingHeight(model)).toBe(2700);
    expect(cornersOf(upright(), [0, 0, 9, 9])[2]).toEqual([4000, 0, 3000]);
    expect(cornersOf(groundStorey('g'), [1, 2, 3, 4])[2]).toEqual([3, 4, 0]);
  });
});

describe('the model looked at from somewhere', () => {
  const outlook = fc.record({
    round: fc.double({ min: -7, max: 7, noNaN: true }),
    above: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
  });

  it('shows every plane by one transform, as its points show one by one', () => {
    fc.assert(
      fc.property(outlook, frame, point, (from, plane, p) => {
        const view = viewFrame(from),
          [a, b, c, d, e, f] = planeInView(plane, view);
        expect(isFrame(view)).toBe(true);
        const { point: seen, before } = planeFromWorld(view, worldFromPlane(plane, p));
        expect(a * p[0] + c * p[1] + e).toBeCloseTo(seen[0], 5);
        expect(b * p[0] + d * p[1] + f).toBeCloseTo(seen[1], 5);
        expect(nearness(worldFromPlane(plane, p), view)).toBeCloseTo(before, 5);
      }),
    );
  });

  it('from the south shows east at the right and what is high above; the elevation of that side square on', () => {
    const south = viewFrame({ round: -Math.PI / 2, above: 0 });
    expect(planeFromWorld(south, [1, 0, 0]).point[0]).toBeCloseTo(1, 12);
    expect(planeFromWorld(south, [0, 0, 1]).point[1]).toBeCloseTo(1, 12);
    expect(nearness([0, -1, 0], south)).toBeCloseTo(1, 12);
    expect(planeInView(frameOf(upright()), south).map((n) => Math.round(n * 1e9) / 1e9 || 0)).toEqual([
      1, 0, 0, 1, 0, 0,
    ]);
  });
});

describe('what is delivered', () => {
  it('is all storeys together, and each upright plane by itself: what stands upright is not laid over the plan', () => {
    const model = modelOf([
      groundStorey('ground'),
      upright(),
      { ...wall('plan'), from: [0, 0], to: [3000, 0] },
      {
        type: 'line',
        id: 'l',
        planeId: 'p',
        from: [0, 0],
        to: [500, 700],
        source: { underlayId: null, ends: 'free', thickness: 'typed' },
      },
    ]);
    const kinds = (planeId?: string) => drawingOfModel(model, planeId).shapes.map((s) => s.kind);
    expect(kinds()).toEqual(['region', 'line']);
    expect(kinds('ground')).toEqual(['region', 'line']);
    expect(drawingOfModel(model, 'p').shapes).toEqual([
      expect.objectContaining({ kind: 'line', from: [0, 0], to: [500, 700] }),
    ]);
    const of = (planeId?: string) => dxfOfModel(model, planeId, () => null).shapes.length;
    expect([of(), of('p')]).toEqual([2, 1]);
  });
});
