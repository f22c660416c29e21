import { boxOfPoints, TAU, type Point } from '@calque/core/geometry';
import type { ColumnSection, Traced } from '@calque/core/model';
import { putInPlace } from '@/drawing/made-of';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { columnAt } from './plan';

/** Sides of a drawn rectangle stray by less than this, millimetres. */
const SQUARE = 0.5;

interface Found {
  at: Point;
  angle: number;
  section: ColumnSection;
}

/** A rectangle by its four corners, however it is turned; null for any other shape. */
function rectangleOf(points: readonly Point[]): Found | null {
  if (points.length !== 4) return null;
  const [a, b, c, d] = points,
    [wx, wy] = [b[0] - a[0], b[1] - a[1]],
    [dx, dy] = [d[0] - a[0], d[1] - a[1]],
    width = Math.hypot(wx, wy),
    depth = Math.hypot(dx, dy);
  if (Math.abs(wx * dx + wy * dy) > SQUARE * Math.max(width, depth)) return null;
  if (Math.hypot(b[0] + d[0] - a[0] - c[0], b[1] + d[1] - a[1] - c[1]) > SQUARE) return null;
  return {
    at: [(a[0] + c[0]) / 2, (a[1] + c[1]) / 2],
    angle: Math.atan2(wy, wx),
    section: { form: 'rectangle', width, depth },
  };
}

function outlineOf(points: readonly Point[], bulges: readonly number[]): Found {
  const isStraight = bulges.every((b) => b === 0),
    rectangle = isStraight ? rectangleOf(points) : null;
  if (rectangle) return rectangle;
  const [x0, y0, x1, y1] = boxOfPoints(points),
    at: Point = [(x0 + x1) / 2, (y0 + y1) / 2];
  return {
    at,
    angle: 0,
    section: {
      form: 'outline',
      points: points.map(([x, y]) => [x - at[0], y - at[1]]),
      bulges: [...bulges],
    },
  };
}

/** The column that an element outlines; null for what outlines none. */
function columnIn(e: Traced): Found | null {
  if (e.type === 'arc' && Math.abs(e.sweep) >= TAU - 1e-9)
    return { at: e.centre, angle: 0, section: { form: 'round', diameter: 2 * e.radius } };
  if (e.type === 'path' && e.closed) return outlineOf(e.points, e.bulges);
  return e.type === 'area' && e.rings.length === 1 ? outlineOf(e.rings[0].points, e.rings[0].bulges) : null;
}

/** Circles and closed outlines that are selected become columns, as high as their storey; what they were goes. */
export function makeColumns(table: Table): void {
  const found = chosenTraced(table).flatMap((e) => {
    const column = columnIn(e);
    if (!column) return [];
    const shape = { ...columnAt(table, column.at, column.section), angle: column.angle };
    return [{ e, shape }];
  });
  if (found.length === 0) {
    table.session.tell('Select circles or closed outlines: columns are made of these.', true);
    return;
  }
  putInPlace(table, found, `Make ${count(found.length, 'column')}`);
}
