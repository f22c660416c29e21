import type { TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import { dot3, type ModelPoint } from '../geometry/index.ts';
import type { FaceName } from '../model/index.ts';
import { edgesOf, type Body } from './body.ts';
import { formOfEdge, formOfFace } from './facts.ts';
import { inScope, kernel } from './kernel.ts';

/** A round hole of a solid, as it is there, whatever made it; millimetres. */
export interface RoundHole {
  /** Where its axis leaves the part at the side at which it is widest; of two alike the one that its axis points out of. */
  at: ModelPoint;
  /** Into the part. */
  axis: ModelPoint;
  kind: 'plain' | 'counterbore' | 'countersink';
  diameter: number;
  /** To its shoulder; null: through. */
  depth: number | null;
  head: { diameter: number; depth: number; angle: number | null } | null;
  /** The faces of its bore. */
  faces: FaceName[];
}

/** One cylinder face all or part of the way round. */
interface Bore {
  name: FaceName;
  radius: number;
  at: ModelPoint;
  axis: ModelPoint;
  /** Along its axis. */
  from: number;
  to: number;
  sweep: number;
  face: TopoDS_Shape;
}

const NEAR = 1e-5;
const FULL = 2 * Math.PI - 1e-6;

const along = (p: ModelPoint, { at, axis }: Pick<Bore, 'at' | 'axis'>) =>
  dot3([p[0] - at[0], p[1] - at[1], p[2] - at[2]], axis);
const offAxis = (p: ModelPoint, line: Pick<Bore, 'at' | 'axis'>): number => {
  const t = along(p, line);
  return Math.hypot(...[0, 1, 2].map((i) => p[i] - line.at[i] - t * line.axis[i]));
};
const onAxis = ({ at, axis }: Pick<Bore, 'at' | 'axis'>, t: number): ModelPoint => [
  at[0] + axis[0] * t,
  at[1] + axis[1] * t,
  at[2] + axis[2] * t,
];

/** The round holes of a body: hollow cylinders all the way round, those about one axis that follow one another taken together. */
export function roundHoles(body: Body): RoundHole[] {
  const bores = wholeBores(body),
    cones = body.faces.filter(({ face }) => formOfFace(face).kind === 'cone').map((f) => circlesOf(f.face)),
    flats = body.faces
      .filter(({ face }) => formOfFace(face).kind === 'plane')
      .map(({ face }) => ({ face, circles: circlesOf(face), edges: edgesOf(face).length }));
  const left = new Set(bores),
    out: RoundHole[] = [];
  for (const bore of bores) {
    if (!left.has(bore)) continue;
    // All about this axis that hang together, end to end, with cones between.
    const group = [bore];
    left.delete(bore);
    for (let grown = true; grown;) {
      grown = false;
      for (const other of left)
        if (group.some((g) => sameAxis(g, other) && meets(g, other, cones))) {
          group.push(other);
          left.delete(other);
          grown = true;
        }
    }
    out.push(holeOf(group, cones, flats));
  }
  return out;
}

interface Circle {
  centre: ModelPoint;
  radius: number;
}
const circlesOf = (face: TopoDS_Shape): Circle[] =>
  edgesOf(face).flatMap((edge) => {
    const form = formOfEdge(edge);
    return form?.kind === 'circle' &&
      form.centre &&
      form.radius !== null &&
      form.length > 2 * Math.PI * form.radius * (1 - 1e-9)
      ? [{ centre: form.centre, radius: form.radius }]
      : [];
  });

function wholeBores(body: Body): Bore[] {
  const parts = body.faces.flatMap(({ face, name }): Bore[] => {
    const form = formOfFace(face);
    if (form.kind !== 'cylinder' || !form.hollow) return [];
    return inScope((s) => {
      const k = kernel(),
        surface = s.keep(new k.BRepAdaptor_Surface(k.TopoDS.Face(face) as TopoDS_Face, true));
      const way = surface.FirstVParameter(),
        end = surface.LastVParameter(),
        point = s.keep(surface.Value(surface.FirstUParameter(), way)),
        p: ModelPoint = [point.X(), point.Y(), point.Z()],
        base = { at: form.at, axis: form.axis },
        t = along(p, base);
      // Whichever way the parameter runs along the axis as it is given.
      const point2 = s.keep(surface.Value(surface.FirstUParameter(), end)),
        t2 = along([point2.X(), point2.Y(), point2.Z()], base);
      return [
        {
          name,
          radius: form.radius,
          ...base,
          from: Math.min(t, t2),
          to: Math.max(t, t2),
          sweep: surface.LastUParameter() - surface.FirstUParameter(),
          face,
        },
      ];
    });
  });
  // Halves of one cylinder are one.
  const out: Bore[] = [];
  for (const part of parts) {
    const same = out.find(
      (o) =>
        Math.abs(o.radius - part.radius) < NEAR &&
        sameAxis(o, part) &&
        spanOn(o, part).from < o.to + NEAR &&
        spanOn(o, part).to > o.from - NEAR,
    );
    if (!same) {
      out.push({ ...part });
      continue;
    }
    const span = spanOn(same, part);
    if (span.from < same.to - NEAR && span.to > same.from + NEAR) same.sweep += part.sweep;
    same.from = Math.min(same.from, span.from);
    same.to = Math.max(same.to, span.to);
  }
  return out.filter((b) => b.sweep >= FULL);
}

const sameAxis = (a: Bore, b: Bore): boolean =>
  Math.abs(Math.abs(dot3(a.axis, b.axis)) - 1) < 1e-9 && offAxis(b.at, a) < NEAR;
/** Where another lies along the axis of one. */
function spanOn(a: Bore, b: Bore): { from: number; to: number } {
  const [x, y] = [along(onAxis(b, b.from), a), along(onAxis(b, b.to), a)];
  return { from: Math.min(x, y), to: Math.max(x, y) };
}
function meets(a: Bore, b: Bore, cones: readonly Circle[][]): boolean {
  const span = spanOn(a, b);
  if (span.from <= a.to + NEAR && span.to >= a.from - NEAR) return true;
  const [lower, upper] = span.from > a.to ? [a.to, span.from] : [span.to, a.from];
  return cones.some((circles) =>
    [lower, upper].every((t) =>
      circles.some((c) => offAxis(c.centre, a) < NEAR && Math.abs(along(c.centre, a) - t) < NEAR),
    ),
  );
}

function holeOf(
  group: readonly Bore[],
  cones: readonly Circle[][],
  flats: readonly { circles: Circle[]; edges: number }[],
): RoundHole {
  const line = group[0],
    spans = group
      .map((b) => ({ ...spanOn(line, b), radius: b.radius, name: b.name }))
      .sort((a, b) => a.radius - b.radius),
    bore = spans[0],
    wider = spans.filter((s) => s.radius > bore.radius + NEAR);
  // Cones that widen from its bore outwards.
  const flared = cones
    .flatMap((circles) => {
      const on = circles
        .filter((c) => offAxis(c.centre, line) < NEAR)
        .map((c) => ({ t: along(c.centre, line), r: c.radius }));
      return on.length === 2 ? [on.sort((a, b) => a.r - b.r)] : [];
    })
    .filter(
      ([small]) =>
        Math.abs(small.r - bore.radius) < NEAR &&
        (Math.abs(small.t - bore.from) < NEAR || Math.abs(small.t - bore.to) < NEAR),
    );
  const low = Math.min(bore.from, ...wider.map((w) => w.from), ...flared.map(([, b]) => b.t)),
    high = Math.max(bore.to, ...wider.map((w) => w.to), ...flared.map(([, b]) => b.t));
  const closedAt = (t: number) =>
    cones.some(
      (circles) =>
        circles.length === 1 &&
        offAxis(circles[0].centre, line) < NEAR &&
        Math.abs(along(circles[0].centre, line) - t) < NEAR &&
        Math.abs(circles[0].radius - bore.radius) < NEAR,
    ) ||
    flats.some(
      ({ circles, edges }) =>
        edges === 1 &&
        circles.length === 1 &&
        offAxis(circles[0].centre, line) < NEAR &&
        Math.abs(along(circles[0].centre, line) - t) < NEAR &&
        Math.abs(circles[0].radius - bore.radius) < NEAR,
    );
  const head = wider[0] ?? null,
    flare = flared[0] ?? null;
  const headAbove = head ? head.to > bore.to + NEAR : flare ? flare[1].t > flare[0].t : !closedAt(bore.to);
  const entry = headAbove ? high : low,
    sign = headAbove ? -1 : 1,
    deep = headAbove ? bore.from : bore.to,
    through = !closedAt(deep);
  const axis: ModelPoint = [0, 1, 2].map((i) => sign * line.axis[i] + 0) as unknown as ModelPoint;
  return {
    at: onAxis(line, entry),
    axis,
    kind: head ? 'counterbore' : flare ? 'countersink' : 'plain',
    diameter: 2 * bore.radius,
    depth: through ? null : Math.abs(deep - entry),
    head: head
      ? { diameter: 2 * head.radius, depth: head.to - head.from, angle: null }
      : flare
        ? {
            diameter: 2 * flare[1].r,
            depth: Math.abs(flare[1].t - flare[0].t),
            angle: 2 * Math.atan2(flare[1].r - flare[0].r, Math.abs(flare[1].t - flare[0].t)),
          }
        : null,
    faces: spans.map((s) => s.name),
  };
}
