import { applyTransform, Groups, type Transform } from '../geometry/index.ts';
import { LineFinder } from './line-finder.ts';
import type { Lines, Progress } from './types.ts';

/** What two issues of a page have not in common: straight lines of the new page, and of the old one, both in sheet points of the new page. */
export interface Differences {
  added: number[][];
  gone: number[][];
}

/** Lines nearer than this (sheet points) are the same line. */
const SAME_PLACE = 0.5;
/** What is left of a line that lies on others but for so much is no difference. */
const LEAST_LEFT = 1,
  LEAST_SHARE = 0.02;

/** Compares the lines of two pages laid on one another; a line drawn in other pieces is no difference. */
export function compareLines(
  oldLines: Lines,
  newLines: Lines,
  newFromOld: Transform,
  progress: Progress = () => {},
): Differences {
  const moved = new Float64Array(oldLines.length);
  for (let i = 0; i < oldLines.length; i += 2)
    [moved[i], moved[i + 1]] = applyTransform(newFromOld, [oldLines[i], oldLines[i + 1]]);
  const added = notAmong(newLines, new LineFinder(moved), (share) => progress(share / 2));
  const gone = notAmong(moved, new LineFinder(newLines), (share) => progress((1 + share) / 2));
  return { added, gone };
}

const TELL_EVERY = 4096;

function notAmong(lines: Lines, others: LineFinder, progress: Progress): number[][] {
  const out: number[][] = [];
  for (let i = 0; i < lines.length; i += 4) {
    if ((i / 4) % TELL_EVERY === 0) progress(i / lines.length);
    const [x0, y0, x1, y1] = [lines[i], lines[i + 1], lines[i + 2], lines[i + 3]];
    const length = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2);
    // Most lines are there whole: that is soon known, and the rest is asked part by part.
    if (others.sameLine([x0, y0], [x1, y1], SAME_PLACE)) continue;
    const parts = others
      .uncovered([x0, y0], [x1, y1], SAME_PLACE)
      .filter(([a, b]) => (b - a) * length > Math.min(LEAST_LEFT, length / 2) && b - a > LEAST_SHARE);
    for (const [a, b] of parts)
      out.push([x0 + a * (x1 - x0), y0 + a * (y1 - y0), x0 + b * (x1 - x0), y0 + b * (y1 - y0)]);
  }
  return out;
}

/** Differences that lie together are looked at together: boxes round groups, the largest first. */
export function groupDifferences(
  lines: readonly (readonly number[])[],
  gap: number,
): { box: [number, number, number, number]; lines: number[] }[] {
  const together = new Groups(lines.length);
  const order = lines.map((_, i) => i).sort((a, b) => boxOf(lines[a])[0] - boxOf(lines[b])[0]);
  // A sweep from left to right: only what is still near can be a neighbour.
  let active: number[] = [];
  for (const i of order) {
    const [x0, y0, , y1] = boxOf(lines[i]);
    active = active.filter((j) => boxOf(lines[j])[2] + gap >= x0);
    for (const j of active) {
      const other = boxOf(lines[j]);
      if (other[1] - gap <= y1 && y0 <= other[3] + gap) together.join(i, j);
    }
    active.push(i);
  }
  const groups = new Map<number, { box: [number, number, number, number]; lines: number[] }>();
  lines.forEach((line, i) => {
    const box = boxOf(line);
    const group = groups.get(together.of(i));
    if (!group) groups.set(together.of(i), { box, lines: [i] });
    else {
      group.box = [
        Math.min(group.box[0], box[0]),
        Math.min(group.box[1], box[1]),
        Math.max(group.box[2], box[2]),
        Math.max(group.box[3], box[3]),
      ];
      group.lines.push(i);
    }
  });
  return [...groups.values()].sort((a, b) => b.lines.length - a.lines.length);
}

const boxOf = ([x0, y0, x1, y1]: readonly number[]): [number, number, number, number] => [
  Math.min(x0, x1),
  Math.min(y0, y1),
  Math.max(x0, x1),
  Math.max(y0, y1),
];

/** Does a plane line lie on one of the lines that are gone? Both in the same space. */
export function leansOnGone(
  gone: readonly (readonly number[])[],
  lines: readonly (readonly [number, number, number, number])[],
  reach: number,
): boolean[] {
  const finder = new LineFinder(Float64Array.from(gone.flat()));
  return lines.map(
    ([x0, y0, x1, y1]) =>
      finder.uncovered([x0, y0], [x1, y1], reach).reduce((s, [a, b]) => s + b - a, 0) < 0.7,
  );
}
