import { hasJoints, jointLines } from '@calque/core/framing';
import type { Model } from '@calque/core/model';
import type { Brush } from '../brush';
import { PlanePath } from './plane-path';

interface Paths {
  plates: PlanePath;
  bolts: PlanePath;
}
const known = new WeakMap<Model, Map<string, Paths>>();

function pathsOf(model: Model, planeId: string): Paths {
  let planes = known.get(model);
  if (!planes) known.set(model, (planes = new Map()));
  let paths = planes.get(planeId);
  if (!paths) {
    const lines = jointLines(model, planeId);
    paths = { plates: new PlanePath(), bolts: new PlanePath() };
    for (const piece of lines.plates) paths.plates.piece(piece);
    for (const piece of lines.bolts) paths.bolts.piece(piece);
    planes.set(planeId, paths);
  }
  return paths;
}

/** What joints put on a plane: plates by their outlines, bolts by their axes. */
export function paintJoints(brush: Brush, model: Model, planeId: string, alpha: number): void {
  if (!hasJoints(model)) return;
  const { context, palette } = brush,
    { plates, bolts } = pathsOf(model, planeId);
  context.save();
  context.globalAlpha = alpha;
  context.strokeStyle = palette.ink;
  plates.stroke(brush, 1.2);
  bolts.stroke(brush, 1);
  context.restore();
}
