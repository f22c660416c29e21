import Flatbush from 'flatbush';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { facePairs, outlineAround } from '@calque/core/conversion';
import {
  arcPiece,
  areaOfPieces,
  pieceBox,
  pieceEnd,
  pieceStart,
  segmentPiece,
  type Piece,
  type Point,
} from '@calque/core/geometry';

const s = (x0: number, y0: number, x1: number, y1: number) =>
  segmentPiece([x0, y0], [x1, y1]) as Extract<Piece, { kind: 'segment' }>;

/** Looks for an outline among pieces, with an index as the surface has one. */
function around(pieces: readonly Piece[], at: Point) {
  const index = new Flatbush(pieces.length);
  for (const p of pieces) index.add(...(pieceBox(p) as [number, number, number, number]));
  index.finish();
  return outlineAround(pieces, (box) => index.search(...(box as [number, number, number, number])), at, 0.1);
}
const area = (pieces: readonly Piece[], at: Point) => {
  const found = around(pieces, at);
  return found.ok ? areaOfPieces(found.pieces) : null;
};

describe('the outline around a point', () => {
  const room = [s(0, 0, 4000, 0), s(4000, 0, 4000, 3000), s(4000, 3000, 0, 3000), s(0, 3000, 0, 0)];
  it('is the room, however its lines were drawn and wherever in it the point lies', () => {
    expect(area(room, [2000, 1500])).toBeCloseTo(12e6, 3);
    expect(area([...room.slice(1), s(4000, 0, 0, 0)].reverse(), [10, 2990])).toBeCloseTo(12e6, 3);
  });
  it('turns where lines cross and go on beyond, and goes round what stands within', () => {
    const crossing = [
      s(-500, 0, 4500, 0),
      s(4000, -500, 4000, 3500),
      s(4500, 3000, -500, 3000),
      s(0, 3500, 0, -500),
    ];
    expect(area(crossing, [2000, 1500])).toBeCloseTo(12e6, 3);
    const table = [
      s(1800, 1400, 2600, 1400),
      s(2600, 1400, 2600, 1800),
      s(2600, 1800, 1800, 1800),
      s(1800, 1800, 1800, 1400),
    ];
    expect(area([...room, ...table], [1000, 1500])).toBeCloseTo(12e6, 3);
    expect(area([...room, ...table], [2000, 1500])).toBeCloseTo(800 * 400, 3);
  });
  it('is found where corners of it stand level with the point, within a frame around all', () => {
    const frame = [
        s(-1000, -1000, 9000, -1000),
        s(9000, -1000, 9000, 5000),
        s(9000, 5000, -1000, 5000),
        s(-1000, 5000, -1000, -1000),
      ],
      slanted = [
        s(0, 0, 4000, 0),
        s(4000, 0, 4000, 1500),
        s(4000, 1500, 3000, 3000),
        s(3000, 3000, 0, 3000),
        s(0, 3000, 0, 0),
      ];
    for (const y of [1500, 1500 - 1e-9, 1500 + 1e-9])
      expect(area([...frame, ...slanted], [1000, y])).toBeCloseTo(12e6 - 0.75e6, 3);
  });
  it('is parted by a line across, not by a loose one', () => {
    expect(area([...room, s(1000, 0, 1000, 3000)], [500, 500])).toBeCloseTo(3e6, 3);
    expect(area([...room, s(1000, 0, 1000, 2000)], [500, 500])).toBeCloseTo(12e6, 3);
  });
  it('follows arcs', () => {
    const half = [s(0, 0, 1000, 0), arcPiece({ cx: 500, cy: 0, r: 500, start: 0, end: Math.PI })];
    expect(area(half, [500, 100])).toBeCloseTo((Math.PI * 500 * 500) / 2, 2);
  });
  it('is refused where it is open, with the place of the gap, and where nothing is around', () => {
    const open = around([s(0, 0, 1800, 0), s(2600, 0, 4000, 0), ...room.slice(1)], [2000, 1500]);
    expect(open.ok).toBe(false);
    expect(around(room, [9000, 1500])).toEqual({ ok: false, gap: null });
  });
  it('closes: each piece begins where the one before ends', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(8), fc.nat(8), fc.boolean()), { minLength: 4, maxLength: 30 }),
        fc.tuple(fc.nat(79), fc.nat(79)),
        (lines, [px, py]) => {
          const grid = lines.map(([x, y, level]) =>
            level ? s(x * 100, y * 100, x * 100 + 300, y * 100) : s(x * 100, y * 100, x * 100, y * 100 + 300),
          );
          const found = around(grid, [px * 10 + 5.3, py * 10 + 4.7]);
          if (!found.ok) return;
          found.pieces.forEach((p, i) => {
            const [q, r] = [pieceEnd(p), pieceStart(found.pieces[(i + 1) % found.pieces.length])];
            expect(Math.hypot(q[0] - r[0], q[1] - r[1])).toBeLessThan(0.3);
          });
          expect(areaOfPieces(found.pieces)).toBeGreaterThan(0);
        },
      ),
    );
  });
});

const among =
  (...all: Piece[]) =>
  () =>
    all;
const thick = (face: Extract<Piece, { kind: 'segment' }>, at: Point, ...others: Piece[]) =>
  facePairs(face, among(face, ...others), at).map((f) => Math.round(f.thickness));

