/// <reference lib="webworker" />
import { joinWalls, roomsWithin } from '@calque/core/building';
import type { FromJoins, ToJoins } from './protocol';

/** Unites wall bodies into outlines, and finds the rooms that they enclose, away from the page: a second of work for two thousand walls. */
declare const self: DedicatedWorkerGlobalScope;

self.onmessage = ({ data: { key, walls, open } }: MessageEvent<ToJoins>) => {
  const say = (message: FromJoins) => self.postMessage(message);
  // The outlines are waited for by every stroke; rooms may come after them.
  say({ key, outlines: joinWalls(walls).outlines });
  say({ key, rooms: roomsWithin(walls, open).rooms });
};
