import type { TopoDS_Edge } from 'replicad-opencascadejs';
import type { ModelPoint } from '../geometry/index.ts';
import type { EdgeName, FaceName } from '../model/index.ts';
import { edgesOf, facesOf, ShapeMap, type Body } from './body.ts';
import { formOfEdge, type EdgeForm } from './facts.ts';

/** An edge of a body, between two faces (the same twice where one face meets itself: such an edge is a seam and left out). */
export interface BodyEdge {
  edge: TopoDS_Edge;
  between: [FaceName, FaceName];
  form: EdgeForm;
}

/** All edges at which two faces meet. */
export function bodyEdges(body: Body): BodyEdge[] {
  const names = new ShapeMap<FaceName>(),
    sides = new ShapeMap<FaceName[]>();
  for (const { face, name } of body.faces) names.set(face, name);
  for (const face of facesOf(body.shape)) {
    const name = names.get(face) ?? 'unnamed';
    for (const edge of edgesOf(face)) {
      const row = sides.get(edge);
      if (row) row.push(name);
      else sides.set(edge, [name]);
    }
  }
  return edgesOf(body.shape).flatMap((edge): BodyEdge[] => {
    const between = sides.get(edge) ?? [],
      form = formOfEdge(edge);
    return between.length === 2 && form
      ? [{ edge, between: [between[0], between[1]].sort() as [string, string], form }]
      : [];
  });
}

const distance = (p: ModelPoint, q: ModelPoint) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
const near = ({ form }: BodyEdge, p: ModelPoint): number => distance(form.middle, p);

/** The edges that a name means now: all between its faces, or the one of them that lies nearest to its place. */
export function edgesNamed(all: readonly BodyEdge[], { between, near: place }: EdgeName): BodyEdge[] {
  const [a, b] = [...between].sort(),
    found = all.filter((e) => e.between[0] === a && e.between[1] === b);
  if (place === null || found.length < 2) return found;
  return [found.reduce((x, y) => (near(y, place) < near(x, place) ? y : x))];
}
