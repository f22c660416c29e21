import {
  arcPiece,
  cubicAt,
  cubicPart,
  cubicPiece,
  pointOnArc,
  segmentPiece,
  TAU,
  type Arc,
  type Piece,
  type Point,
  type Region,
} from '../geometry/index.ts';
import {
  asCubic,
  ITEM_KINDS_OF_SHEET,
  prepareClip,
  visibility,
  visibleCurveIntervals,
  visibleIntervals,
  type Linework,
  type PageText,
  type SheetKind,
  type Switches,
} from '../linework/index.ts';

/** What is drawn with one pen on one layer, as one kind of thing: it may be joined. `layer` and `pen` -1 for none. */
export interface Strokes {
  layer: number;
  pen: number;
  kind: SheetKind;
  lines: number[];
  pieces: Piece[];
}
export interface Gathered {
  strokes: Strokes[];
  texts: PageText[];
}

/** So many items are looked at between two reports of progress. */
const REPORT = 20000;

/**
 * What of a page is on by the switches and lies within a region of the sheet, cut at its edge. Covered and invisible strokes
 * are not on a page's linework to begin with.
 */
export function gather(
  l: Linework,
  region: Region,
  switches: Switches,
  progress: (share: number) => void = () => {},
): Gathered {
  const off = visibility(l, switches).items;
  const clip = prepareClip([region], [0, 0, l.width, l.height]);
  const found = new Map<string, Strokes>();
  const at = (layer: number, pen: number, kind: SheetKind): Strokes => {
    const key = `${layer} ${pen} ${kind}`;
    let strokes = found.get(key);
    if (!strokes) found.set(key, (strokes = { layer, pen, kind, lines: [], pieces: [] }));
    return strokes;
  };
  const total =
    l.segments.length / 4 +
    l.fillEdges.length / 4 +
    l.arcs.length / 5 +
    l.circles.length / 3 +
    l.curves.length / 8;
  let item = 0;
  const each = (
    count: number,
    style: Int32Array,
    kinds: Uint8Array,
    take: (i: number, strokes: () => Strokes) => void,
  ) => {
    for (let i = 0; i < count; i++, item++) {
      if (item % REPORT === 0) progress(item / total);
      if (!off?.[item]) take(i, () => at(style[2 * i], style[2 * i + 1], ITEM_KINDS_OF_SHEET[kinds[i]]));
    }
  };
  const straight = (lines: Float64Array) => (i: number, strokes: () => Strokes) => {
    const [x0, y0, x1, y1] = [lines[4 * i], lines[4 * i + 1], lines[4 * i + 2], lines[4 * i + 3]];
    for (const [a, b] of visibleIntervals(clip, x0, y0, x1, y1)) {
      if (b - a <= 1e-9) continue;
      // Whole lines keep their ends to the last bit.
      strokes().lines.push(
        a === 0 ? x0 : x0 + a * (x1 - x0),
        a === 0 ? y0 : y0 + a * (y1 - y0),
        b === 1 ? x1 : x0 + b * (x1 - x0),
        b === 1 ? y1 : y0 + b * (y1 - y0),
      );
    }
  };
  const round = (arc: Arc, strokes: () => Strokes) => {
    const sweep = arc.end - arc.start;
    for (const [a, b] of visibleCurveIntervals(clip, (t) => pointOnArc(arc, arc.start + t * sweep)))
      strokes().pieces.push(arcPiece({ ...arc, start: arc.start + a * sweep, end: arc.start + b * sweep }));
  };
  each(l.segments.length / 4, l.segmentStyle, l.segmentKind, straight(l.segments));
  each(l.fillEdges.length / 4, l.fillEdgeStyle, l.fillEdgeKind, straight(l.fillEdges));
  each(l.arcs.length / 5, l.arcStyle, l.arcKind, (i, strokes) =>
    round(
      {
        cx: l.arcs[5 * i],
        cy: l.arcs[5 * i + 1],
        r: l.arcs[5 * i + 2],
        start: l.arcs[5 * i + 3],
        end: l.arcs[5 * i + 4],
      },
      strokes,
    ),
  );
  each(l.circles.length / 3, l.circleStyle, l.circleKind, (i, strokes) =>
    round(
      { cx: l.circles[3 * i], cy: l.circles[3 * i + 1], r: l.circles[3 * i + 2], start: 0, end: TAU },
      strokes,
    ),
  );
  each(l.curves.length / 8, l.curveStyle, l.curveKind, (i, strokes) => {
    const cubic = asCubic(l.curves, 8 * i);
    for (const [a, b] of visibleCurveIntervals(clip, (t) => cubicAt(cubic, t)))
      strokes().pieces.push(cubicPiece(cubicPart(cubic, a, b)));
  });
  // Behind the curves the index holds the centres of arcs and circles, then the texts.
  const firstText = item + l.arcs.length / 5 + l.circles.length / 3;
  const within = ({ x, y }: PageText) => visibleIntervals(clip, x, y, x + 1e-6, y).length > 0;
  const texts = l.texts.filter((t, i) => !off?.[firstText + i] && t.text.trim() !== '' && within(t));
  return { strokes: [...found.values()], texts };
}

/** How many lines, curves and texts would be gathered: as `gather`, but only counted, so that it can be told at once. */
export function countWithin(
  l: Linework,
  region: Region,
  switches: Switches,
): { lines: number; curves: number; texts: number } {
  const { strokes, texts } = gather(l, region, switches);
  return {
    lines: strokes.reduce((n, s) => n + s.lines.length / 4, 0),
    curves: strokes.reduce((n, s) => n + s.pieces.length, 0),
    texts: texts.length,
  };
}

export const asPieces = (lines: ArrayLike<number>): Piece[] => {
  const out: Piece[] = [];
  for (let i = 0; i < lines.length; i += 4)
    out.push(segmentPiece([lines[i], lines[i + 1]] as Point, [lines[i + 2], lines[i + 3]] as Point));
  return out;
};
