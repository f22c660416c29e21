import { OFFERED_KINDS } from '@calque/core/snapping';
import { SNAP_WORDS, type Found } from '../snapping';
import type { Brush } from '../brush';
import { label } from './overlay';
import { segmentPath } from './trace';

export const LOUPE_SCALE = 8;
const RADIUS = 74;
/** How far from the pick the loupe stands, and how near two different places are for it to come by itself; CSS pixels. */
const AWAY = 104,
  CLOSE = 4.5;
/** Height of the ruler at the foot, which the loupe keeps clear of; figures stand above the pick. */
const FOOT = 40;

/** Do two different places lie so close together that they can hardly be told apart? */
export function placesAreClose(candidates: readonly Found[], scale: number): boolean {
  const [best, ...others] = candidates;
  return (
    best !== undefined &&
    others.some(
      (f) =>
        f.kind !== 'along' &&
        !OFFERED_KINDS.has(f.kind) &&
        Math.hypot(f.plane[0] - best.plane[0], f.plane[1] - best.plane[1]) * scale > 0.4 &&
        Math.hypot(f.plane[0] - best.plane[0], f.plane[1] - best.plane[1]) * scale < CLOSE,
    )
  );
}

/**
 * The pick at eight times: what is on the screen around it, with the places that could be meant drawn anew, so
 * that they are sharp. `below`: the canvases of what lies under the overlay, in order; `free`: how much of the width no panel covers.
 */
export function paintLoupe(
  brush: Brush,
  at: readonly [number, number],
  below: readonly HTMLCanvasElement[],
  candidates: readonly Found[],
  chosen: Found | null,
  size: { width: number; height: number },
  free: number,
): void {
  const { context, palette } = brush;
  const cx = at[0] + (at[0] + AWAY + RADIUS > free ? -AWAY : AWAY),
    cy = at[1] + (at[1] + AWAY + RADIUS > size.height - FOOT ? -AWAY : AWAY);
  context.save();
  context.beginPath();
  context.arc(cx, cy, RADIUS, 0, 2 * Math.PI);
  context.fillStyle = palette.table;
  context.shadowColor = 'rgba(23,39,58,.35)';
  context.shadowBlur = 12;
  context.fill();
  context.shadowColor = 'transparent';
  context.clip();
  const half = RADIUS / LOUPE_SCALE;
  for (const canvas of below) {
    const ratio = canvas.width / size.width;
    context.drawImage(
      canvas,
      (at[0] - half) * ratio,
      (at[1] - half) * ratio,
      2 * half * ratio,
      2 * half * ratio,
      cx - RADIUS,
      cy - RADIUS,
      2 * RADIUS,
      2 * RADIUS,
    );
  }
  const near: Brush = {
    ...brush,
    at: (p) => {
      const [x, y] = brush.at(p);
      return [cx + LOUPE_SCALE * (x - at[0]), cy + LOUPE_SCALE * (y - at[1])];
    },
  };
  for (const found of [
    ...candidates.filter((f) => f.kind !== 'along' && f !== chosen),
    ...(chosen ? [chosen] : []),
  ]) {
    const isChosen = found === chosen;
    context.strokeStyle = isChosen ? palette.found : palette.soft;
    context.lineWidth = isChosen ? 2.5 : 1;
    context.beginPath();
    for (const line of found.lit)
      for (let i = 1; i < line.length; i++) segmentPath(near, line[i - 1], line[i]);
    context.stroke();
    const [x, y] = near.at(found.plane);
    context.beginPath();
    context.arc(x, y, isChosen ? 5 : 3.5, 0, 2 * Math.PI);
    context.fillStyle = '#fffefa';
    context.fill();
    context.stroke();
    if (isChosen) label(near, SNAP_WORDS[found.kind], x + 9, y - 8, palette.found);
  }
  context.restore();
  context.save();
  context.strokeStyle = palette.ink;
  context.lineWidth = 1.5;
  context.beginPath();
  context.arc(cx, cy, RADIUS, 0, 2 * Math.PI);
  context.stroke();
  context.restore();
}
