import { beforeAll, describe, expect, it } from 'vitest';
import { writeHolesCsv, partPage, writeDxf, readDxf } from '@calque/core/exchange';
import {
  Builder,
  bodyOfStep,
  measured,
  sectionOn,
  shownSolid,
  skinOf,
  stepOf,
  TO_LOOK_AT,
  viewOn,
  type Body,
} from '@calque/core/forming';
import { lengthOfPieces, type Frame, type Piece } from '@calque/core/geometry';
import { applyOrThrow, get, groundStorey, modelOf, ofType, type Model, type Part } from '@calque/core/model';
import {
  deepAlong,
  draftOf,
  drawnPlanes,
  placedPart,
  recipeOf,
  thicknessOf,
  type SolidView,
  threadedHoles,
} from '@calque/core/part';
import { bracketPart } from '../../demo/src/bracket.ts';
import { loadKernel } from './kernel.ts';
import { PartDraft, PLANES } from './part-model.ts';

beforeAll(loadKernel, 60000);

const solidOf = (model: Model, partId: string): Body => new Builder().rebuild(recipeOf(model, partId)).body!;
const FRONT: Frame = PLANES.front,
  TOP: Frame = PLANES.top,
  SIDE: Frame = PLANES.side;
/** Pieces in a row that does not depend on their order or way. */
const told = (pieces: readonly Piece[]) =>
  pieces
    .map((p) => {
      const at = (x: number, y: number) =>
        `${(x + 0).toFixed(4)},${(y + 0).toFixed(4)}`.replaceAll('-0.0000', '0.0000');
      if (p.kind === 'segment')
        return [at(...(p.from as [number, number])), at(...(p.to as [number, number]))].sort().join(' ');
      return p.kind === 'arc'
        ? `o ${at(p.arc.cx, p.arc.cy)} r ${p.arc.r.toFixed(4)} ${(p.arc.end - p.arc.start).toFixed(4)}`
        : 'cubic';
    })
    .sort();
const box = (x0: number, y0: number, x1: number, y1: number) =>
  [
    `${x0.toFixed(4)},${y0.toFixed(4)} ${x1.toFixed(4)},${y0.toFixed(4)}`,
    `${x1.toFixed(4)},${y0.toFixed(4)} ${x1.toFixed(4)},${y1.toFixed(4)}`,
    `${x0.toFixed(4)},${y1.toFixed(4)} ${x1.toFixed(4)},${y1.toFixed(4)}`,
    `${x0.toFixed(4)},${y0.toFixed(4)} ${x0.toFixed(4)},${y1.toFixed(4)}`,
  ]
    .map((s) => s.split(' ').sort().join(' '))
    .sort();

/** A block of 60 x 40 x 20 with a blind hole of 10 from above, 12 deep and flat. */
function drilledBlock(): PartDraft {
  const draft = new PartDraft();
  draft.extrude('top', [draft.rectangle('top', 0, 0, 60, 40)], 20, { back: true });
  draft.hole('top', [], 10, { centres: [draft.arc('top', [20, 15], 5)], depth: 12 });
  return draft;
}
const blockModel = () => modelOf(drilledBlock().entities);

