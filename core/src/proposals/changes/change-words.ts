import { formatLengthWithUnit, type LengthStyle } from '../../units/index.ts';
import type { SeenChange, SeenIssue } from './types.ts';

/** One change in words: "wall of 115 mm moved by 150 mm", "door of 900 mm gone". */
export function changeWords(
  change: SeenChange,
  older: SeenIssue,
  newer: SeenIssue,
  style: LengthStyle,
): string {
  const length = (mm: number) => formatLengthWithUnit(mm, style),
    wall = (issue: SeenIssue, n: number) => `Wall ${length(issue.seen.walls[n].thickness)} thick`,
    opening = (issue: SeenIssue, n: number) => {
      const { kind, width } = issue.seen.openings[n];
      return `${kind.replace(/^./, (c) => c.toUpperCase())} ${length(width)} wide`;
    };
  switch (change.kind) {
    case 'wall-moved':
      return `${wall(newer, change.newer)} moved by ${length(Math.hypot(...change.by))}`;
    case 'wall-thickness':
      return `Wall ${length(change.from)} thick is ${length(change.to)} now`;
    case 'wall-ends': {
      const { from, to } = change.at,
        sum = from + to;
      return `${wall(newer, change.newer)} ${sum >= 0 ? 'longer' : 'shorter'} by ${length(Math.abs(sum))}`;
    }
    case 'wall-gone':
      return `${wall(older, change.older)} gone`;
    case 'wall-new':
      return `${wall(newer, change.newer)} new`;
    case 'opening-gone':
      return `${opening(older, change.older)} gone`;
    case 'opening-new':
      return `${opening(newer, change.newer)} new`;
    case 'opening-changed': {
      const { by, wider, other, hung } = change,
        what = [
          other ? `is a ${newer.seen.openings[change.newer].kind} now` : '',
          wider !== 0 ? `${wider > 0 ? 'wider' : 'narrower'} by ${length(Math.abs(wider))}` : '',
          by !== 0 ? `moved by ${length(Math.abs(by))}` : '',
          hung ? 'hung otherwise' : '',
        ].filter(Boolean);
      return `${opening(older, change.older)} ${what.join(', ')}`;
    }
  }
}

/** All of them in a sentence: "2 walls moved by 150 mm, one door gone." */
export function changesWords(
  changes: readonly SeenChange[],
  older: SeenIssue,
  newer: SeenIssue,
  style: LengthStyle,
): string {
  const length = (mm: number) => formatLengthWithUnit(mm, style),
    groups = new Map<string, { one: string; many: string; rest: string; n: number }>();
  const count = (one: string, rest: string) => {
    const known = groups.get(`${one} ${rest}`);
    if (known) known.n++;
    else groups.set(`${one} ${rest}`, { one, many: `${one}s`, rest, n: 1 });
  };
  for (const c of changes) {
    if (c.kind === 'wall-moved') count('wall', `moved by ${length(Math.hypot(...c.by))}`);
    else if (c.kind === 'wall-thickness') count('wall', `${length(c.to)} thick instead of ${length(c.from)}`);
    else if (c.kind === 'wall-ends') count('wall', c.at.from + c.at.to >= 0 ? 'longer' : 'shorter');
    else if (c.kind === 'wall-gone') count('wall', 'gone');
    else if (c.kind === 'wall-new') count('wall', 'new');
    else if (c.kind === 'opening-gone') count(older.seen.openings[c.older].kind, 'gone');
    else if (c.kind === 'opening-new') count(newer.seen.openings[c.newer].kind, 'new');
    else count(older.seen.openings[c.older].kind, 'changed');
  }
  return [...groups.values()]
    .map(({ one, many, rest, n }) => `${n === 1 ? `one ${one}` : `${n} ${many}`} ${rest}`)
    .join(', ');
}
