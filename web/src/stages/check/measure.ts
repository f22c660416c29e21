import { create } from 'zustand';
import type { Point } from '@calque/core/geometry';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import { PicksTool } from '@/table/tools/picks-tool';

interface MeasureState { last: { from: Point; to: Point } | null; set(from: Point, to: Point): void }

/** The distance measured last. */
export const useMeasure = create<MeasureState>((set) => ({ last: null, set: (from, to) => set({ last: { from, to } }) }));

export function takeMeasureTool(table: Table): void {
  table.take(new PicksTool({
    id: 'measure', repeats: true, steps: ['Measure: pick the first point', 'Pick the second point · Shift holds the axis'],
    measure: (a, b) => formatLengthWithUnit(Math.hypot(b.plane[0] - a.plane[0], b.plane[1] - a.plane[1]), lengthStyle(table.session.state.model)),
    done: ([a, b]) => useMeasure.getState().set(a.plane, b.plane),
  }));
}
