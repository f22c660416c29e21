/// <reference lib="webworker" />
import { MM_PER_POINT } from '@calque/core/geometry';
import { proposalsOn } from '@calque/core/proposals';
import type { FromPropose, ToPropose } from './propose-protocol';
import { wholeLinework } from './whole-linework';

/** Sees what a sheet shows. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromPropose) => self.postMessage(message);

self.onmessage = async ({ data: { url, ring, switches, placement, told } }: MessageEvent<ToPropose>) => {
  try {
    const linework = await wholeLinework(url),
      [a, b, c, d] = placement;
    if (linework.content === 'scan') {
      say({
        type: 'failed',
        why: 'This sheet is a picture without lines of its own: read its ink and trace it, walls are not seen in pictures yet.',
      });
      return;
    }
    const proposals = proposalsOn(
      linework,
      { x: Math.hypot(a, b) / MM_PER_POINT, y: Math.hypot(c, d) / MM_PER_POINT },
      { ring, switches, told },
    );
    say({ type: 'done', proposals });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
