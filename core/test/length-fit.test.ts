import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  anchorOf,
  chooseModel,
  fitLengths,
  inflation,
  lengthOf,
  placeFitted,
  polarTurn,
  statedError,
  type FitModel,
  type KnownLength,
  type LengthFit,
  type Stretching,
} from '@calque/core/calibration';
import {
  applyTransform,
  compose,
  meanScale,
  rotationAbout,
  type SheetPoint,
  type Transform,
} from '@calque/core/geometry';
import { chanceFrom } from './given-plan.ts';

const CROP = [0, 0, 1191, 842] as const;

/** Standard normal deviates (Box and Muller). */
function normalFrom(seed: number): () => number {
  const chance = chanceFrom(seed);
  return () => Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());
}

/** Lengths as they would be known on a sheet of this stretching: true ends, picked with noise. */
function knownOn(
  truth: Stretching,
  ends: readonly (readonly [SheetPoint, SheetPoint])[],
  sigma = 0,
  lengthSigma = 0,
  normal: () => number = () => 0,
): KnownLength[] {
  const blur = ([x, y]: SheetPoint): SheetPoint => [x + sigma * normal(), y + sigma * normal()];
  return ends.map(([p, q]) => ({
    from: blur(p),
    to: blur(q),
    millimetres: lengthOf(truth, p, q) + lengthSigma * normal(),
    sigma: [Math.max(sigma, 0.01), Math.max(sigma, 0.01)],
    lengthSigma,
  }));
}
const fitted = (known: readonly KnownLength[], model: FitModel): LengthFit => {
  const outcome = fitLengths(known, model);
  if (!outcome.ok) throw new Error(outcome.reason);
  return outcome.fit;
};
const ENDS: [SheetPoint, SheetPoint][] = [
  [
    [100, 100],
    [900, 100],
  ],
  [
    [120, 90],
    [120, 700],
  ],
  [
    [200, 650],
    [800, 660],
  ],
  [
    [150, 120],
    [820, 640],
  ],
  [
    [700, 100],
    [710, 480],
  ],
  [
    [300, 300],
    [500, 520],
  ],
  [
    [80, 400],
    [420, 410],
  ],
];

describe('the fit to known lengths', () => {
  const stretchings = fc.tuple(
    fc.double({ min: 0.5, max: 200, noNaN: true }),
    fc.double({ min: -0.05, max: 0.05, noNaN: true }),
    fc.double({ min: -0.02, max: 0.02, noNaN: true }),
  );
  it('finds every model exactly again from exact picks', () => {
    fc.assert(
      fc.property(stretchings, ([s, stretch, shear]) => {
        const truths: Record<FitModel, Stretching> = {
          uniform: [s, s, 0],
          directional: [s, s * (1 + stretch), 0],
          affine: [s, s * (1 + stretch), s * shear],
        };
        for (const model of ['uniform', 'directional', 'affine'] as const) {
          const { stretching, residuals } = fitted(knownOn(truths[model], ENDS), model);
          truths[model].forEach((v, i) => expect(Math.abs(stretching[i] - v)).toBeLessThan(1e-9 * s));
          for (const r of residuals) expect(Math.abs(r.millimetres)).toBeLessThan(1e-7 * s);
        }
      }),
    );
  });

  it('one length gives the scale that it says', () => {
    expect(
      fitted(
        [
          {
            from: [0, 0],
            to: [100, 0],
            millimetres: 3527.7777777777778,
            sigma: [0.02, 0.02],
            lengthSigma: 0.3,
          },
        ],
        'uniform',
      ).stretching[0],
    ).toBeCloseTo(35.27777777777778, 12);
  });

  it('a length that is known ten times better weighs a hundred times more', () => {
    const at = (millimetres: number, lengthSigma: number, y: number): KnownLength => ({
      from: [0, y],
      to: [100, y],
      millimetres,
      sigma: [1e-6, 1e-6],
      lengthSigma,
    });
    const { stretching } = fitted([at(1000, 1, 0), at(1101, 10, 50)], 'uniform');
    expect(stretching[0]).toBeCloseTo(10.01, 6);
  });

  it('says what is missing or wrong', () => {
    const known = knownOn([35, 35, 0], ENDS);
    expect(fitLengths([], 'uniform')).toEqual({ ok: false, reason: 'none' });
    expect(fitLengths([{ ...known[0], to: known[0].from }], 'uniform')).toEqual({
      ok: false,
      reason: 'points-together',
      at: 0,
    });
    expect(fitLengths([known[0], { ...known[1], millimetres: -3 }], 'uniform')).toEqual({
      ok: false,
      reason: 'length-not-positive',
      at: 1,
    });
    expect(fitLengths([known[0]], 'directional')).toEqual({ ok: false, reason: 'too-few' });
    const level = knownOn(
      [35, 35, 0],
      [
        [
          [0, 0],
          [500, 0],
        ],
        [
          [0, 10],
          [700, 10],
        ],
        [
          [20, 300],
          [400, 300],
        ],
      ],
    );
    expect(fitLengths(level, 'directional')).toEqual({ ok: false, reason: 'one-direction' });
    expect(fitLengths(level, 'affine')).toMatchObject({ ok: false });
  });
});

