import { dot3, type ModelPoint } from '../../geometry/index.ts';
import type { Check, FactFace } from './facts.ts';
import type { Limits } from './limits.ts';
import type { Looked } from './looked.ts';
import { by, minus, shown, spanOf, unit } from './looked.ts';

/** A place on the skin of a face that lies nearest to another: which way the face runs from an edge. */
export function inwards(looked: Looked, face: FactFace, edge: ModelPoint): ModelPoint | null {
  const { corners, triangles } = looked.facts.skin;
  let best: ModelPoint | null = null,
    least = Infinity;
  for (let t = face.start; t < face.start + face.count; t += 3) {
    const p = [0, 1, 2].map((k): ModelPoint => {
        const i = triangles[t + k];
        return [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]];
      }),
      off = Math.min(...[0, 1, 2].map((k) => fromSegment(edge, p[k], p[(k + 1) % 3])));
    if (off < least) {
      least = off;
      best = [0, 1, 2].map((k) => (p[0][k] + p[1][k] + p[2][k]) / 3 - edge[k]) as unknown as ModelPoint;
    }
  }
  return best;
}
export function fromSegment(p: ModelPoint, a: ModelPoint, b: ModelPoint): number {
  const d = minus(b, a),
    n = dot3(d, d),
    t = n === 0 ? 0 : Math.max(0, Math.min(1, dot3(minus(p, a), d) / n));
  return Math.hypot(...minus(p, by(a, d, t)));
}

/** Inner corners: sharp ones into which no cutter comes, round ones that are too tight, or too deep for what fits in. */
export function cornerChecks(looked: Looked, limits: Limits): Check[] {
  const out: Check[] = [];
  for (const edge of looked.facts.edges) {
    const [a, b] = edge.between.map(looked.face);
    if (a?.form.kind !== 'plane' || b?.form.kind !== 'plane' || a === b) continue;
    const [na, nb] = [a.form.normal, b.form.normal],
      [ia, ib] = [inwards(looked, a, edge.middle), inwards(looked, b, edge.middle)];
    if (!ia || !ib || dot3(ia, nb) <= 1e-6 || dot3(ib, na) <= 1e-6) continue;
    // A cutter that stands on one of the two faces makes the corner, if it comes there.
    const out1 = unit([na[0] + nb[0], na[1] + nb[1], na[2] + nb[2]]),
      near = by(edge.middle, out1, 0.01);
    if (looked.isFree(near, na) || looked.isFree(near, nb)) continue;
    out.push({
      kind: 'corner',
      at: edge.middle,
      words: `A sharp inner corner, ${shown(edge.length)} mm long: no cutter gets into it. Give it a radius of ${shown(limits.toolRadius)} mm or more.`,
      faces: [a.name, b.name],
    });
  }
  const bores = new Set(looked.facts.holes.flatMap((h) => h.faces));
  for (const face of looked.facts.skin.faces) {
    const { form } = face;
    if (form.kind !== 'cylinder' || !form.hollow || bores.has(face.name)) continue;
    const at = looked.placeOf(face),
      deep = spanOf(looked, face, form.axis);
    if (form.radius < limits.toolRadius - 1e-9)
      out.push({
        kind: 'corner',
        at,
        words: `An inner corner of radius ${shown(form.radius)} mm: the smallest cutter has ${shown(limits.toolRadius)} mm.`,
        faces: [face.name],
      });
    else if (deep > limits.toolDepth * 2 * form.radius + 1e-6)
      out.push({
        kind: 'depth',
        at,
        words: `An inner corner of radius ${shown(form.radius)} mm is ${shown(deep)} mm deep: a cutter that fits reaches ${shown(limits.toolDepth * 2 * form.radius)} mm.`,
        faces: [face.name],
      });
  }
  return out;
}

/** Thin walls: where the next face behind one is nearer than the limit, and looks the other way. */
export function wallChecks(looked: Looked, limits: Limits): Check[] {
  const out: Check[] = [];
  for (const face of looked.facts.skin.faces) {
    let thinnest: { at: ModelPoint; t: number } | null = null;
    for (const sample of looked.samples(face)) {
      const t = looked.wallBehind(sample);
      if (t !== null && t < limits.wall - 1e-6 && (!thinnest || t < thinnest.t))
        thinnest = { at: sample.at, t };
    }
    if (thinnest)
      out.push({
        kind: 'wall',
        at: thinnest.at,
        words: `A wall of ${shown(thinnest.t)} mm: ${shown(limits.wall)} mm is the thinnest.`,
        faces: [face.name],
      });
  }
  return out;
}

export const SIX: readonly ModelPoint[] = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
];

/** Faces that no tool reaches along any of the part's six directions. */
export function undercuts(looked: Looked): Check[] {
  const bores = new Set(looked.facts.holes.flatMap((h) => h.faces));
  return looked.facts.skin.faces.flatMap((face): Check[] => {
    if (bores.has(face.name)) return [];
    const hidden = looked.samples(face).find(({ at, normal }) => {
      const ways = [...SIX, ...(face.form.kind === 'plane' ? [face.form.normal] : [])],
        off = by(at, normal, 0.01);
      return !ways.some((way) => dot3(way, normal) > -1e-6 && looked.isFree(off, way));
    });
    return hidden
      ? [
          {
            kind: 'undercut',
            at: hidden.at,
            words: 'An undercut: no tool that comes straight from one of six sides reaches this face.',
            faces: [face.name],
          },
        ]
      : [];
  });
}
