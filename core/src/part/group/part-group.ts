import { bulgeOf, areaOfPieces, pieceStart, type ModelPoint, type Piece } from '../../geometry/index.ts';
import {
  applyOrThrow,
  arcFields,
  makeAssembly,
  type Change,
  type Line,
  type Model,
  type OutlineRing,
  type Part,
  type Plate,
  type Traced,
  type TracedArc,
} from '../../model/index.ts';
import { regionsOf } from '../profile/loops.ts';
import type { SolidView } from '../held/view.ts';

/** A part as it is put into a building or a frame. */
export interface PlacedPart {
  part: Part;
  /** What is seen of it square onto the plane on which it is put. */
  view: SolidView;
  /** Of the solid, and how far it reaches through that plane's direction, millimetres. */
  volume: number;
  deep: number;
  planeId: string;
}

/** A solid is flat where its outline and its depth make up its volume within this share. */
const FLAT = 1e-7;
const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;

/** The plate that a part is, where it is one of a single outline with holes right through it; null for any other. */
export function plateOfPart({ part, view, volume, deep, planeId }: PlacedPart, id: string): Plate | null {
  let regions;
  try {
    regions = regionsOf(view.visible.map((piece, i) => ({ id: String(i), piece })));
  } catch {
    return null;
  }
  const [region] = regions;
  if (regions.length !== 1 || view.hidden.length > 0) return null;
  const loops = [region.outer, ...region.holes].map((l) => l.pieces.map((p) => p.piece));
  if (loops.flat().some((p) => p.kind === 'cubic')) return null;
  const area = loops.reduce((sum, loop, i) => sum + (i === 0 ? 1 : -1) * Math.abs(areaOfPieces(loop)), 0);
  if (!(Math.abs(area * deep - volume) <= FLAT * volume)) return null;
  return {
    type: 'plate',
    id,
    planeId,
    rings: loops.map(ringOf),
    rise: 0,
    thickness: deep,
    name: part.name,
    material: part.material,
    density: part.density,
    weldedTo: null,
    source,
  };
}

function ringOf(loop: readonly Piece[]): OutlineRing {
  const [first] = loop;
  // A whole circle has no corner of its own: it is two halves.
  if (loop.length === 1 && first.kind === 'arc') {
    const { cx, cy, r } = first.arc;
    return {
      points: [
        [cx - r, cy],
        [cx + r, cy],
      ],
      bulges: [1, 1],
    };
  }
  return { points: loop.map((p) => pieceStart(p)), bulges: loop.map(bulgeOf) };
}

/** What is seen of a part as lines and arcs. */
function lineworkOf({ view, planeId }: PlacedPart, newId: () => string): Traced[] {
  return view.visible.flatMap((piece): Traced[] => {
    if (piece.kind === 'segment') {
      const line: Line = {
        type: 'line',
        id: newId(),
        planeId,
        from: [...piece.from],
        to: [...piece.to],
        source,
      } as Line;
      return [line];
    }
    if (piece.kind === 'arc') {
      const arc: TracedArc = { type: 'arc', id: newId(), planeId, ...arcFields(piece.arc), source };
      return [arc];
    }
    return [];
  });
}

/**
 * Puts a part into a building or a frame as a group, placed by its own zero at that of the plane: a plate where it is one, which has its weight and stands in
 * space, else the lines that are seen of it there. Null where nothing is seen of it.
 */
export function placedPart(
  model: Model,
  placed: PlacedPart,
  newId: () => string,
): { change: Change; isPlate: boolean } | null {
  const plate = plateOfPart(placed, newId()),
    elements = plate ? [plate] : lineworkOf(placed, newId);
  if (elements.length === 0) return null;
  const adds: Change = {
      type: 'group',
      changes: elements.map((entity): Change => ({ type: 'add', entity })),
    },
    made = makeAssembly(applyOrThrow(model, adds), elements, {
      id: newId(),
      placedId: newId(),
      name: placed.part.name,
      base: [0, 0],
    });
  return made && { change: { type: 'group', changes: [adds, made] }, isPlate: plate !== null };
}

/** How far a box reaches along a direction, millimetres. */
export const deepAlong = (box: readonly number[], way: ModelPoint): number =>
  [0, 1, 2].reduce((sum, k) => sum + Math.abs(way[k]) * (box[k + 3] - box[k]), 0);
