import { applyTransform, boxOfPoints, determinant, meanScale, type Transform } from '../../geometry/index.ts';
import { pairOf, shifted, type Drawn, type Pair } from '../drawn.ts';
import { textWidth } from '../flat-shape.ts';
import { NO_BLOCKS, NO_EDGES, NO_GRIPS, type Kind } from '../kind.ts';

/** A line of text that begins at a point; height of its capitals and small letters together (em), millimetres. */
export interface Note extends Drawn {
  type: 'text';
  at: Pair;
  angle: number;
  height: number;
  text: string;
}

export const noteWidth = (e: Pick<Note, 'text' | 'height'>): number => textWidth(e.text, e.height);

/** The four corners of a text, from where it begins, counter-clockwise. */
export function noteCorners(e: Pick<Note, 'at' | 'angle' | 'height' | 'text'>): [number, number][] {
  const w = noteWidth(e),
    [c, s] = [Math.cos(e.angle), Math.sin(e.angle)],
    [x, y] = e.at;
  return [
    [0, 0],
    [w, 0],
    [w, e.height],
    [0, e.height],
  ].map(([u, v]) => [x + c * u - s * v, y + s * u + c * v]);
}

/** A mirrored text stays readable and takes the place of its image. */
function movedPlace(e: Note, map: Transform): { at: Pair; angle: number } {
  const direction = (angle: number) =>
    Math.atan2(
      map[1] * Math.cos(angle) + map[3] * Math.sin(angle),
      map[0] * Math.cos(angle) + map[2] * Math.sin(angle),
    );
  if (determinant(map) > 0) return { at: applyTransform(map, e.at), angle: direction(e.angle) };
  return { at: applyTransform(map, noteCorners(e)[1]), angle: direction(e.angle + Math.PI) };
}

export const TEXT: Kind<Note> = {
  word: () => 'text',
  summary: (e) => `"${e.text}"`,
  layer: { name: 'Texts', colour: 0x17273a, lineType: 'solid' },
  isRun: false,
  carries: true,
  rests: null,
  refers: [],
  blocks: NO_BLOCKS,
  doubts: null,
  shapes: (e, layer) => [
    { kind: 'text', layer, x: e.at[0], y: e.at[1], height: e.height, radians: e.angle, text: e.text },
  ],
  pieces: () => [],
  box: (e) => boxOfPoints(noteCorners(e)),
  length: () => 0,
  frame: noteCorners,
  inside: (e) => [noteCorners(e)],
  grips: (e) => [e.at],
  joints: NO_GRIPS,
  ends: () => null,
  edges: NO_EDGES,
  moved: (e, map) => ({ ...e, ...movedPlace(e, map), height: e.height * meanScale(map) }),
  withGrip: (e, _grip, to) => ({ ...e, at: pairOf(to) }),
  stretched: (e, holds, by) => (holds(e.at) ? { ...e, at: shifted(e.at, by) } : e),
};
