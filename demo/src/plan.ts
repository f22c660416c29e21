import { joinWalls } from '@calque/core/building';
import type { Point } from '@calque/core/geometry';
import type { Wall } from '@calque/core/model';
import { PENS, type Drafter } from './draft.ts';

export interface Opening {
  /** Distance from the wall's start to the opening's start. */ at: number;
  width: number;
  kind: 'door' | 'window' | 'gate';
  /** Side to which a door opens: 1 left of the wall's direction. */ side?: 1 | -1;
  hinge?: 'start' | 'end';
}
export interface PlanWall {
  from: Point;
  to: Point;
  thickness: number;
  openings?: Opening[];
}
export interface Room {
  name: string;
  area: string;
  at: Point;
}

/** A wall as the model knows it; used to draw plans and to trace the demo. */
export const modelWall = (id: string, from: Point, to: Point, thickness: number): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from: [from[0], from[1]],
  to: [to[0], to[1]],
  thickness,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source: { underlayId: null, ends: 'snapped', thickness: 'measured' },
});

/** Draws walls with their openings: solid outlines, doors with their swing, windows with their panes. */
export function drawWalls(d: Drafter, walls: readonly PlanWall[]): void {
  const solid: Wall[] = [];
  walls.forEach((w, n) => {
    const length = Math.hypot(w.to[0] - w.from[0], w.to[1] - w.from[1]);
    const ux = (w.to[0] - w.from[0]) / length,
      uy = (w.to[1] - w.from[1]) / length;
    const at = (s: number, off = 0): Point => [w.from[0] + ux * s - uy * off, w.from[1] + uy * s + ux * off];
    let from = 0;
    const openings = [...(w.openings ?? [])].sort((a, b) => a.at - b.at);
    openings.forEach((o, i) => {
      solid.push(modelWall(`${n}-${i}`, at(from), at(o.at), w.thickness));
      from = o.at + o.width;
      drawOpening(d, w, o, at);
    });
    solid.push(modelWall(`${n}-last`, at(from), at(length), w.thickness));
  });
  for (const polygon of joinWalls(solid).outlines) for (const ring of polygon) d.path(ring, PENS.wall, true);
}

function drawOpening(d: Drafter, w: PlanWall, o: Opening, at: (s: number, off?: number) => Point): void {
  const h = w.thickness / 2;
  if (o.kind === 'window') {
    for (const off of [-h, -h / 4, h / 4, h]) d.line(at(o.at, off), at(o.at + o.width, off), PENS.thin);
    return;
  }
  if (o.kind === 'gate') {
    for (const off of [-h, h]) d.line(at(o.at, off), at(o.at + o.width, off), { width: 0.3, dash: [4, 2] });
    return;
  }
  const side = o.side ?? 1;
  const hinge = o.hinge === 'end' ? o.at + o.width : o.at,
    other = o.hinge === 'end' ? o.at : o.at + o.width;
  const c = at(hinge, side * h),
    closed = at(other, side * h),
    opened = at(hinge, side * (h + o.width));
  d.line(c, opened, PENS.thin);
  const a = Math.atan2(closed[1] - c[1], closed[0] - c[0]);
  let b = Math.atan2(opened[1] - c[1], opened[0] - c[0]);
  if (b - a > Math.PI) b -= 2 * Math.PI;
  if (b - a < -Math.PI) b += 2 * Math.PI;
  d.arc(c, o.width, Math.min(a, b), Math.max(a, b), PENS.thin);
}

export function nameRooms(d: Drafter, rooms: readonly Room[]): void {
  for (const { name, area, at } of rooms) {
    d.text(name, at, 8, { bold: true });
    d.text(area, at, 6.5, { lift: -9 });
  }
}

/** A racing shell on its rack, seen from above. */
export function drawShell(d: Drafter, x: number, y: number, length: number): void {
  const half = 280;
  d.line([x, y], [x + length * 0.12, y + half], PENS.light);
  d.line([x, y], [x + length * 0.12, y - half], PENS.light);
  d.line([x + length * 0.12, y + half], [x + length * 0.88, y + half], PENS.light);
  d.line([x + length * 0.12, y - half], [x + length * 0.88, y - half], PENS.light);
  d.line([x + length, y], [x + length * 0.88, y + half], PENS.light);
  d.line([x + length, y], [x + length * 0.88, y - half], PENS.light);
}
