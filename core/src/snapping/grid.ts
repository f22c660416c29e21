import type { Point } from '../geometry/index.ts';
import type { Offered } from './guides.ts';

/** A grid on a plane: where it begins, how it is turned (radians), and its spacing each way, millimetres. */
export interface Grid {
  origin: Point;
  angle: number;
  across: number;
  up: number;
}

/** After points of the drawing, before a place along a line; along a line of the grid behind those. */
const NODE = 0.5,
  ALONG = 1.3;
/** The lines at a node light up so far to either side, in shares of the spacing. */
const LIT = 0.5;

/** A point in steps of the grid, and back. */
const intoGrid = ({ origin, angle, across, up }: Grid, [x, y]: Point): Point => {
  const dx = x - origin[0],
    dy = y - origin[1],
    c = Math.cos(angle),
    s = Math.sin(angle);
  return [(c * dx + s * dy) / across, (c * dy - s * dx) / up];
};
export const fromGrid = ({ origin, angle, across, up }: Grid, [u, v]: Point): [number, number] => {
  const c = Math.cos(angle),
    s = Math.sin(angle);
  return [origin[0] + c * u * across - s * v * up, origin[1] + s * u * across + c * v * up];
};

/** The nearest crossing of the grid's lines, and the places on its lines, within a radius of a point. */
export function alongGrid(grid: Grid, at: Point, radius: number): Offered[] {
  const [u, v] = intoGrid(grid, at),
    nu = Math.round(u),
    nv = Math.round(v),
    out: Offered[] = [];
  const stretch = (a: Point, b: Point): Point[] => [fromGrid(grid, a), fromGrid(grid, b)];
  const offer = (place: Point, base: number, lit: Point[][]) => {
    const [x, y] = fromGrid(grid, place),
      away = Math.hypot(x - at[0], y - at[1]);
    if (away <= radius) out.push({ kind: 'grid', x, y, score: away / radius + base, lit });
  };
  const level = stretch([nu - LIT, nv], [nu + LIT, nv]),
    upright = stretch([nu, nv - LIT], [nu, nv + LIT]);
  offer([nu, nv], NODE, [level, upright]);
  offer([u, nv], ALONG, [level]);
  offer([nu, v], ALONG, [upright]);
  return out;
}

/** The lines of a grid through a box [minX, minY, maxX, maxY], only each so-many-th; `number` says which of those that stand `across` or `up` one is. */
export function gridLines(
  grid: Grid,
  box: readonly [number, number, number, number],
  every: { across: number; up: number },
): { from: [number, number]; to: [number, number]; number: number; of: 'across' | 'up' }[] {
  const corners = (
    [
      [box[0], box[1]],
      [box[2], box[1]],
      [box[2], box[3]],
      [box[0], box[3]],
    ] as const
  ).map((p) => intoGrid(grid, p));
  const [u0, u1] = [Math.min(...corners.map((c) => c[0])), Math.max(...corners.map((c) => c[0]))];
  const [v0, v1] = [Math.min(...corners.map((c) => c[1])), Math.max(...corners.map((c) => c[1]))];
  const lines: ReturnType<typeof gridLines> = [];
  const first = (lowest: number, step: number) => Math.ceil(lowest / step) * step;
  for (let n = first(u0, every.across); n <= u1; n += every.across)
    lines.push({ from: fromGrid(grid, [n, v0]), to: fromGrid(grid, [n, v1]), number: n, of: 'across' });
  for (let n = first(v0, every.up); n <= v1; n += every.up)
    lines.push({ from: fromGrid(grid, [u0, n]), to: fromGrid(grid, [u1, n]), number: n, of: 'up' });
  return lines;
}
