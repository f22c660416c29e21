import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyTransform, cornerOf, extendEnd, lengthOfStretch, mirrorIn, offsetTowards, placeAlong, splitAt, trimAway, type Point, type Stretch } from '@calque/core/geometry';
import { movedBy, type Wall } from '@calque/core/model';

const s = (x0: number, y0: number, x1: number, y1: number): Stretch => ({ from: [x0, y0], to: [x1, y1] });
const number = fc.double({ min: -5000, max: 5000, noNaN: true });
const point = fc.tuple(number, number);
const stretch = fc.tuple(point, point).filter(([p, q]) => Math.hypot(p[0] - q[0], p[1] - q[1]) > 1).map(([from, to]): Stretch => ({ from, to }));
const near = (p: Point, q: Point, within = 1e-6) => Math.hypot(p[0] - q[0], p[1] - q[1]) < within;
const off = (line: Stretch, p: Point) => Math.abs((line.to[0] - line.from[0]) * (p[1] - line.from[1]) - (line.to[1] - line.from[1]) * (p[0] - line.from[0])) / lengthOfStretch(line);

describe('trimming', () => {
  const bars = [s(300, -100, 300, 100), s(700, -100, 700, 100)];
  it('takes away what lies between two crossings, or from one to the end', () => {
    expect(trimAway(s(0, 0, 1000, 0), [500, 20], bars)).toMatchObject({ ok: true, kept: [s(0, 0, 300, 0), s(700, 0, 1000, 0)], gone: s(300, 0, 700, 0) });
    expect(trimAway(s(0, 0, 1000, 0), [100, 5], bars)).toMatchObject({ kept: [s(300, 0, 1000, 0)] });
    expect(trimAway(s(0, 0, 1000, 0), [2000, 5], bars)).toMatchObject({ kept: [s(0, 0, 700, 0)] });
  });
  it('knows a line that only touches, and none that ends beside it, runs along it or meets its end', () => {
    expect(trimAway(s(0, 0, 1000, 0), [100, 0], [s(400, 0, 400, 300)])).toMatchObject({ kept: [s(400, 0, 1000, 0)] });
    for (const other of [s(400, 1, 400, 300), s(0, 0, 500, 0), s(0, 50, 1000, 50), s(0, 0, 0, 300), s(1000, -5, 1000, 5)]) expect(trimAway(s(0, 0, 1000, 0), [100, 0], [other])).toEqual({ ok: false, reason: 'not-crossed' });
  });
  it('leaves parts that together with what is gone make the whole', () => {
    fc.assert(fc.property(stretch, point, fc.array(stretch, { maxLength: 8 }), (line, p, others) => {
      const trimmed = trimAway(line, p, others);
      if (!trimmed.ok) return;
      const total = [...trimmed.kept, trimmed.gone].reduce((sum, k) => sum + lengthOfStretch(k), 0);
      expect(Math.abs(total - lengthOfStretch(line))).toBeLessThan(1e-6);
      for (const k of trimmed.kept) expect(Math.max(off(line, k.from), off(line, k.to))).toBeLessThan(1e-6);
    }));
  });
});

describe('extending', () => {
  it('lets the nearer end go on to the first thing ahead', () => {
    const others = [s(1500, -100, 1500, 100), s(1200, -100, 1200, 100), s(-300, -50, -300, 50), s(1100, 10, 1100, 80)];
    expect(extendEnd(s(0, 0, 1000, 0), [900, 0], others)).toEqual({ ok: true, stretch: s(0, 0, 1200, 0) });
    expect(extendEnd(s(0, 0, 1000, 0), [100, 0], others)).toEqual({ ok: true, stretch: s(-300, 0, 1000, 0) });
    expect(extendEnd(s(0, 0, 1000, 0), [900, 0], [s(500, -5, 500, 5), s(0, 20, 3000, 20)])).toEqual({ ok: false, reason: 'nothing-ahead' });
  });
  it('and trimming back again gives the line that was', () => {
    fc.assert(fc.property(stretch, stretch, (line, other) => {
      const extended = extendEnd(line, line.to, [other]);
      if (!extended.ok || lengthOfStretch(extended.stretch) > 1e5) return;
      expect(near(extended.stretch.from, line.from)).toBe(true);
      expect(off(other, extended.stretch.to)).toBeLessThan(1e-4);
      expect(placeAlong(other, extended.stretch.to)).toBeGreaterThan(-1e-6);
    }));
  });
});

