import {
  arcPiece,
  circleThrough,
  meanScale,
  movedArc,
  normalAngle,
  pieceAt,
  pieceBox,
  pieceLength,
  TAU,
  translation,
  type Arc,
  type Point,
} from '../../geometry/index.ts';
import { formatLengthWithUnit } from '../../units/index.ts';
import { isOnePoint, pairOf, scaledDashes, type Dashed, type Drawn, type Pair } from '../drawn.ts';
import { shapeOfPiece } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_FRAME, NO_INSIDE, type Kind } from '../kind.ts';

/** An arc, counter-clockwise from `start` (radians) through `sweep`; a circle where that is a full turn. */
export interface TracedArc extends Drawn, Dashed {
  type: 'arc';
  centre: Pair;
  radius: number;
  start: number;
  sweep: number;
}

type Round = Pick<TracedArc, 'centre' | 'radius' | 'start' | 'sweep'>;

/** An arc element as geometry has it. */
export const arcOf = (e: Round): Arc => ({
  cx: e.centre[0],
  cy: e.centre[1],
  r: e.radius,
  start: e.start,
  end: e.start + e.sweep,
});
export const arcFields = (arc: Arc): Round => ({
  centre: [arc.cx, arc.cy],
  radius: arc.r,
  start: arc.start,
  sweep: arc.end - arc.start,
});

const FULL_TURN = 2 * Math.PI - 1e-9;
export const isCircle = (e: Pick<TracedArc, 'sweep'>): boolean => e.sweep >= FULL_TURN;

const pieceOf = (e: Round) => arcPiece(arcOf(e));
/** Of an arc its two ends, its middle and its centre; of a circle its four quarters and its centre. */
const gripsOf = (e: TracedArc): [number, number][] => [
  ...(isCircle(e) ? [0, 0.25, 0.5, 0.75] : [0, 1, 0.5]).map((t) => pieceAt(pieceOf(e), t)),
  [e.centre[0], e.centre[1]],
];

/** The arc from one point through another to a third, with whether it runs clockwise; null where they lie on a line. */
export function arcThrough(
  from: Point,
  through: Point,
  to: Point,
): { fields: Round; clockwise: boolean } | null {
  const circle = circleThrough(from, through, to);
  if (!circle) return null;
  const angle = (p: Point) => Math.atan2(p[1] - circle.cy, p[0] - circle.cx);
  const full = normalAngle(angle(to) - angle(from)),
    part = normalAngle(angle(through) - angle(from));
  const clockwise = part > full;
  const sweep = clockwise ? TAU - full : full;
  return sweep > 1e-12
    ? {
        fields: {
          centre: [circle.cx, circle.cy],
          radius: circle.r,
          start: normalAngle(angle(clockwise ? to : from)),
          sweep,
        },
        clockwise,
      }
    : null;
}

/** A circle's quarters set its radius, the centre moves it; an arc bends through its ends and middle, and keeps its direction. */
function withGrip(e: TracedArc, grip: number, to: Point): TracedArc | null {
  const grips = gripsOf(e);
  if (grip === grips.length - 1) return { ...e, centre: pairOf(to) };
  if (isCircle(e))
    return isOnePoint(to, e.centre)
      ? null
      : { ...e, radius: Math.hypot(to[0] - e.centre[0], to[1] - e.centre[1]) };
  const [from, end, middle] = grips.slice(0, 3).map((p, i): Point => (i === grip ? to : p));
  const arc = arcThrough(from, middle, end);
  return arc ? { ...e, ...arc.fields } : null;
}

const moved: Kind<TracedArc>['moved'] = (e, map) => ({
  ...e,
  ...scaledDashes(e, meanScale(map)),
  ...arcFields(movedArc(arcOf(e), map)),
  sweep: e.sweep,
});

export const ARC: Kind<TracedArc> = {
  word: (e) => (isCircle(e) ? 'circle' : 'arc'),
  summary: (e, style) => formatLengthWithUnit(pieceLength(pieceOf(e)), style),
  layer: { name: 'Lines', colour: 0x55616d, lineType: 'solid' },
  isRun: true,
  carries: true,
  rests: null,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes: (e, layer) => [shapeOfPiece(pieceOf(e), layer, e)],
  pieces: (e) => [pieceOf(e)],
  box: (e) => pieceBox(pieceOf(e)),
  length: (e) => pieceLength(pieceOf(e)),
  frame: NO_FRAME,
  inside: NO_INSIDE,
  grips: gripsOf,
  joints: (e) => (isCircle(e) ? [] : [0, 1]),
  ends: (e) => (isCircle(e) ? null : [pieceAt(pieceOf(e), 0), pieceAt(pieceOf(e), 1)]),
  edges: NO_EDGES,
  moved,
  withGrip,
  // It follows with its ends, and goes as a whole with both, a circle with its centre.
  stretched: (e, holds, by) => {
    const grips = gripsOf(e),
      held = (isCircle(e) ? [grips[grips.length - 1]] : grips.slice(0, 2)).map(holds);
    if (held.every(Boolean)) return moved(e, translation(by[0], by[1]));
    const end = held.indexOf(true);
    return end < 0 ? e : withGrip(e, end, [grips[end][0] + by[0], grips[end][1] + by[1]]);
  },
};
