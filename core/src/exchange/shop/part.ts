import {
  dot3,
  facing,
  planeFromWorld,
  pieceBox,
  unionBox,
  type Box,
  type Frame,
  type ModelPoint,
  type Point,
} from '../../geometry/index.ts';
import { shapeOfPiece } from '../../kinds/index.ts';
import {
  settingsOf,
  type Model,
  type Pair,
  type Part,
  type Rule,
  type WorkPlane,
} from '../../model/index.ts';
import { figurePlaces, rulesOn, type SeenPlane } from '../../part/index.ts';
import { roomOn } from '../../papers/index.ts';
import { formatNumber } from '../../units/index.ts';
import { drawingBox } from '../drawing.ts';
import type { View } from '../from-model.ts';
import { DIMENSIONS, HIDDEN, HOLES, ShopSketch, SHOP_LAYERS, VISIBLE } from './dims.ts';

/** What of a part's solid stands on its drawing. */
export interface DrawnPart {
  seen: readonly SeenPlane[];
  holes: readonly {
    at: ModelPoint;
    axis: ModelPoint;
    diameter: number;
    depth: number | null;
    head: { diameter: number; depth: number; angle: number | null } | null;
    thread: string | null;
  }[];
  /** Kilograms. */
  mass: number;
}

const SCALES = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100],
  PAPER = { width: 420, height: 297 };
/** Millimetres of paper: letters, from a view to its first dimension, from one to the next, between views. */
const TEXT = 3,
  FIRST = 9,
  STEP = 7,
  BETWEEN = 22;
/** More dimensions beside one side of a view than can be read. */
const MOST_BESIDE = 14;
const ALIGNED = 1 - 1e-9;
/** From what a slanting figure measures to its line. */
const BESIDE = 6;
/** A letter is about so wide, of its height. */
const LETTER = 0.62;

/**
 * The views of a part with their dimensions, notes at holes and what it is, on one page at the largest usual scale at which they fit on A3. They stand as
 * in third-angle projection: from above over the front, from the right to its right.
 */
export function partPage(model: Model, part: Part, drawn: DrawnPart): View {
  for (const scale of SCALES) {
    const view = drawnAt(model, part, drawn, scale),
      box = drawingBox(view.drawing)!,
      [wide, high] = roomOn(PAPER);
    if (scale === SCALES.at(-1) || ((box[2] - box[0]) / scale <= wide && (box[3] - box[1]) / scale <= high))
      return view;
  }
  throw new Error('There is always a last scale.');
}

/** A view with its box and figures, and where it stands on the page. */
interface Sized extends SeenPlane {
  box: Box;
  figures: Figure[];
}
interface Placed extends Sized {
  shift: Point;
}

function drawnAt(model: Model, part: Part, drawn: DrawnPart, scale: number): View {
  const { units, precision } = settingsOf(model),
    sketch = new ShopSketch(TEXT * scale, { units, precision }),
    placed = placedViews(sizedViews(model, drawn), scale);
  const noted = new Set<string>();
  for (const v of placed) {
    const on = ([x, y]: Pair): Pair => [x + v.shift[0], y + v.shift[1]],
      move = (p: Parameters<typeof shapeOfPiece>[0], layer: string) => {
        const shape = shapeOfPiece(p, layer);
        return shifted(shape, v.shift);
      };
    sketch.shapes.push(
      ...v.view.hidden.map((p) => ({ ...move(p, HIDDEN.name), dash: [2 * scale, scale] })),
      ...v.view.visible.map((p) => move(p, VISIBLE.name)),
    );
    dimensionsOf(sketch, v, on, scale);
    notesAtHoles(sketch, v, drawn, noted, on, scale);
    sketch.words(v.plane.name.replace(`${part.name}: `, ''), [
      v.box[0] + v.shift[0],
      v.box[1] + v.shift[1] - (roomFor(v, 'below') + STEP) * scale,
    ]);
  }
  const all = drawingBox({ layers: [], shapes: sketch.shapes }) ?? [0, 0, 0, 0],
    foot = all[1] - 10 * scale;
  sketch.words(part.name, [all[0], foot], { height: 5 * scale });
  [
    `${part.material}, ${formatNumber(drawn.mass, 3)} kg, ${part.pieces} off`,
    `Scale ${scale < 1 ? `${formatNumber(1 / scale, 0)}:1` : `1:${scale}`}, lengths in ${units === 'mm' ? 'millimetres' : units}, views in third-angle projection`,
  ].forEach((words, i) => sketch.words(words, [all[0], foot - (6 + 5 * i) * scale]));
  return { name: part.name, drawing: { layers: [...SHOP_LAYERS], shapes: sketch.shapes }, scale };
}

