import type { Point } from '../../geometry/index.ts';
import type { GridLine } from './grid-line.ts';

/** Letters in the order in which grid lines take them: without I and O, which are read as figures. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ';
/** Grid lines that differ by less than this (sine) run the same way. */
const SAME_WAY = 0.01;

const runsLike = (line: Pick<GridLine, 'from' | 'to'>, from: Point, to: Point): boolean => {
  const [ax, ay, bx, by] = [
    line.to[0] - line.from[0],
    line.to[1] - line.from[1],
    to[0] - from[0],
    to[1] - from[1],
  ];
  return Math.abs(ax * by - ay * bx) <= SAME_WAY * Math.hypot(ax, ay) * Math.hypot(bx, by);
};

/** The name after another: 2 after 1, B after A, AA after Z; what ends in a figure counts that on. */
export function nextName(name: string): string {
  const figure = /^(.*?)(\d+)$/.exec(name);
  if (figure) return `${figure[1]}${Number(figure[2]) + 1}`;
  const last = LETTERS.indexOf(name.at(-1)?.toUpperCase() ?? '');
  if (last < 0) return `${name}1`;
  if (last + 1 < LETTERS.length) return name.slice(0, -1) + LETTERS[last + 1];
  return name.length > 1 ? nextName(name.slice(0, -1)) + LETTERS[0] : LETTERS[0] + LETTERS[0];
}

/** A name for a new grid line: the one after the last that runs the same way; figures first, letters for a second direction. */
export function nextGridName(lines: readonly GridLine[], from: Point, to: Point): string {
  const names = new Set(lines.map((l) => l.name));
  const last = lines.filter((l) => runsLike(l, from, to)).at(-1)?.name;
  let name = last ? nextName(last) : names.has('1') ? 'A' : '1';
  while (names.has(name)) name = nextName(name);
  return name;
}

/** Added elements, grid lines among them under names that neither the others nor they themselves have yet. */
export function namedApart<T extends { type: string }>(
  others: readonly GridLine[],
  added: readonly T[],
): T[] {
  const lines = [...others];
  return added.map((e) => {
    if (e.type !== 'gridLine') return e;
    const line = e as unknown as GridLine;
    const named = lines.some((l) => l.name === line.name)
      ? { ...line, name: nextGridName(lines, line.from, line.to) }
      : line;
    lines.push(named);
    return named as unknown as T;
  });
}
