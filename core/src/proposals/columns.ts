import { ITEM_KINDS_OF_SHEET, type Linework } from '../linework/index.ts';
import type { ProposedColumn, ProposedGridLine, WallThere } from './types.ts';

/** Columns are between so thick, millimetres, and no more oblong than this. */
const THINNEST = 100,
  THICKEST = 1300,
  OBLONG = 4.5;
/** Corners within this share of the shorter side are square, and within this of a point one. */
const SQUARE = 0.04,
  ONE = 0.4;
const NOT: ReadonlySet<string> = new Set(['text', 'dimension', 'picture', 'markup']);

const MOST_AT_CORNER = 24;

interface Shape {
  at: [number, number];
  /** Sheet points. */
  width: number;
  depth: number;
  turn: number;
  round: boolean;
  filled: boolean;
  crossed: boolean;
}

/** Columns: small rectangles and rounds that are filled, crossed, or stand on grid lines, and are no piece of a wall. */
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
  const out: ProposedColumn[] = [];
  for (const s of shapes) {
    const small = Math.min(s.width, s.depth),
      onGrid = crossings.some(([x, y]) => Math.hypot(x - s.at[0], y - s.at[1]) < 0.3 * small + ONE),
      alike = (counts.get(sizeOf(s)) ?? 1) - 1;
    const sure =
      (s.filled ? 0.75 : s.crossed ? 0.8 : 0.25) + (onGrid ? 0.2 : 0) + (alike > 1 && s.filled ? 0.1 : 0);
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

const sizeOf = ({ width, depth, filled }: Shape): string =>
  `${Math.round(width / ONE)} ${Math.round(depth / ONE)} ${filled}`;

const isOf = (l: Linework, kind: number, layer: number): boolean =>
  !NOT.has(ITEM_KINDS_OF_SHEET[kind]) && (layer < 0 || l.layers[layer]?.on !== false);

/** Filled rectangles and rounds, by the objects of the page. */
function filledShapes(l: Linework, mm: number): Shape[] {
  const byObject = new Map<number, [number, number, number, number][]>();
  for (let i = 0; i < l.fillEdgeKind.length; i++) {
    if (!isOf(l, l.fillEdgeKind[i], l.fillEdgeStyle[2 * i])) continue;
    const row = byObject.get(l.fillEdgeObject[i]),
      edge = [...l.fillEdges.subarray(4 * i, 4 * i + 4)] as [number, number, number, number];
    if (row) row.push(edge);
    else byObject.set(l.fillEdgeObject[i], [edge]);
  }
  return [...byObject.values()].flatMap((edges): Shape[] => {
    const shape = edges.length === 4 ? rectangleOf(edges) : edges.length > 7 ? roundOf(edges) : null;
    return shape && isAsColumn(shape, mm) ? [{ ...shape, filled: true, crossed: false }] : [];
  });
}

type Plain = Omit<Shape, 'filled' | 'crossed'>;

const isAsColumn = ({ width, depth }: Plain, mm: number): boolean => {
  const [a, b] = [Math.min(width, depth) * mm, Math.max(width, depth) * mm];
  return a >= THINNEST && b <= THICKEST && b <= OBLONG * a;
};

/** The rectangle that four lines make; null where they make none. */
function rectangleOf(edges: readonly (readonly [number, number, number, number])[]): Plain | null {
  const corners: [number, number][] = [];
  for (const [x0, y0, x1, y1] of edges)
    for (const p of [
      [x0, y0],
      [x1, y1],
    ] as [number, number][])
      if (!corners.some((c) => Math.hypot(c[0] - p[0], c[1] - p[1]) < ONE)) corners.push(p);
  if (corners.length !== 4) return null;
  const at: [number, number] = [
    corners.reduce((s, c) => s + c[0], 0) / 4,
    corners.reduce((s, c) => s + c[1], 0) / 4,
  ];
  const sides = edges.map(([x0, y0, x1, y1]) => Math.hypot(x1 - x0, y1 - y0)),
    radii = corners.map((c) => Math.hypot(c[0] - at[0], c[1] - at[1])),
    // A rectangle's corners are as far from its middle as one another.
    slack = SQUARE * Math.min(...sides) + 0.02;
  if (Math.max(...radii) - Math.min(...radii) > slack) return null;
  const [x0, y0, x1, y1] = edges[0],
    width = sides[0],
    depth = 2 * Math.abs(((at[0] - x0) * (y1 - y0) - (at[1] - y0) * (x1 - x0)) / width),
    quarter = Math.PI / 2,
    turn = (((Math.atan2(y1 - y0, x1 - x0) % Math.PI) + Math.PI) % Math.PI) + 1e-9;
  return turn < quarter
    ? { at, width, depth, turn: Math.max(0, turn - 1e-9), round: false }
    : { at, width: depth, depth: width, turn: Math.max(0, turn - quarter - 1e-9), round: false };
}

/** The round that many short lines make. */
function roundOf(edges: readonly (readonly [number, number, number, number])[]): Plain | null {
  const points = edges.map((e): [number, number] => [e[0], e[1]]),
    at: [number, number] = [
      points.reduce((s, p) => s + p[0], 0) / points.length,
      points.reduce((s, p) => s + p[1], 0) / points.length,
    ],
    radii = points.map((p) => Math.hypot(p[0] - at[0], p[1] - at[1])),
    r = Math.max(...radii);
  return r - Math.min(...radii) < 0.03 * r + 0.02
    ? { at, width: 2 * r, depth: 2 * r, turn: 0, round: true }
    : null;
}

/** Rectangles of four lines of one object or in a row, and circles; crossed where both diagonals are drawn. */
function drawnShapes(l: Linework, mm: number): Shape[] {
  const out: Shape[] = [],
    longest = (THICKEST * Math.SQRT2) / mm,
    lines: [number, number, number, number][] = [];
  // Cells of the sheet by one number each.
  const index = new Map<number, number[]>(),
    numberOf = (i: number, j: number) => i * 1e7 + j,
    cell = (x: number, y: number) => numberOf(Math.round(x / ONE), Math.round(y / ONE));
  for (let i = 0; i < l.segmentKind.length; i++) {
    if (!isOf(l, l.segmentKind[i], l.segmentStyle[2 * i])) continue;
    const [x0, y0, x1, y1] = l.segments.subarray(4 * i, 4 * i + 4),
      n = Math.hypot(x1 - x0, y1 - y0);
    if (n * mm < THINNEST || n > longest) continue;
    const id = lines.push([x0, y0, x1, y1]) - 1;
    for (const c of [cell(x0, y0), cell(x1, y1)]) {
      const row = index.get(c);
      // Where more lines meet they are a fan, not corners.
      if (!row) index.set(c, [id]);
      else if (row.length < MOST_AT_CORNER) row.push(id);
    }
  }
  const at = (x: number, y: number): number[] => {
    const [i, j] = [Math.round(x / ONE), Math.round(y / ONE)],
      found: number[] = [];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++) found.push(...(index.get(numberOf(i + dx, j + dy)) ?? []));
    return found;
  };
  const seen = new Set<string>();
  const hasLine = (p: readonly [number, number], q: readonly [number, number]) =>
    at(...p).some((id) => {
      const [x0, y0, x1, y1] = lines[id];
      return (
        Math.min(
          Math.hypot(x0 - q[0], y0 - q[1]) + Math.hypot(x1 - p[0], y1 - p[1]),
          Math.hypot(x1 - q[0], y1 - q[1]) + Math.hypot(x0 - p[0], y0 - p[1]),
        ) <
        2 * ONE
      );
    });
  lines.forEach(([x0, y0, x1, y1], id) => {
    // A second side from its end, square to it: the rectangle is told by both.
    const n = Math.hypot(x1 - x0, y1 - y0),
      [ux, uy] = [(x1 - x0) / n, (y1 - y0) / n];
    for (const other of at(x1, y1)) {
      if (other === id) continue;
      const [a, b, c, d] = lines[other],
        far: [number, number] = Math.hypot(a - x1, b - y1) < Math.hypot(c - x1, d - y1) ? [c, d] : [a, b],
        [dx, dy] = [far[0] - x1, far[1] - y1],
        m = Math.hypot(dx, dy);
      if (m * mm < THINNEST || Math.abs(dx * ux + dy * uy) > SQUARE * m) continue;
      const fourth: [number, number] = [x0 + dx, y0 + dy];
      if (!hasLine(far, fourth) || !hasLine(fourth, [x0, y0])) continue;
      const shape = rectangleOf([
        [x0, y0, x1, y1],
        [x1, y1, ...far],
        [...far, ...fourth],
        [...fourth, x0, y0],
      ]);
      if (!shape || !isAsColumn(shape, mm)) continue;
      const key = `${Math.round(shape.at[0] / ONE)} ${Math.round(shape.at[1] / ONE)} ${Math.round((shape.width + shape.depth) / ONE)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      out.push({
        ...shape,
        filled: false,
        crossed: hasLine([x0, y0], far) && hasLine([x1, y1], fourth),
      });
    }
  });
  for (let i = 0; i < l.circleKind.length; i++) {
    if (!isOf(l, l.circleKind[i], l.circleStyle[2 * i])) continue;
    const [x, y, r] = l.circles.subarray(3 * i, 3 * i + 3),
      shape: Plain = { at: [x, y], width: 2 * r, depth: 2 * r, turn: 0, round: true };
    if (isAsColumn(shape, mm)) out.push({ ...shape, filled: false, crossed: false });
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