describe('a wall from its faces', () => {
  it('lies midway, as thick as they are apart, and ends midway at a corner', () => {
    expect(
      facePairs(
        s(0, 0, 4000, 0),
        among(s(0, 0, 4000, 0), s(-240, -240, 4240, -240), s(0, 1500, 4000, 1500)),
        [2000, -10],
      ),
    ).toEqual([{ from: [-120, -120], to: [4120, -120], thickness: 240, openings: [] }]);
  });
  it('is offered to the side of the pointer first, and with nothing between before what has something between', () => {
    const lines = [s(0, -240, 4000, -240), s(0, 120, 4000, 120), s(0, 300, 4000, 300)];
    expect(thick(s(0, 0, 4000, 0), [2000, 5], ...lines)).toEqual([120, 240, 300]);
    expect(thick(s(0, 0, 4000, 0), [2000, -5], ...lines)[0]).toBe(240);
  });
  it('is none of lines that are slanted, apart along their run, or too near', () => {
    expect(
      thick(s(0, 0, 4000, 0), [2000, 5], s(0, 100, 4000, 160), s(3900, 200, 9000, 200), s(0, 10, 4000, 10)),
    ).toEqual([]);
  });

  /** An outer wall of 300 along x, 10 m long, with three windows: jambs, and two lines of glazing in each; its inner face runs from 300 to 9700. */
  const windows: Extract<Piece, { kind: 'segment' }>[] = [1400, 4600, 7400].flatMap((x) => [
    s(x, 0, x, 300),
    s(x + 1500, 0, x + 1500, 300),
    s(x, 126, x + 1500, 126),
    s(x, 174, x + 1500, 174),
  ]);
  const outer = s(0, 0, 10000, 0),
    inner = s(300, 300, 9700, 300);
  it('with windows lies between its true faces, wherever along either of them one points, and runs on across them', () => {
    for (const x of [60, 700, 2000, 3700, 5300, 8000, 9900]) {
      for (const [face, y] of [
        [outer, -8],
        [outer, 8],
        [inner, 292],
        [inner, 308],
      ] as const) {
        const [first] = facePairs(face, among(outer, inner, ...windows), [x, y]);
        expect(first.thickness, `${x} ${y}`).toBeCloseTo(300, 9);
        expect([first.from[0], first.to[0], first.from[1]]).toEqual([150, 9850, 150]);
        expect(
          first.openings.map((o) => [o.from, o.to].map((p) => Math.round(p[0])).sort((a, b) => a - b)),
        ).toEqual([
          [1400, 2900],
          [4600, 6100],
          [7400, 8900],
        ]);
      }
    }
  });
  it('whose faces are broken by doors runs on where these end closed, and not across a corridor between two others', () => {
    const doors = (closed: boolean) =>
      [0, 115]
        .flatMap((y) => [s(0, y, 2000, y), s(2900, y, 6000, y)])
        .concat(
          closed
            ? [s(2000, 0, 2000, 115), s(2900, 0, 2900, 115)]
            : [s(2000, -900, 2000, 900), s(2900, -900, 2900, 900)],
        );
    const run = (closed: boolean) => {
      const lines = doors(closed),
        [first] = facePairs(lines[0], among(...lines), [900, 3]);
      return [Math.round(first.from[0]), Math.round(first.to[0]), Math.round(first.thickness)];
    };
    expect(run(true)).toEqual([0, 6000, 115]);
    expect(run(false)).toEqual([0, 2000, 115]);
    // A leaf that stands open is one line with its jamb.
    const leaf = [0, 115]
        .flatMap((y) => [s(0, y, 2000, y), s(2900, y, 6000, y)])
        .concat([s(2000, -900, 2000, 115), s(2900, 0, 2900, 115)]),
      [first] = facePairs(leaf[0], among(...leaf), [900, 3]);
    expect([first.from[0], first.to[0], first.openings]).toEqual([
      0,
      6000,
      [{ from: [2000, 57.5], to: [2900, 57.5] }],
    ]);
  });
  it('is not the furniture along it, nor an axis that runs in it from end to end of the sheet', () => {
    const faces = [s(0, 0, 5000, 0), s(0, 100, 5000, 100), s(0, 0, 0, 100), s(5000, 0, 5000, 100)],
      bath = [
        s(200, -70, 1900, -70),
        s(200, -770, 1900, -770),
        s(200, -770, 200, -70),
        s(1900, -770, 1900, -70),
      ];
    for (const x of [300, 1000, 2500, 4800])
      expect(thick(faces[0], [x, -4], faces[1], faces[2], faces[3], ...bath)[0]).toBe(100);
  });
  it('turned by any angle is the same wall', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
        fc.double({ min: 500, max: 9500, noNaN: true }),
        fc.boolean(),
        (turn, x, below) => {
          const c = Math.cos(turn),
            n = Math.sin(turn),
            at = ([u, v]: Point): Point => [u * c - v * n + 4000, u * n + v * c - 9000],
            moved = (p: Extract<Piece, { kind: 'segment' }>) =>
              segmentPiece(at(p.from), at(p.to)) as Extract<Piece, { kind: 'segment' }>;
          const [first] = facePairs(
            moved(outer),
            among(moved(outer), moved(inner), ...windows.map(moved)),
            at([x, below ? -6 : 6]),
          );
          expect(first.thickness).toBeCloseTo(300, 6);
          const want = at([150, 150]),
            ends = [first.from, first.to].map((e) => Math.hypot(e[0] - want[0], e[1] - want[1]));
          expect(Math.min(...ends)).toBeLessThan(1e-6);
        },
      ),
    );
  });
});
