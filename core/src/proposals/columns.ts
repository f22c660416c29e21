import type { Linework } from '../linework/index.ts';
import { shapesInRows } from './column-rows.ts';
import { drawnShapes, filledShapes, ONE, sizeOf, type Shape } from './column-shapes.ts';
import type { ProposedColumn, ProposedGridLine, WallThere } from './types.ts';

/** Columns: small rectangles and rounds that are filled, crossed, stand on grid lines or in rows of their like, and are no piece of a wall. */
export function columnsOf(
  l: Linework,
  mm: number,
  walls: readonly WallThere[],
  grid: readonly ProposedGridLine[],
): ProposedColumn[] {
  const shapes = [...filledShapes(l, mm), ...drawnShapes(l, mm)],
    crossings = crossingsOf(grid),
    counts = new Map<string, number>();
  for (const s of shapes) counts.set(sizeOf(s), (counts.get(sizeOf(s)) ?? 0) + 1);
  const isOnGrid = (s: Shape) =>
      crossings.some(
        ([x, y]) => Math.hypot(x - s.at[0], y - s.at[1]) < 0.3 * Math.min(s.width, s.depth) + ONE,
      ),
    // One chair may stand there by chance.
    standing = new Map<string, number>();
  for (const s of shapes) if (isOnGrid(s)) standing.set(sizeOf(s), (standing.get(sizeOf(s)) ?? 0) + 1);
  const inRows = shapesInRows(
    l,
    shapes.filter((s) => !s.filled && !s.crossed),
    mm,
  );
  const sureOf = (s: Shape, onGrid: boolean): number => {
    const alike = (counts.get(sizeOf(s)) ?? 1) - 1,
      own = s.filled ? 0.75 : s.crossed ? 0.8 : 0.25;
    return own + (onGrid ? 0.2 : 0) + (alike > 1 && s.filled ? 0.1 : 0) + (inRows.has(s) ? 0.47 : 0);
  };
  const out: ProposedColumn[] = [];
  for (const s of shapes) {
    const small = Math.min(s.width, s.depth),
      onGrid = isOnGrid(s) && (s.filled || s.crossed || standing.get(sizeOf(s))! > 1),
      sure = sureOf(s, onGrid);
    if (sure < (onGrid ? 0.4 : 0.7)) continue;
    if (walls.some((w) => isPieceOf(s, w, mm))) continue;
    // Drawn twice, as a fill and as its outline: once.
    if (out.some((o) => Math.hypot(o.at[0] - s.at[0], o.at[1] - s.at[1]) < 0.3 * small)) continue;
    out.push({
      at: s.at,
      width: s.width * mm,
      depth: s.depth * mm,
      turn: s.turn,
      round: s.round,
      confidence: Math.min(0.97, sure),
    });
  }
  return out;
}

/** Where grid lines cross. */
function crossingsOf(grid: readonly ProposedGridLine[]): [number, number][] {
  return grid.flatMap((a, i) =>
    grid.slice(i + 1).flatMap((b): [number, number][] => {
      const [ax, ay] = [a.to[0] - a.from[0], a.to[1] - a.from[1]],
        [bx, by] = [b.to[0] - b.from[0], b.to[1] - b.from[1]],
        cross = ax * by - ay * bx;
      if (Math.abs(cross) < 0.1 * Math.hypot(ax, ay) * Math.hypot(bx, by)) return [];
      const t = ((b.from[0] - a.from[0]) * by - (b.from[1] - a.from[1]) * bx) / cross;
      return [[a.from[0] + t * ax, a.from[1] + t * ay]];
    }),
  );
}

/** Does a shape lie within a wall, no thicker than it: a pier between two openings, a part of its fill? */
function isPieceOf(s: Shape, w: WallThere, mm: number): boolean {
  const n = Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]),
    [ux, uy] = [(w.to[0] - w.from[0]) / n, (w.to[1] - w.from[1]) / n],
    [dx, dy] = [s.at[0] - w.from[0], s.at[1] - w.from[1]],
    t = dx * ux + dy * uy,
    half = w.thickness / mm / 2;
  return (
    t > -half - ONE &&
    t < n + half + ONE &&
    Math.abs(-dx * uy + dy * ux) < 0.5 * half &&
    Math.min(s.width, s.depth) < 2.2 * half + ONE
  );
}
