import { shapeOfPiece, wordsAt } from '../../kinds/flat-shape.ts';
import { dimensionLines, figurePlace, type Shape } from '../../kinds/index.ts';
import type { Point } from '../../geometry/index.ts';
import { formatLength, type LengthStyle } from '../../units/index.ts';
import type { DrawingLayer } from '../drawing.ts';

export const VISIBLE: DrawingLayer = { name: 'Outline', colour: 0x17273a, index: 7, weight: 0.35 },
  HIDDEN: DrawingLayer = { name: 'Hidden', colour: 0x6b7684, index: 8, weight: 0.18, dash: [6, 3] },
  HOLES: DrawingLayer = { name: 'Holes', colour: 0xd4451f, index: 1, weight: 0.25 },
  DIMENSIONS: DrawingLayer = { name: 'Dimensions', colour: 0x1d4fa3, index: 5, weight: 0.18 },
  WORDS: DrawingLayer = { name: 'Words', colour: 0x17273a, index: 7 };
export const SHOP_LAYERS: readonly DrawingLayer[] = [VISIBLE, HIDDEN, HOLES, DIMENSIONS, WORDS];

/** Figures nearer than this are one, millimetres. */
const ONE = 0.5;
/** More dimensions than are put in one chain: what is drilled more often is told by its holes alone. */
const MOST_IN_CHAIN = 24;

/** A place along a chain: where it is drawn, and its true distance, which may be another where a length is broken. */
export interface Stop {
  drawn: number;
  true: number;
}

/** Puts together what is drawn with its dimensions: figures of one height, in the units of the project, said with a tenth of a millimetre. */
export class ShopSketch {
  readonly shapes: Shape[] = [];
  private readonly style: LengthStyle;

  constructor(
    readonly height: number,
    style: LengthStyle,
  ) {
    // A shop cuts by tenths.
    this.style = style.units === 'mm' ? { ...style, precision: Math.max(1, style.precision) } : style;
  }

  words(text: string, at: Point, { centred = false, height = this.height } = {}): void {
    if (centred) this.shapes.push(wordsAt(text, at, 0, height, WORDS.name));
    else this.shapes.push({ kind: 'text', layer: WORDS.name, x: at[0], y: at[1], height, radians: 0, text });
  }

  length(mm: number): string {
    // What is whole is written whole.
    const whole = Math.abs(mm - Math.round(mm)) < 0.05 && this.style.units === 'mm';
    return formatLength(mm, whole ? { ...this.style, precision: 0 } : this.style);
  }

  /** A dimension of any direction between two places of the drawing, with its figure and what is written behind that. */
  measured(
    measures: 'horizontal' | 'vertical' | 'aligned',
    from: Point,
    to: Point,
    line: Point,
    value: number,
    behind: string,
  ): void {
    const measured = {
        measures,
        points: [
          [from[0], from[1]],
          [to[0], to[1]],
        ] as [number, number][],
        at: [line[0], line[1]] as [number, number],
        height: this.height,
      },
      { at, angle } = figurePlace(measured);
    this.shapes.push(
      ...dimensionLines(measured).map((piece) => shapeOfPiece(piece, DIMENSIONS.name)),
      wordsAt(`${this.length(value)}${behind}`, at, angle, this.height, DIMENSIONS.name),
    );
  }

  /** One dimension between two places, its line at a distance from the drawing: along x below or above it, along y beside it. */
  dimension(along: 'x' | 'y', from: Stop, to: Stop, foot: number, line: number): void {
    const at = (v: number): Point => (along === 'x' ? [v, foot] : [foot, v]);
    this.measured(
      along === 'x' ? 'horizontal' : 'vertical',
      at(from.drawn),
      at(to.drawn),
      along === 'x' ? [from.drawn, line] : [line, from.drawn],
      Math.abs(to.true - from.true),
      '',
    );
  }

  /** Dimensions from each place to the next; gives whether there were any. */
  chain(along: 'x' | 'y', stops: readonly Stop[], foot: number, line: number): boolean {
    const sorted = [...stops].sort((a, b) => a.true - b.true),
      apart = sorted.filter((s, i) => i === 0 || s.true - sorted[i - 1].true > ONE);
    if (apart.length < 2 || apart.length > MOST_IN_CHAIN + 1) return false;
    apart.slice(1).forEach((s, i) => this.dimension(along, apart[i], s, foot, line));
    return true;
  }
}
