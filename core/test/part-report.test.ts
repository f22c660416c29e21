import { beforeAll, describe, expect, it } from 'vitest';
import { readDxf, writeDxf } from '@calque/core/exchange';
import { faceOutline, partReport } from '@calque/core/forming';
import { applyOrThrow, modelOf, ofType, shapeOfPiece, type Model } from '@calque/core/model';
import { planeState, settled } from '@calque/core/part';
import { bracketPart } from '../../demo/src/bracket.ts';
import { loadKernel } from './kernel.ts';

beforeAll(loadKernel, 60000);

const report = (model: Model) => partReport(model, ofType(model, 'part')[0]);
const ROUND = 144 - (Math.PI * 144) / 4;
/** The face of the bracket by hand: 150 x 90, a slant, three rounds of 12, three holes, a bore, a slot. */
const face = (width: number) =>
  width * 90 - 450 - 3 * ROUND - 3 * Math.PI * 5.5 ** 2 - Math.PI * 16 ** 2 - (14 * 10 + Math.PI * 25);

describe('a part from its sheet', () => {
  it('has the mass, holes and printed figures that the sheet says', () => {
    const { report: r } = report(modelOf(bracketPart()));
    expect(r.features.every((f) => f.state === 'made')).toBe(true);
    expect(Math.abs(r.volume / (6 * face(150)) - 1)).toBeLessThan(1e-9);
    expect(r.mass).toBeCloseTo((6 * face(150) * 8000) / 1e9, 9);
    expect(r.holes.map((h) => [Number(h.diameter.toFixed(6)), h.depth]).sort()).toEqual([
      [11, null],
      [11, null],
      [11, null],
      [32, null],
    ]);
    expect(r.printed.map((p) => [p.text, p.agrees])).toEqual([
      ['150', true],
      ['20', true],
      ['55', true],
      ['55', true],
      ['50', true],
      ['20', true],
      ['60', true],
      ['bore dia 32', true],
    ]);
    expect(r.checks).toEqual([]);
    expect(r.cost!.lines).toHaveLength(5);
  });

  it('follows a figure that is changed, and says which printed one it does not agree with any more', () => {
    const model = modelOf(bracketPart()),
      { freedom } = planeState(model, 'bracket-front'),
      rule = ofType(model, 'rule').find((x) => x.value === 150)!;
    expect(planeState(model, 'bracket-front').contradictory).toEqual([]);
    expect(freedom).toBeGreaterThan(0);
    const wider = applyOrThrow(
        model,
        settled(model, { type: 'set', id: rule.id, before: { value: 150 }, after: { value: 160 } }),
      ),
      { report: r } = report(wider);
    expect(Math.abs(r.box[3] - r.box[0] - 160)).toBeLessThan(1e-6);
    expect(r.features.every((f) => f.state === 'made')).toBe(true);
    // A bore of another size than its circle: the solid is what is measured.
    const bore = ofType(model, 'feature').find((f) => f.name === 'Bore')!,
      other = applyOrThrow(model, {
        type: 'set',
        id: bore.id,
        before: { form: bore.form },
        after: { form: { ...bore.form, diameter: 30 } },
      });
    const told = report(other).report.printed.find((p) => p.text === 'bore dia 32')!;
    expect(told).toMatchObject({ printed: 32, agrees: false });
    expect(told.model).toBeCloseTo(30, 9);
  });

  it('is drawn by its largest face at true size', () => {
    const { body } = report(modelOf(bracketPart())),
      { pieces } = faceOutline(body!)!,
      dxf = writeDxf(
        {
          layers: [{ name: 'Outline', colour: 0, index: 7 }],
          shapes: pieces.map((p) => shapeOfPiece(p, 'Outline')),
        },
        'mm',
      ),
      kinds = pieces.map((p) => p.kind).sort();
    // Five straight sides and three rounds; four circles; a slot of two lines and two rounds.
    expect(kinds.filter((k) => k === 'segment')).toHaveLength(7);
    expect(kinds.filter((k) => k === 'arc')).toHaveLength(9);
    expect(readDxf(dxf).items.length).toBe(16);
    expect(faceOutline(body!, 'nowhere')).toBeNull();
  });
});
