import { isFullTurn, type Piece, type Point } from '../geometry/index.ts';

/** A shape may have dashes of its own. */
interface Dashed {
  dash?: readonly number[];
}

/** A shape of a flat drawing, as the exporters of drawings write it: millimetres, y up, radians counter-clockwise. */
export type Shape =
  | ({ kind: 'line'; layer: string; from: Point; to: Point } & Dashed)
  /** `bulges` as in BulgePath, one to each stretch; absent for straight ones. */
  | ({
      kind: 'polyline';
      layer: string;
      points: readonly Point[];
      bulges?: readonly number[];
      closed: boolean;
    } & Dashed)
  | ({ kind: 'arc'; layer: string; cx: number; cy: number; r: number; start: number; end: number } & Dashed)
  | ({ kind: 'circle'; layer: string; cx: number; cy: number; r: number } & Dashed)
  | ({ kind: 'cubic'; layer: string; points: readonly [Point, Point, Point, Point] } & Dashed)
  /** Rings filled under the even-odd rule. */
  | { kind: 'region'; layer: string; rings: readonly (readonly Point[])[] }
  | { kind: 'text'; layer: string; x: number; y: number; height: number; radians: number; text: string };

/** A drawn piece as a shape on a layer. */
export function shapeOfPiece(
  piece: Piece,
  layer: string,
  { dash }: { dash?: readonly number[] | null } = {},
): Shape {
  const dashed = dash ? { dash } : {};
  if (piece.kind === 'segment') return { kind: 'line', layer, from: piece.from, to: piece.to, ...dashed };
  if (piece.kind === 'cubic') {
    const c = piece.cubic;
    return {
      kind: 'cubic',
      layer,
      points: [
        [c[0], c[1]],
        [c[2], c[3]],
        [c[4], c[5]],
        [c[6], c[7]],
      ],
      ...dashed,
    };
  }
  const { cx, cy, r, start, end } = piece.arc;
  return isFullTurn(piece.arc)
    ? { kind: 'circle', layer, cx, cy, r, ...dashed }
    : { kind: 'arc', layer, cx, cy, r, start, end, ...dashed };
}

/** Width of a letter in shares of the text's height, where no font can be asked. */
const LETTER_WIDTH = 0.55;
export const textWidth = (text: string, height: number): number =>
  LETTER_WIDTH * height * Math.max(1, text.length);

/** Words with the middle of their foot at a point. */
export function wordsAt(text: string, [x, y]: Point, radians: number, height: number, layer: string): Shape {
  const half = textWidth(text, height) / 2;
  return {
    kind: 'text',
    layer,
    x: x - half * Math.cos(radians),
    y: y - half * Math.sin(radians),
    height,
    radians,
    text,
  };
}
