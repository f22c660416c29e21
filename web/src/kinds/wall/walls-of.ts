import {
  arcPiece,
  bulgeOf,
  flattenPiece,
  pieceEnd,
  piecePart,
  pieceStart,
  turnedRectangle,
  type Piece,
  type Point,
} from '@calque/core/geometry';
import {
  get,
  group,
  isRoundEnough,
  isRun,
  piecesOf,
  plainestFor,
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
import { ARC } from '@/kinds/arc/plans';
import { RECTANGLE } from '@/kinds/path/plans';
import { ShapeTool, type ShapePlan } from '@/drawing/shape-tool';
import { nextThicknessFrom, nextWall } from './next-wall';

/** A curve becomes as many straight walls as keep within this of it, millimetres. */
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

/** A wall along an arc, from the end that is nearest to a point; null where the arc is too round for a wall so thick, or more than half a turn. */
function bentLike(table: Table, piece: Piece, near: Point): (Shape & { type: 'wall' }) | null {
  const [p, q] = [pieceStart(piece), pieceEnd(piece)],
    turned = Math.hypot(q[0] - near[0], q[1] - near[1]) < Math.hypot(p[0] - near[0], p[1] - near[1]),
    bulge = bulgeOf(piece),
    wall = turned ? { ...wallLike(table, q, p), curve: -bulge } : { ...wallLike(table, p, q), curve: bulge };
  return isRoundEnough(wall) ? wall : null;
}

/** Walls along a piece: a bent one along an arc where it can be. */
function wallsAlong(table: Table, piece: Piece): (Shape & { type: 'wall' })[] {
  if (piece.kind === 'arc') {
    const halves = piece.arc.end - piece.arc.start > Math.PI ? 2 : 1,
      bent = Array.from({ length: halves }, (_, i) => {
        const part = piecePart(piece, i / halves, (i + 1) / halves);
        return bentLike(table, part, pieceStart(part));
      });
    if (bent.every((w) => w !== null)) return bent;
  }
  return straight(piece).map(([p, q]) => wallLike(table, p, q));
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
      .flatMap((piece) => wallsAlong(table, piece))
      .map((like): Wall => ({
        ...like,
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
    table.session.tell('Select walls: each becomes the line or arc that it is drawn by.', true);
    return;
  }
  swap(
    table,
    walls,
    walls.flatMap((wall) => {
      const { planeId, source, layerId, part, done } = wall,
        line = plainestFor(piecesOf(wall), { id: crypto.randomUUID(), planeId, source, layerId });
      return line ? [{ ...line, ...(part && { part }), ...(done && { done }) }] : [];
    }),
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

const TOO_ROUND =
  'A wall bends by half a turn at most, and not closer than it is thick: pick points that lie flatter, or draw it as two.';

/** A wall bent to an arc, through three points or by its ends and a radius. */
export function takeWallArc(table: Table): void {
  const bent = (shape: Shape | Shape[] | string, points: readonly Point[]): Shape | string => {
    if (typeof shape === 'string') return shape;
    const [one] = Array.isArray(shape) ? shape : [shape];
    if (one.type === 'line') return wallLike(table, one.from, one.to);
    if (one.type !== 'arc') return TOO_ROUND;
    const { centre, radius, start, sweep } = one,
      piece = arcPiece({ cx: centre[0], cy: centre[1], r: radius, start, end: start + sweep });
    return bentLike(table, piece, points[0]) ?? TOO_ROUND;
  };
  const [through, byRadius] = ARC.variants;
  table.hold(
    new ShapeTool(table, {
      id: 'wall-arc',
      noun: 'Bent wall',
      label: 'Draw a bent wall',
      variants: [through, byRadius].map((v) => ({
        ...v,
        shape: (points, context, closed) => bent(v.shape(points, context, closed), points),
      })),
    }),
  );
}