describe('views of a solid', () => {
  it('shows a block with a blind hole as it is seen from three sides, hidden lines apart and none twice', () => {
    const body = solidOf(blockModel(), 'part'),
      [top, front, side] = [TOP, FRONT, SIDE].map((f) => viewOn(body, f));
    expect(told(top.visible)).toEqual([...box(0, 0, 60, 40), 'o 20.0000,15.0000 r 5.0000 6.2832'].sort());
    expect(told(top.hidden)).toEqual([]);
    expect(told(front.visible)).toEqual(box(0, -20, 60, 0));
    // The hole from 15 to 25, down to -12; its mouth lies on the edge that is seen.
    expect(told(front.hidden)).toEqual(
      [
        '15.0000,-12.0000 15.0000,0.0000',
        '25.0000,-12.0000 25.0000,0.0000',
        '15.0000,-12.0000 25.0000,-12.0000',
      ]
        .map((s) => s.split(' ').sort().join(' '))
        .sort(),
    );
    expect(told(side.visible)).toEqual(box(0, -20, 40, 0));
    expect(side.hidden).toHaveLength(3);
  });

  it('is the same whichever way the plane is turned, and mirrored from behind', () => {
    const body = solidOf(modelOf(bracketPart()), 'bracket'),
      turned: Frame = { origin: [7, 0, 3], across: [0.6, 0, 0.8], up: [-0.8, 0, 0.6] },
      behind: Frame = { origin: [0, 0, 0], across: [-1, 0, 0], up: [0, 0, 1] };
    const sums = [FRONT, turned, behind].map((f) => {
      const { visible, hidden } = viewOn(body, f);
      return [visible.length, hidden.length, lengthOfPieces(visible)];
    });
    for (const [n, hidden, length] of sums) {
      expect([n, hidden]).toEqual([16, 0]);
      expect(length).toBeCloseTo(sums[0][2], 6);
    }
    const mirrored = viewOn(body, behind).visible.flatMap((p) =>
      p.kind === 'arc' && p.arc.r === 16 ? [p.arc.cx] : [],
    );
    expect(mirrored).toEqual([expect.closeTo(-75, 9)]);
  });

  it('cuts a solid by a plane: area and outline by hand, and nothing beside it', () => {
    const body = solidOf(blockModel(), 'part'),
      through = sectionOn(body, { origin: [0, 15, 0], across: [1, 0, 0], up: [0, 0, 1] })!;
    expect(through.area).toBeCloseTo(60 * 20 - 10 * 12, 9);
    expect(told(through.pieces)).toHaveLength(8);
    const level = sectionOn(body, { ...TOP, origin: [0, 0, -5] })!;
    expect(level.area).toBeCloseTo(60 * 40 - Math.PI * 25, 9);
    expect(sectionOn(body, { ...TOP, origin: [0, 0, 5] })).toBeNull();
  });

  it('measures walls and draft at every place of the skin', () => {
    const skin = skinOf(solidOf(blockModel(), 'part'), TO_LOOK_AT),
      walls = thicknessOf(skin);
    // Below the hole 8 are left; nothing is thicker than the block is long.
    expect(walls.least).toBeCloseTo(8, 6);
    expect(walls.most).toBeLessThanOrEqual(60 + 1e-6);
    const draft = draftOf(skin, [0, 0, 1]);
    expect([draft.least, draft.most]).toEqual([
      expect.closeTo(-Math.PI / 2, 6),
      expect.closeTo(Math.PI / 2, 6),
    ]);
    const area = (values: (v: number) => boolean) =>
      [...draft.values].reduce((sum, v, t) => {
        const c = draft.corners.subarray(9 * t, 9 * t + 9),
          [ux, uy, uz] = [c[3] - c[0], c[4] - c[1], c[5] - c[2]],
          [vx, vy, vz] = [c[6] - c[0], c[7] - c[1], c[8] - c[2]];
        return (
          sum + (values(v) ? Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2 : 0)
        );
      }, 0);
    // Four sides and the wall of the hole, which chords fall short of.
    const upright = area((v) => Math.abs(v) < 1e-6);
    expect(upright).toBeGreaterThan(2 * (60 + 40) * 20 + 0.97 * 10 * Math.PI * 12);
    expect(upright).toBeLessThan(2 * (60 + 40) * 20 + 10 * Math.PI * 12);
  });
});

describe('a part on paper', () => {
  const page = (model: Model, part: Part) => {
    const body = solidOf(model, part.id),
      solid = shownSolid(model, part, body);
    return partPage(model, part, {
      seen: drawnPlanes(model, part).map((plane) => ({ plane, view: viewOn(body, plane) })),
      holes: threadedHoles(solid),
      mass: (solid.measures.volume * part.density) / 1e9,
    });
  };
  const bracket = () =>
    modelOf([
      { type: 'settings', id: 'settings', name: 'Boathouse', units: 'mm', precision: 0 },
      groundStorey('g'),
      ...bracketPart(),
    ]);

  it('has its views beside one another, every figure that drives, notes at holes, and what it is', () => {
    const model = bracket(),
      { drawing, scale } = page(model, get(model, 'part', 'bracket')!),
      words = drawing.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []));
    expect(scale).toBe(1);
    for (const w of [
      '150',
      '20',
      '55',
      '50',
      '60',
      '90',
      '6',
      '3x Ø11 THRU',
      'Ø32 THRU',
      'front',
      'top',
      'side',
    ])
      expect(words, w).toContain(w);
    // What a note says is no dimension beside it.
    expect(words).not.toContain('Ø32');
    expect(words.find((w) => w.includes('kg'))).toBe('Stainless steel 1.4404, 0.559 kg, 12 off');
    // Third angle: what is seen from above stands above, with the same x.
    const outline = drawing.shapes.flatMap((s) => (s.kind === 'line' && s.layer === 'Outline' ? [s] : [])),
      above = outline.filter((l) => l.from[1] > 95 && l.to[1] > 95).flatMap((l) => [l.from[0], l.to[0]]);
    expect([Math.min(...above), Math.max(...above)]).toEqual([expect.closeTo(0, 6), expect.closeTo(150, 6)]);
    expect(() => readDxf(writeDxf(drawing, 'mm'))).not.toThrow();
  });

  it('lists its holes for a spreadsheet', () => {
    const model = blockModel(),
      part = get(model, 'part', 'part')!,
      rows = writeHolesCsv(threadedHoles(shownSolid(model, part, solidOf(model, 'part'))), 'mm')
        .trim()
        .split(/\r?\n/);
    expect(rows).toHaveLength(2);
    expect(rows[1].split(',').slice(0, 3)).toEqual(['1', '10', '12']);
    expect(rows[1].split(',').slice(8)).toEqual(['20', '15', '0', '0', '0', '-1']);
  });
});

