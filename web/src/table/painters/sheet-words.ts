import { applyTransform, meanScale } from '@calque/core/geometry';
import { lookOf, ofType, type Model } from '@calque/core/model';
import type { Brush } from '../brush';
import type { LineworkCache } from '../linework-cache';
import type { WordRoom } from './word-room';

/** Printed words lower than this on the screen are a grey line that nobody reads, CSS pixels. */
const LEAST_PRINTED = 3;
/** So many at most are kept clear of in one frame. */
const MOST_PRINTED = 20000;

/** Takes the ground on which the sheets in sight print words of their own. */
export function takeSheetWords(
  room: WordRoom,
  brush: Brush,
  model: Model,
  planeId: string,
  sheets: LineworkCache,
): void {
  let left = MOST_PRINTED;
  for (const u of ofType(model, 'underlay')) {
    if (u.planeId !== planeId || !u.visible || lookOf(u).linesOnly) continue;
    const texts = sheets.get(u.fileId, u.page)?.linework.texts ?? [],
      scale = meanScale(u.placement) * brush.view.scale;
    for (const t of texts) {
      if (t.height * scale < LEAST_PRINTED) continue;
      if (left-- <= 0) return;
      const ux = Math.cos(t.radians),
        uy = Math.sin(t.radians);
      const corners = [
        [0, -0.2],
        [t.width, -0.2],
        [t.width, 0.85],
        [0, 0.85],
      ].map(([along, up]) =>
        brush.at(
          applyTransform(u.placement, [
            t.x + along * ux - up * t.height * uy,
            t.y + along * uy + up * t.height * ux,
          ]),
        ),
      );
      const xs = corners.map((p) => p[0]),
        ys = corners.map((p) => p[1]);
      room.take([Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]);
    }
  }
}
