import type { Model, Storey, Wall } from '../model/index.ts';
import { get, looseElements } from '../model/index.ts';

export interface WallRow {
  wall: Wall;
  storey: Storey | null;
  /** Along the drawn line, millimetres. */
  length: number;
  /** One face, length times height, square millimetres. */
  area: number;
}

export function wallSchedule(model: Model): WallRow[] {
  return looseElements(model)
    .filter((e) => e.type === 'wall')
    .map((wall) => {
      const length = Math.hypot(wall.to[0] - wall.from[0], wall.to[1] - wall.from[1]);
      return { wall, storey: get(model, 'storey', wall.planeId), length, area: length * wall.height };
    });
}
