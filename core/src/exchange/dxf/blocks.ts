import type { DxfInsert } from './dxf-drawing.ts';
import { H, num, type Pair } from './pairs.ts';

/** A block with what it holds. */
export function blockEntities(
  name: string,
  handle: string,
  end: string,
  owner: string,
  entities: readonly Pair[] = [],
  paper = false,
): Pair[] {
  const space: Pair[] = paper ? [[67, 1]] : [];
  return [
    [0, 'BLOCK'],
    [5, handle],
    [330, owner],
    [100, 'AcDbEntity'],
    ...space,
    [8, '0'],
    [100, 'AcDbBlockBegin'],
    [2, name],
    [70, 0],
    [10, '0.0'],
    [20, '0.0'],
    [30, '0.0'],
    [3, name],
    [1, ''],
    ...entities,
    [0, 'ENDBLK'],
    [5, end],
    [330, owner],
    [100, 'AcDbEntity'],
    ...space,
    [8, '0'],
    [100, 'AcDbBlockEnd'],
  ];
}

/** A block placed; `k` drawing units per millimetre. */
export function insertPairs(
  { at, radians, sx, sy }: DxfInsert,
  layer: string,
  block: string,
  k: number,
  handle: string,
): Pair[] {
  const degrees = ((((radians * 180) / Math.PI) % 360) + 360) % 360;
  return [
    [0, 'INSERT'],
    [5, handle],
    [330, H.modelRecord],
    [100, 'AcDbEntity'],
    [8, layer],
    [100, 'AcDbBlockReference'],
    [2, block],
    [10, num(at[0] * k)],
    [20, num(at[1] * k)],
    [30, '0.0'],
    [41, num(sx)],
    [42, num(sy)],
    [43, num(Math.abs(sx))],
    [50, num(degrees)],
  ];
}
