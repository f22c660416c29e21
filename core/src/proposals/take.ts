import { asPrinted, bandOf, placeInRoom, pointAt, withWords } from '../building/index.ts';
import { applyTransform, determinant, meanScale, turnOf, type Transform } from '../geometry/index.ts';
import {
  pairOf,
  usualOpening,
  type Pair,
  type Column,
  type GridLine,
  type Wall,
  type WallOpening,
  type Space,
} from '../model/index.ts';
import { bulgeOf } from './rooms.ts';
import type {
  ProposedColumn,
  ProposedGridLine,
  ProposedOpening,
  ProposedRoom,
  ProposedWall,
} from './types.ts';

/** What an element is made of, without what every element has. */
type Own<T> = Omit<T, 'id' | 'planeId' | 'source' | 'layerId'>;

/** How high what is taken stands, as its storey has it. */
export interface Standing {
  height: number;
  heightAssumed: boolean;
}

/** Thicknesses and sizes are told to this, millimetres. */
const TOLD = 0.1;
const told = (mm: number): number => Math.round(mm / TOLD) * TOLD;

/** A wall as it is taken, with the openings that were seen in it. `place`: sheet points to the plane. */
export function wallTaken(
  w: Pick<ProposedWall, 'from' | 'to' | 'thickness' | 'arc'>,
  openings: readonly ProposedOpening[],
  place: Transform,
  standing: Standing,
): Own<Wall> {
  const from = pairOf(applyTransform(place, w.from)),
    to = pairOf(applyTransform(place, w.to)),
    thickness = told(w.thickness),
    band = bandOf({ id: '', from, to, thickness, alignment: 'centre' }),
    isMirrored = determinant(place) < 0;
  /** On its middle line, so many millimetres from its first end. */
  const at = (along: number): Pair => {
    if (!w.arc) return pairOf(pointAt(band, along, 0));
    const { centre, radius } = w.arc,
      angle = Math.atan2(w.from[1] - centre[1], w.from[0] - centre[0]) + along / (radius * meanScale(place));
    return pairOf(
      applyTransform(place, [centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)]),
    );
  };
  const made = openings.map((o, i): WallOpening => {
    const { assumed, ...usual } = usualOpening(`o${i + 1}`, o.kind, at(o.from), at(o.to)),
      isLeft = (o.opens === 'left') !== isMirrored;
    const printed = asPrinted(
      {
        ...usual,
        leaves: o.leaves,
        ...(o.folds && { folds: true }),
        hung: o.hung,
        opens: isLeft ? 'left' : 'right',
        assumed: o.swing ? assumed.filter((m) => m !== 'swing') : assumed,
      },
      { tag: o.tag, width: null, height: o.height, sill: o.sill },
      standing.height,
    );
    return withWords(printed, o);
  });
  return {
    type: 'wall',
    from,
    to,
    thickness,
    alignment: 'centre',
    ...(w.arc && { curve: (isMirrored ? -1 : 1) * bulgeOf(w.arc.sweep) }),
    ...standing,
    ...(made.length > 0 && { openings: made }),
  };
}

export function columnTaken(c: ProposedColumn, place: Transform, standing: Standing): Own<Column> {
  return {
    type: 'column',
    at: pairOf(applyTransform(place, c.at)),
    angle: c.round ? 0 : (determinant(place) < 0 ? -c.turn : c.turn) + turnOf(place),
    section: c.round
      ? { form: 'round', diameter: told(c.width) }
      : { form: 'rectangle', width: told(c.width), depth: told(c.depth) },
    foot: 0,
    ...standing,
  };
}

export const gridLineTaken = (g: ProposedGridLine, place: Transform): Own<GridLine> => ({
  type: 'gridLine',
  from: pairOf(applyTransform(place, g.from)),
  to: pairOf(applyTransform(place, g.to)),
  name: g.name,
});

/** `letters`: how tall its words stand, millimetres. */
export function roomTaken(r: ProposedRoom, place: Transform, letters: number): Own<Space> {
  const outline = r.outline.map((p) => applyTransform(place, p));
  return {
    type: 'space',
    at: pairOf(placeInRoom({ outline, islands: [] })),
    name: r.name,
    number: r.number,
    letters,
    printed: r.printed === null ? null : r.printed * 1e6,
  };
}
