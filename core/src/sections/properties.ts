import { pathPieces, pieceLength } from '../geometry/index.ts';
import type { SectionRing } from './outline.ts';

/** What the outline of a section is: square millimetres, millimetres to the fourth, millimetres about the middle of its box. */
export interface SectionFigures {
  area: number;
  /** The centroid. */
  cx: number;
  cy: number;
  /** Second moments of area about the level and the upright axis through the centroid, and the product. */
  iy: number;
  iz: number;
  iyz: number;
  /** Lengths of what is outside: the outer ring alone. */
  perimeter: number;
}

/** Nodes and weights of Gauss and Legendre on -1 to 1, exact to the last figure for arcs of a quarter turn. */
const [NODES, WEIGHTS] = gauss(20);

/** Legendre's nodes by Newton's method from Chebyshev's (Press et al., Numerical Recipes, 4.6). */
function gauss(n: number): [number[], number[]] {
  const nodes: number[] = [],
    weights: number[] = [];
  for (let i = 0; i < n; i++) {
    let x = Math.cos((Math.PI * (i + 0.75)) / (n + 0.5)),
      slope = 0;
    for (let k = 0; k < 100; k++) {
      let [p, before] = [1, 0];
      for (let j = 0; j < n; j++) [p, before] = [((2 * j + 1) * x * p - j * before) / (j + 1), p];
      slope = (n * (x * p - before)) / (x * x - 1);
      const step = p / slope;
      x -= step;
      if (Math.abs(step) < 1e-16) break;
    }
    nodes.push(x);
    weights.push(2 / ((1 - x * x) * slope * slope));
  }
  return [nodes, weights];
}

/**
 * Area, centroid and second moments of rings by Green's theorem along their lines and arcs: outer rings counter-clockwise, holes the other
 * way round.
 */
export function figuresOf(rings: readonly SectionRing[]): SectionFigures {
  let [area, sx, sy, xx, yy, xy] = [0, 0, 0, 0, 0, 0];
  /** What a place adds that moves by dx and dy. */
  const add = (x: number, y: number, dx: number, dy: number) => {
    area += (x * dy - y * dx) / 2;
    sy += (x * x * dy) / 2;
    sx -= (y * y * dx) / 2;
    yy += (x * x * x * dy) / 3;
    xx -= (y * y * y * dx) / 3;
    xy += (x * x * y * dy) / 2;
  };
  for (const ring of rings)
    for (const piece of piecesOfRing(ring))
      NODES.forEach((node, k) => {
        const t = (node + 1) / 2,
          w = WEIGHTS[k] / 2;
        if (piece.kind === 'segment') {
          const [[x0, y0], [x1, y1]] = [piece.from, piece.to];
          return add(x0 + t * (x1 - x0), y0 + t * (y1 - y0), (x1 - x0) * w, (y1 - y0) * w);
        }
        if (piece.kind !== 'arc') return;
        const { cx, cy, r, start, end } = piece.arc,
          sweep = piece.clockwise ? start - end : end - start,
          angle = (piece.clockwise ? end : start) + t * sweep,
          [c, s] = [Math.cos(angle), Math.sin(angle)];
        add(cx + r * c, cy + r * s, -r * s * sweep * w, r * c * sweep * w);
      });
  const [cx, cy] = [sy / area, sx / area];
  return {
    area,
    cx,
    cy,
    iy: xx - area * cy * cy,
    iz: yy - area * cx * cx,
    iyz: xy - area * cx * cy,
    perimeter: rings.length > 0 ? lengthOf(rings[0]) : 0,
  };
}

export const piecesOfRing = ({ points, bulges }: SectionRing) => pathPieces({ points, bulges, closed: true });

const lengthOf = (ring: SectionRing): number =>
  piecesOfRing(ring).reduce((sum, piece) => sum + pieceLength(piece), 0);
