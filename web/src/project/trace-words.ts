import { isTraced, type Entity, type Model, type Traced } from '@calque/core/model';

/** How much of what has been traced. */
export interface TraceTally {
  total: number;
  byType: Partial<Record<Traced['type'], number>>;
  /** Walls whose height nobody has confirmed. */
  assumed: number;
}

const SEPARATOR = ' ';
const placeAndType = (e: Entity): string | null =>
  isTraced(e) ? [e.planeId, e.type, e.type === 'wall' && e.heightAssumed ? 1 : 0].join(SEPARATOR) : null;

/** What has been traced, on one plane or on all: counted without looking at what has not changed. */
export function traceTally(model: Model, planeId?: string): TraceTally {
  const out: TraceTally = { total: 0, byType: {}, assumed: 0 };
  for (const [key, n] of model.tally(placeAndType)) {
    const [plane, type, assumed] = key.split(SEPARATOR);
    if (planeId !== undefined && plane !== planeId) continue;
    out.total += n;
    out.byType[type as Traced['type']] = (out.byType[type as Traced['type']] ?? 0) + n;
    if (assumed === '1') out.assumed += n;
  }
  return out;
}

const sheetOf = (e: Entity): string | null => (isTraced(e) ? e.source.underlayId : null);
/** How many elements were traced on a sheet. */
export const tracedFrom = (model: Model, underlayId: string): number =>
  model.tally(sheetOf).get(underlayId) ?? 0;

export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** How much has been traced: "12 walls, 4 lines, 3 others"; empty for nothing. */
export function traceWords({ total, byType }: Pick<TraceTally, 'total' | 'byType'>): string {
  const { wall: walls = 0, line: lines = 0 } = byType,
    others = total - walls - lines;
  return [
    walls > 0 && count(walls, 'wall'),
    lines > 0 && count(lines, 'line'),
    others > 0 && (walls + lines > 0 ? count(others, 'other') : count(others, 'element')),
  ]
    .filter(Boolean)
    .join(', ');
}
