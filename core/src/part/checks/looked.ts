import { cross3, dot3, type ModelPoint } from '../../geometry/index.ts';
import type { FactFace, SolidFacts } from './facts.ts';
import { Rays } from './rays.ts';

export const shown = (v: number): string => String(Number(v.toFixed(v < 1 ? 3 : 2)));
export const by = (p: ModelPoint, way: ModelPoint, t: number): ModelPoint => [
  p[0] + t * way[0],
  p[1] + t * way[1],
  p[2] + t * way[2],
];
export const minus = (p: ModelPoint, q: ModelPoint): ModelPoint => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
export const unit = (v: ModelPoint): ModelPoint => {
  const n = Math.hypot(...v) || 1;
  return [v[0] / n, v[1] / n, v[2] / n];
};
export const turnedRound = (v: ModelPoint): ModelPoint => [-v[0], -v[1], -v[2]];

/** Samples of a face: the middles of its triangles, the largest first, with the way out. */
export const MOST_SAMPLES = 24;
export interface Sample {
  at: ModelPoint;
  normal: ModelPoint;
  area: number;
}

export class Looked {
  readonly rays: Rays;
  private readonly known = new Map<string, Sample[]>();
  private readonly byName: ReadonlyMap<string, FactFace>;

  constructor(readonly facts: SolidFacts) {
    this.rays = new Rays(facts.skin.corners, facts.skin.triangles);
    this.byName = new Map(facts.skin.faces.map((f) => [f.name, f]));
  }

  face = (name: string): FactFace | undefined => this.byName.get(name);

  samples(face: FactFace): Sample[] {
    const known = this.known.get(face.name);
    if (known) return known;
    const { corners, triangles } = this.facts.skin,
      place = (i: number): ModelPoint => [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]],
      out: Sample[] = [];
    for (let t = face.start; t < face.start + face.count; t += 3) {
      const [a, b, c] = [place(triangles[t]), place(triangles[t + 1]), place(triangles[t + 2])],
        n = cross3(minus(b, a), minus(c, a)),
        twice = Math.hypot(...n);
      if (twice > 1e-12)
        out.push({
          at: [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3],
          normal: [n[0] / twice, n[1] / twice, n[2] / twice],
          area: twice / 2,
        });
    }
    out.sort((p, q) => q.area - p.area);
    const kept = out.slice(0, MOST_SAMPLES);
    this.known.set(face.name, kept);
    return kept;
  }

  /** The way out of a triangle of the skin. */
  private normalOf(triangle: number): ModelPoint {
    const { corners, triangles } = this.facts.skin,
      [a, b, c] = [0, 1, 2].map((k): ModelPoint => {
        const i = triangles[3 * triangle + k];
        return [corners[3 * i], corners[3 * i + 1], corners[3 * i + 2]];
      });
    return unit(cross3(minus(b, a), minus(c, a)));
  }

  /** How far it is along a way to a face that looks that way too; null where there is none nearer than `most`, or one that slants. */
  wallAlong(from: ModelPoint, way: ModelPoint, after: number, most = Infinity): number | null {
    const hit = this.rays.first(from, way, after, most);
    return hit && dot3(this.normalOf(hit.triangle), way) > BACK_TO_BACK ? hit.distance : null;
  }

  wallBehind = ({ at, normal }: Sample): number | null => this.wallAlong(at, turnedRound(normal), 1e-5);

  /** Can something come to a place from a direction and meet nothing before? */
  isFree = (at: ModelPoint, way: ModelPoint): boolean =>
    this.rays.first(by(at, way, 1e-4), way, 1e-4) === null;

  /** A place of a face, to be lit up. */
  placeOf = (face: FactFace): ModelPoint => this.samples(face)[0]?.at ?? [0, 0, 0];
}

/** Faces that lie back to back, more or less, have a wall between them; others meet at a point or an edge. */
export const BACK_TO_BACK = 0.7;

/** How thick the part is behind a sample of its skin. */
export const thicknessAt = (rays: Rays, { at, normal }: Pick<Sample, 'at' | 'normal'>): number | null =>
  rays.first(at, turnedRound(normal), 1e-5)?.distance ?? null;

/** How far a face reaches along a direction. */
export function spanOf(looked: Looked, face: FactFace, way: ModelPoint): number {
  const { corners, triangles } = looked.facts.skin;
  let low = Infinity,
    high = -Infinity;
  for (let t = face.start; t < face.start + face.count; t++) {
    const i = triangles[t],
      v = corners[3 * i] * way[0] + corners[3 * i + 1] * way[1] + corners[3 * i + 2] * way[2];
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return high - low;
}
