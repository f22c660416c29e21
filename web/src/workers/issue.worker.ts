/// <reference lib="webworker" />
import {
  applyTransform,
  compose,
  invertTransform,
  MM_PER_POINT,
  type Transform,
} from '@calque/core/geometry';
import { straightLines, type Linework } from '@calque/core/linework';
import { changesSeen, proposalsOn, type SeenIssue } from '@calque/core/proposals';
import { compareLines, placementOfNew, register, type Differences } from '@calque/core/registration';
import type { FromIssue, IssueChanges, ToIssue } from './issue-protocol';
import { wholeLinework } from './whole-linework';

/** Lays a new issue of a page on the old one, and tells what differs. */
declare const self: DedicatedWorkerGlobalScope;
const say = (message: FromIssue) => self.postMessage(message);
/** Shares of the whole: finding the place takes about half, comparing lines most of the rest. */
const HALF = 0.5,
  LINES = 0.85;

self.onmessage = async ({ data: { oldUrl, newUrl, lies } }: MessageEvent<ToIssue>) => {
  try {
    const [oldPage, newPage] = await Promise.all([oldUrl, newUrl].map(wholeLinework)),
      [older, newer] = [oldPage, newPage].map(straightLines);
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
    const own = compareLines(older, newer, fit.transform, (share) =>
      say({ type: 'progress', share: HALF + share * (LINES - HALF) }),
    );
    const isDrawn = oldPage.content === 'vector' && newPage.content === 'vector';
    say({
      type: 'done',
      fit,
      ...own,
      seen: lies && isDrawn ? seenOtherwise(oldPage, newPage, fit.transform, own, lies) : null,
    });
  } catch (error) {
    say({ type: 'none', why: error instanceof Error ? error.message : String(error) });
  }
};

/** What both pages are seen to show, and what of that is not the same. */
function seenOtherwise(
  oldPage: Linework,
  newPage: Linework,
  newFromOld: Transform,
  { added, gone }: Differences,
  { which, placement, ring, switches }: NonNullable<ToIssue['lies']>,
): IssueChanges {
  const isOlder = which === 'older',
    planeFromNew = isOlder ? placementOfNew(placement, newFromOld) : placement,
    planeFromOld = isOlder ? placement : compose(placement, newFromOld),
    ringOn = (map: Transform) => ring.map((p) => applyTransform(map, p));
  const see = (page: Linework, at: Transform, own: typeof ring): SeenIssue => {
    const { walls, openings } = proposalsOn(
      page,
      { x: Math.hypot(at[0], at[1]) / MM_PER_POINT, y: Math.hypot(at[2], at[3]) / MM_PER_POINT },
      { ring: own, switches },
    );
    return { seen: { walls, openings }, placement: at };
  };
  const onPlane = (lines: readonly (readonly number[])[]) =>
    lines.map(([x0, y0, x1, y1]) => [
      ...applyTransform(planeFromNew, [x0, y0]),
      ...applyTransform(planeFromNew, [x1, y1]),
    ]);
  const older = see(oldPage, planeFromOld, isOlder ? ring : ringOn(invertTransform(newFromOld))),
    newer = see(newPage, planeFromNew, isOlder ? ringOn(newFromOld) : ring);
  return { older, newer, changes: changesSeen(older, newer, { added: onPlane(added), gone: onPlane(gone) }) };
}
