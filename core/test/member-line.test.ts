import fc from 'fast-check';
import { expect, it } from 'vitest';
import { memberLine } from '@calque/core/conversion';
import { applyTransform, rotationAbout, segmentPiece, type Point } from '@calque/core/geometry';

const seg = (a: Point, b: Point) => segmentPiece(a, b);
const edge = { from: [0, 100] as Point, to: [4000, 100] as Point };
/** Flanges of a beam 200 high seen from its side, and what stands near it. */
const sheet = [
  seg(edge.from, edge.to),
  seg([0, -100], [4000, -100]),
  seg([0, 91.5], [4000, 91.5]),
  seg([0, 700], [4000, 700]),
  seg([500, -100], [500, 100]),
];

it('two edges as far apart as a section is high have it in their middle, turned any way', () => {
  fc.assert(
    fc.property(fc.double({ min: -3, max: 3, noNaN: true }), (angle) => {
      const map = rotationAbout(angle, [700, -300]),
        to = (p: Point) => applyTransform(map, p),
        turned = sheet.map((s) => (s.kind === 'segment' ? seg(to(s.from), to(s.to)) : s)),
        found = memberLine({ from: to(edge.from), to: to(edge.to) }, [100, 200], () => turned);
      expect(found.width).toBeCloseTo(200, 6);
      for (const [p, q] of [
        [found.from, to([0, 0])],
        [found.to, to([4000, 0])],
      ])
        expect(Math.hypot(p[0] - q[0], p[1] - q[1])).toBeLessThan(1e-6);
    }),
  );
});

it('the longer edge says how far it goes; what lies beside it a little way only is not its other edge', () => {
  expect(memberLine(edge, [200], () => [seg([-300, -100], [4200, -100])])).toMatchObject({
    from: [-300, 0],
    to: [4200, 0],
  });
  expect(memberLine(edge, [200], () => [seg([3900, -100], [9000, -100])])).toEqual({ ...edge, width: null });
  expect(memberLine(edge, [200], () => [seg([0, -100], [4000, -60])])).toEqual({ ...edge, width: null });
});

it('without edges of its size the line itself is taken', () => {
  expect(memberLine(edge, [150], () => sheet)).toEqual({ ...edge, width: null });
  expect(memberLine(edge, [], () => sheet)).toEqual({ ...edge, width: null });
});
