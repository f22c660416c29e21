import {
  applyTransform,
  boxOfPoints,
  boxRing,
  MM_PER_POINT,
  type Box,
  type Point,
  type Transform,
} from '../../geometry/index.ts';
import { Verb, type Colour } from '../../linework/page-objects.ts';
import { PageInterpreter } from '../../linework/interpret.ts';
import { kindCode, type Linework, type SheetKind } from '../../linework/types.ts';

/** How something is drawn; lengths in the units of the drawing, colours 0xRRGGBB. */
export interface SceneStyle {
  layer: number;
  colour: number;
  width: number;
  dash: readonly number[];
  kind?: SheetKind;
}

/** A path as verbs with their points: one point for move and line, three for a Bézier. */
export interface ScenePath {
  type: 'path';
  style: SceneStyle;
  verbs: number[];
  points: Point[];
  stroke: boolean;
  fill: 'none' | 'nonzero' | 'evenodd';
  fillColour: number;
}
/** A circular arc, counter-clockwise, or a whole circle where `end` is `start` and a full turn. */
export interface SceneRound {
  type: 'round';
  style: SceneStyle;
  cx: number;
  cy: number;
  r: number;
  start: number;
  end: number;
}
/** `width` along the base line, an estimate. */
export interface SceneText {
  type: 'text';
  style: SceneStyle;
  text: string;
  x: number;
  y: number;
  height: number;
  radians: number;
  width: number;
}
export type SceneItem = ScenePath | SceneRound | SceneText;

/** A page of a PDF that a drawing lays under itself: `placing` takes sheet points to the units of the drawing, `ring` is in sheet points. */
export interface SceneSheet {
  file: string;
  page: number;
  placing: Transform;
  ring: readonly Point[] | null;
  on: boolean;
}

/** A drawing read from another program's file, y up. */
export interface Scene {
  items: SceneItem[];
  layers: { name: string; on: boolean }[];
  /** Null where the file does not say. */
  millimetresPerUnit: number | null;
  /** What was not understood, by name, how often. */
  unknown: Record<string, number>;
  hatches: number;
  /** Sheets under it. */
  sheets?: SceneSheet[];
  /** The part of the drawing that the file says is the page; absent: all that is drawn. */
  page?: Box;
}

/** Room round a drawing that has no page of its own, as a share of its longer side. */
const MARGIN = 0.01;
/** Strokes without a width are as thin as a fine pen, sheet points. */
const HAIR = 0.5;

/** The drawing as linework at true size: one sheet point is one point of length in the world. */
export function lineworkOfScene(given: Scene, millimetresPerUnit: number): Linework {
  const scene = withinBounds(given, millimetresPerUnit);
  const sheets = scene.sheets ?? [],
    box = scene.page ?? (scene.items.length > 0 ? boxOfItems(scene.items) : boxOfSheets(sheets));
  const k = millimetresPerUnit / MM_PER_POINT;
  const margin = scene.page ? 0 : MARGIN * Math.max(box[2] - box[0], box[3] - box[1]);
  const matrix: Transform = [k, 0, 0, k, -k * (box[0] - margin), -k * (box[1] - margin)];
  const interpreter = new PageInterpreter({
    width: Math.max(1e-3, k * (box[2] - box[0] + 2 * margin)),
    height: Math.max(1e-3, k * (box[3] - box[1] + 2 * margin)),
    layers: scene.layers,
    keepHidden: true,
    kindsAreKnown: true,
  });
  for (const item of scene.items) {
    const { style } = item;
    const placed = {
      clips: [],
      layer: style.layer,
      hidden: style.layer >= 0 && !scene.layers[style.layer].on,
      kind: style.kind && kindCode(style.kind),
    };
    const strokeWidth = style.width > 0 ? style.width * k : HAIR,
      dash = style.dash.map((d) => d * k),
      colour = channels(style.colour);
    if (item.type === 'path') {
      interpreter.path({
        ...placed,
        matrix,
        coords: Float64Array.from(item.points.flat()),
        verbs: Uint8Array.from(verbsPerPoint(item.verbs)),
        count: item.points.length,
        fill: item.fill,
        fillColour: item.fill === 'none' ? null : channels(item.fillColour),
        opaque: false,
        stroke: item.stroke ? colour : null,
        strokeWidth,
        dash,
      });
    } else if (item.type === 'round') {
      const [cx, cy] = applyTransform(matrix, [item.cx, item.cy]);
      interpreter.round({
        ...placed,
        matrix,
        cx,
        cy,
        r: item.r * k,
        start: item.start,
        end: item.end,
        stroke: colour,
        strokeWidth,
        dash,
      });
    } else {
      const [x, y] = applyTransform(matrix, [item.x, item.y]);
      const c = Math.cos(item.radians),
        s = Math.sin(item.radians);
      interpreter.text({
        ...placed,
        matrix: [c, s, -s, c, x, y],
        text: item.text,
        size: item.height * k,
        width: item.width * k,
        colour,
        invisible: false,
      });
    }
  }
  const linework = interpreter.finish();
  linework.hatches += scene.hatches;
  linework.reference = {
    origin: [(box[0] - margin) * millimetresPerUnit, (box[1] - margin) * millimetresPerUnit],
  };
  if (sheets.length > 0)
    linework.reference.sheets = sheets.map(({ file, page, placing, ring, on }) => ({
      file,
      page,
      placement: placing.map((v) => v * millimetresPerUnit) as unknown as Transform,
      ring,
      on,
    }));
  return linework;
}

