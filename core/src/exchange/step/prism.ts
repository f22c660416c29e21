import { cross3, dot3, minus3, type ModelPoint } from '../../geometry/index.ts';
import { DERIVED, type Ref, type StepFile } from './step-text.ts';

/** A round hole through a prism that is cut square: its middle at the near end. */
export interface RoundHole {
  at: ModelPoint;
  radius: number;
}

/** What lies between two plane ends of as many corners each, with edges from one to the other that all run along `way`. */
export interface Prism {
  /** The outer ring and those of holes, any way round. */
  near: readonly (readonly ModelPoint[])[];
  far: readonly (readonly ModelPoint[])[];
  way: ModelPoint;
  holes?: readonly RoundHole[];
  /** Holes from one of its sides through to the one behind, both flat there and square to it; where they are not, none is made. */
  cross?: readonly { from: ModelPoint; to: ModelPoint; radius: number }[];
}

/** A flat side of a prism, with what is drilled into it. */
interface Side {
  at: ModelPoint;
  corners: readonly ModelPoint[];
  out: ModelPoint;
  loop: Ref;
  more: Ref[];
}

const unit = (v: ModelPoint): ModelPoint => {
  const length = Math.hypot(...v);
  return [v[0] / length, v[1] / length, v[2] / length];
};

/** Twice the area that a ring has as it is seen along a direction of length one, above 0 counter-clockwise about that. */
function turning(ring: readonly ModelPoint[], way: ModelPoint): number {
  const [origin] = ring;
  let sum = 0;
  for (let i = 1; i + 1 < ring.length; i++)
    sum += dot3(cross3(minus3(ring[i], origin), minus3(ring[i + 1], origin)), way);
  return sum;
}

/** Writes solids as boundaries of plane faces, and cylinders where they are drilled (ISO 10303-42). */
export class PrismWriter {
  constructor(private readonly file: StepFile) {}

  point = (p: ModelPoint): Ref => this.file.add('CARTESIAN_POINT', '', [...p]);
  direction = (d: ModelPoint): Ref => this.file.share('DIRECTION', '', [...d]);
  placement = (at: ModelPoint, z: ModelPoint, x: ModelPoint): Ref =>
    this.file.add('AXIS2_PLACEMENT_3D', '', this.point(at), this.direction(z), this.direction(x));

  private vertex = (p: ModelPoint): Ref => this.file.add('VERTEX_POINT', '', this.point(p));

  private edge(from: Ref, to: Ref, p: ModelPoint, q: ModelPoint): Ref {
    const vector = this.file.add('VECTOR', '', this.direction(unit(minus3(q, p))), 1),
      line = this.file.add('LINE', '', this.point(p), vector);
    return this.file.add('EDGE_CURVE', '', from, to, line, true);
  }

  private loop(edges: readonly (readonly [edge: Ref, forward: boolean])[]): Ref {
    return this.file.add(
      'EDGE_LOOP',
      '',
      edges.map(([edge, forward]) => this.file.add('ORIENTED_EDGE', '', DERIVED, DERIVED, edge, forward)),
    );
  }

  /** A plane face by its loops, the outer one first. */
  private plane(loops: readonly Ref[], at: ModelPoint, normal: ModelPoint, along: ModelPoint): Ref {
    const surface = this.file.add('PLANE', '', this.placement(at, normal, along)),
      bounds = loops.map((l, i) => this.file.add(i === 0 ? 'FACE_OUTER_BOUND' : 'FACE_BOUND', '', l, true));
    return this.file.add('ADVANCED_FACE', '', bounds, surface, true);
  }

