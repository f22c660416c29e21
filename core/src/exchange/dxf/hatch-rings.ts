import type { Point } from '../../geometry/index.ts';
import { bulgeArc, chords, radians, type Vertex } from './bulges.ts';
import type { DxfRecord } from './records.ts';

/** Boundary rings of a hatch, arcs as short chords: a hatch's edge is for the eye. */
export function hatchRings(r: DxfRecord): Point[][] {
  const rings: Point[][] = [];
  const pairs = r.pairs;
  let i = pairs.findIndex(([c]) => c === 91);
  if (i < 0) return rings;
  const paths = Number(pairs[i][1]);
  i++;
  const take = (code: number): number => {
    while (i < pairs.length && pairs[i][0] !== code) i++;
    return i < pairs.length ? Number(pairs[i++][1]) : 0;
  };
  for (let k = 0; k < paths && i < pairs.length; k++) {
    const flags = take(92);
    const ring: Point[] = [];
    if ((flags & 2) !== 0) {
      const bulges = take(72) === 1;
      take(73);
      const n = take(93);
      const vertices: Vertex[] = [];
      for (let v = 0; v < n && i < pairs.length; v++) {
        const x = take(10),
          y = take(20);
        vertices.push({ p: [x, y], bulge: bulges && pairs[i]?.[0] === 42 ? take(42) : 0 });
      }
      vertices.forEach((v, m) => {
        ring.push(v.p);
        const arc = v.bulge === 0 ? null : bulgeArc(v.p, vertices[(m + 1) % vertices.length].p, v.bulge);
        if (arc) ring.push(...chords(arc.centre, arc.r, arc.start, arc.end, v.bulge < 0).slice(1, -1));
      });
    } else {
      const n = take(93);
      for (let e = 0; e < n && i < pairs.length; e++) {
        const type = take(72);
        if (type === 1) {
          ring.push([take(10), take(20)]);
          take(11);
          take(21);
        } else if (type === 2) {
          const centre: Point = [take(10), take(20)],
            radius = take(40),
            a = radians(take(50)),
            b = radians(take(51)),
            ccw = take(73) === 1;
          ring.push(...(ccw ? chords(centre, radius, a, b, false) : chords(centre, radius, -b, -a, true)));
        } else if (type === 3) {
          const centre: Point = [take(10), take(20)],
            major: Point = [take(11), take(21)],
            ratio = take(40),
            a = radians(take(50)),
            b = radians(take(51));
          take(73);
          ring.push(
            ...chords([0, 0], 1, a, b, false).map(([x, y]): Point => [
              centre[0] + x * major[0] - y * ratio * major[1],
              centre[1] + x * major[1] + y * ratio * major[0],
            ]),
          );
        } else break;
      }
    }
    rings.push(ring);
  }
  return rings;
}