/** Where sheets lie whose size is not known: by their clips, or an A4 of each. */
function boxOfSheets(sheets: readonly SceneSheet[]): Box {
  const points = sheets.flatMap((s) =>
    (s.ring ?? boxRing([0, 0, 595, 842])).map((p) => applyTransform(s.placing, p)),
  );
  return points.length > 0 ? boxOfPoints(points) : [0, 0, 0, 0];
}

/** Nothing is drawn farther from its origin than this, millimetres: the earth is smaller. */
const FARTHEST = 1e11;

/** Without the items of which a number is none, or lies beyond bounds; they are counted as not understood. */
function withinBounds(scene: Scene, millimetresPerUnit: number): Scene {
  const farthest = FARTHEST / millimetresPerUnit;
  const fine = (v: number) => Math.abs(v) <= farthest;
  const isFine = (item: SceneItem): boolean =>
    item.type === 'path'
      ? item.points.every(([x, y]) => fine(x) && fine(y))
      : item.type === 'round'
        ? [item.cx, item.cy, item.r, item.start, item.end].every(fine)
        : [item.x, item.y, item.height, item.width, item.radians].every(fine);
  const items = scene.items.filter(isFine);
  if (items.length < scene.items.length)
    scene.unknown['beyond any drawing'] = scene.items.length - items.length;
  const page = scene.page?.every(fine) ? scene.page : undefined;
  const sheets = scene.sheets?.filter(
    (s) => s.placing.every(fine) && (s.ring ?? []).every(([x, y]) => fine(x) && fine(y)),
  );
  const looks = items.map((item) =>
    fine(item.style.width) && item.style.dash.every(fine)
      ? item
      : { ...item, style: { ...item.style, width: 0, dash: [] } },
  );
  return { ...scene, items: looks, page, sheets };
}

/** Scenes have one verb per piece; the interpreter wants one per point. */
const verbsPerPoint = (verbs: readonly number[]) =>
  verbs.flatMap((v) => ((v & 7) === Verb.curve ? [Verb.curve, Verb.curve, v] : [v]));

const channels = (c: number): Colour => ({ r: (c >> 16) & 255, g: (c >> 8) & 255, b: c & 255, a: 255 });

export function boxOfItems(items: readonly SceneItem[]): Box {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  const add = (x: number, y: number) => {
    if (!Number.isFinite(x) || !Number.isFinite(y)) return;
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    x1 = Math.max(x1, x);
    y1 = Math.max(y1, y);
  };
  for (const item of items) {
    if (item.type === 'path') for (const [x, y] of item.points) add(x, y);
    else if (item.type === 'round') {
      add(item.cx - item.r, item.cy - item.r);
      add(item.cx + item.r, item.cy + item.r);
    } else {
      add(item.x, item.y);
      add(item.x + item.width * Math.cos(item.radians), item.y + item.width * Math.sin(item.radians));
    }
  }
  return x0 > x1 ? [0, 0, 0, 0] : [x0, y0, x1, y1];
}