  solid(name: string, { near, far, way, holes = [], cross = [] }: Prism): Ref {
    const w = unit(way),
      faces: Ref[] = [],
      flanks: Side[] = [],
      nearLoops: Ref[] = [],
      farLoops: Ref[] = [];
    near.forEach((ring, k) => {
      // The outer ring counter-clockwise about the way, holes the other way round.
      const turned = turning(ring, w) > 0 !== (k === 0),
        a = turned ? [...ring].reverse() : ring,
        b = turned ? [...far[k]].reverse() : far[k],
        n = a.length,
        [va, vb] = [a.map(this.vertex), b.map(this.vertex)],
        next = (i: number) => (i + 1) % n,
        ea = a.map((p, i) => this.edge(va[i], va[next(i)], p, a[next(i)])),
        eb = b.map((p, i) => this.edge(vb[i], vb[next(i)], p, b[next(i)])),
        sides = a.map((p, i) => this.edge(va[i], vb[i], p, b[i]));
      a.forEach((p, i) => {
        const d = unit(minus3(a[next(i)], p)),
          out = unit(cross3(d, w));
        flanks.push({
          at: p,
          corners: [p, a[next(i)], b[next(i)], b[i]],
          out,
          loop: this.loop([
            [ea[i], true],
            [sides[next(i)], true],
            [eb[i], false],
            [sides[i], false],
          ]),
          more: [],
        });
      });
      nearLoops.push(this.loop(ea.map((e) => [e, false] as const).reverse()));
      farLoops.push(this.loop(eb.map((e) => [e, true] as const)));
    });
    for (const hole of holes) this.drill(hole, way, w, { faces, nearLoops, farLoops });
    for (const { from, to, radius } of cross) {
      const span = minus3(to, from),
        d = unit(span),
        back: ModelPoint = [-d[0], -d[1], -d[2]],
        [entry, exit] = [flankAt(flanks, from, back, radius), flankAt(flanks, to, d, radius)];
      if (entry && exit)
        this.drill({ at: from, radius }, span, d, { faces, nearLoops: entry.more, farLoops: exit.more });
    }
    for (const { at, out, loop, more } of flanks) faces.push(this.plane([loop, ...more], at, out, w));
    const along = unit(minus3(near[0][1], near[0][0])),
      endNormal = (ring: readonly ModelPoint[]): ModelPoint => {
        const n = unit(normalOf(ring));
        return dot3(n, w) > 0 ? n : [-n[0], -n[1], -n[2]];
      },
      nearNormal = endNormal(near[0]),
      farAlong = unit(minus3(far[0][1], far[0][0]));
    faces.push(
      this.plane(nearLoops, near[0][0], [-nearNormal[0], -nearNormal[1], -nearNormal[2]], along),
      this.plane(farLoops, far[0][0], endNormal(far[0]), farAlong),
    );
    return this.file.add('MANIFOLD_SOLID_BREP', name, this.file.add('CLOSED_SHELL', '', faces));
  }

  private drill(
    { at, radius }: RoundHole,
    way: ModelPoint,
    w: ModelPoint,
    to: { faces: Ref[]; nearLoops: Ref[]; farLoops: Ref[] },
  ): void {
    const x = unit(cross3(w, Math.abs(w[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0])),
      start = (p: ModelPoint): ModelPoint => [
        p[0] + radius * x[0],
        p[1] + radius * x[1],
        p[2] + radius * x[2],
      ],
      end: ModelPoint = [at[0] + way[0], at[1] + way[1], at[2] + way[2]],
      [va, vb] = [this.vertex(start(at)), this.vertex(start(end))],
      round = (p: ModelPoint, v: Ref) =>
        this.file.add(
          'EDGE_CURVE',
          '',
          v,
          v,
          this.file.add('CIRCLE', '', this.placement(p, w, x), radius),
          true,
        ),
      [ea, eb] = [round(at, va), round(end, vb)],
      seam = this.edge(va, vb, start(at), start(end)),
      loop = this.loop([
        [ea, false],
        [seam, true],
        [eb, true],
        [seam, false],
      ]),
      surface = this.file.add('CYLINDRICAL_SURFACE', '', this.placement(at, w, x), radius);
    to.faces.push(
      this.file.add('ADVANCED_FACE', '', [this.file.add('FACE_BOUND', '', loop, true)], surface, false),
    );
    to.nearLoops.push(this.loop([[ea, true]]));
    to.farLoops.push(this.loop([[eb, false]]));
  }
}

/** The side on which a hole begins or ends: it faces that way, and the whole circle lies on it. */
function flankAt(flanks: readonly Side[], p: ModelPoint, out: ModelPoint, radius: number): Side | undefined {
  return flanks.find(
    (s) =>
      dot3(s.out, out) > 1 - 1e-6 &&
      Math.abs(dot3(minus3(p, s.at), s.out)) < 1e-3 &&
      s.corners.every((a, i) => {
        // Counter-clockwise seen from outside: what lies on it is to the left of each of its edges.
        const edge = unit(minus3(s.corners[(i + 1) % s.corners.length], a));
        return dot3(cross3(s.out, edge), minus3(p, a)) > radius + 1e-3;
      }),
  );
}

/** Newell's normal of a ring that may turn in. */
function normalOf(ring: readonly ModelPoint[]): ModelPoint {
  const n: [number, number, number] = [0, 0, 0];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    n[0] += (p[1] - q[1]) * (p[2] + q[2]);
    n[1] += (p[2] - q[2]) * (p[0] + q[0]);
    n[2] += (p[0] - q[0]) * (p[1] + q[1]);
  });
  return n;
}
