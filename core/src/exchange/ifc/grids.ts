import type { GridLine } from '../../model/index.ts';
import type { IfcScope } from './scope.ts';
import type { Ref } from '../step/step-text.ts';

/** Lines that turn less than this from one another (sine) are of one row. */
const ONE_ROW = 0.01;

/** Grid lines by the way they run, the row with the most first. */
function rowsOf(lines: readonly GridLine[]): GridLine[][] {
  const rows: { ux: number; uy: number; lines: GridLine[] }[] = [];
  for (const line of lines) {
    const [dx, dy] = [line.to[0] - line.from[0], line.to[1] - line.from[1]],
      length = Math.hypot(dx, dy),
      row = rows.find(({ ux, uy }) => Math.abs(dx * uy - dy * ux) <= ONE_ROW * length);
    if (row) row.lines.push(line);
    else rows.push({ ux: dx / length, uy: dy / length, lines: [line] });
  }
  return rows.map((r) => r.lines).sort((a, b) => b.length - a.length);
}

/** The grid of a storey. IFC has none of a single row: null then, and where there are no lines. */
export function writeGrid(
  scope: IfcScope,
  storeyId: string,
  lines: readonly GridLine[],
  storeyPlacement: Ref,
): Ref | null {
  const [first, second, ...others] = rowsOf(lines);
  if (!first || !second) return null;
  const { file } = scope,
    curves: Ref[] = [];
  const axes = (row: readonly GridLine[]) =>
    row.map((line) => {
      const curve = scope.polyline([line.from, line.to], false);
      curves.push(curve);
      return file.add('IFCGRIDAXIS', line.name, curve, true);
    });
  const [u, v, w] = [axes(first), axes(second), axes(others.flat())];
  return file.add(
    'IFCGRID',
    scope.id(`grid ${storeyId}`),
    null,
    'Grid',
    null,
    null,
    scope.local(storeyPlacement, [0, 0, 0]),
    scope.footprint(curves),
    u,
    v,
    w.length > 0 ? w : null,
    null,
  );
}
