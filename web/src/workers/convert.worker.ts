/// <reference lib="webworker" />
import { convertRegion } from '@calque/core/conversion';
import { makeRegion } from '@calque/core/geometry';
import type { FromConvert, ToConvert } from './convert-protocol';
import { wholeLinework } from './whole-linework';

/** Turns a region of a sheet into elements, off the page's thread; stopped by ending the worker. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromConvert) => self.postMessage(message);
/** Progress is told in steps of this share. */
const STEP = 0.02;

self.onmessage = async ({ data: { url, ring, ask } }: MessageEvent<ToConvert>) => {
  try {
    const linework = await wholeLinework(url);
    let told = 0;
    const converted = convertRegion(linework, { ...ask, region: makeRegion([ring], 'nonzero') }, (share) => {
      if (share - told < STEP) return;
      told = share;
      say({ type: 'progress', share });
    });
    say({ type: 'done', converted });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
