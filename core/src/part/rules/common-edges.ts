import { dot3, facing, pieceBox, worldFromPlane, type ModelPoint } from '../../geometry/index.ts';
import { kindOf } from '../../kinds/index.ts';
import { get, tracedOn, type Model, type WorkPlane } from '../../model/index.ts';
import { partPlanes } from '../recipe/part-planes.ts';

/** Where something that is drawn on another plane of a part lies along one of this plane's axes. */
export interface CommonEdge {
  /** Along x it is an upright line, along y a level one. */
  axis: 'x' | 'y';
  /** Millimetres of this plane. */
  at: number;
  /** The plane on which it is drawn. */
  planeId: string;
}

/** Nearer than this they are one, millimetres; more than so many help nobody. */
const ONE = 1e-4,
  MOST = 400;
const SQUARE = 1e-9;

/**
 * Places of what is drawn on the other planes of a part, along the axes that they have in common with this one: the ends, corners and farthest reaches of
 * its linework, so that a width or a depth need not be measured twice.
 */
export function commonEdges(model: Model, planeId: string): CommonEdge[] {
  const plane = get(model, 'plane', planeId);
  if (!plane?.partId) return [];
  const out: CommonEdge[] = [];
  for (const other of partPlanes(model, plane.partId)) {
    if (other.id === planeId) continue;
    const [x, y] = [plane.across, plane.up].map((way) => Math.abs(dot3(way, facing(other))) < SQUARE),
      same = Math.abs(Math.abs(dot3(facing(plane), facing(other))) - 1) < SQUARE;
    // Planes that look the same way have all in common, and show nothing that is not seen.
    if (same) continue;
    for (const at of placesOn(model, other)) {
      const from = at.map((v, k) => v - plane.origin[k]) as unknown as ModelPoint;
      if (x) out.push({ axis: 'x', at: dot3(from, plane.across), planeId: other.id });
      if (y) out.push({ axis: 'y', at: dot3(from, plane.up), planeId: other.id });
    }
  }
  out.sort((a, b) => (a.axis === b.axis ? a.at - b.at : a.axis < b.axis ? -1 : 1));
  return out
    .filter((e, i) => i === 0 || e.axis !== out[i - 1].axis || e.at - out[i - 1].at > ONE)
    .slice(0, MOST);
}

function placesOn(model: Model, plane: WorkPlane): ModelPoint[] {
  return tracedOn(model, plane.id).flatMap((e) =>
    kindOf(e)
      .pieces(e)
      .flatMap((piece) => {
        const [x0, y0, x1, y1] = pieceBox(piece);
        return [[x0, y0], [x1, y1], ...(piece.kind === 'arc' ? [[piece.arc.cx, piece.arc.cy]] : [])].map(
          ([u, v]) => worldFromPlane(plane, [u, v]),
        );
      }),
  );
}
