import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyTransform,
  arcPiece,
  cornerOfPieces,
  crossPieces,
  distanceToPiece,
  extendTrack,
  mirrorIn,
  offsetTrack,
  pathPieces,
  pieceAt,
  pieceDirection,
  pieceEnd,
  pieceLength,
  pieceStart,
  segmentPiece,
  sideOfTrack,
  splitTrack,
  TAU,
  trimTrack,
  type Piece,
  type Point,
  type Track,
} from '@calque/core/geometry';
import { movedBy, type Wall } from '@calque/core/model';

const s = (x0: number, y0: number, x1: number, y1: number): Piece => segmentPiece([x0, y0], [x1, y1]);
const one = (...pieces: Piece[]): Track => ({ pieces, closed: false });
const circle = (cx: number, cy: number, r: number): Track => ({
  pieces: [arcPiece({ cx, cy, r, start: 0, end: TAU })],
  closed: true,
});
const number = fc.double({ min: -5000, max: 5000, noNaN: true });
const point = fc.tuple(number, number);
const stretch = fc
  .tuple(point, point)
  .filter(([p, q]) => Math.hypot(p[0] - q[0], p[1] - q[1]) > 1)
  .map(([p, q]) => segmentPiece(p, q));
const arc = fc
  .tuple(
    number,
    number,
    fc.double({ min: 5, max: 3000, noNaN: true }),
    fc.double({ min: 0, max: TAU, noNaN: true }),
    fc.double({ min: 0.05, max: 6.2, noNaN: true }),
    fc.boolean(),
  )
  .map(([cx, cy, r, start, sweep, clockwise]) =>
    arcPiece({ cx, cy, r, start, end: start + sweep }, clockwise),
  );
const piece = fc.oneof(stretch, arc);
const near = (p: Point, q: Point, within = 1e-6) => Math.hypot(p[0] - q[0], p[1] - q[1]) < within;
const total = (pieces: readonly Piece[]) => pieces.reduce((sum, p) => sum + pieceLength(p), 0);

describe('crossings of lines and arcs', () => {
  it('are where both pieces are, and none is missed that samples see', () => {
    fc.assert(
      fc.property(piece, piece, (a, b) => {
        const found = crossPieces(a, b);
        for (const p of found)
          expect(Math.max(distanceToPiece(a, p), distanceToPiece(b, p))).toBeLessThan(1e-4);
        // Where a goes clearly from one side of a line b to the other within its reach, it must cross it.
        if (b.kind !== 'segment') return;
        const side = (p: Point) =>
          (b.to[0] - b.from[0]) * (p[1] - b.from[1]) - (b.to[1] - b.from[1]) * (p[0] - b.from[0]);
        for (let i = 0; i < 64; i++) {
          const p = pieceAt(a, i / 64),
            q = pieceAt(a, (i + 1) / 64),
            length = pieceLength(b);
          if (Math.min(Math.abs(side(p)), Math.abs(side(q))) / length < 1e-3 || side(p) > 0 === side(q) > 0)
            continue;
          const m = pieceAt(a, (i + 0.5) / 64),
            along =
              ((m[0] - b.from[0]) * (b.to[0] - b.from[0]) + (m[1] - b.from[1]) * (b.to[1] - b.from[1])) /
              length;
          const step = Math.hypot(p[0] - q[0], p[1] - q[1]);
          if (along > step && along < length - step) expect(found.some((f) => near(f, m, step))).toBe(true);
        }
      }),
      { numRuns: 500 },
    );
  });
  it('count a tangent once or twice, in its one place', () => {
    const touches = crossPieces(s(-100, 50, 100, 50), circle(0, 0, 50).pieces[0]);
    expect(touches.length).toBeGreaterThan(0);
    for (const p of touches) expect(near(p, [0, 50], 1e-4)).toBe(true);
  });
});