const shifted = (
  shape: ReturnType<typeof shapeOfPiece>,
  [dx, dy]: Point,
): ReturnType<typeof shapeOfPiece> => {
  const p = ([x, y]: Point): Point => [x + dx, y + dy];
  switch (shape.kind) {
    case 'line':
      return { ...shape, from: p(shape.from), to: p(shape.to) };
    case 'arc':
    case 'circle':
      return { ...shape, cx: shape.cx + dx, cy: shape.cy + dy };
    case 'cubic':
      return { ...shape, points: shape.points.map(p) as unknown as typeof shape.points };
    default:
      return shape;
  }
};

/** The side of the first view on which another stands, and whether both are turned alike; null: it stands apart. */
function sideOf(first: Frame, other: Frame): 'above' | 'below' | 'right' | 'left' | null {
  const way = facing(other),
    level = dot3(first.across, other.across) > ALIGNED,
    upright = dot3(first.up, other.up) > ALIGNED;
  if (level && dot3(way, first.up) > ALIGNED) return 'above';
  if (level && dot3(way, first.up) < -ALIGNED) return 'below';
  if (upright && dot3(way, first.across) > ALIGNED) return 'right';
  return upright && dot3(way, first.across) < -ALIGNED ? 'left' : null;
}

function placedViews(views: readonly Sized[], scale: number): Placed[] {
  const [first] = views;
  if (!first) return [];
  // Beside the dimensions of a side there is room for its name.
  const room = (v: Sized, side: Side) => (roomFor(v, side) + (side === 'below' ? 2 * STEP : 0)) * scale;
  const gap = BETWEEN * scale,
    origin = (f: Frame, o: Frame, axis: ModelPoint): number =>
      // Where the other's zero lies along an axis that both have.
      dot3([o.origin[0] - f.origin[0], o.origin[1] - f.origin[1], o.origin[2] - f.origin[2]], axis);
  const taken = new Set<string>();
  let right = first.box[2] + room(first, 'right');
  const out: Placed[] = [{ ...first, shift: [0, 0] }],
    apart: Sized[] = [];
  for (const v of views.slice(1)) {
    const side = sideOf(first.plane, v.plane);
    // Of several that look the same way the first stands beside the front, the others by themselves.
    if (!side || taken.has(side)) {
      apart.push(v);
      continue;
    }
    taken.add(side);
    const x = origin(first.plane, v.plane, first.plane.across),
      y = origin(first.plane, v.plane, first.plane.up);
    const shift: Point =
      side === 'above'
        ? [x, first.box[3] + room(first, 'above') + gap + room(v, 'below') - v.box[1]]
        : side === 'below'
          ? [x, first.box[1] - room(first, 'below') - gap - room(v, 'above') - v.box[3]]
          : side === 'right'
            ? [first.box[2] + room(first, 'right') + gap + room(v, 'left') - v.box[0], y]
            : [first.box[0] - room(first, 'left') - gap - room(v, 'right') - v.box[2], y];
    out.push({ ...v, shift });
    right = Math.max(right, v.box[2] + shift[0] + room(v, 'right'));
  }
  for (const v of apart) {
    const shift: Point = [right + 2 * gap + room(v, 'left') - v.box[0], first.box[1] - v.box[1]];
    right = v.box[2] + shift[0];
    out.push({ ...v, shift });
  }
  return out;
}

/** A figure of a view as it is drawn. */
type Figure =
  | {
      kind: 'straight';
      measures: 'horizontal' | 'vertical' | 'aligned';
      from: Pair;
      to: Pair;
      value: number;
      words: string | null;
    }
  | { kind: 'round'; centre: Pair; radius: number; words: string };

/** Views with their figures: those that drive, and how wide and high each is over all where none says so and no view beside it does. */
function sizedViews(model: Model, { seen, holes }: DrawnPart): Sized[] {
  const out: Sized[] = [];
  for (const { plane, view } of seen) {
    const pieces = [...view.visible, ...view.hidden];
    if (pieces.length === 0) continue;
    const box = pieces.map(pieceBox).reduce(unionBox),
      [x0, y0, x1, y1] = box,
      figures = drivingFigures(model, plane, holes),
      side = out[0] ? sideOf(out[0].plane, plane) : null;
    const has = (measures: 'horizontal' | 'vertical', length: number) =>
      figures.some(
        (f) => f.kind === 'straight' && f.measures === measures && Math.abs(f.value - length) < LITTLE,
      );
    if (side !== 'above' && side !== 'below' && !has('horizontal', x1 - x0))
      figures.push(straight('horizontal', [x0, y0], [x1, y0]));
    if (side !== 'right' && side !== 'left' && !has('vertical', y1 - y0))
      figures.push(straight('vertical', [x0, y0], [x0, y1]));
    out.push({ plane, view, box, figures });
  }
  return out;
}

