import { create } from 'zustand';
import { circleRing, type OutlineRing, type Pair, type Plate } from '@calque/core/model';
import { DENSITY } from '@calque/core/sections';

/** What the next plate and the next hole in one will measure; kept while the page is open. Millimetres. */
export interface NextPlate {
  thickness: number;
  rise: number;
  name: string;
  hole: { diameter: number; length: number; width: number };
}

export const useNextPlate = create<NextPlate>(() => ({
  thickness: 10,
  rise: 0,
  name: '',
  hole: { diameter: 22, length: 50, width: 22 },
}));

/** A plate of an outline with its holes, as the next one is to be. */
export function plateOf(rings: OutlineRing[]): Omit<Plate, 'id' | 'planeId' | 'source' | 'layerId'> {
  const { thickness, rise, name } = useNextPlate.getState();
  return {
    type: 'plate',
    rings,
    rise,
    thickness,
    name,
    material: 'S355',
    density: DENSITY.steel,
    weldedTo: null,
  };
}

/** An outline of straight sides. */
export const straightRing = (points: Pair[]): OutlineRing => ({ points, bulges: points.map(() => 0) });
export { circleRing };