describe('corners', () => {
  it('join two lines where they cross, each on the side that was picked', () => {
    expect(cornerOf(s(0, 0, 800, 0), [100, 0], s(1000, 200, 1000, 900), [1000, 500])).toEqual({ ok: true, a: s(0, 0, 1000, 0), b: s(1000, 0, 1000, 900), bevel: null });
    expect(cornerOf(s(0, 0, 1000, 0), [900, 0], s(400, -300, 400, 300), [400, -200])).toEqual({ ok: true, a: s(400, 0, 1000, 0), b: s(400, -300, 400, 0), bevel: null });
  });
  it('are cut back by a size, with a bevel between', () => {
    expect(cornerOf(s(0, 0, 1000, 0), [100, 0], s(1000, 0, 1000, 900), [1000, 500], 100)).toEqual({ ok: true, a: s(0, 0, 900, 0), b: s(1000, 100, 1000, 900), bevel: s(900, 0, 1000, 100) });
  });
  it('are refused between parallels, nearly parallels, and where less is there than is to be cut back', () => {
    expect(cornerOf(s(0, 0, 1000, 0), [0, 0], s(0, 50, 1000, 50), [0, 50])).toEqual({ ok: false, reason: 'parallel' });
    expect(cornerOf(s(0, 0, 1000, 0), [0, 0], s(0, 50, 1000, 50.0005), [0, 50])).toEqual({ ok: false, reason: 'parallel' });
    expect(cornerOf(s(0, 0, 1000, 0), [100, 0], s(1000, 0, 1000, 90), [1000, 50], 100)).toEqual({ ok: false, reason: 'too-large' });
  });
  it('end both lines in one point that lies on both', () => {
    fc.assert(fc.property(stretch, stretch, (a, b) => {
      const corner = cornerOf(a, a.from, b, b.from);
      if (!corner.ok || Math.max(lengthOfStretch(corner.a), lengthOfStretch(corner.b)) > 1e5) return;
      const ends = [corner.a.from, corner.a.to].flatMap((p) => [corner.b.from, corner.b.to].map((q) => Math.hypot(p[0] - q[0], p[1] - q[1])));
      expect(Math.min(...ends)).toBeLessThan(1e-4);
      expect(Math.max(off(a, corner.a.from), off(a, corner.a.to), off(b, corner.b.from), off(b, corner.b.to))).toBeLessThan(1e-3);
    }));
  });
});

describe('offset, split and mirror', () => {
  it('an offset runs at its distance on the side asked for, and back again it is the line that was', () => {
    expect(offsetTowards(s(0, 0, 1000, 0), 50, [500, 9])).toEqual(s(0, 50, 1000, 50));
    fc.assert(fc.property(stretch, fc.double({ min: 0.1, max: 900, noNaN: true }), point, (line, d, side) => {
      const there = offsetTowards(line, d, side), back = offsetTowards(there, d, line.from);
      expect(Math.abs(off(line, there.from) - d)).toBeLessThan(1e-6);
      expect(near(back.from, line.from) && near(back.to, line.to)).toBe(true);
    }));
  });
  it('a split makes two that meet, and none at an end', () => {
    expect(splitAt(s(0, 0, 1000, 0), [250, 3])).toEqual([s(0, 0, 250, 0), s(250, 0, 1000, 0)]);
    expect(splitAt(s(0, 0, 1000, 0), [0, 8])).toBeNull();
    expect(splitAt(s(0, 0, 1000, 0), [1000, 0])).toBeNull();
  });
  it('a mirror image mirrored again is where it was, its faces with it', () => {
    expect(mirrorIn([3, 3], [3, 3])).toBeNull();
    const wall: Wall = { type: 'wall', id: 'w', storeyId: 'g', from: [0, 0], to: [4000, 100], thickness: 240, alignment: 'left', height: 2700, heightAssumed: true, source: { underlayId: null, ends: 'typed', thickness: 'typed' } };
    fc.assert(fc.property(stretch, (axis) => {
      const map = mirrorIn(axis.from, axis.to)!;
      const twice = movedBy(movedBy(wall, map), map);
      expect(near(twice.from, wall.from, 1e-5) && near(twice.to, wall.to, 1e-5)).toBe(true);
      expect(twice.alignment).toBe('left');
      expect(movedBy(wall, map).alignment).toBe('right');
      expect(near(applyTransform(map, axis.from), axis.from, 1e-6)).toBe(true);
    }));
  });
});
