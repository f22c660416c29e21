/// <reference lib="webworker" />
import { planLines } from '@calque/core/conversion';
import { makeRegion } from '@calque/core/geometry';
import type { FromPlanLines, ToPlanLines } from './plan-lines-protocol';
import { wholeLinework } from './whole-linework';

/** Makes a sheet's lines ready to be taken by pointing at them. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromPlanLines) => self.postMessage(message);

self.onmessage = async ({ data: { url, ring, switches, placement } }: MessageEvent<ToPlanLines>) => {
  try {
    const linework = await wholeLinework(url);
    say({ type: 'done', runs: planLines(linework, makeRegion([ring], 'nonzero'), switches, placement) });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
