import type { Entity, Pair } from '@calque/core/model';
import type { Table } from '@/table/table';

/** One thing that a person does while a tool is shown; places in plane millimetres. */
export type Act =
  | { does: 'say'; words: string }
  | { does: 'point'; at: Pair }
  | { does: 'click'; at: Pair }
  | { does: 'drag'; from: Pair; to: Pair }
  | { does: 'key'; key: string }
  | { does: 'type'; figures: readonly string[] }
  | { does: 'run'; command: string }
  | { does: 'choose'; ids: readonly string[] }
  /** What a card or a worker does when it has been asked. */
  | { does: 'call'; act(table: Table): void };

/** How a tool is shown: what lies there before, and what is done with it. */
export interface Showing {
  before: readonly Entity[];
  /** What of the drawing is seen, plane millimetres. */
  sees?: readonly [number, number, number, number];
  acts: readonly Act[];
}

export const say = (words: string): Act => ({ does: 'say', words });
export const point = (x: number, y: number): Act => ({ does: 'point', at: [x, y] });
export const click = (x: number, y: number): Act => ({ does: 'click', at: [x, y] });
export const drag = (x: number, y: number, toX: number, toY: number): Act => ({
  does: 'drag',
  from: [x, y],
  to: [toX, toY],
});
export const key = (name: string): Act => ({ does: 'key', key: name });
export const type = (...figures: string[]): Act => ({ does: 'type', figures });
export const run = (command: string): Act => ({ does: 'run', command });
export const choose = (...ids: string[]): Act => ({ does: 'choose', ids });
export const call = (act: (table: Table) => void): Act => ({ does: 'call', act });
