import {
  flattenPiece,
  pieceEnd,
  pieceStart,
  turnedRectangle,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import {
  get,
  group,
  isRun,
  piecesOf,
  removeElements,
  USUAL_STOREY_HEIGHT,
  type Change,
  type Pair,
  type Traced,
  type Wall,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Shape } from '@/drawing/drawn';
import { RECTANGLE } from '@/kinds/path/plans';
import { ShapeTool, type ShapePlan } from '@/drawing/shape-tool';
import { nextThicknessFrom, nextWall } from './next-wall';

/** Walls are straight: an arc becomes as many as keep within this of it, millimetres. */
const CHORDS = 5;

function wallLike(table: Table, from: Point, to: Point): Shape & { type: 'wall' } {
  const { model } = table.session.state,
    storey = get(model, 'storey', table.state.getState().planeId);
  return {
    type: 'wall',
    from: [from[0], from[1]],
    to: [to[0], to[1]],
    ...nextWall(model),
    height: storey?.height ?? USUAL_STOREY_HEIGHT,
    heightAssumed: storey?.heightAssumed ?? true,
  };
}

/** Straight stretches of a piece. */
function straight(piece: Piece): [Point, Point][] {
  const points =
    piece.kind === 'segment' ? [pieceStart(piece), pieceEnd(piece)] : flattenPiece(piece, CHORDS);
  return points
    .slice(1)
    .map((q, i): [Point, Point] => [points[i], q])
    .filter(([p, q]) => Math.hypot(q[0] - p[0], q[1] - p[1]) > 1e-6);
}

/** Can walls be made of it? */
export const becomesWalls = (e: Traced): boolean =>
  (isRun(e) && e.type !== 'wall' && e.type !== 'gridLine') || e.type === 'area';

/** Lines, arcs, paths and outlines that are selected become walls, as thick as the next wall; what they were goes. */
export function makeWalls(table: Table): void {
  const chosen = chosenTraced(table).filter(becomesWalls);
  const { model } = table.session.state,
    { thickness } = nextWall(model),
    thicknessFrom = nextThicknessFrom(model);
  const walls = chosen.flatMap((e) =>
    piecesOf(e)
      .flatMap(straight)
      .map(([p, q]): Wall => ({
        ...wallLike(table, p, q),
        id: crypto.randomUUID(),
        planeId: e.planeId,
        source: { ...e.source, thickness: thicknessFrom },
        ...(e.layerId && { layerId: e.layerId }),
        ...(e.part && { part: e.part }),
      })),
  );
  if (walls.length === 0) {
    table.session.tell(
      'Select lines, arcs, paths, rectangles or outlines: each of their stretches becomes a wall.',
      true,
    );
    return;
  }
  if (walls.some((w) => Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]) < w.thickness / 8)) {
    table.session.tell(
      `Some of these stretches are much shorter than the next wall is thick (${formatLengthWithUnit(thickness, lengthStyle(table.session.state.model))}): set its thickness, or select others.`,
      true,
    );
    return;
  }
  swap(table, chosen, walls, `Make ${count(walls.length, 'wall')}`);
}

/** Walls that are selected become the lines that they are drawn by. */
export function wallsToLines(table: Table): void {
  const walls = chosenTraced(table).filter((e): e is Wall => e.type === 'wall');
  if (walls.length === 0) {
    table.session.tell('Select walls: each becomes the line that it is drawn by.', true);
    return;
  }
  swap(
    table,
    walls,
    walls.map(({ from, to, planeId, source, layerId, part, done }) => ({
      type: 'line' as const,
      id: crypto.randomUUID(),
      planeId,
      source,
      from,
      to,
      ...(layerId && { layerId }),
      ...(part && { part }),
      ...(done && { done }),
    })),
    `Make ${count(walls.length, 'line')} of walls`,
  );
}

function swap(table: Table, gone: readonly Traced[], added: readonly Traced[], label: string): void {
  const change = group([
    removeElements(table.session.state.model, gone),
    ...added.map((entity): Change => ({ type: 'add', entity })),
  ]);
  if (table.session.do(change, label)) table.setSelection(added.map((e) => e.id));
}

/** Four walls around a rectangle, against the clock, so that the right face is the outer one. */
const around = (table: Table, corners: readonly Point[]): Shape[] => {
  const area = corners.reduce((sum, p, i) => {
    const q = corners[(i + 1) % corners.length];
    return sum + p[0] * q[1] - q[0] * p[1];
  }, 0);
  const ring = area < 0 ? [...corners].reverse() : corners;
  return ring.map((p, i) => wallLike(table, p, ring[(i + 1) % ring.length]));
};

const [byCorners, bySide] = RECTANGLE.variants;
const NO_ROOM =
  'Walls need a rectangle with a width and a height: pick a corner off the first one\u2019s axes.';

/** Walls as a rectangle, by two corners or by a side and a depth. */
export function takeWallRectangle(table: Table): void {
  const corners = ([a, b]: readonly Point[]): Pair[] => [
    [a[0], a[1]],
    [b[0], a[1]],
    [b[0], b[1]],
    [a[0], b[1]],
  ];
  const plan: ShapePlan = {
    id: 'wall-rectangle',
    noun: 'Walls in a rectangle',
    label: 'Draw four walls',
    variants: [
      {
        ...byCorners,
        shape: (points) =>
          points[0][0] === points[1][0] || points[0][1] === points[1][1]
            ? NO_ROOM
            : around(table, corners(points)),
      },
      {
        ...bySide,
        words: 'by a side and a depth',
        shape: (points, context, closed) => {
          const [a, b, c] = points;
          if (c === undefined) return [wallLike(table, a, b)];
          const plain = bySide.shape(points, context, closed);
          return typeof plain === 'string' ? plain : around(table, turnedRectangle(a, b, c));
        },
      },
    ],
  };
  table.hold(new ShapeTool(table, plan));
}
