import { create } from 'zustand';
import { useLastMeasured } from '@/project/last-measured';
import { lengthStyle } from '@/project/views';
import type { Table } from '@/table/table';
import { figureOf, MeasureTool, type Measured } from './measure-tool';

interface MeasureState {
  last: Measured | null;
  set(last: Measured): void;
}

/** What was measured last. */
export const useMeasure = create<MeasureState>((set) => ({ last: null, set: (last) => set({ last }) }));

/** Takes the measuring tool; where it is in hand, another way of it. */
export function takeMeasureTool(table: Table, way: Measured['kind'] = 'distance'): void {
  const tool =
    table.currentTool instanceof MeasureTool
      ? table.currentTool
      : new MeasureTool({
          style: () => lengthStyle(table.session.state.model),
          tell: (words) => table.session.tell(words, true),
          measured: (result) => {
            useMeasure.getState().set(result);
            useLastMeasured.getState().set(figureOf(result));
          },
        });
  tool.nextVariant(way);
  if (table.currentTool !== tool) table.hold(tool);
  table.showTool();
}
