import { lineInPlan } from '@calque/core/planes';
import {
  buildingPlanes,
  get,
  planeOf,
  settingsOf,
  storeysOf,
  type Model,
  type WorkPlane,
} from '@calque/core/model';
import { formatLength } from '@calque/core/units';
import { slabOn, slabPlane, useSeen } from '@/project/seen';
import type { Brush } from '../brush';
import { SCREEN_LETTERS, widthOf, write, writeWhereFree } from './letters';
import { segmentPath } from './trace';

/** Half the width of the arrow that tells from where a plane is looked at, CSS pixels. */
const ARROW = 7;

/** Other planes as they show on the one in hand: upright ones as lines on a plan, the levels of storeys on an upright one. */
export function paintPlanes(
  brush: Brush,
  model: Model,
  planeId: string,
  size: { width: number; height: number },
): void {
  const upright = get(model, 'plane', planeId);
  if (upright) {
    // A part has no storeys, and nothing of the building is seen from it.
    if (upright.partId) return;
    paintLevels(brush, model, upright, size);
    paintSeen(brush, planeId);
  } else for (const plane of buildingPlanes(model)) paintInPlan(brush, plane);
}

function paintInPlan(brush: Brush, plane: WorkPlane): void {
  const line = lineInPlan(plane);
  if (!line) return;
  const { context, palette } = brush,
    [from, to] = line;
  context.save();
  context.strokeStyle = context.fillStyle = palette.ghost;
  context.lineWidth = 1.4;
  context.setLineDash([14, 4, 3, 4]);
  context.beginPath();
  segmentPath(brush, from, to);
  context.stroke();
  context.setLineDash([]);
  // At both ends an arrow that looks at the plane, from its right-hand side.
  const [ux, uy] = plane.across;
  context.beginPath();
  for (const end of [from, to]) {
    const [x, y] = brush.at(end);
    context.moveTo(x - ARROW * ux, y + ARROW * uy);
    context.lineTo(x + ARROW * ux, y - ARROW * uy);
    context.lineTo(x - 1.3 * ARROW * uy, y - 1.3 * ARROW * ux);
    context.closePath();
  }
  context.fill();
  context.restore();
}

/** Names of upright planes on a plan, where there is room beside their line. */
export function paintPlaneNames(brush: Brush, model: Model, planeId: string): void {
  if (get(model, 'plane', planeId)) return;
  const { context, palette, view } = brush;
  context.save();
  context.fillStyle = palette.ghost;
  for (const plane of buildingPlanes(model)) {
    const line = lineInPlan(plane);
    if (!line) continue;
    const [from] = line,
      [ux, uy] = plane.across;
    const away = (2.6 * ARROW) / view.scale,
      along = (0.5 * widthOf(context, plane.name) * SCREEN_LETTERS) / view.scale;
    writeWhereFree(
      brush,
      [plane.name],
      [from[0] + uy * away + ux * along, from[1] - ux * away + uy * along],
      { reach: 3 },
    );
  }
  context.restore();
}

/** Levels of storeys across the whole view, with their names at its left. */
function paintLevels(
  brush: Brush,
  model: Model,
  plane: WorkPlane,
  { width }: { width: number; height: number },
): void {
  const { context, palette, view } = brush,
    style = settingsOf(model);
  // Only on a plane whose y is the height does a level show as a line.
  if (plane.up[2] < 1 - 1e-9) return;
  context.save();
  context.strokeStyle = context.fillStyle = palette.ghost;
  context.lineWidth = 1;
  // How far it is shown in plan and in space; drawing goes on beyond.
  const [x0, y0] = brush.at([0, plane.height]),
    [x1, y1] = brush.at([plane.width, 0]);
  context.globalAlpha = 0.5;
  context.strokeRect(x0, y0, x1 - x0, y1 - y0);
  for (const storey of storeysOf(model)) {
    const [, y] = brush.at([0, storey.elevation - plane.origin[2]]);
    context.globalAlpha = 0.6;
    context.setLineDash([10, 5]);
    context.beginPath();
    context.moveTo(0, y);
    context.lineTo(width, y);
    context.stroke();
    context.globalAlpha = 1;
    const [left] = brush.at([0, 0]);
    write(
      brush,
      `${storey.name} ${formatLength(storey.elevation, style)}`,
      [(Math.max(left, 290) - view.x) / view.scale, storey.elevation - plane.origin[2] + 4 / view.scale],
      0,
      SCREEN_LETTERS,
      'left',
    );
  }
  context.restore();
}

/** The building as it is seen from the plane, to check by. */
function paintSeen(brush: Brush, planeId: string): void {
  const { planeId: of, seen } = useSeen.getState();
  if (!seen || of !== planeId) return;
  const { context, palette } = brush;
  context.save();
  context.strokeStyle = palette.ghost;
  context.globalAlpha = 0.75;
  for (const [lines, width] of [
    [seen.lines, 1],
    [seen.cuts, 2],
  ] as const) {
    context.lineWidth = width;
    context.beginPath();
    for (const { from, to } of lines) segmentPath(brush, from, to);
    context.stroke();
  }
  context.restore();
}

/** Far beyond any screen, CSS pixels. */
const BEYOND = 1e5;

/** What lies beyond the slab of space that is shown alone is veiled. */
export function paintVeil(brush: Brush, model: Model, planeId: string): void {
  const slab = slabPlane(model),
    plane = planeOf(model, planeId);
  if (!slab || !plane || slab.id === planeId) return;
  const { context, palette, view } = brush,
    { a, b, c, low, high } = slabOn(slab, plane),
    steep = Math.hypot(a, b);
  context.save();
  context.fillStyle = palette.table;
  context.globalAlpha = 0.9;
  context.beginPath();
  // A plane that runs along the slab is all within it, or all without.
  if (steep < 1e-9) {
    if (c < low || c > high) context.rect(-BEYOND, -BEYOND, 2 * BEYOND, 2 * BEYOND);
  } else
    for (const [bound, sign] of [
      [high, 1],
      [low, -1],
    ] as const) {
      if (!Number.isFinite(bound)) continue;
      // A place on the bound, and from there all that is farther: on the screen y goes down.
      const [x, y] = brush.at([((bound - c) * a) / steep ** 2, ((bound - c) * b) / steep ** 2]),
        [nx, ny] = [(sign * a) / steep, (-sign * b) / steep],
        far = BEYOND + Math.hypot(x, y) + Math.hypot(view.x, view.y);
      const corner = (along: number, away: number): [number, number] => [
        x + far * (along * -ny + away * nx),
        y + far * (along * nx + away * ny),
      ];
      context.moveTo(...corner(-1, 0));
      for (const p of [corner(1, 0), corner(1, 1), corner(-1, 1)]) context.lineTo(...p);
      context.closePath();
    }
  context.fill();
  context.restore();
}
