import type { Table } from '@/table/table';
import type { Tool } from '@/table/tool';

/** A tool that can be used in several ways. */
interface Turning extends Tool {
  nextVariant(): boolean;
}

/** The ways of a tool, to choose from, and the one that it works in. */
export interface Ways {
  words: readonly string[];
  at: number;
  choose(at: number): void;
}

/** A tool whose ways can be named. */
export interface NamedWays extends Turning {
  ways(): Ways;
}

/** Takes the next way in which the drawing tool in hand works; false where it has but one, or none is in hand. */
export function nextWay(table: Table): boolean {
  const tool = table.currentTool;
  const turned = 'nextVariant' in tool && (tool as Turning).nextVariant();
  if (turned) table.showTool();
  return turned;
}

/** The ways of the tool in hand; null where it has but one. */
export function waysInHand(table: Table): Ways | null {
  const tool = table.currentTool;
  if (!('ways' in tool) || typeof tool.ways !== 'function') return null;
  const ways = (tool as NamedWays).ways();
  return ways.words.length > 1 ? ways : null;
}
