import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  contradictionOf,
  witnessesOf,
  type PrintedReading,
  type SheetView,
  type Witness,
} from '@calque/core/calibration';
import { compose, MM_PER_POINT, rotationAbout, type Transform } from '@calque/core/geometry';

const at = (x: number, y = x): Transform => [x * MM_PER_POINT, 0, 0, y * MM_PER_POINT, 10, 20];
const view = (factor: number, agreeing: number, more: Partial<SheetView> = {}): SheetView => ({
  region: [0, 0, 100, 100],
  from: 'dimensions',
  unit: 'mm',
  rivals: [],
  factor,
  x: factor,
  y: factor,
  stretched: false,
  uncertainty: 1e-5,
  noise: 0.02,
  agreeing,
  outliers: 0,
  confidence: 1,
  ...more,
});
const note = (factor: number, bar = false, of: number | null = 0): PrintedReading['notes'][number] => ({
  text: `1:${factor}`,
  factor,
  bar,
  view: of,
});
const forty: Witness[] = witnessesOf({ views: [view(100, 40)], notes: [] }, 0);

describe('a scale held against what the sheet says', () => {
  it.each<[string, number, number | null]>([
    ['the very scale', 100, null],
    ['one that nobody could tell from it', 100.04, null],
    ['ends that were picked a pixel off: 1:99.288', 99.288, -0.00712],
    ['a figure typed as a tenth: 2520 for 25 200', 10, -0.9],
    ['24 200 for 25 200', 96.0317, -0.039683],
    ['four pixels of the screen: 1:57.31 on 1:50', 57.31, -0.4269],
  ])('%s', (_, factor, share) => {
    const found = contradictionOf(at(factor), forty);
    if (share === null) expect(found).toBeNull();
    else
      expect([found!.witness.count, found!.witnessed, found!.share]).toEqual([
        40,
        100,
        expect.closeTo(share, 5),
      ]);
  });

  it('a page that only a graphic scale speaks for is held against that, as sure as its ticks are', () => {
    const [bar, ...others] = witnessesOf(
      {
        views: [view(617.28, 0, { from: 'bar', unit: 'm', uncertainty: 3e-4 })],
        notes: [note(617.28, true), note(500)],
      },
      0,
    );
    expect(bar).toMatchObject({ kind: 'bar', x: 617.28, uncertainty: 3e-4 });
    expect(others).toMatchObject([{ kind: 'note', x: 500 }]);
    expect(contradictionOf(at(500), [bar, ...others])).toMatchObject({ witnessed: 617.28 });
  });

  it('figures whose unit must be asked speak for no scale', () => {
    expect(
      witnessesOf(
        {
          views: [
            view(2, 9, {
              unit: null,
              rivals: [
                { unit: 'in', factor: 2 },
                { unit: 'mm', factor: 0.0787 },
              ],
            }),
          ],
          notes: [],
        },
        0,
      ),
    ).toEqual([]);
  });

  it('an error that is stated excuses a small difference, and never a large one', () => {
    expect(contradictionOf(at(99.6), forty, 0.01)).toBeNull();
    expect(contradictionOf(at(99.6), forty, 0.001)).not.toBeNull();
    expect(contradictionOf(at(99.4), forty, 0.5)).not.toBeNull();
  });

  it('in each direction, however the sheet is turned', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -4, max: 4, noNaN: true }),
        fc.double({ min: 0.9, max: 1.1, noNaN: true }),
        fc.double({ min: 0.9, max: 1.1, noNaN: true }),
        (turn, kx, ky) => {
          const found = contradictionOf(compose(rotationAbout(turn, [3, 4]), at(100 * kx, 100 * ky)), forty);
          const worst = Math.max(Math.abs(kx - 1), Math.abs(ky - 1));
          if (worst < 0.0004) expect(found).toBeNull();
          if (worst > 0.0006) expect(Math.abs(found!.share)).toBeCloseTo(worst, 6);
        },
      ),
    );
    const stretched = witnessesOf(
      { views: [view(99.4, 40, { x: 100, y: 98.8, stretched: true })], notes: [] },
      0,
    );
    expect(contradictionOf(at(100, 98.8), stretched)).toBeNull();
    expect(contradictionOf(at(100), stretched)).toMatchObject({
      witnessed: 98.8,
      factor: expect.closeTo(100, 9) as number,
    });
  });

  it('dimensions that agree outweigh a bar, a bar a few dimensions and a note; what is of another view is no witness', () => {
    const kinds = (views: SheetView[], notes: PrintedReading['notes'], v: number | null = 0) =>
      witnessesOf({ views, notes }, v).map((w) => w.kind);
    expect(kinds([view(100, 3)], [note(50), note(100, true)])).toEqual(['dimensions', 'bar', 'note']);
    expect(kinds([view(100, 2)], [note(50), note(100, true)])).toEqual(['bar', 'dimensions', 'note']);
    expect(kinds([], [note(50, false, null)], null)).toEqual(['note']);
    expect(kinds([view(100, 9), view(20, 5)], [note(20, false, 1), note(5, false, null)])).toEqual([
      'dimensions',
    ]);
    // The note is of another print: the dimensions win, and bear the placement out.
    expect(
      contradictionOf(at(102.77), witnessesOf({ views: [view(102.77, 19)], notes: [note(100)] }, 0)),
    ).toBeNull();
    expect(
      contradictionOf(at(50), witnessesOf({ views: [], notes: [note(100, false, null)] }, null)),
    ).toMatchObject({ witness: { kind: 'note' }, share: expect.closeTo(-0.5, 6) as number });
    expect(contradictionOf(at(50), [])).toBeNull();
  });
});
