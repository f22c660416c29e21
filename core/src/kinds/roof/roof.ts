import { lengthOfPieces, outlineOf, raised, ringArea, type Block } from '../../geometry/index.ts';
import { formatArea } from '../../units/index.ts';
import { heldPoints, pairOf, stretchesLeft, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece, type Shape } from '../flat-shape.ts';
import { listedDoubts, NO_FRAME, NO_INSIDE, type Kind } from '../kind.ts';
import { boxOfPieces, edgesAlong } from '../path/path.ts';
import { applyTransform } from '../../geometry/index.ts';
import { roofLines, roofShape, type Covering } from './shape.ts';

export const ROOF_MEASURES = ['pitch', 'eaves', 'overhang', 'thickness'] as const;
export type RoofMeasure = (typeof ROOF_MEASURES)[number];

/** A roof over an outline, its planes rising from the sides; millimetres, radians. */
export interface Roof extends Drawn, Covering {
  type: 'roof';
  /** The outline that it covers: the outside faces of the walls below. */
  points: Pair[];
  /** One for each side, from its first corner to the next; GABLE where it goes straight up. All of them 0: a flat roof. */
  pitches: number[];
  /** Its upper surface at the eaves, the outer edge, above the level of its storey. */
  eaves: number;
  /** How far it goes beyond the outline, on every side. */
  overhang: number;
  /** Measured upright. */
  thickness: number;
  assumed: RoofMeasure[];
}

const piecesOf = (e: Roof) => roofLines(e);

export const ROOF: Kind<Roof> = {
  word: () => 'roof',
  summary: (e, style) => formatArea(Math.abs(ringArea(e.points)), style.units),
  layer: { name: 'Roofs', colour: 0x7a4a2b, lineType: 'dashed' },
  isRun: false,
  carries: true,
  rests: null,
  refers: [],
  shapes: (e, layer) => piecesOf(e).map((piece): Shape => shapeOfPiece(piece, layer)),
  pieces: piecesOf,
  box: (e) => boxOfPieces(piecesOf(e)),
  length: (e) => lengthOfPieces(piecesOf(e)),
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: (e) => e.points,
  joints: (e) => e.points.map((_, i) => i),
  ends: () => null,
  edges: (e) =>
    edgesAlong(
      e.points,
      e.points.map(() => 0),
      true,
      0,
    ),
  doubts: listedDoubts<Roof>(),
  blocks: (e): Block[] => {
    const shape = roofShape(e);
    return 'why' in shape
      ? []
      : shape.faces.map(({ ring, surface }) => ({
          outline: outlineOf([ring]),
          low: raised(surface, -e.thickness),
          high: surface,
        }));
  },
  moved: (e, map) => ({ ...e, points: e.points.map((p) => applyTransform(map, p)) }),
  withGrip: (e, grip, to) => {
    const points = e.points.map((p, i) => (i === grip ? pairOf(to) : p));
    return stretchesLeft(points, true) ? { ...e, points } : null;
  },
  stretched: (e, holds, by) => {
    const { points, moved } = heldPoints(e.points, holds, by);
    if (!moved) return e;
    return stretchesLeft(points, true) ? { ...e, points } : null;
  },
};