describe('trimming', () => {
  const bars = [s(300, -100, 300, 100), s(700, -100, 700, 100)];
  it('takes away what lies between two crossings, or from one to the end', () => {
    expect(trimTrack(one(s(0, 0, 1000, 0)), [500, 20], bars)).toEqual({
      ok: true,
      kept: [[s(0, 0, 300, 0)], [s(700, 0, 1000, 0)]],
      gone: [s(300, 0, 700, 0)],
    });
    expect(trimTrack(one(s(0, 0, 1000, 0)), [100, 5], bars)).toMatchObject({ kept: [[s(300, 0, 1000, 0)]] });
    expect(trimTrack(one(s(0, 0, 1000, 0)), [2000, 5], bars)).toMatchObject({ kept: [[s(0, 0, 700, 0)]] });
  });
  it('knows a line that only touches, and none that ends beside it, runs along it or meets its end', () => {
    expect(trimTrack(one(s(0, 0, 1000, 0)), [100, 0], [s(400, 0, 400, 300)])).toMatchObject({
      kept: [[s(400, 0, 1000, 0)]],
    });
    for (const other of [
      s(400, 1, 400, 300),
      s(0, 0, 500, 0),
      s(0, 50, 1000, 50),
      s(0, 0, 0, 300),
      s(1000, -5, 1000, 5),
    ])
      expect(trimTrack(one(s(0, 0, 1000, 0)), [100, 0], [other])).toEqual({
        ok: false,
        reason: 'not-crossed',
      });
  });
  it('leaves the far side of a circle, also over its beginning', () => {
    const half = trimTrack(circle(0, 0, 100), [100, 0], [s(0, -500, 0, 500)]);
    expect(half.ok && half.kept).toHaveLength(1);
    const [kept] = half.ok ? half.kept[0] : [];
    expect(pieceLength(kept)).toBeCloseTo(Math.PI * 100, 6);
    expect(near(pieceAt(kept, 0.5), [-100, 0])).toBe(true);
    const other = trimTrack(circle(0, 0, 100), [-100, 0], [s(0, -500, 0, 500)]);
    expect(other.ok && total(other.kept[0])).toBeCloseTo(Math.PI * 100, 6);
    expect(other.ok && near(pieceAt(other.kept[0][0], 0.5), [100, 0]) && other.kept[0].length === 1).toBe(
      true,
    );
    expect(trimTrack(circle(0, 0, 100), [100, 0], [s(100, -500, 100, -50)])).toEqual({
      ok: false,
      reason: 'not-crossed',
    });
  });
  it('takes a stretch out of a closed path and leaves the rest in one', () => {
    const square: Track = {
      pieces: pathPieces({
        points: [
          [0, 0],
          [100, 0],
          [100, 100],
          [0, 100],
        ],
        bulges: [0, 0, 0, 0],
        closed: true,
      }),
      closed: true,
    };
    const trimmed = trimTrack(square, [50, 0], [s(30, -10, 30, 10), s(60, -10, 60, 10)]);
    expect(trimmed.ok && trimmed.kept.map(total)).toEqual([370]);
    expect(trimmed.ok && total(trimmed.gone)).toBe(30);
  });
  it('leaves parts that together with what is gone make the whole', () => {
    fc.assert(
      fc.property(piece, point, fc.array(piece, { maxLength: 8 }), (p, at, others) => {
        const trimmed = trimTrack(one(p), at, others);
        if (!trimmed.ok) return;
        expect(Math.abs(total([...trimmed.kept.flat(), ...trimmed.gone]) - pieceLength(p))).toBeLessThan(
          1e-4,
        );
        for (const k of trimmed.kept.flat())
          for (const t of [0, 0.5, 1]) expect(distanceToPiece(p, pieceAt(k, t))).toBeLessThan(1e-6);
      }),
    );
  });
});

