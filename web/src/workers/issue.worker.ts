/// <reference lib="webworker" />
import { straightLines } from '@calque/core/linework';
import { compareLines, register } from '@calque/core/registration';
import type { FromIssue, ToIssue } from './issue-protocol';
import { wholeLinework } from './whole-linework';

/** Lays a new issue of a page on the old one, and tells what differs. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromIssue) => self.postMessage(message);
/** Shares of the whole: finding the place takes about half. */
const HALF = 0.5;

self.onmessage = async ({ data: { oldUrl, newUrl } }: MessageEvent<ToIssue>) => {
  try {
    const [older, newer] = await Promise.all(
      [oldUrl, newUrl].map(async (url) => straightLines(await wholeLinework(url))),
    );
    if (older.length === 0 || newer.length === 0) {
      say({
        type: 'none',
        why: `The ${older.length === 0 ? 'old' : 'new'} page has no lines to compare, so it cannot be laid by itself. Lay it down as a sheet of its own and calibrate it.`,
      });
      return;
    }
    const fit = register(older, newer, (share) => say({ type: 'progress', share: share * HALF }));
    if (!fit) {
      say({
        type: 'none',
        why: 'The two pages have too little in common to be laid on one another. Is it the right page?',
      });
      return;
    }
    const { added, gone } = compareLines(older, newer, fit.transform, (share) =>
      say({ type: 'progress', share: HALF + share * (1 - HALF) }),
    );
    say({ type: 'done', fit, added, gone });
  } catch (error) {
    say({ type: 'none', why: error instanceof Error ? error.message : String(error) });
  }
};
