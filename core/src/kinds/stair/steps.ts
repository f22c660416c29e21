import { segmentPiece, type Block, type Piece, type Point, type Ring } from '../../geometry/index.ts';
import type { Pair } from '../drawn.ts';

/** The second flight of a stair that turns back on a landing. */
export interface ReturnFlight {
  risers: number;
  /** On which side of the first flight it comes back, seen along that. */
  side: 'left' | 'right';
  /** Between the two flights. */
  gap: number;
  /** How deep the landing is, beyond the last riser of the first flight. */
  landing: number;
}

/** Straight flights; millimetres. */
export interface Steps {
  /** Middles of the first and of the last riser of its first flight. */
  from: Pair;
  to: Pair;
  width: number;
  /** Risers of the first flight, both ends counted. */
  risers: number;
  back?: ReturnFlight | null;
  /** From the foot of the first riser to the top of the last. */
  rise: number;
  /** What is below each tread, down from the tread before it. */
  thickness: number;
}

/** Risers of both flights. */
export const risersOf = ({ risers, back }: Pick<Steps, 'risers' | 'back'>): number =>
  risers + (back?.risers ?? 0);

/** Twice the rise and the going together make a step of a person: F. Blondel, Cours d'architecture (1675), 24 pouces; in use as 600 to 660 mm. */
export const STRIDE = { least: 600, most: 660 };
/** Rises beyond these are steep, or hardly a step, millimetres. */
export const USUAL_RISE = { least: 120, most: 200 };

export interface StairFigures {
  risers: number;
  rise: number;
  going: number;
  /** Twice the rise and the going. */
  stride: number;
  /** What is unusual of it, in words. */
  doubts: string[];
}

/** The figures of a stair's steps, millimetres, and what of them is not usual. */
export function stairFigures(e: Steps): StairFigures {
  const risers = risersOf(e),
    rise = e.rise / risers,
    going = goingOf(e),
    stride = 2 * rise + going,
    doubts: string[] = [];
  if (rise > USUAL_RISE.most) doubts.push('steep: its rise is above 200 mm');
  if (rise < USUAL_RISE.least) doubts.push('flat: its rise is below 120 mm');
  if (stride < STRIDE.least) doubts.push('twice the rise and the going are less than 600 mm');
  if (stride > STRIDE.most) doubts.push('twice the rise and the going are more than 660 mm');
  return { risers, rise, going, stride, doubts };
}

/** From riser to riser in plan. */
const goingOf = ({ from, to, risers }: Steps): number =>
  Math.hypot(to[0] - from[0], to[1] - from[1]) / (risers - 1);

/** Places along the first flight from its first riser, and to the left of its middle. */
function placesOf({ from, to }: Steps): (along: number, left: number) => Point {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]),
    [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  return (along, left) => [from[0] + ux * along - uy * left, from[1] + uy * along + ux * left];
}

/** A level part of a stair: its extent along the first flight and across it, and its height. */
interface Part {
  along: [number, number];
  across: [number, number];
  top: number;
}

/** The middle of the second flight, to the left of that of the first. */
const shiftOf = ({ width, back }: Steps): number =>
  back ? (back.side === 'left' ? 1 : -1) * (width + back.gap) : 0;

/** Treads and landing, from below. */
function partsOf(e: Steps): Part[] {
  const going = goingOf(e),
    rise = e.rise / risersOf(e),
    half = e.width / 2,
    length = going * (e.risers - 1);
  const parts: Part[] = Array.from({ length: e.risers - 1 }, (_, i) => ({
    along: [i * going, (i + 1) * going],
    across: [-half, half],
    top: (i + 1) * rise,
  }));
  if (!e.back) return parts;
  const shift = shiftOf(e);
  parts.push({
    along: [length, length + e.back.landing],
    across: [Math.min(-half, shift - half), Math.max(half, shift + half)],
    top: e.risers * rise,
  });
  for (let i = 0; i < e.back.risers - 1; i++)
    parts.push({
      along: [length - (i + 1) * going, length - i * going],
      across: [shift - half, shift + half],
      top: (e.risers + i + 1) * rise,
    });
  return parts;
}

const ringOf = (e: Steps, { along: [a, b], across: [l, r] }: Part): Ring => {
  const place = placesOf(e);
  return [place(a, l), place(b, l), place(b, r), place(a, r)];
};

/** The steps and the landing as blocks; none reaches below the foot of the stair. */
export function stairParts(e: Steps): Block[] {
  const rise = e.rise / risersOf(e);
  return partsOf(e).map((part): Block => ({
    outline: [ringOf(e, part)],
    low: Math.max(0, part.top - rise - e.thickness),
    high: part.top,
  }));
}

/** The outline of a stair in plan, turns and all. */
export function stairOutline(e: Steps): Ring {
  const place = placesOf(e),
    half = e.width / 2,
    length = goingOf(e) * (e.risers - 1);
  if (!e.back) return [place(0, -half), place(length, -half), place(length, half), place(0, half)];
  const sign = e.back.side === 'left' ? 1 : -1,
    shift = shiftOf(e),
    end = length + e.back.landing,
    start = length - goingOf(e) * (e.back.risers - 1);
  return [
    place(0, -sign * half),
    place(end, -sign * half),
    place(end, shift + sign * half),
    place(start, shift + sign * half),
    place(start, shift - sign * half),
    place(length, shift - sign * half),
    place(length, sign * half),
    place(0, sign * half),
  ];
}

/** Share of a going that the head of the arrow takes. */
const HEAD = 0.6;

/** What is drawn of a stair in plan: its outline, its risers, and the way up with an arrow. */
export function stairLines(e: Steps): Piece[] {
  const place = placesOf(e),
    going = goingOf(e),
    half = e.width / 2,
    length = going * (e.risers - 1),
    outline = stairOutline(e);
  const lines = outline.map((p, i) => segmentPiece(p, outline[(i + 1) % outline.length]));
  const across = (along: number, left: number) =>
    lines.push(segmentPiece(place(along, left - half), place(along, left + half)));
  // The ends of a flight lie on its outline.
  for (let i = 1; i < e.risers - (e.back ? 0 : 1); i++) across(i * going, 0);
  const shift = shiftOf(e);
  const way: Point[] = [place(0, 0)];
  let last = length;
  if (e.back) {
    for (let i = 0; i < e.back.risers - 1; i++) across(length - i * going, shift);
    const middle = length + e.back.landing / 2;
    last = length - going * (e.back.risers - 1);
    way.push(place(middle, 0), place(middle, shift));
  }
  way.push(place(last, shift));
  for (let i = 0; i + 1 < way.length; i++) lines.push(segmentPiece(way[i], way[i + 1]));
  const back = (e.back ? 1 : -1) * going * HEAD,
    tip = way[way.length - 1];
  for (const side of [1, -1])
    lines.push(segmentPiece(tip, place(last + back, shift + (side * going * HEAD) / 2)));
  return lines;
}
