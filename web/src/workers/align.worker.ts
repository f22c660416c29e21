/// <reference lib="webworker" />
import { linesOfKind } from '@calque/core/linework';
import { register } from '@calque/core/registration';
import type { AlignedSheet, FromAlign, ToAlign } from './align-protocol';
import { wholeLinework } from './whole-linework';

/** Finds how one sheet lies on another by walls, columns and grid: what is drawn with lines, without hatch, dimensions and mark-ups. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromAlign) => self.postMessage(message);

async function linesOf({ url, crop, ink }: AlignedSheet): Promise<Float64Array> {
  const own = url === null ? [] : linesOfKind(await wholeLinework(url), 'line', crop);
  return ink ? Float64Array.from([...own, ...within(ink, crop)]) : Float64Array.from(own);
}

/** Lines whose middle lies in the crop. */
function within(lines: Float64Array, [x0, y0, x1, y1]: AlignedSheet['crop']): number[] {
  const rows = Array.from({ length: lines.length / 4 }, (_, i) => lines.subarray(4 * i, 4 * i + 4));
  return rows
    .filter(
      ([ax, ay, bx, by]) => ax + bx >= 2 * x0 && ax + bx <= 2 * x1 && ay + by >= 2 * y0 && ay + by <= 2 * y1,
    )
    .flatMap((r) => [...r]);
}

self.onmessage = async ({ data }: MessageEvent<ToAlign>) => {
  try {
    const [moving, onto] = await Promise.all([linesOf(data.moving), linesOf(data.onto)]);
    if (moving.length === 0 || onto.length === 0) {
      say({
        type: 'none',
        why: `The ${moving.length === 0 ? 'sheet to be aligned' : 'other sheet'} has no lines to go by. Align them by common points instead.`,
      });
      return;
    }
    const fit = register(moving, onto, (share) => say({ type: 'progress', share }));
    if (fit) say({ type: 'done', fit, moving, onto });
    else
      say({
        type: 'none',
        why: 'The two sheets have too few lines in common. Align them by common points instead.',
      });
  } catch (error) {
    say({ type: 'none', why: error instanceof Error ? error.message : String(error) });
  }
};