/** Figures that drive on a plane; diameters that a note at a hole says are left to that. */
function drivingFigures(model: Model, plane: WorkPlane, holes: DrawnPart['holes']): Figure[] {
  const drilled = (centre: Pair, radius: number) =>
    holes.some((h) => {
      const [x, y] = planeFromWorld(plane, h.at).point;
      return Math.hypot(x - centre[0], y - centre[1]) < LITTLE && Math.abs(h.diameter - 2 * radius) < LITTLE;
    });
  return rulesOn(model, plane.id).flatMap((rule): Figure[] => {
    const places = figurePlaces(model, rule);
    if (!places || places.kind === 'angle' || rule.value === null) return [];
    const off = toleranceOf(rule),
      value = Math.abs(rule.value);
    if (places.kind === 'straight')
      return [{ ...turnedStraight(places), value, words: off === '' ? null : off }];
    if (off === '' && drilled(places.centre, places.radius)) return [];
    const sign = rule.kind === 'radius' ? 'R' : 'Ø';
    return [{ ...places, words: `${sign}${formatNumber(value, 2).replace(/[.,]00$/, '')}${off}` }];
  });
}
const straight = (measures: 'horizontal' | 'vertical', from: Pair, to: Pair): Figure => ({
  kind: 'straight',
  measures,
  from,
  to,
  value: measures === 'horizontal' ? Math.abs(to[0] - from[0]) : Math.abs(to[1] - from[1]),
  words: null,
});
const toleranceOf = ({ tolerance: t }: Rule): string =>
  !t
    ? ''
    : t.plus === t.minus
      ? ` ±${formatNumber(t.plus, 3)}`
      : ` +${formatNumber(t.plus, 3)}/-${formatNumber(t.minus, 3)}`;

/** What runs level or upright is drawn beside the view, like all others there. */
function turnedStraight<T extends { measures: 'horizontal' | 'vertical' | 'aligned'; from: Pair; to: Pair }>(
  f: T,
): T {
  if (f.measures !== 'aligned') return f;
  const [dx, dy] = [Math.abs(f.to[0] - f.from[0]), Math.abs(f.to[1] - f.from[1])];
  return { ...f, measures: dy < 1e-6 ? 'horizontal' : dx < 1e-6 ? 'vertical' : 'aligned' };
}

/** The sides of a view beside which dimensions stand. */
const SIDES = ['below', 'above', 'left', 'right'] as const;
type Side = (typeof SIDES)[number];
type Straight = Figure & { kind: 'straight' };

/** The side at which a dimension stands: that to which what it measures lies nearer. */
function sideOfFigure({ measures, from, to }: Straight, [x0, y0, x1, y1]: Box): Side | null {
  if (measures === 'aligned') return null;
  if (measures === 'horizontal') return from[1] + to[1] > y0 + y1 + LITTLE ? 'above' : 'below';
  return from[0] + to[0] > x0 + x1 + LITTLE ? 'right' : 'left';
}
const LITTLE = 1e-6;

/** Dimensions of one side in rows, the shortest nearest to the view; what does not overlap shares a row. */
function rows(figures: readonly Figure[], box: Box, side: Side): Straight[][] {
  const axis = side === 'below' || side === 'above' ? 0 : 1,
    all = figures
      .flatMap((f) => (f.kind === 'straight' && sideOfFigure(f, box) === side ? [f] : []))
      .sort((a, b) => a.value - b.value)
      .slice(0, MOST_BESIDE),
    out: Straight[][] = [];
  const span = (f: Straight) => [Math.min(f.from[axis], f.to[axis]), Math.max(f.from[axis], f.to[axis])];
  for (const f of all) {
    const [a, b] = span(f),
      free = out.find((row) => row.every((g) => span(g)[1] <= a + LITTLE || span(g)[0] >= b - LITTLE));
    if (free) free.push(f);
    else out.push([f]);
  }
  return out;
}

/** How much room the dimensions of a side take, millimetres of paper. */
const roomFor = ({ figures, box }: Sized, side: Side): number => {
  const n = rows(figures, box, side).length;
  return n === 0 ? 0 : FIRST + STEP * n;
};

