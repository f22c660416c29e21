import { areaOf, type Room } from '../building/index.ts';
import { sharedBy } from '../geometry/index.ts';
import type { BoundaryRow, SpaceRow } from './spaces.ts';

interface Counted {
  room: Room;
  row: SpaceRow;
}

/** Floors and ceilings that share less than this, square metres, do not meet. */
const LEAST = 0.01;

const SIDE = {
  facing: null,
  length: 0,
  glazing: 0,
  doors: 0,
  wall: null,
  wallType: null,
  thickness: null,
} as const;

/** What of a room's floor or ceiling lies against each of the rooms of another storey, and what is left. */
function against(
  { room, row }: Counted,
  others: readonly Counted[],
  side: 'floor' | 'ceiling',
  rest: string | null,
): BoundaryRow[] {
  let left = row.area;
  const rows = others.flatMap((other): BoundaryRow[] => {
    const shared =
      areaOf(sharedBy([room.outline, ...room.islands], [other.room.outline, ...other.room.islands])) / 1e6;
    if (shared < LEAST) return [];
    left -= shared;
    const { name, unheated } = other.row;
    return [{ ...SIDE, side, beyond: name, unheated, gross: shared, net: shared }];
  });
  if (left >= LEAST) rows.push({ ...SIDE, side, beyond: rest, unheated: false, gross: left, net: left });
  return rows;
}

/**
 * Floors and ceilings of the rooms of all storeys, the lowest storey first. Below the lowest is the ground, above the highest the
 * outside; where the storey between has no rooms nobody has traced what lies there. What of a floor lies against no room of the storey
 * next to it lies against its walls, or outside: it is told as null.
 */
export function levelSides(storeys: readonly (readonly Counted[])[]): Map<SpaceRow, BoundaryRow[]> {
  const sides = new Map<SpaceRow, BoundaryRow[]>();
  storeys.forEach((rooms, i) => {
    const below = storeys[i - 1],
      above = storeys[i + 1];
    for (const counted of rooms)
      sides.set(counted.row, [
        ...against(counted, below ?? [], 'floor', below ? null : 'ground'),
        ...against(counted, above ?? [], 'ceiling', above ? null : 'outside'),
      ]);
  });
  return sides;
}
