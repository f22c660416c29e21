import { applyTransform, meanScale } from '../../geometry/index.ts';
import { formatLength, formatNumber, type LengthStyle } from '../../units/index.ts';
import { heldPoints, pairOf, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece, wordsAt } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_GRIPS, NO_INSIDE, type Anchor, type Kind } from '../kind.ts';
import { boxOfPieces } from '../path/path.ts';
import { dimensionLines, figurePlace, measuredBy } from './lines.ts';

/**
 * A dimension whose figure follows the geometry. Points: the two ends of what is measured; for 'radius' the centre and a
 * point of the arc; for 'angle' the corner and a point on each leg. `on` says what each point rests on, null where on nothing.
 */
export interface Dimension extends Drawn {
  type: 'dimension';
  measures: 'aligned' | 'horizontal' | 'vertical' | 'radius' | 'angle';
  points: Pair[];
  on: (Anchor | null)[];
  /** A point of the dimension line. */
  at: Pair;
  /** Height of its figure, millimetres. */
  height: number;
}

/** The figure of a dimension as it is written. */
export function dimensionWords(
  d: Pick<Dimension, 'measures' | 'points' | 'at' | 'height'>,
  style: LengthStyle,
): string {
  const value = measuredBy(d);
  if (d.measures === 'angle') return `${formatNumber((value * 180) / Math.PI, 1)}°`;
  return d.measures === 'radius' ? `R ${formatLength(value, style)}` : formatLength(value, style);
}

/** Its points are where they are now (see rested). */
export const DIMENSION: Kind<Dimension> = {
  word: () => 'dimension',
  summary: dimensionWords,
  layer: { name: 'Dimensions', colour: 0x1d4fa3, lineType: 'solid' },
  isRun: false,
  carries: false,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  rests: {
    on: (e) => e.on,
    at: (e, places) => ({ ...e, points: e.points.map((p, i) => places[i] ?? p) }),
    renamed: (e, to) => ({ ...e, on: e.on.map((a) => a && to(a)) }),
  },
  shapes: (e, layer, style) => {
    const { at, angle } = figurePlace(e);
    return [
      ...dimensionLines(e).map((p) => shapeOfPiece(p, layer)),
      wordsAt(dimensionWords(e, style), at, angle, e.height, layer),
    ];
  },
  pieces: dimensionLines,
  box: (e) => boxOfPieces(dimensionLines(e)),
  length: () => 0,
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: (e) => [...e.points, e.at],
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  moved: (e, map) => ({
    ...e,
    points: e.points.map((p) => applyTransform(map, p)),
    at: applyTransform(map, e.at),
    height: e.height * meanScale(map),
  }),
  withGrip: (e, grip, to) =>
    grip === e.points.length
      ? { ...e, at: pairOf(to) }
      : {
          ...e,
          points: e.points.map((p, i) => (i === grip ? pairOf(to) : p)),
          on: e.on.map((a, i) => (i === grip ? null : a)),
        },
  // With the points that rest on nothing.
  stretched: (e, holds, by) => {
    const free = e.points.map((p, i) =>
        e.on[i] ? { points: [p], moved: false } : heldPoints([p], holds, by),
      ),
      line = heldPoints([e.at], holds, by);
    return free.some((f) => f.moved) || line.moved
      ? { ...e, points: free.map((f) => f.points[0]), at: line.points[0] }
      : e;
  },
};