describe('extending', () => {
  it('lets the nearer end go on to the first thing ahead', () => {
    const others = [
      s(1500, -100, 1500, 100),
      s(1200, -100, 1200, 100),
      s(-300, -50, -300, 50),
      s(1100, 10, 1100, 80),
    ];
    expect(extendTrack(one(s(0, 0, 1000, 0)), [900, 0], others)).toEqual({
      ok: true,
      pieces: [s(0, 0, 1200, 0)],
    });
    expect(extendTrack(one(s(0, 0, 1000, 0)), [100, 0], others)).toEqual({
      ok: true,
      pieces: [s(-300, 0, 1000, 0)],
    });
    expect(extendTrack(one(s(0, 0, 1000, 0)), [900, 0], [s(500, -5, 500, 5), s(0, 20, 3000, 20)])).toEqual({
      ok: false,
      reason: 'nothing-ahead',
    });
  });
  it('lets an arc go on round its circle, either way', () => {
    const quarter = arcPiece({ cx: 0, cy: 0, r: 100, start: 0, end: Math.PI / 2 });
    const further = extendTrack(one(quarter), [0, 100], [s(-500, 0, -50, 0), s(-500, -20, 500, -20)]);
    expect(further.ok && near(pieceEnd(further.pieces[0]), [-100, 0])).toBe(true);
    const back = extendTrack(one(quarter), [100, 0], [s(-500, -20, 500, -20)]);
    expect(back.ok && near(pieceStart(back.pieces[0]), [Math.sqrt(100 ** 2 - 20 ** 2), -20])).toBe(true);
    expect(back.ok && near(pieceEnd(back.pieces[0]), [0, 100])).toBe(true);
  });
  it('lies on what stopped it, with its other end where it was', () => {
    fc.assert(
      fc.property(piece, piece, (p, other) => {
        const extended = extendTrack(one(p), pieceEnd(p), [other]);
        if (!extended.ok || total(extended.pieces) > 1e5) return;
        expect(
          near(pieceStart(extended.pieces[0]), pieceStart(p), 1e-5) ||
            near(pieceEnd(extended.pieces[0]), pieceEnd(p), 1e-5),
        ).toBe(true);
        expect(
          Math.min(...[pieceStart, pieceEnd].map((end) => distanceToPiece(other, end(extended.pieces[0])))),
        ).toBeLessThan(1e-4);
        // One that ended there already, to that tolerance, ends there exactly now.
        expect(total(extended.pieces)).toBeGreaterThan(pieceLength(p) - 1e-4);
      }),
    );
  });
});

