/// <reference lib="webworker" />
import { readPrinted } from '@calque/core/calibration';
import { decodeLinework } from '@calque/core/linework';
import type { FromPrinted, ToPrinted } from './printed-protocol';
import { fetchBytes } from './sheet-pictures';

/** Reads the printed dimensions of a sheet. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromPrinted) => self.postMessage(message);

self.onmessage = async ({ data: { url, units } }: MessageEvent<ToPrinted>) => {
  try {
    const { linework } = decodeLinework(await fetchBytes(url));
    say({ type: 'done', reading: readPrinted(linework, { units, progress: (share) => say({ type: 'progress', share }) }) });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
