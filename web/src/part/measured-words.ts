import type { ShownEdge, ShownFace, ShownSolid } from '@calque/core/forming';
import { dot3, type ModelPoint } from '@calque/core/geometry';
import { exactStyle, formatLengthWithUnit, formatNumber, type LengthStyle } from '@calque/core/units';

/** What is chosen of a solid, measured: a face, an edge, or two of them to one another. */
export function measuredWords(
  solid: ShownSolid,
  faceNames: readonly string[],
  edges: readonly ShownEdge[],
  style: LengthStyle,
): string {
  const mm = (v: number) => formatLengthWithUnit(v, exactStyle(v, style)),
    faces = solid.skin.faces.filter((f) => faceNames.includes(f.name));
  if (faces.length === 1 && edges.length === 0) return faceWords(faces[0], mm);
  if (faces.length === 2 && edges.length === 0) return betweenFaces(faces[0], faces[1], mm);
  if (faces.length > 0 || edges.length === 0) return '';
  const [e] = edges;
  if (edges.length === 1)
    return e.radius === null ? `long ${mm(e.length)}` : `radius ${mm(e.radius)}, long ${mm(e.length)}`;
  const all = `together long ${mm(edges.reduce((sum, x) => sum + x.length, 0))}`;
  if (edges.length > 2) return all;
  const apart = minus(edges[1].middle, e.middle);
  return `${all}; their middles ${mm(Math.hypot(...apart))} apart (${apart.map((v) => mm(Math.abs(v))).join(', ')})`;
}

const minus = (p: ModelPoint, q: ModelPoint): ModelPoint => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
const SAME_WAY = 1 - 1e-9;

function faceWords({ form, area }: ShownFace, mm: (v: number) => string): string {
  const size = `${formatNumber(area / 100, 3)} cm²`;
  if (form.kind === 'cylinder') return `round, radius ${mm(form.radius)}, about ${size}`;
  return form.kind === 'plane' ? `flat, ${size}` : `${form.kind}, about ${size}`;
}

function betweenFaces(a: ShownFace, b: ShownFace, mm: (v: number) => string): string {
  const [f, g] = [a.form, b.form];
  if (f.kind === 'plane' && g.kind === 'plane') {
    const same = dot3(f.normal, g.normal);
    return Math.abs(same) > SAME_WAY
      ? `${mm(Math.abs(dot3(minus(g.at, f.at), f.normal)))} apart`
      : `at ${formatNumber((Math.acos(Math.max(-1, Math.min(1, -same))) * 180) / Math.PI, 3)}° to one another`;
  }
  if (f.kind === 'cylinder' && g.kind === 'cylinder' && Math.abs(dot3(f.axis, g.axis)) > SAME_WAY) {
    const way = minus(g.at, f.at),
      along = dot3(way, f.axis),
      off = minus(way, f.axis.map((v) => v * along) as unknown as ModelPoint);
    return `axes ${mm(Math.hypot(...off))} apart`;
  }
  if (f.kind === 'cylinder' && g.kind === 'plane') return axisToFace(f, g, mm);
  if (f.kind === 'plane' && g.kind === 'cylinder') return axisToFace(g, f, mm);
  return '';
}

const axisToFace = (
  round: Extract<ShownFace['form'], { kind: 'cylinder' }>,
  flat: Extract<ShownFace['form'], { kind: 'plane' }>,
  mm: (v: number) => string,
): string =>
  Math.abs(dot3(round.axis, flat.normal)) < 1e-9
    ? `axis ${mm(Math.abs(dot3(minus(round.at, flat.at), flat.normal)))} from the face`
    : '';
