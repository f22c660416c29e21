import type { Block, Box, ModelPoint, Piece, Point, Transform } from '../geometry/index.ts';
import type { LengthStyle } from '../units/index.ts';
import type { LineType, Pair } from './drawn.ts';
import type { Shape } from './flat-shape.ts';

/** A stretch of an element that can be taken hold of in its middle and moved as a whole: the grips at its ends. */
export interface Edge {
  middle: [number, number];
  grips: [number, number];
}

/** A field by which an element names what it stands on and may not outlive, beside its plane and layer. */
export interface Refers<E> {
  field: keyof E & string;
  /** Type of the entity that it names. */
  type: 'assembly';
  /** In words: what the element has of it. */ as: string;
}

/** What a point of an element rests on: a grip of another element. */
export interface Anchor {
  id: string;
  grip: number;
}

/** Measures that may not have been said by anybody. */
export interface Doubts<E> {
  /** In words: "thickness", "sill of W01". */
  assumed(e: E): readonly string[];
  /** With all of them confirmed as they are. */
  confirmed(e: E): E;
}

/** Points that rest on other elements: they follow them, and keep their places where those are gone. */
export interface Rests<E> {
  on(e: E): readonly (Anchor | null)[];
  /** With points at other places; null leaves one where it is. */
  at(e: E, places: readonly (Pair | null)[]): E;
  /** Resting on others instead, or on nothing. */
  renamed(e: E, to: (anchor: Anchor) => Anchor | null): E;
}

/** A solid of one section along a straight line, in the space of its plane, out of which z goes. */
export interface Bar {
  /** The rings of its section where it begins, counter-clockwise seen from there to its end, holes the other way round. */
  start: ModelPoint[][];
  /** From its beginning to its end. */
  way: ModelPoint;
  /** The same rings where it ends, where it is not cut square. */
  far?: ModelPoint[][];
  /** Which of the points of the rings are corners, at which edges begin. */
  corners: boolean[][];
}

/**
 * Everything that the program must know of a kind of traced element. Lengths are millimetres of the plane, angles radians. What an
 * element rests on is where it is now (see shownOf): a kind looks nothing up.
 */
export interface Kind<E> {
  /** What one is, in a word: "wall", "closed path". */
  word(e: E): string;
  /** What tells one from others of its kind, in a few words: its length, its name. */
  summary(e: E, style: LengthStyle): string;
  /** The layer on which it is drawn and delivered where it is on none, and how its lines are drawn there. */
  readonly layer: { readonly name: string; readonly colour: number; readonly lineType: LineType };
  /** Is it one run of pieces that can be trimmed, split, extended and offset? */
  readonly isRun: boolean;
  /** Can points of others rest on its grips? */
  readonly carries: boolean;
  /** So many of its grips, from the first, are the same for ever: others rest on these alone. Absent: all. */
  readonly steadyGrips?: number;
  /** Its own points that rest on others; null for a kind that has none. */
  readonly rests: Rests<E> | null;
  /** What of it nobody may have said; null for a kind that assumes nothing. */
  readonly doubts: Doubts<E> | null;
  /** What it stands on beside its plane and layer. */
  readonly refers: readonly Refers<E>[];
  /** As shapes of a flat drawing on a layer; a wall by its drawn line, its outline follows from others. */
  shapes(e: E, layer: string, style: LengthStyle): Shape[];
  /** The drawn geometry; nothing of what is not drawn with lines. */
  pieces(e: E): Piece[];
  box(e: E): Box;
  /** Length of what is drawn along its line, or round it; 0 for what has none. */
  length(e: E): number;
  /** A ring that stands for it where it has no lines: the frame of a text. */
  frame(e: E): [number, number][] | null;
  /** Rings within which it can be picked, by the odd ones inside; none for what is picked by its lines alone. A wall's body follows from others. */
  inside(e: E): (readonly Point[])[];
  /** Points by which it can be taken hold of, in a fixed order. */
  grips(e: E): [number, number][];
  /** The grips at which other elements join on: ends and corners. */
  joints(e: E): number[];
  /** The two ends of what has ends; null for what is closed, or has none. */
  ends(e: E): [Point, Point] | null;
  /** Stretches that can be taken hold of. */
  edges(e: E): Edge[];
  /** What it is made of as a solid of the building, above the floor of its storey; nothing for what is only drawn. Walls follow from others: see wallBlocks. */
  blocks(e: E): readonly Block[];
  /** What it is made of as bars, where it is; these stand on planes of any kind. */
  bars?(e: E): readonly Bar[];
  /** Where a similarity of the plane takes it. */
  moved(e: E, map: Transform): E;
  /** With one grip at another place; null where that would leave nothing of it. */
  withGrip(e: E, grip: number, to: Point): E | null;
  /** With those of its points moved that a region holds: the very element where none is, null where nothing would be left. */
  stretched(e: E, holds: (p: Point) => boolean, by: Point): E | null;
}

/** Answers of a kind that has no edges, frame or joints. */
export const NO_EDGES = (): Edge[] => [];
export const NO_FRAME = (): null => null;
export const NO_GRIPS = (): number[] => [];
export const NO_INSIDE = (): (readonly Point[])[] => [];
export const NO_BLOCKS = (): readonly Block[] => [];

/** Doubts of a kind that keeps a list of what is assumed. */
export const listedDoubts = <E extends { assumed: readonly string[] }>(): Doubts<E> => ({
  assumed: (e) => e.assumed,
  confirmed: (e) => ({ ...e, assumed: [] }),
});