describe('the stated error', () => {
  /** Shares of trials in which the stated 95 % held: for a length of ten metres in any direction, and for the corners. */
  function coverage(
    model: FitModel,
    truth: Stretching,
    ends: typeof ENDS,
    trials: number,
  ): { length: number; corner: number; round: number } {
    const normal = normalFrom(11);
    let length = 0,
      corner = 0,
      corners = 0,
      lengths = 0,
      round = 0;
    for (let trial = 0; trial < trials; trial++) {
      const known = knownOn(truth, ends, 0.4, 2, normal);
      const fit = fitted(known, model);
      const anchor = anchorOf(known);
      const error = statedError(fit, anchor, CROP);
      if (model === 'uniform') {
        lengths++;
        const points = 10000 / truth[0];
        if (Math.abs(lengthOf(fit.stretching, [0, 0], [points, 0]) - 10000) <= error.tenMetres) length++;
      }
      for (const e of error.corners) {
        const [dx, dy] = [e.at[0] - anchor[0], e.at[1] - anchor[1]];
        const [a, b, c] = fit.stretching.map((v, i) => v - truth[i]);
        const [ex, ey] = [a * dx + c * dy, c * dx + b * dy];
        const u = ex * Math.cos(e.radians) + ey * Math.sin(e.radians),
          v = -ex * Math.sin(e.radians) + ey * Math.cos(e.radians);
        corners++;
        if ((u / e.major) ** 2 + (e.minor > 1e-9 ? (v / e.minor) ** 2 : 0) <= 1) corner++;
        if (Math.hypot(ex, ey) <= e.radius) round++;
      }
    }
    return {
      length: lengths === 0 ? 0.95 : length / lengths,
      corner: corner / corners,
      round: round / corners,
    };
  }

  it('holds in 93 to 97 of 100 simulated calibrations, for lengths and for corners', () => {
    const truths: Record<FitModel, Stretching> = {
      uniform: [35.28, 35.28, 0],
      directional: [35.28, 35.7, 0],
      affine: [35.28, 35.7, 0.05],
    };
    for (const model of ['uniform', 'directional', 'affine'] as const) {
      for (const ends of model === 'affine' ? [ENDS] : [ENDS.slice(0, 3), ENDS]) {
        const shares = Object.values(coverage(model, truths[model], ends, 2500));
        for (const share of shares) {
          expect(share).toBeGreaterThan(0.93);
          expect(share).toBeLessThan(0.97);
        }
      }
    }
  });

  it('a short reference on a large sheet says so; a long one is good', () => {
    const reference = (length: number): KnownLength => ({
      from: [100, 400],
      to: [100 + length, 400],
      millimetres: 35.28 * length,
      sigma: [0.3, 0.3],
      lengthSigma: 0.3,
    });
    const error = (length: number) =>
      statedError(fitted([reference(length)], 'uniform'), [100, 400], CROP).across;
    expect(error(10)).toBeGreaterThan(1000);
    // √2 · 0.3 pt over 900, seen 1,173 pt away, 95 % along one line.
    expect(error(900)).toBeCloseTo(
      1.96 * Math.hypot(35.28 * 0.3 * Math.SQRT2, 0.3) * (Math.hypot(1091, 442) / 900),
      1,
    );
    expect(error(10) / error(100)).toBeCloseTo(10, 0);
  });

  it('grows when lengths contradict one another more than their picks explain', () => {
    const known = knownOn([35, 35, 0], ENDS.slice(0, 4));
    expect(inflation(fitted(known, 'uniform'))).toBe(1);
    const contradictory = known.map((k, i) => ({ ...k, millimetres: k.millimetres * (1 + 0.01 * (i % 2)) }));
    expect(inflation(fitted(contradictory, 'uniform'))).toBeGreaterThan(10);
  });
});