describe('corners', () => {
  it('join two lines where they cross, each on the side that was picked', () => {
    expect(cornerOfPieces(s(0, 0, 800, 0), [100, 0], s(1000, 200, 1000, 900), [1000, 500])).toEqual({
      ok: true,
      a: s(0, 0, 1000, 0),
      b: s(1000, 0, 1000, 900),
      joint: null,
    });
    expect(cornerOfPieces(s(0, 0, 1000, 0), [900, 0], s(400, -300, 400, 300), [400, -200])).toEqual({
      ok: true,
      a: s(400, 0, 1000, 0),
      b: s(400, -300, 400, 0),
      joint: null,
    });
  });
  it('are cut back by a size, with a bevel between', () => {
    expect(
      cornerOfPieces(s(0, 0, 1000, 0), [100, 0], s(1000, 0, 1000, 900), [1000, 500], { bevel: 100 }),
    ).toEqual({ ok: true, a: s(0, 0, 900, 0), b: s(1000, 100, 1000, 900), joint: s(900, 0, 1000, 100) });
  });
  it('are refused between parallels, nearly parallels, and where less is there than is to be cut back', () => {
    expect(cornerOfPieces(s(0, 0, 1000, 0), [0, 0], s(0, 50, 1000, 50), [0, 50])).toEqual({
      ok: false,
      reason: 'parallel',
    });
    expect(cornerOfPieces(s(0, 0, 1000, 0), [0, 0], s(0, 50, 1000, 50.0005), [0, 50])).toEqual({
      ok: false,
      reason: 'parallel',
    });
    expect(
      cornerOfPieces(s(0, 0, 1000, 0), [0, 0], s(0, 50, 1000, 50.0005), [0, 50], { radius: 10 }),
    ).toEqual({ ok: false, reason: 'parallel' });
    expect(
      cornerOfPieces(s(0, 0, 1000, 0), [100, 0], s(1000, 0, 1000, 90), [1000, 50], { bevel: 100 }),
    ).toEqual({ ok: false, reason: 'too-large' });
    expect(
      cornerOfPieces(s(0, 0, 1000, 0), [100, 0], s(1000, 0, 1000, 90), [1000, 50], { radius: 100 }),
    ).toEqual({ ok: false, reason: 'too-large' });
  });
  it('round a right angle as a template does', () => {
    const rounded = cornerOfPieces(s(0, 0, 1000, 0), [100, 0], s(1000, 0, 1000, 900), [1000, 500], {
      radius: 200,
    });
    expect(rounded).toMatchObject({ ok: true, a: { kind: 'segment' }, b: { kind: 'segment' } });
    if (!rounded.ok) return;
    expect(near(pieceEnd(rounded.a), [800, 0]) && near(pieceStart(rounded.b), [1000, 200])).toBe(true);
    expect(rounded.joint).toMatchObject({ arc: { r: 200 } });
    expect(pieceLength(rounded.joint!)).toBeCloseTo(100 * Math.PI, 6);
  });
  it('round a line into a circle: the arc of a known answer', () => {
    // A circle of 100 about the origin and the line y = -150 at a radius of 50: the centre lies on y = -100, 150 from the origin.
    const rounded = cornerOfPieces(
      s(0, -150, 400, -150),
      [390, -150],
      arcPiece({ cx: 0, cy: 0, r: 100, start: -1.5, end: 1.5 }),
      [90, 40],
      { radius: 50 },
    );
    expect(rounded.ok).toBe(true);
    if (!rounded.ok || rounded.joint?.kind !== 'arc') return;
    expect(rounded.joint.arc.cx).toBeCloseTo(Math.sqrt(150 ** 2 - 100 ** 2), 6);
    expect(rounded.joint.arc.cy).toBeCloseTo(-100, 6);
  });
  it('round two small circles by a larger arc around them: it touches their far sides', () => {
    // Circles of 100 at -300 and 300 on a line, an arc of 1000 over both: its centre lies 900 from each of theirs.
    const rounded = cornerOfPieces(
      arcPiece({ cx: -300, cy: 0, r: 100, start: 0.2, end: TAU - 3 }),
      [-390, 20],
      arcPiece({ cx: 300, cy: 0, r: 100, start: 3 - Math.PI + 0.1, end: Math.PI - 0.2 }),
      [390, 20],
      { radius: 1000 },
    );
    expect(rounded.ok).toBe(true);
    if (!rounded.ok || rounded.joint?.kind !== 'arc') return;
    const { arc: over } = rounded.joint;
    for (const cx of [-300, 300]) expect(Math.hypot(over.cx - cx, over.cy)).toBeCloseTo(900, 6);
    for (const end of [pieceStart(rounded.joint), pieceEnd(rounded.joint)])
      expect(Math.hypot(Math.abs(end[0]) - 300, end[1])).toBeCloseTo(100, 6);
  });
  it('are tangent to both and end in points that lie on both, whatever is joined', () => {
    let joined = 0;
    // The arcs about nearly one centre once had the joint touch them on the wrong side.
    const sameCentre: [Piece, Piece, number] = [
      arcPiece({ cx: 0.000001006925754791353, cy: 0, r: 5, start: 0, end: 0.05 }),
      arcPiece({ cx: 0, cy: 0, r: 5, start: 0, end: 0.05 }),
      731.9429723736043,
    ];
    fc.assert(
      fc.property(piece, piece, fc.double({ min: 1, max: 800, noNaN: true }), (a, b, radius) => {
        const rounded = cornerOfPieces(a, pieceAt(a, 0.3), b, pieceAt(b, 0.6), { radius });
        if (!rounded.ok) return;
        joined++;
        const ends = [rounded.a, rounded.b].map((p) => ({
          p,
          at: ([0, 1] as const)
            .map((t) => ({
              t,
              d: Math.min(
                near2(pieceAt(p, t), pieceStart(rounded.joint!)),
                near2(pieceAt(p, t), pieceEnd(rounded.joint!)),
              ),
            }))
            .sort((x, y) => x.d - y.d)[0],
        }));
        for (const { p, at } of ends) {
          if (p.kind === 'arc' && p.arc.end - p.arc.start > TAU - 1e-9) continue;
          expect(at.d).toBeLessThan(1e-3);
          const j =
            near2(pieceAt(p, at.t), pieceStart(rounded.joint!)) <
            near2(pieceAt(p, at.t), pieceEnd(rounded.joint!))
              ? 0
              : 1;
          const [ux, uy] = pieceDirection(p, at.t),
            [vx, vy] = pieceDirection(rounded.joint!, j);
          expect(Math.abs(ux * vy - uy * vx) / Math.hypot(ux, uy) / Math.hypot(vx, vy)).toBeLessThan(1e-4);
        }
      }),
      { numRuns: 400, examples: [sameCentre] },
    );
    expect(joined).toBeGreaterThan(40);
  });
});
const near2 = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);

