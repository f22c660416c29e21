import type { ShownEdge } from '@calque/core/forming';

/** Ends of edges so near together meet, millimetres. */
const MEETS = 1e-3;

type Place = readonly [number, number, number];
const endsOf = ({ points: p }: ShownEdge): [Place, Place] => [
  [p[0], p[1], p[2]],
  [p[p.length - 3], p[p.length - 2], p[p.length - 1]],
];
const meet = (p: Place, q: Place): boolean => p.every((v, k) => Math.abs(v - q[k]) <= MEETS);

/** The loops that an edge is part of, one on each of its two faces: all edges of that face that hang together with it. */
export function loopsOf(edge: ShownEdge, all: readonly ShownEdge[]): ShownEdge[][] {
  return [...new Set(edge.between)].map((face) => {
    const left = new Set(all.filter((e) => e !== edge && e.between.includes(face))),
      loop = [edge];
    for (let i = 0; i < loop.length; i++) {
      const ends = endsOf(loop[i]);
      for (const other of left)
        if (endsOf(other).some((p) => ends.some((q) => meet(p, q)))) {
          loop.push(other);
          left.delete(other);
        }
    }
    return loop;
  });
}