describe('the choice of the model', () => {
  const normal = normalFrom(5);
  it('takes one scale where it explains everything', () => {
    const choice = chooseModel(knownOn([35, 35, 0], ENDS, 0.1, 0.5, normal));
    expect(choice).toMatchObject({ model: 'uniform', spoiler: null });
  });
  it('sees a sheet that is stretched in one direction, and one that is sheared', () => {
    expect(chooseModel(knownOn([35, 35.42, 0], ENDS, 0.05, 0.3, normal))).toMatchObject({
      model: 'directional',
      spoiler: null,
    });
    expect(chooseModel(knownOn([35, 35.42, 0.3], ENDS, 0.05, 0.3, normal))).toMatchObject({
      model: 'affine',
      spoiler: null,
    });
  });
  it('names the length that is wrong, and what it should be', () => {
    const known = knownOn([35, 35, 0], ENDS, 0.05, 0.3, normal);
    const wrong = known.map((k, i) => (i === 2 ? { ...k, millimetres: k.millimetres * 0.9 } : k));
    const { model, spoiler } = chooseModel(wrong);
    expect(model).toBe('uniform');
    expect(spoiler?.at).toBe(2);
    expect(spoiler!.expected / known[2].millimetres).toBeCloseTo(1, 3);
  });
  it('sees the stretch in one length across and one up that disagree, and a wrong figure where they disagree by more', () => {
    const [across, up]: [SheetPoint, SheetPoint][] = [
      [
        [100, 100],
        [900, 100],
      ],
      [
        [100, 100],
        [100, 700],
      ],
    ];
    const two = (x: number, y: number) =>
      chooseModel([
        { from: across[0], to: across[1], millimetres: 800 * x, sigma: [0.03, 0.03], lengthSigma: 0.3 },
        { from: up[0], to: up[1], millimetres: 600 * y, sigma: [0.03, 0.03], lengthSigma: 0.3 },
      ]);
    const stretched = two(35.28, 34.85);
    expect(stretched.model).toBe('directional');
    expect((stretched.fits.directional as { fit: LengthFit }).fit.stretching).toEqual([
      expect.closeTo(35.28, 9),
      expect.closeTo(34.85, 9),
      0,
    ]);
    expect(two(35.28, 35.28).model).toBe('uniform');
    expect(two(35.28, 3.528).model).toBe('uniform');
    expect(two(35.28, 30).model).toBe('uniform');
  });
  it('with two lengths that contradict one another says neither', () => {
    expect(
      chooseModel(
        knownOn([35, 35, 0], ENDS.slice(0, 2)).map((k, i) => ({
          ...k,
          millimetres: k.millimetres * (1 + i),
        })),
      ).spoiler,
    ).toBeNull();
  });
});

describe('placing by a fit', () => {
  it('keeps the turn and the anchor, and has the fitted lengths', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3.1, max: 3.1, noNaN: true }),
        fc.double({ min: 1, max: 90, noNaN: true }),
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
        (turn, s, stretch, shear) => {
          const before = compose(rotationAbout(turn, [0, 0]), [10, 0, 0, 10, 500, -300]) as Transform;
          const stretching: Stretching = [s, s * (1 + stretch), s * shear];
          const anchor: SheetPoint = [321, 123];
          const after = placeFitted(before, stretching, anchor);
          const [p, q] = [applyTransform(before, anchor), applyTransform(after, anchor)];
          expect(Math.hypot(p[0] - q[0], p[1] - q[1])).toBeLessThan(1e-6);
          expect(Math.abs(Math.sin(polarTurn(after) - turn))).toBeLessThan(1e-9);
          for (const [from, to] of ENDS) {
            const [u, v] = [applyTransform(after, from), applyTransform(after, to)];
            expect(
              Math.abs(Math.hypot(v[0] - u[0], v[1] - u[1]) - lengthOf(stretching, from, to)),
            ).toBeLessThan(1e-6 * s);
          }
          expect(meanScale(after)).toBeGreaterThan(0);
        },
      ),
    );
  });
});
