import type { Linework } from '@calque/core/linework';
import type { Underlay } from '@calque/core/model';
import { sheetPath } from '@/table/painters/marked';
import type { Table } from '@/table/table';

/** More lines than this would not be told apart while they are lit. */
const MOST_LIT = 60000;
const ROUND_STEPS = 24;

/** Lights up the items that `wanted` takes: by style (layer, pen), kind and object number. */
export function lightUp(
  table: Table,
  u: Underlay,
  l: Linework | null,
  wanted: ((layer: number, pen: number, kind: number, object: number) => boolean) | null,
): void {
  if (!l || !wanted) {
    table.setMarked(null);
    return;
  }
  const lines: number[][] = [];
  const each = (style: Int32Array, object: Int32Array, kind: Uint8Array, add: (i: number) => void) => {
    for (let i = 0; i < object.length && lines.length < MOST_LIT; i++)
      if (wanted(style[2 * i], style[2 * i + 1], kind[i], object[i])) add(i);
  };
  each(l.segmentStyle, l.segmentObject, l.segmentKind, (i) =>
    lines.push([...l.segments.subarray(4 * i, 4 * i + 4)]),
  );
  each(l.fillEdgeStyle, l.fillEdgeObject, l.fillEdgeKind, (i) =>
    lines.push([...l.fillEdges.subarray(4 * i, 4 * i + 4)]),
  );
  each(l.arcStyle, l.arcObject, l.arcKind, (i) =>
    lines.push(
      ...roundLines(
        ...(l.arcs.subarray(5 * i, 5 * i + 5) as unknown as [number, number, number, number, number]),
      ),
    ),
  );
  each(l.circleStyle, l.circleObject, l.circleKind, (i) =>
    lines.push(...roundLines(l.circles[3 * i], l.circles[3 * i + 1], l.circles[3 * i + 2], 0, 2 * Math.PI)),
  );
  table.setMarked({ sets: [{ path: sheetPath(lines, u.placement), colour: 'found', width: 3 }] });
}

function roundLines(cx: number, cy: number, r: number, start: number, end: number): number[][] {
  const at = (k: number) => [
    cx + r * Math.cos(start + ((end - start) * k) / ROUND_STEPS),
    cy + r * Math.sin(start + ((end - start) * k) / ROUND_STEPS),
  ];
  return Array.from({ length: ROUND_STEPS }, (_, k) => [...at(k), ...at(k + 1)]);
}