function dimensionsOf(sketch: ShopSketch, v: Placed, on: (p: Pair) => Pair, scale: number): void {
  const { box, figures } = v;
  for (const side of SIDES)
    rows(figures, box, side).forEach((row, i) => {
      const off = (FIRST + STEP * i) * scale,
        level = side === 'below' || side === 'above',
        line =
          side === 'below'
            ? box[1] - off
            : side === 'above'
              ? box[3] + off
              : side === 'left'
                ? box[0] - off
                : box[2] + off;
      for (const f of row)
        sketch.measured(
          f.measures,
          on(f.from),
          on(f.to),
          on(level ? [f.from[0], line] : [line, f.from[1]]),
          f.value,
          f.words ?? '',
        );
    });
  for (const f of figures) {
    if (f.kind === 'straight' && f.measures === 'aligned') {
      const [dx, dy] = [f.to[0] - f.from[0], f.to[1] - f.from[1]],
        n = Math.hypot(dx, dy) || 1,
        beside: Pair = [f.from[0] - (dy / n) * BESIDE * scale, f.from[1] + (dx / n) * BESIDE * scale];
      sketch.measured('aligned', on(f.from), on(f.to), on(beside), f.value, f.words ?? '');
    }
    if (f.kind === 'round') leader(sketch, on(f.centre), f.radius, f.words, scale, Math.PI / 4);
  }
}

/** A note with a line from the rim of a round. */
function leader(
  sketch: ShopSketch,
  [x, y]: Pair,
  radius: number,
  words: string,
  scale: number,
  angle: number,
): void {
  const [c, s] = [Math.cos(angle), Math.sin(angle)],
    far = radius + 8 * scale,
    // Words of a line that leans to the left end where it does.
    back = c < 0 ? words.length * LETTER * sketch.height + scale : -scale;
  sketch.shapes.push({
    kind: 'line',
    layer: DIMENSIONS.name,
    from: [x + radius * c, y + radius * s],
    to: [x + far * c, y + far * s],
  });
  sketch.words(words, [x + far * c - back, y + far * s]);
}

/** Notes at the holes that are seen in their round, each sort once on the page. */
function notesAtHoles(
  sketch: ShopSketch,
  v: Placed,
  { holes }: DrawnPart,
  noted: Set<string>,
  on: (p: Pair) => Pair,
  scale: number,
): void {
  const normal = facing(v.plane),
    seen = holes.filter((h) => Math.abs(dot3(h.axis, normal)) > ALIGNED),
    sorts = new Map<string, (typeof holes)[number][]>();
  for (const h of seen) {
    const words = holeWords(sketch, h);
    sorts.set(words, [...(sorts.get(words) ?? []), h]);
  }
  for (const [words, of] of sorts) {
    const key = `${words} ${of.map((h) => h.at.map((c) => c.toFixed(3)).join()).join(' ')}`;
    if (noted.has(key)) continue;
    noted.add(key);
    const at = (h: (typeof of)[number]): Pair => [...planeFromWorld(v.plane, h.at).point],
      last = of.reduce((a, b) => (at(b)[0] + at(b)[1] > at(a)[0] + at(a)[1] ? b : a));
    leader(
      sketch,
      on(at(last)),
      last.diameter / 2,
      `${of.length > 1 ? `${of.length}x ` : ''}${words}`,
      scale,
      // Towards the middle of the view, where no dimension stands.
      at(last)[0] > (v.box[0] + v.box[2]) / 2 ? (2 * Math.PI) / 3 : Math.PI / 3,
    );
  }
  for (const h of seen) {
    const [x, y] = on([...planeFromWorld(v.plane, h.at).point]),
      reach = h.diameter / 2 + 2 * scale;
    for (const [dx, dy] of [
      [reach, 0],
      [0, reach],
    ])
      sketch.shapes.push({
        kind: 'line',
        layer: HOLES.name,
        from: [x - dx, y - dy],
        to: [x + dx, y + dy],
        dash: [3 * scale, scale, 0.6 * scale, scale],
      });
  }
}

/** A hole in the words of a note: "Ø9 THRU", "M8 DEPTH 16", "Ø9 THRU, C'BORE Ø15 DEPTH 8". */
function holeWords(sketch: Pick<ShopSketch, 'length'>, h: DrawnPart['holes'][number]): string {
  const mm = (v: number) => sketch.length(v),
    deep = h.depth === null ? 'THRU' : `DEPTH ${mm(h.depth)}`,
    head = !h.head
      ? ''
      : h.head.angle === null
        ? `, C'BORE Ø${mm(h.head.diameter)} DEPTH ${mm(h.head.depth)}`
        : `, CSK Ø${mm(h.head.diameter)} x ${formatNumber((h.head.angle * 180) / Math.PI, 0)}°`;
  return `${h.thread ?? `Ø${mm(h.diameter)}`} ${deep}${head}`;
}