describe('solids of STEP files', () => {
  const words = {
    name: 'Block',
    material: 'Steel',
    density: 7850,
    colour: 0x808080,
    at: '2026-01-05T00:00:00Z',
  };
  const stepFile = async () => new TextEncoder().encode(await stepOf(solidOf(blockModel(), 'part'), words));
  const VOLUME = 60 * 40 * 20 - Math.PI * 25 * 12;

  it('are read as they were written, whatever unit their file is in, and can be drilled further', async () => {
    const bytes = await stepFile(),
      given = bodyOfStep(bytes, 'g');
    expect(measured(given).volume).toBeCloseTo(VOLUME, 6);
    expect(new Set(given.faces.map((f) => f.name)).size).toBe(8);
    const inMetres = new TextDecoder()
      .decode(bytes)
      .replace('SI_UNIT(.MILLI.,.METRE.)', 'SI_UNIT($,.METRE.)');
    expect(measured(bodyOfStep(new TextEncoder().encode(inMetres), 'g')).volume / 1e9).toBeCloseTo(VOLUME, 3);

    const draft = new PartDraft();
    draft.feature({ kind: 'given', does: 'add' }, { fileId: 'file-1' });
    draft.hole('top', [[45, 25]], 8);
    const { body, states } = new Builder((id) => (id === 'file-1' ? bytes : null)).rebuild(
      recipeOf(modelOf(draft.entities), 'part'),
    );
    expect(states.map((s) => s.state)).toEqual(['made', 'made']);
    expect(measured(body!).volume).toBeCloseTo(VOLUME - Math.PI * 16 * 20, 6);
  });

  it('are refused in words: none, cut short, without a solid, too large, gone', async () => {
    const bytes = await stepFile(),
      text = new TextDecoder().decode(bytes);
    const fault = (given: Uint8Array | null) => {
      const draft = new PartDraft();
      draft.feature({ kind: 'given', does: 'add' }, { fileId: 'file-1' });
      const { body, states } = new Builder(() => given).rebuild(recipeOf(modelOf(draft.entities), 'part'));
      expect(body).toBeNull();
      expect(states[0].state).toBe('failed');
      return states[0].words;
    };
    expect(fault(new TextEncoder().encode('%PDF-1.7'))).toContain('is no STEP file');
    expect(fault(bytes.subarray(0, bytes.length / 2))).toContain('cut short');
    expect(
      fault(
        new TextEncoder().encode(
          `${text.slice(0, text.indexOf('DATA;'))}DATA;\nENDSEC;\nEND-ISO-10303-21;\n`,
        ),
      ),
    ).toContain('holds no solid');
    expect(fault(new Uint8Array(61e6))).toContain('61 MB');
    expect(fault(null)).toContain('not attached to the project any more');
    const none = new PartDraft();
    none.feature({ kind: 'given', does: 'add' });
    expect(new Builder().rebuild(recipeOf(modelOf(none.entities), 'part')).states[0].words).toContain(
      'no file yet',
    );
  });
});

describe('a part put into a building', () => {
  const frames = { ground: TOP, front: FRONT };
  const put = (model: Model, part: Part, planeId: keyof typeof frames) => {
    const body = solidOf(model, part.id),
      m = measured(body),
      view: SolidView = viewOn(body, frames[planeId]);
    let n = 0;
    const placed = placedPart(
      model,
      {
        part,
        view,
        volume: m.volume,
        deep: deepAlong(m.box, planeId === 'ground' ? [0, 0, 1] : [0, 1, 0]),
        planeId: 'ground',
      },
      () => `new-${++n}`,
    )!;
    return { ...placed, after: applyOrThrow(model, placed.change) };
  };

  it('is a plate with its holes where it is flat, of the same weight, and lines where it is not', () => {
    const model = modelOf([groundStorey('ground'), ...bracketPart()]),
      part = get(model, 'part', 'bracket')!,
      { isPlate, after } = put(model, part, 'front'),
      [group] = ofType(after, 'assembly');
    expect(isPlate).toBe(true);
    expect(group.name).toBe('Rigging bracket');
    expect(ofType(after, 'placed')[0]).toMatchObject({ assemblyId: group.id, placement: [1, 0, 0, 1, 0, 0] });
    expect(group.elements).toEqual([
      expect.objectContaining({ type: 'plate', material: part.material, density: part.density }),
    ]);
    const [plate] = group.elements;
    if (plate.type !== 'plate') throw new Error('no plate');
    expect(plate.thickness).toBeCloseTo(6, 9);
    // Four round holes and a slot.
    expect(plate.rings).toHaveLength(6);
    // From above it is seen on its edge.
    const flat = put(model, part, 'ground');
    expect(flat.isPlate).toBe(false);
    expect(ofType(flat.after, 'assembly')[0].elements.every((e) => e.type === 'line')).toBe(true);
    // What was there before is as it was.
    for (const e of model.values()) expect(after.get(e.id)).toEqual(e);
  });

  it('is no plate where a blind hole makes it another solid', () => {
    const model = modelOf([groundStorey('ground'), ...drilledBlock().entities]);
    expect(put(model, get(model, 'part', 'part')!, 'ground').isPlate).toBe(false);
  });
});
