import { hasJoints, jointLines } from '@calque/core/framing';
import { ownerId, type Model } from '@calque/core/model';
import type { Brush } from '../brush';
import type { TraceOfPlane } from '../trace-cache';
import { PlanePath } from './plane-path';

interface Paths {
  model: Model;
  plates: PlanePath;
  bolts: PlanePath;
}
const known = new WeakMap<TraceOfPlane, Paths>();

/** The joints of what shows: those of a member that is hidden or put away go with it. */
function pathsOf(model: Model, planeId: string, trace: TraceOfPlane): Paths {
  let paths = known.get(trace);
  if (paths?.model !== model) {
    const lines = jointLines(model, planeId, (id) => trace.elements.has(ownerId(id)));
    paths = { model, plates: new PlanePath(), bolts: new PlanePath() };
    for (const piece of lines.plates) paths.plates.piece(piece);
    for (const piece of lines.bolts) paths.bolts.piece(piece);
    known.set(trace, paths);
  }
  return paths;
}

/** What joints put on a plane: plates by their outlines, bolts by their axes. */
export function paintJoints(
  brush: Brush,
  model: Model,
  planeId: string,
  trace: TraceOfPlane,
  alpha: number,
): void {
  if (!hasJoints(model)) return;
  const { context, palette } = brush,
    { plates, bolts } = pathsOf(model, planeId, trace);
  context.save();
  context.globalAlpha = alpha;
  context.strokeStyle = palette.ink;
  plates.stroke(brush, 1.2);
  bolts.stroke(brush, 1);
  context.restore();
}
