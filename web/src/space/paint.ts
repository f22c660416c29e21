import {
  applyTransform,
  boxRing,
  compose,
  planeFromWorld,
  worldFromPlane,
  type Frame,
  type Point,
  type Transform,
} from '@calque/core/geometry';
import { frameOf, nearness, planeInView } from '@calque/core/planes';
import type { Palette } from '@/table/palette';
import type { ScenePlane, SceneSheet, SceneWall } from './scene';

/** What the picture is painted with: the view, and the way from its millimetres onto the canvas. */
export interface SpaceBrush {
  context: CanvasRenderingContext2D;
  palette: Palette;
  view: Frame;
  screenFromView: Transform;
  pictureOf(sheet: SceneSheet): CanvasImageSource | null;
}

/** Paper lets what lies behind it show through, as tracing paper does; ink does not fade with it. */
const PAPER_ALPHA = 0.42;
const FONT = '12px "Archivo Variable", sans-serif';

const screenFromPlane = ({ view, screenFromView }: SpaceBrush, plane: ScenePlane): Transform =>
  compose(screenFromView, planeInView(frameOf(plane.plane), view));

const middle = ({ box: [x0, y0, x1, y1] }: ScenePlane): Point => [(x0 + x1) / 2, (y0 + y1) / 2];

/** Planes from the farthest to the nearest. */
export const fromBehind = (planes: readonly ScenePlane[], view: Frame): ScenePlane[] =>
  [...planes].sort(
    (a, b) =>
      nearness(worldFromPlane(frameOf(a.plane), middle(a)), view) -
      nearness(worldFromPlane(frameOf(b.plane), middle(b)), view),
  );

export function paintScene(brush: SpaceBrush, planes: readonly ScenePlane[], currentId: string): void {
  for (const plane of fromBehind(planes, brush.view)) paintPlane(brush, plane, plane.plane.id === currentId);
}

function paintPlane(brush: SpaceBrush, plane: ScenePlane, isCurrent: boolean): void {
  const { context, palette } = brush,
    map = screenFromPlane(brush, plane);
  const path = (points: readonly Point[], close: boolean) => {
    points.forEach((p, i) => {
      const [x, y] = applyTransform(map, p);
      if (i === 0) context.moveTo(x, y);
      else context.lineTo(x, y);
    });
    if (close) context.closePath();
  };
  context.save();
  for (const sheet of plane.sheets) {
    context.save();
    context.beginPath();
    path(sheet.ring, true);
    context.globalAlpha = PAPER_ALPHA;
    context.fillStyle = '#ffffff';
    context.fill();
    context.strokeStyle = palette.edge;
    context.stroke();
    context.clip();
    const picture = brush.pictureOf(sheet);
    if (picture) {
      // The picture's y goes down from the sheet's upper edge.
      const [a, b, c, d, e, f] = compose(compose(map, sheet.placement), [
        sheet.width,
        0,
        0,
        -sheet.height,
        0,
        sheet.height,
      ]);
      context.globalAlpha = 1 - sheet.fade;
      context.globalCompositeOperation = 'multiply';
      context.transform(a, b, c, d, e, f);
      context.drawImage(picture, 0, 0, 1, 1);
    }
    context.restore();
  }
  context.beginPath();
  path(boxRing(plane.box), true);
  context.strokeStyle = isCurrent ? palette.now : palette.ghost;
  context.lineWidth = isCurrent ? 2 : 1;
  context.stroke();
  context.strokeStyle = palette.ink;
  context.lineWidth = 1;
  context.beginPath();
  for (const line of plane.lines) path(line, false);
  context.stroke();
  paintWalls(brush, plane);
  const [x, y] = applyTransform(map, [plane.box[0], plane.box[1]]);
  context.font = FONT;
  context.fillStyle = isCurrent ? palette.now : palette.ink;
  context.fillText(plane.plane.name, x + 4, y + 14);
  context.restore();
}

/** The sides of walls that face whoever looks, and their tops, the farthest first. */
function paintWalls(brush: SpaceBrush, { plane, walls }: ScenePlane): void {
  const { context, palette, view, screenFromView } = brush,
    frame = frameOf(plane);
  const faces = walls.flatMap((wall) => facesOf(wall, frame, view)).sort((a, b) => a.near - b.near);
  context.strokeStyle = palette.soft;
  context.lineWidth = 0.8;
  context.lineJoin = 'round';
  for (const { corners, isTop } of faces) {
    context.beginPath();
    corners.forEach((p, i) => {
      const [x, y] = applyTransform(screenFromView, p);
      if (i === 0) context.moveTo(x, y);
      else context.lineTo(x, y);
    });
    context.closePath();
    context.fillStyle = isTop ? '#cfd5da' : '#eef0ee';
    context.fill();
    context.stroke();
  }
}

interface Face {
  corners: Point[];
  near: number;
  isTop: boolean;
}

function facesOf({ ring, height }: SceneWall, frame: Frame, view: Frame): Face[] {
  const foot = ring.map((p) => worldFromPlane(frame, p)),
    top = foot.map(([x, y, z]) => [x, y, z + height] as const);
  const seen = (p: readonly [number, number, number]) => planeFromWorld(view, p).point;
  const out: Face[] = [];
  for (let i = 0; i < foot.length; i++) {
    const j = (i + 1) % foot.length,
      corners = [foot[i], foot[j], top[j], top[i]];
    out.push({
      corners: corners.map(seen),
      near: corners.reduce((sum, p) => sum + nearness(p, view), 0) / 4,
      isTop: false,
    });
  }
  out.push({
    corners: top.map(seen),
    near: top.reduce((sum, p) => sum + nearness(p, view), 0) / top.length,
    isTop: true,
  });
  return out;
}

/** The nearest plane under a place of the canvas. */
export function planeAt(brush: SpaceBrush, planes: readonly ScenePlane[], at: Point): ScenePlane | null {
  for (const plane of fromBehind(planes, brush.view).reverse()) {
    const [a, b, c, d, e, f] = screenFromPlane(brush, plane),
      det = a * d - b * c;
    // One that is seen edge on is pointed at by nobody.
    if (Math.abs(det) < 1e-9) continue;
    const [x, y] = [(d * (at[0] - e) - c * (at[1] - f)) / det, (a * (at[1] - f) - b * (at[0] - e)) / det];
    const [x0, y0, x1, y1] = plane.box;
    if (x >= x0 && x <= x1 && y >= y0 && y <= y1) return plane;
  }
  return null;
}
