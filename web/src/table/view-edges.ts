import { get, type Model } from '@calque/core/model';
import { commonEdges, type CommonEdge } from '@calque/core/part';
import { lineSnapper, type Snapper } from '@calque/core/snapping';

/** Where what is drawn on the other views of a part lies on a plane, ready to be painted and found. */
export interface ViewEdges {
  edges: readonly CommonEdge[];
  snapper: Snapper;
}

/** What is seen of a part's solid on a plane, to be found by picks there. */
export interface SolidEdges {
  planeId: string;
  snapper: Snapper;
}

/** They reach beyond any part, millimetres; their middles lie where nobody picks. */
const BEGIN = -1e5,
  END = 1.3e5;

let last: { model: Model; planeId: string; found: ViewEdges | null } | null = null;

/** Null on planes that are of no part, and where no other view has anything. */
export function viewEdgesOf(model: Model, planeId: string): ViewEdges | null {
  if (last?.model === model && last.planeId === planeId) return last.found;
  const edges = get(model, 'plane', planeId)?.partId ? commonEdges(model, planeId) : [],
    found =
      edges.length === 0
        ? null
        : {
            edges,
            snapper: lineSnapper(
              edges.map(({ axis, at }) => (axis === 'x' ? [at, BEGIN, at, END] : [BEGIN, at, END, at])),
            ),
          };
  last = { model, planeId, found };
  return found;
}
