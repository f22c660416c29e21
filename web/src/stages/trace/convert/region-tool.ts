import { applyTransform, invertTransform } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import type { Table } from '@/table/table';
import { RingTool } from '@/table/tools/ring-tool';
import { useConvert } from './convert';

/** Picks the region to convert on the drawing: a rectangle by two corners, or a polygon. */
export function takeRegionTool(table: Table, underlay: Underlay, polygon: boolean): void {
  const inverse = invertTransform(underlay.placement);
  table.hold(
    new RingTool({
      id: polygon ? 'region-polygon' : 'region-rectangle',
      noun: 'Region',
      snaps: true,
      polygon,
      refused: (words) => table.session.tell(words, true),
      done: (ring) => {
        useConvert.setState({ ring: ring.map((p) => applyTransform(inverse, p)) });
        table.layDown();
      },
    }),
  );
}
