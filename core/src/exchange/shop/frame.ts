import { textWidth } from '../../kinds/flat-shape.ts';
import { looseKind } from '../../kinds/index.ts';
import {
  looseElements,
  buildingPlanes,
  settingsOf,
  type Loose,
  type Member,
  type Model,
  type PlaneEntity,
} from '../../model/index.ts';
import { asCut } from '../../framing/index.ts';
import { worldFromPlane } from '../../geometry/index.ts';
import { frameOf, isUpright } from '../../planes/index.ts';
import { roomOn } from '../../papers/index.ts';
import { drawingBox } from '../drawing.ts';
import { drawingOfModel, type View } from '../from-model.ts';
import { DIMENSIONS, ShopSketch, WORDS, type Stop } from './dims.ts';

const SCALES = [10, 20, 25, 50, 100, 200, 500],
  PAPER = { width: 420, height: 297 };
/** Millimetres of paper. */
const TEXT = 2.5,
  FIRST = 14,
  STEP = 8;
/** Lines of members are in one line within this, millimetres; what rises more steeply (sine) is upright, less steeply level. */
const IN_LINE = 1,
  UPRIGHT = 0.98,
  LEVEL = 0.02;

/** The frame of each upright plane as a drawing: members with their marks, plates and bolts, and dimensions of its columns and levels. */
export const frameViews = (model: Model, most = Infinity): View[] =>
  buildingPlanes(model)
    .filter((p) => isUpright(p) && looseElements(model, p.id).some((e) => e.type === 'member'))
    .slice(0, most)
    .flatMap((plane) => frameView(model, plane) ?? []);

/** Null for a plane on which no member is drawn. */
export function frameView(model: Model, plane: PlaneEntity): View | null {
  const members = looseElements(model, plane.id).filter((e): e is Member => e.type === 'member');
  if (members.length === 0) return null;
  const drawing = drawingOfModel(model, plane.id),
    box = drawingBox(drawing)!,
    { units, precision } = settingsOf(model);
  for (const scale of SCALES) {
    const sketch = new ShopSketch(TEXT * scale, { units, precision });
    for (const m of members) markOf(sketch, model, m);
    dimensions(sketch, scale, members, box, plane);
    const whole = {
        layers: [...drawing.layers, DIMENSIONS, WORDS],
        shapes: [...drawing.shapes, ...sketch.shapes],
      },
      [x0, y0, x1, y1] = drawingBox(whole)!,
      [free, high] = roomOn(PAPER);
    if (scale === SCALES.at(-1) || ((x1 - x0) / scale <= free && (y1 - y0) / scale <= high))
      return { name: plane.name, drawing: whole, scale };
  }
  return null;
}

/** Its mark along it: within it where there is room, else above; of one without any nothing. */
function markOf(sketch: ShopSketch, model: Model, given: Member): void {
  const m = asCut(model, given),
    words = m.mark,
    [ring] = looseKind(m as Loose).inside(m as Loose);
  if (words === '' || !ring) return;
  const angle = Math.atan2(m.to[1] - m.from[1], m.to[0] - m.from[0]),
    readable = angle > Math.PI / 2 + 1e-9 || angle <= -Math.PI / 2 + 1e-9 ? angle + Math.PI : angle,
    [c, s] = [Math.cos(readable), Math.sin(readable)],
    along = ring.map(([x, y]) => c * x + s * y),
    across = ring.map(([x, y]) => c * y - s * x),
    middle = (list: readonly number[]) => (Math.min(...list) + Math.max(...list)) / 2,
    deep = Math.max(...across) - Math.min(...across),
    off = deep > ROOMY * sketch.height ? -sketch.height / 2 : deep / 2 + sketch.height / 2,
    u = middle(along) - textWidth(words, sketch.height) / 2,
    v = middle(across) + off;
  sketch.shapes.push({
    kind: 'text',
    layer: WORDS.name,
    x: c * u - s * v,
    y: s * u + c * v,
    height: sketch.height,
    radians: readable,
    text: words,
  });
}
/** So many heights of its letters deep, a member has room for its mark. */
const ROOMY = 1.6;

/** Columns along its foot, and levels at its left: each with its height in the building. */
function dimensions(
  sketch: ShopSketch,
  u: number,
  members: readonly Member[],
  [x0, y0, x1]: readonly number[],
  plane: PlaneEntity,
): void {
  const rise = (m: Member) =>
      Math.abs(m.to[1] - m.from[1]) / (Math.hypot(m.to[0] - m.from[0], m.to[1] - m.from[1]) || 1),
    columns = apart(members.filter((m) => rise(m) > UPRIGHT).map((m) => m.from[0])),
    ends = apart(members.flatMap((m) => (rise(m) > UPRIGHT ? [] : [m.from[0], m.to[0]]))),
    alongX = columns.length > 1 ? columns : ends,
    levels = apart(members.flatMap((m) => (rise(m) < LEVEL ? [m.from[1]] : [m.from[1], m.to[1]])));
  const stop = (v: number): Stop => ({ drawn: v, true: v }),
    all = (list: readonly number[]) => [stop(list[0]), stop(list.at(-1)!)] as const;
  if (sketch.chain('x', alongX.map(stop), y0, y0 - FIRST * u) && alongX.length > 2)
    sketch.dimension('x', ...all(alongX), y0, y0 - (FIRST + STEP) * u);
  if (sketch.chain('y', levels.map(stop), x0, x0 - FIRST * u) && levels.length > 2)
    sketch.dimension('y', ...all(levels), x0, x0 - (FIRST + STEP) * u);
  // Levels as they are in the building, not on the plane.
  for (const y of levels.slice(0, MOST_LEVELS)) {
    const z = worldFromPlane(frameOf(plane), [0, y])[2];
    sketch.shapes.push({
      kind: 'line',
      layer: DIMENSIONS.name,
      from: [x1 + 3 * u, y],
      to: [x1 + 16 * u, y],
    });
    sketch.shapes.push({
      kind: 'text',
      layer: DIMENSIONS.name,
      x: x1 + 4 * u,
      y: y + 0.8 * u,
      height: sketch.height,
      radians: 0,
      text: `${z < -0.05 ? '' : z < 0.05 ? '±' : '+'}${sketch.length(Math.abs(z) < 0.05 ? 0 : z)}`,
    });
  }
}
const MOST_LEVELS = 24;

/** Figures that are apart, in order. */
const apart = (list: readonly number[]): number[] =>
  [...list].sort((a, b) => a - b).filter((v, i, all) => i === 0 || v - all[i - 1] > IN_LINE);
