import type { Pair } from '../../model/index.ts';

/** A place of a sketch, on its plane, millimetres. */
export interface SketchPoint {
  id: string;
  at: Pair;
}

/** What is drawn between points: a line, an arc counter-clockwise about its centre from one to the other, a circle. */
export type SketchCurve =
  | { id: string; kind: 'line'; from: string; to: string }
  | { id: string; kind: 'arc'; centre: string; from: string; to: string }
  | { id: string; kind: 'circle'; centre: string; radius: number };

/**
 * What holds between parts of a sketch, by their ids. Without a figure: the same place, level or upright (a line, or two points), parallel or
 * square lines, touching (a line and a round, or two rounds), equally long or round, about one centre, symmetric (two points and the line between),
 * in the middle (a point and a line), on (a point and a curve), fixed where it is.
 */
export type SketchRelation =
  | { id: string; kind: 'together'; of: [string, string] }
  | { id: string; kind: 'level' | 'upright'; of: [string] | [string, string] }
  | {
      id: string;
      kind: 'parallel' | 'square' | 'touching' | 'equal' | 'concentric' | 'middle' | 'on';
      of: [string, string];
    }
  | { id: string; kind: 'symmetric'; of: [string, string, string] }
  | { id: string; kind: 'fixed'; of: [string]; at: Pair };

/**
 * A figure that drives: the length of a line or the distance of two points, that along x or y (from the first to the second), of a point from a line
 * (square to it), the angle from one line to another (radians, counter-clockwise), a radius or a diameter.
 */
export type SketchFigure =
  | { id: string; kind: 'length'; of: [string] | [string, string]; value: number }
  | { id: string; kind: 'across' | 'up' | 'gap' | 'angle'; of: [string, string]; value: number }
  | { id: string; kind: 'radius' | 'diameter'; of: [string]; value: number };

export type SketchRule = SketchRelation | SketchFigure;

export interface Sketch {
  points: readonly SketchPoint[];
  curves: readonly SketchCurve[];
  rules: readonly SketchRule[];
}

/** Does a rule carry a figure? */
export const isFigure = (rule: SketchRule): rule is SketchFigure => 'value' in rule;
