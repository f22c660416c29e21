import { ITEM_KINDS_OF_SHEET, kindCode, type Linework } from '../linework/index.ts';

/** Columns are between so thick, millimetres, and no more oblong than this. */
const THINNEST = 100,
  THICKEST = 1300,
  OBLONG = 4.5;
/** Corners within this share of the shorter side are square. */
const SQUARE = 0.04;
/** Sheet points within which places are one. */
export const ONE = 0.4;
/** What is never a column. */
export const NOT: ReadonlySet<string> = new Set(['text', 'dimension', 'picture', 'markup']);

const MOST_AT_CORNER = 24;
/** No side of a column is a line of a hatch. */
const HATCH = kindCode('hatch');

/** A small figure of a sheet that may be a column; sheet points. */
export interface Shape {
  at: [number, number];
  /** Sheet points. */
  width: number;
  depth: number;
  turn: number;
  round: boolean;
  filled: boolean;
  crossed: boolean;
}

/** Shapes as large and as filled have one. */
export const sizeOf = ({ width, depth, filled }: Shape): string =>
  `${Math.round(width / ONE)} ${Math.round(depth / ONE)} ${filled}`;

const isOf = (l: Linework, kind: number, layer: number): boolean =>
  !NOT.has(ITEM_KINDS_OF_SHEET[kind]) && (layer < 0 || l.layers[layer]?.on !== false);

/** Filled rectangles and rounds, by the objects of the page. */
export function filledShapes(l: Linework, mm: number): Shape[] {
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
export function drawnShapes(l: Linework, mm: number): Shape[] {
  const out: Shape[] = [],
    longest = (THICKEST * Math.SQRT2) / mm,
    lines: [number, number, number, number][] = [];
  // Cells of the sheet by one number each.
  const index = new Map<number, number[]>(),
    numberOf = (i: number, j: number) => i * 1e7 + j,
    cell = (x: number, y: number) => numberOf(Math.round(x / ONE), Math.round(y / ONE));
  for (let i = 0; i < l.segmentKind.length; i++) {
    if (l.segmentKind[i] === HATCH || !isOf(l, l.segmentKind[i], l.segmentStyle[2 * i])) continue;
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
    // What has no pen is filled.
    if (isAsColumn(shape, mm)) out.push({ ...shape, filled: l.circleStyle[2 * i + 1] < 0, crossed: false });
  }
  return out;
}
