/// <reference lib="webworker" />
import type { FromPropose, ToPropose } from './propose-protocol';
import { seenOnSheet } from './seen-on-sheet';

/** Sees what a sheet shows. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromPropose) => self.postMessage(message);

self.onmessage = async ({ data }: MessageEvent<ToPropose>) => {
  try {
    const { proposals, ink } = await seenOnSheet(data, (share) => say({ type: 'progress', share }));
    say({ type: 'done', proposals, ink });
  } catch (error) {
    say({ type: 'failed', why: error instanceof Error ? error.message : String(error) });
  }
};
