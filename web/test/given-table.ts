import { vi } from 'vitest';
import {
  apply,
  EMPTY_HISTORY,
  groundStorey,
  modelOf,
  type Change,
  type Entity,
  type Line,
  type Model,
  type Underlay,
  type Wall,
} from '@calque/core/model';
import { createTableState } from '../src/table/state.ts';
import type { Table } from '../src/table/table.ts';
import type { Pick, Tool } from '../src/table/tool.ts';
import { TraceCache } from '../src/table/trace-cache.ts';
import type { SnapKind } from '@calque/core/snapping';

export const source = { underlayId: null, ends: 'typed', thickness: 'typed' } as const;
export const wall = (
  id: string,
  from: [number, number],
  to: [number, number],
  more: Partial<Wall> = {},
): Wall => ({
  type: 'wall',
  id,
  planeId: 'ground',
  from,
  to,
  thickness: 100,
  alignment: 'centre',
  height: 2700,
  heightAssumed: true,
  source,
  ...more,
});
export const line = (id: string, from: [number, number], to: [number, number]): Line => ({
  type: 'line',
  id,
  planeId: 'ground',
  from,
  to,
  source,
});
export const underlay = (id: string, more: Partial<Underlay> = {}): Underlay =>
  ({
    type: 'underlay',
    id,
    name: `Sheet ${id}`,
    fileId: 'f',
    page: 1,
    planeId: 'ground',
    crop: [0, 0, 100, 100],
    placement: [1, 0, 0, 1, 0, 0],
    scaleState: 'paper',
    calibration: null,
    visible: true,
    fade: 0,
    locked: false,
    snap: true,
    order: 1,
    ...more,
  }) as Underlay;

/** A drawing surface without canvas, pointer or server: what tools see of it. */
export function tableWith(...entities: Entity[]) {
  vi.stubGlobal(
    'Worker',
    class {
      postMessage(): void {}
      terminate(): void {}
    },
  );
  let model: Model = modelOf([
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    groundStorey('ground'),
    ...entities,
  ]);
  const steps: { label: string; inverse: Change }[] = [];
  const told: string[] = [];
  const state = createTableState();
  let tool: Tool | null = null;
  const table = {
    state,
    traces: new TraceCache(() => {}),
    view: { scale: 1, x: 0, y: 0 },
    shown: [] as unknown[],
    sheets: {},
    session: {
      get state() {
        return { model, history: EMPTY_HISTORY };
      },
      do(change: Change | null, label: string): boolean {
        if (!change) return true;
        const applied = apply(model, change);
        if (!applied.ok) return false;
        model = applied.model;
        steps.push({ label, inverse: applied.inverse });
        return true;
      },
      undo(): void {
        const last = steps.pop();
        const applied = last && apply(model, last.inverse);
        if (applied?.ok) model = applied.model;
      },
      tell(text: string): void {
        told.push(text);
      },
    },
    get currentTool() {
      return tool;
    },
    hold(next: Tool): void {
      tool = next;
    },
    layDown(): void {
      tool = null;
    },
    setSelection(ids: Iterable<string>): void {
      state.setState({ selection: new Set(ids) });
    },
    setUnderlay(id: string | null): void {
      state.setState({ underlayId: id });
    },
    showUnderlay(): void {},
    show(box: unknown): void {
      table.shown.push(box);
    },
    showTool(): void {},
    repaint(): void {},
  };
  return {
    table: table as unknown as Table,
    told,
    labels: () => steps.map((s) => s.label),
    all: () => [...model.values()].slice(2),
    get: <T extends Entity>(id: string) => model.get(id) as T,
    tool: () => tool!,
    shown: table.shown,
    selected: () => [...state.getState().selection],
  };
}

export function pick(
  x: number,
  y: number,
  more: Partial<Pick> & { snapped?: SnapKind; lit?: [number, number][][] } = {},
): Pick {
  const { snapped, lit = [], ...rest } = more;
  return {
    plane: [x, y],
    bare: [x, y],
    screen: [x, -y],
    shift: false,
    alt: false,
    found: snapped ? { kind: snapped, plane: [x, y], underlayId: null, sheet: null, lit } : null,
    ...rest,
  };
}

export const key = (name: string, more: Partial<KeyboardEvent> = {}) =>
  ({ key: name, shiftKey: false, ...more }) as KeyboardEvent;
