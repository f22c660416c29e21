import { joinedFrame } from '../../framing/index.ts';
import { boxOfPoints, type Point } from '../../geometry/index.ts';
import { settingsOf, type Model, type OutlineRing, type Pair } from '../../model/index.ts';
import { roomOn } from '../../papers/index.ts';
import { markedPlates } from '../../takeoff/index.ts';
import { drawingBox } from '../drawing.ts';
import type { View } from '../from-model.ts';
import { HOLES, ShopSketch, SHOP_LAYERS, VISIBLE, type Stop } from './dims.ts';

const SCALES = [1, 2, 5, 10, 20, 50, 100, 200],
  PAPER = { width: 420, height: 297 };
/** Millimetres of paper. */
const TEXT = 2.5,
  FIRST = 9,
  STEP = 8;

/** A drawing of each flat plate of a frame by its mark, with its holes and dimensions; cleats are told with what they hold. */
export const plateViews = (model: Model, most = Infinity): View[] => {
  const { units, precision } = settingsOf(model);
  return markedPlates(joinedFrame(model))
    .slice(0, most)
    .flatMap(({ mark, plates: [first, ...others] }): View[] => {
      if (first.angle) return [];
      const [x0, y0, x1, y1] = boxOfPoints(first.outline),
        about = ([x, y]: Point): Pair => [x - x0, y - y0],
        ring = ({ points, bulges }: OutlineRing) => ({ points: points.map(about), bulges }),
        stop = (v: number): Stop => ({ drawn: v, true: v });
      for (const scale of SCALES) {
        const sketch = new ShopSketch(TEXT * scale, { units, precision }),
          corners = (first.drawn ? [] : first.outline).map(about);
        sketch.shapes.push(
          {
            kind: 'polyline',
            layer: VISIBLE.name,
            ...(first.drawn ? ring(first.drawn) : { points: first.outline.map(about) }),
            closed: true,
          },
          ...first.slots.map((s) => ({
            kind: 'polyline' as const,
            layer: HOLES.name,
            ...ring(s),
            closed: true,
          })),
          ...first.holes.map(({ at, d }) => ({
            kind: 'circle' as const,
            layer: HOLES.name,
            cx: at[0] - x0,
            cy: at[1] - y0,
            r: d / 2,
          })),
        );
        const [w, h] = [x1 - x0, y1 - y0],
          marks = [...first.holes.map((o) => about(o.at)), ...corners];
        const isX = sketch.chain('x', [0, ...marks.map((p) => p[0]), w].map(stop), 0, -FIRST * scale),
          isY = sketch.chain('y', [0, ...marks.map((p) => p[1]), h].map(stop), 0, -FIRST * scale);
        sketch.dimension('x', stop(0), stop(w), 0, -(FIRST + (isX ? STEP : 0)) * scale);
        sketch.dimension('y', stop(0), stop(h), 0, -(FIRST + (isY ? STEP : 0)) * scale);
        const diameters = [...new Set(first.holes.map((o) => sketch.length(o.d)))];
        const notes = [
          `${first.name}, ${sketch.length(first.thickness)} thick, ${first.material}, ${others.length + 1} off`,
          ...(diameters.length > 0 ? [`${first.holes.length} round holes ⌀ ${diameters.join(', ')}`] : []),
          ...(first.slots.length > 0 ? [`${first.slots.length} slots or openings as drawn`] : []),
        ];
        const foot = -(FIRST + 2 * STEP + 6) * scale;
        sketch.words(mark, [0, foot], { height: 5 * scale });
        notes.forEach((words, i) => sketch.words(words, [0, foot - (6 + 5 * i) * scale]));
        const drawing = { layers: [...SHOP_LAYERS], shapes: sketch.shapes },
          box = drawingBox(drawing)!,
          [free, high] = roomOn(PAPER);
        if (
          scale === SCALES.at(-1) ||
          ((box[2] - box[0]) / scale <= free && (box[3] - box[1]) / scale <= high)
        )
          return [{ name: mark, drawing, scale }];
      }
      return [];
    });
};