describe('offset, split and mirror', () => {
  it('an offset runs at its distance on the side asked for, and back again it is what it was', () => {
    expect(sideOfTrack(one(s(0, 0, 1000, 0)), [500, 9])).toBe(1);
    expect(sideOfTrack(one(s(0, 0, 1000, 0)), [500, -9])).toBe(-1);
    fc.assert(
      fc.property(
        piece,
        fc.double({ min: -900, max: 900, noNaN: true }).filter((d) => Math.abs(d) > 0.1),
        (p, d) => {
          const there = offsetTrack(one(p), d);
          if (!there) {
            expect(p.kind === 'arc' && p.arc.r <= Math.abs(d) + 1e-5).toBe(true);
            return;
          }
          for (const t of [0, 0.4, 1])
            expect(Math.abs(near2(pieceAt(there[0], t), pieceAt(p, t)) - Math.abs(d))).toBeLessThan(1e-6);
          const back = offsetTrack(one(...there), -d)!;
          for (const t of [0, 0.4, 1]) expect(near(pieceAt(back[0], t), pieceAt(p, t))).toBe(true);
        },
      ),
    );
  });
  it('an offset of a rectangle is a rectangle, smaller within and larger without', () => {
    const square: Track = {
      pieces: pathPieces({
        points: [
          [0, 0],
          [100, 0],
          [100, 60],
          [0, 60],
        ],
        bulges: [0, 0, 0, 0],
        closed: true,
      }),
      closed: true,
    };
    for (const [d, corners] of [
      [
        10,
        [
          [10, 10],
          [90, 10],
          [90, 50],
          [10, 50],
        ],
      ],
      [
        -10,
        [
          [-10, -10],
          [110, -10],
          [110, 70],
          [-10, 70],
        ],
      ],
    ] as [number, [number, number][]][]) {
      offsetTrack(square, d)!.forEach((p, i) => expect(near(pieceStart(p), corners[i], 1e-9)).toBe(true));
    }
    expect(offsetTrack(square, 40)).toBeNull();
  });
  it('a split makes two that meet, and none at an end; a circle is opened', () => {
    expect(splitTrack(one(s(0, 0, 1000, 0)), [250, 3])).toEqual([[s(0, 0, 250, 0)], [s(250, 0, 1000, 0)]]);
    expect(splitTrack(one(s(0, 0, 1000, 0)), [0, 8])).toBeNull();
    expect(splitTrack(one(s(0, 0, 1000, 0)), [1000, 0])).toBeNull();
    const opened = splitTrack(circle(0, 0, 10), [0, 12])!;
    expect(opened).toHaveLength(1);
    expect(total(opened[0])).toBeCloseTo(TAU * 10, 9);
  });
  it('a mirror image mirrored again is where it was, its faces with it', () => {
    expect(mirrorIn([3, 3], [3, 3])).toBeNull();
    const wall: Wall = {
      type: 'wall',
      id: 'w',
      planeId: 'g',
      from: [0, 0],
      to: [4000, 100],
      thickness: 240,
      alignment: 'left',
      height: 2700,
      heightAssumed: true,
      source: { underlayId: null, ends: 'typed', thickness: 'typed' },
    };
    fc.assert(
      fc.property(stretch, (axis) => {
        const [from, to] = [pieceStart(axis), pieceEnd(axis)];
        const map = mirrorIn(from, to)!;
        const twice = movedBy(movedBy(wall, map), map);
        expect(near(twice.from, wall.from, 1e-5) && near(twice.to, wall.to, 1e-5)).toBe(true);
        expect(twice.alignment).toBe('left');
        expect(movedBy(wall, map).alignment).toBe('right');
        expect(near(applyTransform(map, from), from, 1e-6)).toBe(true);
      }),
    );
  });
});
