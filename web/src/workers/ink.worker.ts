/// <reference lib="webworker" />
import { inkLines, meetEnds } from '@calque/core/ink';
import { greyOf } from './grey-of';
import type { FromInk, ToInk } from './ink-protocol';

/** Reads the straight lines of a scan. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromInk, transfer: Transferable[] = []) => self.postMessage(message, transfer);

/** Shorter ones are letters and dirt, sheet points. */
const SHORTEST = 6;

self.onmessage = ({ data: { bitmap, scale } }: MessageEvent<ToInk>) => {
  try {
    const found = meetEnds(
      inkLines(greyOf(bitmap, scale), (share) => say({ type: 'progress', share })),
    ).filter((l) => Math.hypot(l.to[0] - l.from[0], l.to[1] - l.from[1]) >= SHORTEST);
    const lines = new Float64Array(found.flatMap((l) => [...l.from, ...l.to])),
      strays = new Float64Array(found.map((l) => l.rms));
    say({ type: 'done', lines, strays }, [lines.buffer, strays.buffer]);
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
